using DashSprout.Core.Text;

namespace DashSprout.Core.Engine;

/// <summary>
/// Types keys without deciding anything and names every trigger whose rules let it go off, each judged by itself and in
/// an application where it works. This is how safety is computed with the engine's own rules.
/// </summary>
internal sealed class EveryMatch
{
    private readonly TypedTail tail = new();
    private readonly Matcher matcher;
    private Key previous;

    public EveryMatch(TriggerIndex index)
    {
        matcher = new Matcher(tail) { Index = index, App = null };
    }

    /// <summary>What is typed next begins anew.</summary>
    public void Begin()
    {
        tail.Reset();
        previous = default;
    }

    /// <summary>Types one key; <paramref name="found"/> is told of each trigger that may go off on it.</summary>
    public void Type(Key key, Action<ActiveTrigger>? found)
    {
        var last = previous;
        previous = key;
        var grew = tail.Append(key);
        if (found is not null)
            matcher.Each(key, last, grew, found);
    }
}
