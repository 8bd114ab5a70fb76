namespace DashSprout.Keyboard.Linking;

/// <summary>One thing that was checked.</summary>
/// <param name="What">What, in a few words.</param>
/// <param name="Words">How it went, and what to do when it is not good.</param>
public sealed record LinkCheckLine(string What, bool IsGood, string Words);

/// <summary>How a check went.</summary>
/// <param name="MedianMs">From a key to the window that got it, in the middle; null when none arrived.</param>
public sealed record LinkCheckAnswer(bool IsGood, double? MedianMs, IReadOnlyList<LinkCheckLine> Lines)
{
    /// <summary>There is nothing to check.</summary>
    public static LinkCheckAnswer NotLinked(string? problem) =>
        new(
            false,
            null,
            [
                new LinkCheckLine(
                    "Link",
                    false,
                    problem ?? "The keyboard link is switched off. Switch it on, then check again."
                ),
            ]
        );
}
