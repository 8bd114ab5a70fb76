namespace DashSprout.Keyboard.Linking;

/// <summary>How the link stands.</summary>
/// <param name="IsLinked">Whether it listens to a display.</param>
/// <param name="Display">The display's name; empty when there is none.</param>
/// <param name="Layouts">The layouts of its keyboard.</param>
/// <param name="Problem">Why it is not linked, and what to do; null when nothing is wrong.</param>
public sealed record LinkState(bool IsLinked, string Display, IReadOnlyList<string> Layouts, string? Problem)
{
    /// <summary>Switched off.</summary>
    public static LinkState Off { get; } = new(false, "", [], null);
}
