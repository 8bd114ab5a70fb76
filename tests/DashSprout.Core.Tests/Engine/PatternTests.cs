using CsCheck;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Engine;

/// <summary>Patterns asked together decide as each asked by itself.</summary>
public sealed class PatternTests
{
    private static readonly string[] Sources =
    [
        "b\\d{1,2}",
        "(?:ab)+",
        "[a-c]x",
        "B",
        "a|b1",
        "x(?<n>\\d)",
        "y(?<n>\\d)",
        "\\d\\d",
        "a.b",
        "é+",
        "(?i)q",
        "[^a]1",
    ];

    private static readonly Gen<(string Source, Timing Timing, LetterCase Case, LeftEdge Edge)> Patterns = Gen.Select(
        Gen.Int[0, 11].Select(at => Sources[at]),
        Gen.Enum<Timing>(),
        Gen.Enum<LetterCase>(),
        Gen.Enum<LeftEdge>()
    );

    [Fact]
    public void In_groups_they_find_what_each_finds_alone() =>
        Gen.Select(Patterns.Array[1, 90], Gen.Char["ab1 2xyqBé."].Array[1, 12])
            .Sample(
                (patterns, typed) =>
                {
                    var snippets = patterns.Select(Snippet).ToArray();
                    var all = new EveryMatch(Index(snippets));
                    var alone = snippets.Select(snippet => new EveryMatch(Index(snippet))).ToArray();
                    foreach (var key in Key.ForText(new string(typed)))
                    {
                        var together = new List<string>();
                        all.Type(key, trigger => together.Add(trigger.Placed.Snippet.Name));
                        var each = new List<string>();
                        foreach (var one in alone)
                            one.Type(key, trigger => each.Add(trigger.Placed.Snippet.Name));
                        Assert.Equal(each.Order(StringComparer.Ordinal), together.Order(StringComparer.Ordinal));
                    }
                },
                iter: Depth.Of(300)
            );

    [Fact]
    public void Groups_follow_edits()
    {
        var placed = Enumerable
            .Range(0, 200)
            .Select(number =>
                PlacedSnippet.Unplaced($"{number}") with
                {
                    Id = number,
                    Snippet = Snippet(($"n{number}x", Timing.AtOnce, LetterCase.Either, LeftEdge.Any)) with
                    {
                        Name = $"{number}",
                    },
                }
            )
            .ToList();
        var index = TriggerIndex.Of(placed);
        for (var number = 0; number < 200; number += 3)
            index = index.Change([number], []);
        for (var number = 0; number < 200; number += 9)
            index = index.Change([], [placed[number]]);
        for (var number = 0; number < 200; number++)
        {
            var there = number % 3 != 0 || number % 9 == 0;
            Assert.Equal(there ? 1 : 0, index.Type($"n{number}x").Firings.Count);
        }
    }

    [Fact]
    public void A_pattern_begins_where_a_grapheme_begins_and_its_edge_passes()
    {
        var index = Index(
            With("X", new Trigger.Pattern("\u0301?b1", TypingRules.For("b", Timing.AtOnce), Scope.Everywhere))
        );
        Assert.Equal("X", index.Type("b1").Text);
        Assert.Equal("ab1", index.Type("ab1").Text);
        Assert.Equal("e\u0301b1", index.Type("e\u0301b1").Text);
    }

    private static Snippet Snippet(
        (string Source, Timing Timing, LetterCase Case, LeftEdge Edge) pattern,
        int number = 0
    )
    {
        var rules = TypingRules.For(pattern.Source, pattern.Timing) with
        {
            Case = pattern.Case,
            LeftEdge = pattern.Edge,
        };
        return With(
            $"{pattern.Source} {pattern.Timing} {pattern.Case} {pattern.Edge} {number}",
            new Trigger.Pattern(pattern.Source, rules, Scope.Everywhere)
        );
    }
}
