namespace DashSprout.Core.Text;

/// <summary>
/// Unicode simple case folding, one UTF-16 unit for one, so that offsets never move.
/// Lower-then-upper of the invariant tables joins what CaseFolding.txt joins (final sigma, the Kelvin sign, sharp s);
/// no culture has a say, so a Turkish desktop types the same <c>i</c>.
/// </summary>
public static class CaseFolding
{
    /// <summary>Folds one UTF-16 unit that is not part of a surrogate pair.</summary>
    public static char Fold(char unit)
    {
        if (unit < 0x80)
            return unit is >= 'a' and <= 'z' ? (char)(unit - 32) : unit;
        return unit switch
        {
            'ẞ' => 'ß',
            // Cherokee folds to its capitals, which older letters are; the invariant tables agree from here on.
            _ => char.ToUpperInvariant(char.ToLowerInvariant(unit)),
        };
    }

    /// <summary>
    /// Writes the folded form of <paramref name="text"/> to <paramref name="folded"/>, which is as long.
    /// </summary>
    public static void Fold(ReadOnlySpan<char> text, Span<char> folded)
    {
        for (var i = 0; i < text.Length; i++)
        {
            if (char.IsHighSurrogate(text[i]) && i + 1 < text.Length && char.IsLowSurrogate(text[i + 1]))
            {
                var rune = System.Text.Rune.ToUpperInvariant(
                    System.Text.Rune.ToLowerInvariant(new System.Text.Rune(text[i], text[i + 1]))
                );
                rune.EncodeToUtf16(folded[i..]);
                i++;
            }
            else
            {
                folded[i] = Fold(text[i]);
            }
        }
    }

    /// <summary>The folded form of a text: two texts that differ only in letter case have the same.</summary>
    public static string Fold(string text) =>
        string.Create(text.Length, text, static (span, source) => Fold(source, span));
}
