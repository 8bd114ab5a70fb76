using DashSprout.Core.Engine;
using DashSprout.Core.Rehearsals;

namespace DashSprout.Core.Safety;

/// <summary>How two triggers get in each other's way.</summary>
public enum OverlapKind
{
    /// <summary>Both answer to one typed text.</summary>
    Same,

    /// <summary>One goes off at once before the other, which begins with it, is finished.</summary>
    CutShort,

    /// <summary>One goes off at once inside the other.</summary>
    HiddenInside,

    /// <summary>A closing key of one is a character of the other.</summary>
    ClosedEarly,

    /// <summary>Both answer to one chord.</summary>
    SameHotkey,

    /// <summary>Something outside commonly owns the chord.</summary>
    TakenHotkey,

    /// <summary>A pattern and an abbreviation answer to one typed text.</summary>
    PatternCoversAbbreviation,
}

/// <summary>The keys to type with all triggers there, and what the engine made of them.</summary>
/// <param name="Steps">The keys, and the pause behind them where it takes one.</param>
/// <param name="App">The application they are typed in; empty for any.</param>
public sealed record Witness(IReadOnlyList<RehearsalStep> Steps, string App, string Text);

/// <summary>Two triggers that get in each other's way.</summary>
/// <param name="Winner">The one that goes off; null when something outside owns the chord.</param>
/// <param name="Owner">Who owns the chord, for <see cref="OverlapKind.TakenHotkey"/>.</param>
/// <param name="Loser">The one that is kept from going off.</param>
public sealed record Overlap(
    OverlapKind Kind,
    ActiveTrigger? Winner,
    string? Owner,
    ActiveTrigger Loser,
    Witness Witness
);
