using System.Globalization;
using System.Text;
using DashSprout.Core.Text;

namespace DashSprout.Core.Tests.Text;

/// <summary>The text rules the engine stands on, against the Unicode character database.</summary>
public sealed class UnicodeTextTests
{
    [Fact]
    public void Word_boundaries_follow_WordBreakTest()
    {
        var lines = Unicode.Lines("auxiliary/WordBreakTest.txt").ToList();
        Assert.True(lines.Count > 1500);
        foreach (var line in lines)
        {
            var (text, breaks) = Unicode.BreakTest(line);
            for (var at = 0; at <= text.Length; at++)
            {
                if (at > 0 && at < text.Length && char.IsLowSurrogate(text[at]) && char.IsHighSurrogate(text[at - 1]))
                    continue;
                Assert.True(WordBreaks.IsBoundary(text, at) == breaks.Contains(at), $"{line} at {at}");
            }
        }
    }

    [Fact]
    public void Graphemes_follow_GraphemeBreakTest()
    {
        var lines = Unicode.Lines("auxiliary/GraphemeBreakTest.txt").ToList();
        Assert.True(lines.Count > 500);
        foreach (var line in lines)
        {
            var (text, breaks) = Unicode.BreakTest(line);
            var found = new HashSet<int> { 0 };
            foreach (var grapheme in Graphemes.Split(text))
                found.Add(found.Max() + grapheme.Length);
            Assert.True(found.SetEquals(breaks), line);
        }
    }

    [Fact]
    public void Either_case_joins_exactly_what_CaseFolding_joins()
    {
        var simple = new Dictionary<int, int>();
        foreach (var line in Unicode.Lines("CaseFolding.txt"))
        {
            var parts = line.Split(';', StringSplitOptions.TrimEntries);
            if (parts[1] is "C" or "S")
                simple[Convert.ToInt32(parts[0], 16)] = Convert.ToInt32(parts[2], 16);
        }
        Assert.True(simple.Count > 1400);
        foreach (var (from, to) in simple)
            Assert.True(Folded(from) == Folded(to), $"U+{from:X4} and U+{to:X4} should be the same letter");

        // And nothing else: two letters with the same folded form also share it in the database.
        int Simple(int codePoint) => simple.GetValueOrDefault(codePoint, codePoint);
        var groups = Enumerable
            .Range(0, 0x20000)
            .Where(codePoint =>
                codePoint is < 0xD800 or > 0xDFFF
                && CharUnicodeInfo.GetUnicodeCategory(codePoint) != UnicodeCategory.OtherNotAssigned
            )
            .GroupBy(Folded);
        foreach (var group in groups)
            Assert.True(
                group.Select(Simple).Distinct().Count() == 1,
                string.Join(" ", group.Select(codePoint => $"U+{codePoint:X4}"))
            );

        static string Folded(int codePoint) => CaseFolding.Fold(new Rune(codePoint).ToString());
    }

    [Theory]
    [InlineData("abc", 3, "abc")]
    [InlineData("abcd", 3, "abc…")]
    [InlineData("🇸🇪🇳🇴", 2, "🇸🇪🇳🇴")]
    [InlineData("👩‍👩‍👧👩‍👩‍👧x", 1, "👩‍👩‍👧…")]
    [InlineData("e\u0301e", 1, "e\u0301…")]
    public void A_text_is_shortened_between_its_graphemes(string text, int most, string shortened) =>
        Assert.Equal(shortened, Core.Text.Graphemes.Shortened(text, most));
}
