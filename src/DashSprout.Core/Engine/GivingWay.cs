using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>
/// The at-once abbreviation that waits, because it begins a longer one, to see whether the longer one is meant. The
/// next keys go on towards it or show that it is not, and so does a pause.
/// </summary>
internal sealed class GivingWay(TypedTail tail, Matcher matcher)
{
    private Match? waiting;
    private long since;

    /// <summary>What gives way; null when nothing does.</summary>
    public Match? Waiting => waiting;

    /// <summary>When a pause settles it: counted from the last key; null when a pause changes nothing.</summary>
    public long? SettlesAt => waiting is not null && !LongerOneIsComplete ? since + TypingEngine.PauseMs : null;

    /// <summary>
    /// Whether what was typed is by now a longer abbreviation, complete and waiting for its closing key.
    /// </summary>
    public bool LongerOneIsComplete => waiting is { } match && tail.End > match.End && matcher.IsComplete(match.Start);

    /// <summary>Whether a match has to give way.</summary>
    public bool IsNeededFor(in Match match) =>
        match.Trigger.Rules is { Timing: Timing.AtOnce, GivesWay: true }
        && matcher.LongerMayFollow(match.Start, match.TextEnd);

    public void Begin(in Match match, long atMs)
    {
        waiting = match;
        since = atMs;
    }

    public void End() => waiting = null;

    /// <summary>Whether another match is the longer one that was meant.</summary>
    public bool IsBeatenBy(in Match? match) =>
        waiting is { } shorter
        && match is { } longer
        && longer.Start <= shorter.Start
        && longer.Length > shorter.Length;

    /// <summary>
    /// Whether the key that has just been typed changed the waiting text itself: a mark joined its last letter.
    /// </summary>
    public bool IsChangedBy(bool grew) => !grew && waiting is { } match && tail.End <= match.End;

    /// <summary>Whether a longer one can still follow; the pause is counted anew then.</summary>
    public bool GoesOn(long atMs)
    {
        if (waiting is not { } match)
            return false;
        if (!matcher.LongerMayFollow(match.Start, tail.End) && !matcher.IsComplete(match.Start))
            return false;
        since = atMs;
        return true;
    }

    /// <summary>
    /// After a character was erased: what stands at the caret now waits again, or what waited has been corrected.
    /// </summary>
    /// <param name="here">What would go off at once where the caret is.</param>
    /// <returns>What was corrected and no longer gives way; null otherwise.</returns>
    public ActiveTrigger? Erased(in Match? here, long atMs)
    {
        var before = waiting;
        if (before is { } match && tail.End < match.End)
            waiting = null;
        if (here is { } again && (waiting is not { } other || again.Start <= other.Start) && IsNeededFor(again))
            waiting = again;
        if (waiting is not null)
            since = atMs;
        return waiting is null ? before?.Trigger : null;
    }
}
