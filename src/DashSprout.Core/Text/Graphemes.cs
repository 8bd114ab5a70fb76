using System.Globalization;

namespace DashSprout.Core.Text;

/// <summary>
/// Grapheme clusters (Unicode Standard Annex #29), the unit in which this program counts, deletes and places the caret.
/// </summary>
public static class Graphemes
{
    /// <summary>How many grapheme clusters a text has.</summary>
    public static int Count(ReadOnlySpan<char> text)
    {
        // Each ASCII character is a grapheme of its own; only a line end of two is one together.
        if (System.Text.Ascii.IsValid(text) && !text.Contains('\r'))
            return text.Length;
        var count = 0;
        while (!text.IsEmpty)
        {
            text = text[StringInfo.GetNextTextElementLength(text)..];
            count++;
        }
        return count;
    }

    /// <summary>True when the text is exactly one grapheme cluster.</summary>
    public static bool IsOne(ReadOnlySpan<char> text) =>
        text.Length == 1 || (!text.IsEmpty && StringInfo.GetNextTextElementLength(text) == text.Length);

    /// <summary>Whether every surrogate of a text has its other half.</summary>
    public static bool IsWellFormed(ReadOnlySpan<char> text)
    {
        for (var at = 0; at < text.Length; at++)
        {
            if (!char.IsSurrogate(text[at]))
                continue;
            if (!char.IsHighSurrogate(text[at]) || at + 1 == text.Length || !char.IsLowSurrogate(text[at + 1]))
                return false;
            at++;
        }
        return true;
    }

    /// <summary>The grapheme clusters of a text, in order.</summary>
    public static IEnumerable<string> Split(string text)
    {
        for (var at = 0; at < text.Length; )
        {
            var length = StringInfo.GetNextTextElementLength(text, at);
            yield return text.Substring(at, length);
            at += length;
        }
    }

    /// <summary>The last grapheme cluster of a text; empty for an empty text.</summary>
    public static string Last(string text)
    {
        var last = "";
        foreach (var grapheme in Split(text))
            last = grapheme;
        return last;
    }

    /// <summary>A text, or its first grapheme clusters and an ellipsis when it has more than <paramref name="most"/>.</summary>
    public static string Shortened(string text, int most)
    {
        if (text.Length <= most)
            return text;
        var end = Offset(text, most);
        return end < text.Length ? text[..end] + "…" : text;
    }

    /// <summary>
    /// UTF-16 offset of the grapheme cluster with the given index; the text's length when it has fewer.
    /// </summary>
    public static int Offset(ReadOnlySpan<char> text, int index)
    {
        var offset = 0;
        while (index-- > 0 && offset < text.Length)
            offset += StringInfo.GetNextTextElementLength(text[offset..]);
        return offset;
    }
}
