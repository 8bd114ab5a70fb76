using System.Globalization;
using System.Text.RegularExpressions;

namespace DashSprout.Core.Triggers;

/// <summary>Says in words where a regular expression breaks off and how it is mended.</summary>
internal static class PatternFault
{
    /// <summary>How many characters before the place are shown.</summary>
    private const int Shown = 4;

    private static readonly RegexParseError[] Unfinished =
    [
        RegexParseError.InsufficientClosingParentheses,
        RegexParseError.UnterminatedBracket,
        RegexParseError.UnescapedEndingBackslash,
        RegexParseError.UnterminatedComment,
    ];

    /// <summary>The sentence for a pattern that does not parse.</summary>
    public static string Of(string pattern, RegexParseException exception)
    {
        // The reader stands behind what it could not read.
        var at = Math.Clamp(exception.Offset, 1, pattern.Length);
        var place = Unfinished.Contains(exception.Error)
            ? "At its end"
            : $"At place {at.ToString(CultureInfo.InvariantCulture)}, “{pattern[Math.Max(0, at - Shown)..at]}”";
        return $"{place}: {Words(exception.Error)}";
    }

    private static string Words(RegexParseError error) =>
        error switch
        {
            RegexParseError.InsufficientClosingParentheses =>
                "a group that was opened is not closed. Add “)”, or write “\\(” for the sign itself.",
            RegexParseError.InsufficientOpeningParentheses =>
                "“)” closes a group that was never opened. Take it out, or write “\\)” for the sign itself.",
            RegexParseError.UnterminatedBracket =>
                "a set of characters is not closed. Add “]”, or write “\\[” for the sign itself.",
            RegexParseError.QuantifierAfterNothing =>
                "there is nothing before this to repeat. Write what is repeated before it, or put “\\” "
                    + "before the sign to mean the sign itself.",
            RegexParseError.NestedQuantifiersNotParenthesized =>
                "something is repeated twice over. Take one of the two out, or put “(” and “)” around the inner one.",
            RegexParseError.ReversedQuantifierRange =>
                "the numbers between the braces are the wrong way round. Write the smaller one first.",
            RegexParseError.ReversedCharacterRange =>
                "the range in this set runs backwards. Write the earlier character first, as in [a-z].",
            RegexParseError.ShorthandClassInCharacterRange =>
                "a range in this set begins or ends with a kind of character such as \\d. Write “\\-” when "
                    + "the hyphen itself is meant.",
            RegexParseError.UnescapedEndingBackslash =>
                "a “\\” has nothing behind it. Write “\\\\” for the sign itself.",
            RegexParseError.UnrecognizedEscape =>
                "this letter means nothing behind “\\”. Leave the “\\” out, or look the escape up.",
            RegexParseError.InsufficientOrInvalidHexDigits =>
                "too few digits follow. Write two behind “\\x” and four behind “\\u”.",
            RegexParseError.UnrecognizedUnicodeProperty
            or RegexParseError.InvalidUnicodePropertyEscape
            or RegexParseError.MalformedUnicodePropertyEscape =>
                "this kind of character is not known. Write one such as \\p{L} for letters or \\p{Nd} for digits.",
            RegexParseError.InvalidGroupingConstruct =>
                "this kind of group is not known. Use “(”, “(?:” or “(?<name>”.",
            RegexParseError.CaptureGroupNameInvalid or RegexParseError.CaptureGroupOfZero =>
                "the name of this group cannot be used. Begin it with a letter.",
            RegexParseError.UndefinedNumberedReference or RegexParseError.UndefinedNamedReference =>
                "this refers to a group that is not there.",
            RegexParseError.QuantifierOrCaptureGroupOutOfRange => "a number here is too large. Write a smaller one.",
            RegexParseError.ExclusionGroupNotLast => "a set that is taken out must stand last in its set.",
            RegexParseError.UnterminatedComment => "a comment is not closed. Add “)”.",
            _ => "this cannot be read. Look at what stands here and before it.",
        };
}
