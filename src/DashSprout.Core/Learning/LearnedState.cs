namespace DashSprout.Core.Learning;

/// <summary>All that is remembered of what was typed, to be kept.</summary>
/// <param name="Dismissed">Phrases that are not to be proposed again.</param>
/// <param name="Cells">The counters of the sketch.</param>
public sealed record LearnedState(
    IReadOnlyList<Phrase> Phrases,
    IReadOnlyList<Phrase> Dismissed,
    byte[] Cells,
    long Counted
);
