namespace DashSprout.Core.Hosting;

/// <summary>
/// What a keyboard holds back from the application until the host has decided. Chords that set something off
/// (<see cref="TypingHost.Chords"/>) are always held back.
/// </summary>
public enum Hold
{
    /// <summary>Nothing: every key goes to the application at once.</summary>
    Nothing,

    /// <summary>
    /// The keys that act: all but typed characters. The next of them may set something off, take something back, or
    /// must come behind something that is settled first.
    /// </summary>
    ActingKeys,

    /// <summary>Every key: a slip or question is open, and what is typed comes behind its answer.</summary>
    Everything,
}
