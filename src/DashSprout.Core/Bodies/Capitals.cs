using System.Globalization;
using System.Text;
using DashSprout.Core.Text;

namespace DashSprout.Core.Bodies;

/// <summary>How typed capitals shape a text.</summary>
public enum Capitals
{
    /// <summary>The text as written.</summary>
    AsWritten,

    /// <summary>The first letter in title case.</summary>
    First,

    /// <summary>All letters in capitals.</summary>
    All,
}

/// <summary>Reads the shape of typed capitals and gives it to a text.</summary>
public static class CapitalShapes
{
    /// <summary>
    /// All typed letters capitals, and at least two of them: all. The first a capital and no other: first. Otherwise as
    /// written. Title-case letters such as ǅ count as capitals; what has no case does not count, nor what has no
    /// capital, such as ß.
    /// </summary>
    public static Capitals Of(ReadOnlySpan<char> typed)
    {
        int letters = 0,
            capitals = 0;
        var firstIsCapital = false;
        foreach (var rune in typed.EnumerateRunes())
        {
            var category = Rune.GetUnicodeCategory(rune);
            var isCapital = category is UnicodeCategory.UppercaseLetter or UnicodeCategory.TitlecaseLetter;
            // A letter without one capital of its own, such as ß, is typed in small letters among capitals too.
            if (!isCapital && (category != UnicodeCategory.LowercaseLetter || Rune.ToUpperInvariant(rune) == rune))
                continue;
            if (letters++ == 0)
                firstIsCapital = isCapital;
            if (isCapital)
                capitals++;
        }
        if (letters >= 2 && capitals == letters)
            return Capitals.All;
        return firstIsCapital && capitals == 1 ? Capitals.First : Capitals.AsWritten;
    }

    /// <summary>The text in the given shape.</summary>
    public static string Shape(string text, Capitals capitals, CultureInfo language) =>
        capitals switch
        {
            Capitals.All => FullCasing.Upper(text, language),
            Capitals.First => FirstInTitleCase(text, language, out _),
            _ => text,
        };

    /// <summary>The text with its first letter in title case; tells whether it had a letter.</summary>
    public static string FirstInTitleCase(string text, CultureInfo language, out bool found)
    {
        var at = 0;
        foreach (var rune in text.EnumerateRunes())
        {
            if (Rune.IsLetter(rune))
            {
                found = true;
                var title = FullCasing.Title(rune, language);
                return string.Concat(text.AsSpan(0, at), title, text.AsSpan(at + rune.Utf16SequenceLength));
            }
            at += rune.Utf16SequenceLength;
        }
        found = false;
        return text;
    }
}
