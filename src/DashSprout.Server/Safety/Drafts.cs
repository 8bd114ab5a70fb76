using DashSprout.Documents;

namespace DashSprout.Server.Safety;

/// <summary>A snippet as it stands on a page, before it is saved.</summary>
/// <param name="SnippetId">The stored snippet it replaces; null for a new one.</param>
/// <param name="Typed">What to try each trigger with, in their order, besides what a trigger says itself; null or empty
/// for nothing.</param>
public sealed record DraftRequest(
    SnippetDocument Snippet,
    long? SnippetId = null,
    IReadOnlyList<string?>? Typed = null
);

/// <summary>What is to be expected of each trigger of a draft, in its order.</summary>
public sealed record DraftAnswer(IReadOnlyList<DraftTrigger> Triggers);

/// <summary>What is to be expected of one trigger.</summary>
/// <param name="Error">Why it cannot be used; nothing else is said then.</param>
public sealed record DraftTrigger(
    string? Error,
    MisfireAnswer? Forecast,
    IReadOnlyList<OverlapAnswer> Overlaps,
    IReadOnlyList<TryAnswer> Tries
);

/// <summary>Keys to try, and what comes of them.</summary>
public sealed record TryAnswer(IReadOnlyList<string> Keys, bool WentOff, string Text, string Why);

/// <summary>For whom abbreviations are wanted.</summary>
/// <param name="Trigger">The rules the abbreviation will have.</param>
/// <param name="At">Which of the snippet's triggers it replaces, if any.</param>
public sealed record SuggestionRequest(
    string Name,
    long? SnippetId = null,
    TriggerDocument? Trigger = null,
    int? At = null
);

/// <summary>An abbreviation that could be taken.</summary>
public sealed record SuggestionAnswer(
    string Text,
    string Kind,
    double Per10kWords,
    string Grade,
    int Overlaps,
    int Length
);
