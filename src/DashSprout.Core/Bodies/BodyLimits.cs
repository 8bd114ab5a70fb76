namespace DashSprout.Core.Bodies;

/// <summary>How large one body may be, so that reading it, working it out and showing it never takes long.</summary>
public static class BodyLimits
{
    /// <summary>The most elements that lie in each other.</summary>
    public const int MostDepth = 100;

    /// <summary>The most parts of one body: paragraphs, formatting and live parts, each counted.</summary>
    public const int MostParts = 2000;

    /// <summary>The most attributes of one element.</summary>
    public const int MostAttributes = 100;

    /// <summary>
    /// The most characters that a body comes to with the snippets that go into it, what is asked or copied not counted.
    /// </summary>
    public const int MostCharacters = 200_000;

    /// <summary>The most times that other snippets go into a body, those inside them counted as well.</summary>
    public const int MostReferences = 200;

    /// <summary>How deep snippets may lie in each other.</summary>
    public const int MostNesting = 20;

    internal static string TooDeep => $"It is nested more than {MostDepth} deep. Take some of the outer elements away.";

    internal static string TooManyParts =>
        $"It has more than {MostParts:N0} parts, which paragraphs, formatting and live parts are. Split it "
        + "into several snippets.";

    internal static string TooManyReferences =>
        $"Other snippets would go in more than {MostReferences} times in all, those inside them counted. Put fewer in.";

    internal static string TooLong =>
        $"With the snippets that go in it comes to more than {MostCharacters:N0} characters. Put fewer in, or "
        + "shorter ones.";

    internal static string NestedTooDeep(IEnumerable<string> way) =>
        $"Snippets lie in each other more than {MostNesting} deep: {string.Join(" → ", way.Take(4))} → … Put "
        + "the text of an inner one in directly.";
}
