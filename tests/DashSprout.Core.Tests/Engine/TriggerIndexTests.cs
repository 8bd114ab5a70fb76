using CsCheck;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Engine;

/// <summary>However an index came about, it decides alike.</summary>
public sealed class TriggerIndexTests
{
    private static readonly Gen<Snippet> Snippets =
        from text in Gen.Char["abß"].Array[1, 3]
        from timing in Gen.Enum<Timing>()
        from edge in Gen.Enum<LeftEdge>()
        from enabled in Gen.Bool
        select Snip(new string(text), new string(text).ToUpperInvariant(), timing, edge) with
        {
            Enabled = enabled,
        };

    [Fact]
    public void Built_at_once_one_by_one_or_after_removals_it_gives_the_same_text() =>
        Gen.Select(Snippets.Array[1, 8], Gen.Char["abß ."].Array[1, 20], Gen.Int[0, 7])
            .Sample(
                (snippets, typed, extra) =>
                {
                    var placed = PlacedSnippet.All([Lib("A", snippets)]).ToList();
                    var text = new string(typed);
                    var built = TriggerIndex.Of(placed);
                    var grown = placed.Aggregate(TriggerIndex.Empty, (index, snippet) => index.Change([], [snippet]));
                    var changed = built
                        .Change([placed[extra % placed.Count].Id], [])
                        .Change([], [placed[extra % placed.Count]]);
                    var wanted = built.Type(text).Text;
                    Assert.Equal(wanted, grown.Type(text).Text);
                    Assert.Equal(wanted, changed.Type(text).Text);
                },
                iter: Depth.Of(5_000)
            );

    [Fact]
    public void An_older_index_keeps_deciding_as_it_did()
    {
        var placed = PlacedSnippet.All([Lib("A", AtOnce("bc", "X"), AtOnce("mo", "Y"))]).ToList();
        var before = TriggerIndex.Of(placed);
        var after = before.Change([placed[0].Id], [placed[0] with { Snippet = AtOnce("bd", "Z") }]);
        Assert.Equal(("X", "bd Y"), (before.Type("bc").Text, before.Type("bd mo").Text));
        Assert.Equal(("bc", "Z Y"), (after.Type("bc").Text, after.Type("bd mo").Text));
    }

    [Fact]
    public void What_went_and_came_since_an_older_one()
    {
        var placed = PlacedSnippet.All([Lib("A", AtOnce("bc", "X"), AtOnce("mo", "Y"))]).ToList();
        var before = TriggerIndex.Of(placed);
        var (gone, came) = before
            .Change(
                [placed[0].Id],
                [placed[0] with { Snippet = With("Z", new Trigger.Hotkey("Ctrl+Alt+J", Scope.Everywhere)) }]
            )
            .Since(before);
        Assert.Equal("bc → A/X", Assert.Single(gone).ToString());
        Assert.Equal("Ctrl+Alt+J → A/Z", Assert.Single(came).ToString());
    }

    /// <summary>
    /// What was stored before there was a limit: one letter with sixty thousand marks overflowed the stack at every
    /// start.
    /// </summary>
    [Fact]
    public void An_abbreviation_of_any_length_can_be_indexed_followed_and_removed()
    {
        var endless = "z" + new string('\u0301', 60_000);
        var stored = With(
            "X",
            Trigger.Abbreviation.Stored(endless, TypingRules.For("z", Timing.AtOnce), Scope.Everywhere)
        );
        var placed = PlacedSnippet.All([Lib("A", stored, AtOnce("bc", "Y"))]).ToList();
        var index = TriggerIndex.Of(placed);
        Assert.Equal("Y", index.Type("bc").Text);
        Assert.Equal("Y", index.Change([placed[0].Id], [placed[0]]).Change([placed[0].Id], []).Type("bc").Text);
    }

    /// <summary>
    /// Many edits at once, on a tree that has many already, are the same as a tree built of what is left.
    /// </summary>
    [Fact]
    public void Many_edits_at_once_give_the_tree_that_is_built_of_what_is_left() =>
        Gen.Select(Snippets.Array[1, 40], Gen.Int[0, 39].Array[0, 40])
            .Sample(
                (snippets, again) =>
                {
                    var placed = PlacedSnippet.All([Lib("A", snippets)]).ToList();
                    var half = placed.Count / 2;
                    var removed = again.Select(at => placed[at % placed.Count]).Distinct().ToList();
                    var edited = TriggerIndex
                        .Of(placed.Take(half))
                        .Change([], placed.Skip(half))
                        .Change(removed.Select(snippet => snippet.Id), removed.Take(removed.Count / 2));
                    var wanted = TriggerIndex.Of(placed.Except(removed.Skip(removed.Count / 2)));
                    Assert.Equal(Paths(wanted.Backward), Paths(edited.Backward));
                    Assert.Equal(Paths(wanted.Forward), Paths(edited.Forward));
                    Assert.Equal(Paths(wanted.Off), Paths(edited.Off));
                    Assert.Equal(wanted.All.Count(), edited.All.Count());
                },
                iter: Depth.Of(2_000)
            );

    private static IEnumerable<string> Paths(TrieNode node, string way = "") =>
        node
            .Entries.Select(entry => $"{way}: {entry.Placed.Id}")
            .Concat(node.Children.ToArray().SelectMany((child, at) => Paths(child, way + node.Units[at])))
            .Order(StringComparer.Ordinal);
}
