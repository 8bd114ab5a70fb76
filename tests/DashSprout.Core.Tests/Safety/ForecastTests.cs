using DashSprout.Core.Libraries;
using DashSprout.Core.Safety;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Safety;

/// <summary>The forecast and the replay against counts by hand and against each other.</summary>
public sealed class ForecastTests
{
    private static readonly WordList Small = new([
        ("the", 600),
        ("these", 200),
        ("offer", 100),
        ("Berth", 60),
        ("far", 40),
    ]);

    [Theory]
    // 1 000 words in all, so a count of 100 is 1 000 in 10 000 words.
    [InlineData("th", Timing.AtOnce, LeftEdge.Word, LetterCase.Either, 8_000)]
    [InlineData("th", Timing.ClosingKey, LeftEdge.Word, LetterCase.Either, 0)]
    [InlineData("the", Timing.ClosingKey, LeftEdge.Word, LetterCase.Either, 6_000)]
    [InlineData("he", Timing.AtOnce, LeftEdge.Word, LetterCase.Either, 0)]
    [InlineData("he", Timing.AtOnce, LeftEdge.Any, LetterCase.Either, 8_000)]
    [InlineData("er", Timing.ClosingKey, LeftEdge.Any, LetterCase.Either, 1_000)]
    [InlineData("far", Timing.DoubleClosingKey, LeftEdge.Word, LetterCase.Either, 0)]
    [InlineData("berth", Timing.ClosingKey, LeftEdge.Word, LetterCase.Exact, 0)]
    [InlineData("Berth", Timing.ClosingKey, LeftEdge.Word, LetterCase.Exact, 600)]
    [InlineData("The", Timing.ClosingKey, LeftEdge.Word, LetterCase.Exact, 6_000 / 15.0)]
    [InlineData("the", Timing.ClosingKey, LeftEdge.Word, LetterCase.Exact, 6_000 * 14 / 15.0)]
    [InlineData(";the", Timing.AtOnce, LeftEdge.Any, LetterCase.Either, 0)]
    public void A_small_list_counted_by_hand(
        string text,
        Timing timing,
        LeftEdge edge,
        LetterCase letterCase,
        double per10k
    ) => Assert.Equal(per10k, Of(Snip(text, "X", timing, edge, letterCase)).Per10kWords, 6);

    [Fact]
    public void A_scoped_trigger_is_judged_in_an_application_of_its_scope()
    {
        Assert.Equal(6_000, Of(Snip("the", "X", scope: new Scope.OnlyIn(new(["console"])))).Per10kWords, 6);
        Assert.Equal(6_000, Of(Snip("the", "X", scope: new Scope.NotIn(new(["", "console"])))).Per10kWords, 6);
    }

    [Fact]
    public void The_words_that_cause_it_come_most_frequent_first()
    {
        var forecast = Of(Snip("th", "X", Timing.AtOnce));
        Assert.Equal(["the 6000", "these 2000"], forecast.Words.Select(word => $"{word.Word} {word.Per10kWords}"));
        Assert.Equal(MisfireGrade.Unusable, forecast.Grade);
    }

    [Fact]
    public void Closing_keys_without_space_and_patterns_are_tried_too()
    {
        Assert.Equal(400, Of(Snip("far", "X", closing: "+")).Per10kWords, 6);
        Assert.Equal(
            1_000,
            Of(With("X", new Trigger.Pattern("of+er", TypingRules.For("o"), Scope.Everywhere))).Per10kWords,
            6
        );
    }

    [Theory]
    [InlineData(0.05, MisfireGrade.Quiet)]
    [InlineData(0.1, MisfireGrade.Rare)]
    [InlineData(1, MisfireGrade.Nagging)]
    [InlineData(9.99, MisfireGrade.Nagging)]
    [InlineData(10, MisfireGrade.Unusable)]
    public void Grades(double per10k, MisfireGrade grade) =>
        Assert.Equal(grade, new MisfireForecast(Index(Snip("a", "X")).All.Single(), per10k, []).Grade);

    [Fact]
    public void A_replay_finds_every_place()
    {
        var index = Index(Snip("far", "X"), AtOnce("th", "Y", LeftEdge.Space));
        var places = Replay.Of(index, "🙂 far, the afar (thin) far", "post");
        Assert.Equal(
            [(2, 4, "far"), (7, 2, "th"), (17, 2, "th")],
            places.Select(place => (place.Offset, place.Length, place.Trigger.Trigger.Text))
        );
        Assert.Equal(6, Replay.CountWords("🙂 far, the afar (thin) don't 7"));
    }

    /// <summary>
    /// A long text made of the list's words in their frequencies has the rate that the forecast says, within a tenth.
    /// </summary>
    [Fact]
    public void Forecast_and_replay_agree()
    {
        var words = Small.Words.SelectMany(word => Enumerable.Repeat(word.Word, (int)word.Count)).ToArray();
        new Random(7).Shuffle(words);
        var text =
            string.Join(
                ' ',
                words.Select((word, at) => at % 15 == 0 ? char.ToUpperInvariant(word[0]) + word[1..] : word)
            ) + " ";
        foreach (
            var snippet in (Snippet[])
                [
                    AtOnce("th", "X"),
                    Snip("the", "X"),
                    Snip("the", "X", letterCase: LetterCase.Exact),
                    AtOnce("er", "X", LeftEdge.Any),
                ]
        )
        {
            var rate = Replay.Of(Index(snippet), text, "").Count * 10_000.0 / words.Length;
            Assert.InRange(rate / Of(snippet).Per10kWords, 0.9, 1.1);
        }
    }

    [Fact]
    public void A_long_forecast_can_be_cancelled()
    {
        using var cancelled = new CancellationTokenSource();
        cancelled.Cancel();
        Assert.Throws<OperationCanceledException>(() =>
            Forecast.Of(Index(Snip("a", "X")), Small, null, cancelled.Token)
        );
    }

    private static MisfireForecast Of(Snippet snippet) => Assert.Single(Forecast.Of(Index(snippet), Small));
}
