using DashSprout.Core.Text;

namespace DashSprout.Core.Learning;

/// <summary>
/// Words as numbers: two that differ only in letter case or in the punctuation around them have the same. FNV-1a of 64
/// bits (Fowler, Noll and Vo), whose last bits are mixed as in MurmurHash3's finaliser (Appleby).
/// </summary>
public static class WordCode
{
    private const ulong Basis = 14695981039346656037,
        Prime = 1099511628211;

    /// <summary>The code of no words.</summary>
    public const ulong None = Basis;

    /// <summary>
    /// Where a word's letters and digits are, without what stands around them; all of it when it has none.
    /// </summary>
    public static Range Core(ReadOnlySpan<char> word)
    {
        var (start, end) = (0, word.Length);
        while (start < end && !char.IsLetterOrDigit(word[start]) && !char.IsSurrogate(word[start]))
            start++;
        while (
            end > start
            && !char.IsLetterOrDigit(word[end - 1])
            && !char.IsSurrogate(word[end - 1])
            && !IsMark(word[end - 1])
        )
            end--;
        return start == end ? 0..word.Length : start..end;
    }

    /// <summary>The code of a word.</summary>
    public static ulong Of(ReadOnlySpan<char> word)
    {
        var code = Basis;
        foreach (var unit in word[Core(word)])
            code = (code ^ CaseFolding.Fold(unit)) * Prime;
        return Mixed(code);
    }

    /// <summary>The code of some words and one more.</summary>
    public static ulong And(ulong words, ulong word) => Mixed((words ^ word) * Prime);

    /// <summary>A code with every bit depending on all of it.</summary>
    public static ulong Mixed(ulong code)
    {
        code = (code ^ (code >> 33)) * 0xff51afd7ed558ccd;
        code = (code ^ (code >> 33)) * 0xc4ceb9fe1a85ec53;
        return code ^ (code >> 33);
    }

    private static bool IsMark(char unit) =>
        char.GetUnicodeCategory(unit)
            is System.Globalization.UnicodeCategory.NonSpacingMark
                or System.Globalization.UnicodeCategory.SpacingCombiningMark;
}
