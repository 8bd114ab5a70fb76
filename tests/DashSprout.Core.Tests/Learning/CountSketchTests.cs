using CsCheck;
using DashSprout.Core.Learning;
using DashSprout.Core.Tests.Hosting;

namespace DashSprout.Core.Tests.Learning;

/// <summary>
/// The sketch against exact counts of an open text, by the bound that Cormode and Muthukrishnan (2005) prove.
/// </summary>
public sealed class CountSketchTests
{
    [Theory]
    [InlineData(10)]
    [InlineData(12)]
    [InlineData(16)]
    public void Counts_are_never_too_low_and_too_high_by_no_more_than_the_bound(int widthBits)
    {
        var sketch = new CountSketch(widthBits, depth: 4, span: long.MaxValue);
        var exact = new Dictionary<ulong, int>();
        foreach (var code in OpenWords.Paragraphs.SelectMany(Runs))
        {
            sketch.Add(code);
            exact[code] = exact.GetValueOrDefault(code) + 1;
        }
        Assert.True(exact.Count > 10_000, "The open text is too short to say anything.");
        var bound = Math.E * sketch.Counted / sketch.Width;
        var tooHigh = 0;
        foreach (var (code, count) in exact)
        {
            var estimate = sketch.Estimate(code);
            Assert.True(estimate >= Math.Min(count, byte.MaxValue));
            if (estimate - count > bound)
                tooHigh++;
        }
        Assert.True(
            tooHigh <= exact.Count * Math.Exp(-sketch.Depth),
            $"{tooHigh} of {exact.Count} counts are further off than {bound:0.0}."
        );
    }

    [Fact]
    public void What_came_once_is_forgotten_after_a_while_and_what_comes_often_is_not()
    {
        var sketch = new CountSketch(widthBits: 12, depth: 4, span: 1000);
        var (once, often) = (WordCode.Of("once"), WordCode.Of("often"));
        sketch.Add(once);
        for (ulong other = 0; other < 2000; other++)
        {
            if (other % 20 == 0)
                sketch.Add(often);
            sketch.Add(WordCode.Mixed(other % 30 + 7));
        }
        Assert.Equal(0, sketch.Estimate(once));
        Assert.InRange(sketch.Estimate(often), 20, 100);
        Assert.InRange(sketch.Counted, 0, 1000);
    }

    [Fact]
    public void What_was_kept_counts_on_and_what_is_of_another_size_is_refused()
    {
        var sketch = new CountSketch(widthBits: 8);
        for (var time = 0; time < 5; time++)
            sketch.Add(42);
        var other = new CountSketch(widthBits: 8);
        Assert.True(other.Restore(sketch.Cells, sketch.Counted));
        Assert.Equal(6, other.Add(42));
        Assert.False(new CountSketch(widthBits: 9).Restore(sketch.Cells, sketch.Counted));
        Assert.False(other.Restore(sketch.Cells, -1));
        for (var time = 0; time < 1000; time++)
            other.Add(42);
        Assert.Equal(byte.MaxValue, other.Estimate(42));
    }

    [Fact]
    public void Words_are_the_same_whatever_their_capitals_and_what_stands_around_them() =>
        Gen.Select(
                Gen.String[Gen.Char.AlphaNumeric, 1, 12],
                HostModel.OneOf("", "(", "“"),
                HostModel.OneOf("", ",", ".", "!)")
            )
            .Sample(
                (word, before, behind) =>
                {
                    Assert.Equal(WordCode.Of(word), WordCode.Of(before + word.ToUpperInvariant() + behind));
                    Assert.NotEqual(WordCode.Of(word), WordCode.Of(word + "x"));
                    Assert.NotEqual(
                        WordCode.And(WordCode.Of(word), WordCode.Of("a")),
                        WordCode.And(WordCode.Of("a"), WordCode.Of(word + "a"))
                    );
                }
            );

    private static IEnumerable<ulong> Runs(string line)
    {
        var words = line.Split(' ').Select(word => WordCode.Of(word)).ToList();
        for (var at = 0; at + 3 <= words.Count; at++)
            yield return words.Skip(at).Take(3).Aggregate(WordCode.None, WordCode.And);
    }
}
