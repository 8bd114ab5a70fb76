namespace DashSprout.Core.Bodies;

/// <summary>What a body comes to: the text, and what is done beside it.</summary>
/// <param name="Opened">What is to be opened, in order.</param>
/// <param name="Notices">Notices to show, in order.</param>
/// <param name="Rotations">The parts that have taken a turn, by name, once it goes in.</param>
/// <param name="HoldsPrivate">Whether a private snippet went into it.</param>
public sealed record Rendering(
    Flow Flow,
    IReadOnlyList<OpenTarget> Opened,
    IReadOnlyList<string> Notices,
    IReadOnlyList<string> Rotations,
    bool HoldsPrivate = false
);

/// <summary>Something that is to be opened.</summary>
/// <param name="Origin">The snippet whose part it is, as others refer to it: one that goes into another is asked for
/// itself.</param>
public sealed record OpenTarget(string Target, string Origin);
