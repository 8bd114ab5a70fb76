using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Safety;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Safety;

/// <summary>Suggested abbreviations, the nearest ones to what was typed, and keys to try.</summary>
public sealed class SuggestionTests
{
    private static readonly WordList Words = new([("the", 600), ("bc", 100), ("berth", 60)]);

    [Fact]
    public void Six_and_more_come_from_the_name_the_quiet_and_short_ones_first()
    {
        var index = Index(Snip("/tide", "X"), Snip("/fee", "X"), Snip(";x", "X"), Snip("/bc", "X"));
        var suggestions = Suggestions.For(
            index,
            PlacedSnippet.Unplaced("Berth confirmation"),
            TypingRules.For("x"),
            Scope.Everywhere,
            Words
        );
        Assert.True(suggestions.Count >= 6);
        Assert.Equal(suggestions.Count, suggestions.Select(suggestion => suggestion.Text).Distinct().Count());
        Assert.Equal(
            ("bc/", 0, MisfireGrade.Quiet),
            (suggestions[0].Text, suggestions[0].Overlaps, suggestions[0].Grade)
        );
        // Taken already, and a word that people write.
        Assert.Equal(1, suggestions.Single(suggestion => suggestion.Text == "/bc").Overlaps);
        Assert.Equal(MisfireGrade.Unusable, suggestions.Single(suggestion => suggestion.Text == "bc").Grade);
        Assert.Contains(suggestions, suggestion =>
            suggestion is { Text: "brth", Kind: SuggestionKind.Consonants, Length: 4 }
        );
        Assert.Contains(suggestions, suggestion =>
            suggestion is { Text: "bberth", Kind: SuggestionKind.DoubledLetter }
        );
    }

    [Fact]
    public void Words_that_say_nothing_are_left_out() =>
        Assert.Contains(
            Suggestions.For(
                TriggerIndex.Empty,
                PlacedSnippet.Unplaced("The pilot at the outer buoy"),
                TypingRules.For("x"),
                Scope.Everywhere,
                Words
            ),
            suggestion => suggestion is { Text: "pob", Kind: SuggestionKind.Initials }
        );

    [Theory]
    [InlineData("")]
    [InlineData("7")]
    [InlineData("Ö")]
    [InlineData("  – ! ")]
    [InlineData("aeiou")]
    public void Any_name_gives_abbreviations_that_can_be_used(string name) =>
        Assert.NotEmpty(
            Suggestions.For(
                TriggerIndex.Empty,
                PlacedSnippet.Unplaced(name),
                TypingRules.For("x"),
                Scope.Everywhere,
                Words
            )
        );

    [Theory]
    [InlineData("dear ;bvf", ";bcf 1")]
    [InlineData("dear ;cbf ", ";bcf 1")]
    [InlineData(";bcf.", ";bcf 0")]
    [InlineData("tdie", "tide 1")]
    [InlineData("quay", "")]
    public void The_nearest_abbreviation(string typed, string nearest) =>
        Assert.Equal(
            nearest,
            string.Join(
                ", ",
                NearestAbbreviation
                    .Of(Index(Snip(";bcf", "X"), Snip("tide", "X")), typed)
                    .Select(near => $"{near.Trigger.Trigger.Text} {near.Slips}")
            )
        );

    [Fact]
    public void Keys_to_try_show_the_rules()
    {
        var index = Index(Snip("bfr", "Berth", letterCase: LetterCase.Exact));
        var tries = TryOut.Of(index, index.All.Single(), new RenderContext());
        Assert.Equal(
            ["b f r   True", "a b f r   False", "B F R   False"],
            tries.Select(tried => $"{string.Join(' ', tried.Keys)} {tried.WentOff}")
        );
        Assert.Equal("Berth ", tries[0].Text);
        Assert.Equal("`bfr` wants exact case: you typed `BFR`", tries[2].Why);
    }
}
