using DashSprout.Core.Bodies;

namespace DashSprout.Core.Engine;

/// <summary>One time a trigger goes off.</summary>
/// <param name="Trigger">What went off.</param>
/// <param name="Typed">
/// The typed graphemes that it removes: the abbreviation, its closing keys, and what was typed while it gave way.
/// </param>
/// <param name="PutBack">Keys of those that are put back behind the text.</param>
/// <param name="Capitals">How the typed capitals shape the text.</param>
/// <param name="Groups">A pattern's groups, the whole match first; empty for other triggers.</param>
public sealed record Firing(
    ActiveTrigger Trigger,
    EquatableList<string> Typed,
    EquatableList<Key> PutBack,
    Capitals Capitals,
    EquatableList<string> Groups);

/// <summary>What is to be done with a key press.</summary>
public abstract record Decision
{
    private Decision() { }

    /// <summary>The key goes to the application as it is.</summary>
    public static Decision PassOn { get; } = new PassesOn();

    /// <summary>The key goes to the application as it is.</summary>
    public sealed record PassesOn : Decision;

    /// <summary>The key goes to the application; a trigger gives way until the next key or the engine's tick.</summary>
    public sealed record Waits(ActiveTrigger Trigger) : Decision;

    /// <summary>
    /// A trigger goes off. The host renders the body and answers with <see cref="TypingEngine.PutIn"/> or
    /// <see cref="TypingEngine.LeaveAsTyped"/> before the next key.
    /// </summary>
    /// <param name="KeyGraphemes">
    /// How many of the typed graphemes the key being decided has just added, 1 or 0: a host that holds keys back until they
    /// are decided has that many fewer to remove.
    /// </param>
    /// <param name="PressAgain">
    /// True when a trigger that gave way goes off before the key: the key has not been looked at and must be pressed again
    /// after the delivery. False when the key belongs to what is removed.
    /// </param>
    public sealed record Fires(Firing Firing, int KeyGraphemes, bool PressAgain) : Decision;

    /// <summary>The last firing is taken back: its text is removed and what was typed put in again.</summary>
    /// <param name="Delete">Caret steps of the text that was put in.</param>
    /// <param name="Typed">What was typed.</param>
    public sealed record TakesBack(Firing Firing, int Delete, string Typed) : Decision;
}
