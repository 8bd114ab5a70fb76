namespace DashSprout.Core.Triggers;

/// <summary>When a typed trigger goes off.</summary>
public enum Timing
{
    /// <summary>On its last character.</summary>
    AtOnce,

    /// <summary>On a closing key right behind it.</summary>
    ClosingKey,

    /// <summary>On the same closing key pressed twice right behind it.</summary>
    DoubleClosingKey,
}

/// <summary>What may stand before a typed trigger; the start of what was typed always passes.</summary>
public enum LeftEdge
{
    /// <summary>White space, an opening bracket or an opening quotation mark.</summary>
    Space,

    /// <summary>A word boundary in the sense of Unicode UAX #29.</summary>
    Word,

    /// <summary>Anything.</summary>
    Any,
}

/// <summary>How a typed trigger treats capitals.</summary>
public enum LetterCase
{
    /// <summary>Either case sets it off; the text goes in as written.</summary>
    Either,

    /// <summary>Only the case it is written in sets it off.</summary>
    Exact,

    /// <summary>Either case sets it off and the typed capitals shape the text.</summary>
    Mirror,
}

/// <summary>The rules of a typed trigger.</summary>
/// <param name="KeepClosingKey">Whether the closing keys are put back behind the text; of no account at once.</param>
/// <param name="ClosingKeys">Its own closing keys; null for its library's.</param>
/// <param name="GivesWay">Whether, at once, it waits when it begins a longer active abbreviation.</param>
public sealed record TypingRules(
    Timing Timing,
    LeftEdge LeftEdge,
    LetterCase Case,
    bool KeepClosingKey,
    ClosingKeys? ClosingKeys,
    bool GivesWay
)
{
    /// <summary>The usual rules by left edge and timing; nearly all triggers share them.</summary>
    private static readonly TypingRules[,] Usual = MakeUsual();

    /// <summary>The rules that hold where a trigger does not say otherwise.</summary>
    public static TypingRules For(string text, Timing timing = Timing.ClosingKey) =>
        Usual[(int)DefaultLeftEdge(text), (int)timing];

    /// <summary>
    /// <see cref="LeftEdge.Word"/> for what begins with a letter or digit, else <see cref="LeftEdge.Space"/>,
    /// so that <c>/fee</c> stays quiet inside a web address.
    /// </summary>
    public static LeftEdge DefaultLeftEdge(string text)
    {
        System.Text.Rune.DecodeFromUtf16(text, out var first, out _);
        return System.Text.Rune.IsLetterOrDigit(first) ? LeftEdge.Word : LeftEdge.Space;
    }

    private static TypingRules[,] MakeUsual()
    {
        var usual = new TypingRules[3, 3];
        foreach (var edge in Enum.GetValues<LeftEdge>())
        foreach (var timing in Enum.GetValues<Timing>())
            usual[(int)edge, (int)timing] = new(
                timing,
                edge,
                LetterCase.Either,
                KeepClosingKey: timing != Timing.DoubleClosingKey,
                ClosingKeys: null,
                GivesWay: true
            );
        return usual;
    }
}
