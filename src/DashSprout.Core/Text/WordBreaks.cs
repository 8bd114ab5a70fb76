using System.Text;

namespace DashSprout.Core.Text;

/// <summary>Word boundaries as Unicode Standard Annex #29 defines them (default rules, Unicode 15).</summary>
public static class WordBreaks
{
    private const int Pictographic = 32;

    private enum Value : byte
    {
        Other,
        CR,
        LF,
        Newline,
        Extend,
        Zwj,
        RegionalIndicator,
        Format,
        Katakana,
        HebrewLetter,
        ALetter,
        SingleQuote,
        DoubleQuote,
        MidNumLet,
        MidLetter,
        MidNum,
        Numeric,
        ExtendNumLet,
        WSegSpace,
    }

    /// <summary>
    /// True when a word may begin or end at <paramref name="index"/> (a UTF-16 offset between two code points).
    /// The start and the end of a text are boundaries; allocates nothing.
    /// </summary>
    public static bool IsBoundary(ReadOnlySpan<char> text, int index)
    {
        if (index <= 0 || index >= text.Length)
            return true;

        var before = Before(text, index, out var beforeStart);
        var after = After(text, index, out var afterEnd);

        if (before == Value.CR && after == Value.LF)
            return false; // WB3
        if (IsLineEnd(before) || IsLineEnd(after))
            return true; // WB3a, WB3b
        if (before == Value.Zwj && IsPictographic(text, index))
            return false; // WB3c
        if (before == Value.WSegSpace && after == Value.WSegSpace)
            return false; // WB3d
        if (IsIgnored(after))
            return false; // WB4

        before = SkipBack(text, before, ref beforeStart); // WB4
        if (IsLetter(before) && IsLetter(after))
            return false; // WB5

        if (IsLetter(before) && IsMidLetter(after) && IsLetter(Next(text, afterEnd)))
            return false; // WB6
        if (IsMidLetter(before) && IsLetter(after) && IsLetter(Previous(text, beforeStart)))
            return false; // WB7
        if (before == Value.HebrewLetter && after == Value.SingleQuote)
            return false; // WB7a
        if (before == Value.HebrewLetter && after == Value.DoubleQuote && Next(text, afterEnd) == Value.HebrewLetter)
            return false; // WB7b
        if (
            before == Value.DoubleQuote
            && after == Value.HebrewLetter
            && Previous(text, beforeStart) == Value.HebrewLetter
        )
            return false; // WB7c

        if (before == Value.Numeric && (after == Value.Numeric || IsLetter(after)))
            return false; // WB8, WB10
        if (IsLetter(before) && after == Value.Numeric)
            return false; // WB9
        if (IsMidNumber(before) && after == Value.Numeric && Previous(text, beforeStart) == Value.Numeric)
            return false; // WB11
        if (before == Value.Numeric && IsMidNumber(after) && Next(text, afterEnd) == Value.Numeric)
            return false; // WB12

        if (before == Value.Katakana && after == Value.Katakana)
            return false; // WB13
        if (after == Value.ExtendNumLet && (IsWordLike(before) || before == Value.ExtendNumLet))
            return false; // WB13a
        if (before == Value.ExtendNumLet && IsWordLike(after))
            return false; // WB13b

        if (before == Value.RegionalIndicator && after == Value.RegionalIndicator) // WB15, WB16
            return IndicatorsUpTo(text, index) % 2 == 0;

        return true; // WB999
    }

    /// <summary>True when the code point is part of a word: a letter, a digit or what joins them.</summary>
    public static bool IsWordLike(Rune rune) => IsWordLike((Value)(Lookup(rune.Value) & ~Pictographic));

    private static bool IsLineEnd(Value value) => value is Value.CR or Value.LF or Value.Newline;

    private static bool IsIgnored(Value value) => value is Value.Extend or Value.Format or Value.Zwj;

    private static bool IsLetter(Value value) => value is Value.ALetter or Value.HebrewLetter;

    private static bool IsMidLetter(Value value) => value is Value.MidLetter or Value.MidNumLet or Value.SingleQuote;

    private static bool IsMidNumber(Value value) => value is Value.MidNum or Value.MidNumLet or Value.SingleQuote;

    private static bool IsWordLike(Value value) =>
        value is Value.ALetter or Value.HebrewLetter or Value.Numeric or Value.Katakana;

    private static Value SkipBack(ReadOnlySpan<char> text, Value value, ref int start)
    {
        while (IsIgnored(value) && start > 0)
        {
            var earlier = Before(text, start, out var earlierStart);
            if (IsLineEnd(earlier))
                break;
            (value, start) = (earlier, earlierStart);
        }
        return value;
    }

    private static Value Previous(ReadOnlySpan<char> text, int start)
    {
        if (start <= 0)
            return Value.Other;
        var value = Before(text, start, out var valueStart);
        return SkipBack(text, value, ref valueStart);
    }

    private static Value Next(ReadOnlySpan<char> text, int end)
    {
        while (end < text.Length)
        {
            var value = After(text, end, out end);
            if (!IsIgnored(value))
                return value;
        }
        return Value.Other;
    }

    private static int IndicatorsUpTo(ReadOnlySpan<char> text, int end)
    {
        var count = 0;
        while (end > 0)
        {
            var value = Before(text, end, out end);
            if (IsIgnored(value))
                continue;
            if (value != Value.RegionalIndicator)
                break;
            count++;
        }
        return count;
    }

    private static Value Before(ReadOnlySpan<char> text, int end, out int start)
    {
        Rune.DecodeLastFromUtf16(text[..end], out var rune, out var length);
        start = end - Math.Max(length, 1);
        return (Value)(Lookup(rune.Value) & ~Pictographic);
    }

    private static Value After(ReadOnlySpan<char> text, int start, out int end)
    {
        Rune.DecodeFromUtf16(text[start..], out var rune, out var length);
        end = start + Math.Max(length, 1);
        return (Value)(Lookup(rune.Value) & ~Pictographic);
    }

    private static bool IsPictographic(ReadOnlySpan<char> text, int start)
    {
        Rune.DecodeFromUtf16(text[start..], out var rune, out _);
        return (Lookup(rune.Value) & Pictographic) != 0;
    }

    private static byte Lookup(int codePoint)
    {
        var at = WordBreakTable.Starts.BinarySearch(codePoint);
        return WordBreakTable.Values[at >= 0 ? at : ~at - 1];
    }
}
