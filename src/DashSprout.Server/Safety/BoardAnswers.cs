namespace DashSprout.Server.Safety;

/// <summary>Overlaps, forecasts and the record of everything stored.</summary>
/// <param name="State"><c>ready</c>, <c>working</c> or <c>stopped</c>; while working, what was known before is
/// shown.</param>
/// <param name="Misfires">The triggers that are not quiet, the worst first.</param>
public sealed record BoardAnswer(
    string State,
    double Progress,
    int Triggers,
    IReadOnlyList<StoredOverlap> Overlaps,
    IReadOnlyList<MisfireAnswer> Misfires,
    IReadOnlyList<TakenBackAnswer> TakenBack,
    string WordList
);

/// <summary>An overlap among what is stored.</summary>
public sealed record StoredOverlap(OverlapAnswer Overlap, bool Ignored);

/// <summary>An overlap to ignore or take up again; the winner's snippet is null for an owner outside.</summary>
public sealed record OverlapChoice(
    string Kind,
    string WinnerTrigger,
    long LoserSnippetId,
    string LoserTrigger,
    bool Ignored,
    long? WinnerSnippetId = null
);

/// <summary>How often a trigger was taken back.</summary>
/// <param name="AtOnce">Whether it goes off on its last character.</param>
public sealed record TakenBackAnswer(
    long SnippetId,
    string Library,
    string Snippet,
    string Trigger,
    int Fired,
    int TakenBack,
    bool AtOnce
);
