namespace DashSprout.Core.Engine;

/// <summary>
/// Something that matched: the trigger's text lies between Start and TextEnd of the tail, its closing keys up to End.
/// </summary>
internal readonly record struct Match(ActiveTrigger Trigger, int Start, int TextEnd, int End)
{
    public int Length => TextEnd - Start;
}
