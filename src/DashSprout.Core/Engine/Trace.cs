namespace DashSprout.Core.Engine;

/// <summary>What the engine did with a key, in one word.</summary>
public enum TraceEvent
{
    /// <summary>The key was typed and nothing came of it.</summary>
    Typed,

    /// <summary>An abbreviation is complete and waits for its closing key.</summary>
    Waits,

    /// <summary>An abbreviation is complete and waits to see whether a longer one is meant.</summary>
    GivesWay,

    /// <summary>Something matched but a rule kept it back.</summary>
    NearMiss,

    /// <summary>A trigger went off.</summary>
    Fires,

    /// <summary>A firing was taken back.</summary>
    TakesBack,

    /// <summary>A word is kept quiet from here on.</summary>
    Quiet,

    /// <summary>The typed tail was reset.</summary>
    Reset,

    /// <summary>The engine rests: the key was not looked at.</summary>
    Resting,
}

/// <summary>The rule of a trigger that decided.</summary>
public enum TriggerRule
{
    /// <summary>The left edge.</summary>
    LeftEdge,

    /// <summary>The letters themselves and their case.</summary>
    LetterCase,

    /// <summary>The timing or the closing key.</summary>
    Timing,

    /// <summary>The applications in which it works.</summary>
    Scope,

    /// <summary>The switch of its library or snippet.</summary>
    Switch,

    /// <summary>The priority among several.</summary>
    Priority,

    /// <summary>The word was taken back or left alone by hand.</summary>
    Quiet,
}

/// <summary>One reason, in words for the user; abbreviations in back-quotes, names in asterisks.</summary>
/// <param name="Trigger">The trigger it speaks of, if any.</param>
/// <param name="Rule">The rule that decided, if one did.</param>
public sealed record TraceReason(string Why, ActiveTrigger? Trigger = null, TriggerRule? Rule = null);

/// <summary>What the engine did with one key, and why.</summary>
public sealed record TraceEntry(TraceEvent Event, IReadOnlyList<TraceReason> Reasons)
{
    /// <summary>The reasons as one line.</summary>
    public string Why => string.Join("; ", Reasons.Select(reason => reason.Why));
}
