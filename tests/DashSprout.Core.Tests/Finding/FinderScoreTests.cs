using DashSprout.Core.Finding;

namespace DashSprout.Core.Tests.Finding;

/// <summary>What comes before what in the finder.</summary>
public sealed class FinderScoreTests
{
    /// <summary>Each query with names from the best to the last; the ones behind the bar are not found.</summary>
    [Theory]
    [InlineData("berth", "berth", "berth free", "berth confirmation", "the berth", "unberthed")]
    [InlineData("bc", "bc", "bcf", "berth confirmation", "abacus")]
    [InlineData("fee", "fee", "fee note", "coffee")]
    [InlineData("bfr", "berth free", "big funnel ropes")]
    public void Better_matches_come_first(string query, params string[] names)
    {
        var scores = names.Select(name => FinderScore.Of(query, name)).ToList();
        Assert.All(scores, score => Assert.True(score > 0));
        Assert.Equal(scores.OrderDescending(), scores);
    }

    [Theory]
    [InlineData("xyz", "berth")]
    [InlineData("cb", "bc")]
    [InlineData("longer than it", "short")]
    [InlineData("", "anything")]
    public void What_is_not_like_the_query_is_not_found(string query, string name) =>
        Assert.Equal(0, FinderScore.Of(query, name));

    [Fact]
    public void Use_decides_between_equals_but_does_not_lift_content_above_a_name()
    {
        Assert.True(FinderScore.OfUse(9) > FinderScore.OfUse(3));
        Assert.True(FinderScore.Content + FinderScore.OfUse(100_000) < FinderScore.Of("berth", "berth confirmation"));
    }
}
