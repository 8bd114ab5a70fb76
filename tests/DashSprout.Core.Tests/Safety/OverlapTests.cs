using CsCheck;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Safety;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Safety;

/// <summary>Overlaps: every kind by example, and the engine as judge over many small libraries.</summary>
public sealed class OverlapTests
{
    private static readonly Scope Console = new Scope.OnlyIn(new(["console"]));

    [Fact]
    public void Two_libraries_with_the_same_abbreviation()
    {
        var overlap = Only(Lib("A", Snip("bc", "upper")), Lib("B", Snip("bc", "lower")));
        Assert.Equal(
            (OverlapKind.Same, "A", "B", "upper "),
            (overlap.Kind, overlap.Winner!.Placed.Library, overlap.Loser.Placed.Library, overlap.Witness.Text)
        );
        Assert.Empty(Find(Lib("A", Snip("bc", "x", closing: ".")), Lib("B", Snip("bc", "y", closing: ","))));
        Assert.Empty(
            Find(
                Lib("A", Snip("bc", "x", scope: Console)),
                Lib("B", Snip("bc", "y", scope: new Scope.OnlyIn(new(["post"]))))
            )
        );
        Assert.Equal("console", Only(Lib("A", Snip("bc", "x")), Lib("B", Snip("bc", "y", scope: Console))).Witness.App);
        Assert.Equal(
            "exact",
            Only(
                Lib("A", Snip("bc", "either")),
                Lib("B", Snip("BC", "exact", letterCase: LetterCase.Exact))
            ).Winner!.Placed.Snippet.Name
        );
        Assert.Empty(Find(Lib("A", Snip("bc", "x")) with { Enabled = false }, Lib("B", Snip("bc", "y"))));
    }

    [Fact]
    public void A_short_one_at_once_makes_a_longer_one_impossible_unless_it_gives_way()
    {
        var overlap = Only(Lib("A", AtOnce("br", "berth", givesWay: false), AtOnce("brk", "breakwater")));
        Assert.Equal(OverlapKind.CutShort, overlap.Kind);
        Assert.Equal(("b r k", "berthk"), (string.Join(' ', overlap.Witness.Steps), overlap.Witness.Text));
        Assert.Empty(Find(Lib("A", AtOnce("br", "berth"), AtOnce("brk", "breakwater"))));
    }

    /// <summary>Every spelling that a case rule tells apart is tried.</summary>
    [Fact]
    public void Capitals_that_set_a_shorter_one_off()
    {
        var first = Only(Lib("A", AtOnce("Th", "X", letterCase: LetterCase.Exact, givesWay: false), Snip("the", "Y")));
        Assert.Equal((OverlapKind.CutShort, "T h e  "), (first.Kind, string.Join(' ', first.Witness.Steps)));
        var small = Only(
            Lib(
                "A",
                AtOnce("br", "X", letterCase: LetterCase.Exact, givesWay: false),
                Snip("Brk", "Y", letterCase: LetterCase.Mirror)
            )
        );
        Assert.Equal((OverlapKind.CutShort, "b r k  "), (small.Kind, string.Join(' ', small.Witness.Steps)));
        Assert.Equal(
            "B R K  ",
            string.Join(
                ' ',
                Only(
                    Lib("A", AtOnce("BR", "X", letterCase: LetterCase.Exact, givesWay: false), Snip("brk", "Y"))
                ).Witness.Steps
            )
        );
        Assert.Empty(
            Find(
                Lib(
                    "A",
                    AtOnce("br", "X", letterCase: LetterCase.Exact, givesWay: false),
                    Snip("Brk", "Y", letterCase: LetterCase.Exact)
                )
            )
        );
    }

    [Fact]
    public void A_witness_has_the_pause_that_it_needs_and_is_typed_with_all_triggers_there()
    {
        var waits = Only(Lib("A", AtOnce("br", "upper")), Lib("B", AtOnce("br", "lower"), AtOnce("brk", "long")));
        Assert.Equal(("b r pause 700", "upper"), (string.Join(' ', waits.Witness.Steps), waits.Witness.Text));
        var three = Find(Lib("A", Snip("bc", "a"), Snip("bc", "b"), Snip("bc", "c")));
        Assert.Equal(
            ["a b", "a c"],
            three.Select(overlap => $"{overlap.Winner!.Placed.Snippet.Name} {overlap.Loser.Placed.Snippet.Name}")
        );
        Assert.All(three, overlap => Assert.Equal("a ", overlap.Witness.Text));
    }

    [Fact]
    public void Inside_another_and_closed_early()
    {
        Assert.Equal(
            OverlapKind.HiddenInside,
            Only(Lib("A", AtOnce("re", "X", LeftEdge.Any), Snip("breakw", "Y"))).Kind
        );
        Assert.Empty(Find(Lib("A", AtOnce("re", "X"), Snip("breakw", "Y"))));
        Assert.Equal(OverlapKind.ClosedEarly, Only(Lib("A", Snip("bc", "X"), Snip("bc-k", "Y"))).Kind);
    }

    [Fact]
    public void Patterns_and_hotkeys()
    {
        var pattern = With("P", new Trigger.Pattern("b\\d+", TypingRules.For("b"), Scope.Everywhere));
        Assert.Equal((OverlapKind.PatternCoversAbbreviation, "P"), Named(Only(Lib("A", pattern, Snip("b12", "A")))));
        Assert.Equal((OverlapKind.PatternCoversAbbreviation, "A"), Named(Only(Lib("A", Snip("b12", "A"), pattern))));

        var hotkey = new Trigger.Hotkey("Ctrl+Alt+J", Scope.Everywhere);
        Assert.Equal((OverlapKind.SameHotkey, "one"), Named(Only(Lib("A", With("one", hotkey), With("two", hotkey)))));
        var taken = Only(Lib("A", With("one", new Trigger.Hotkey("Ctrl+Alt+Q", Scope.Everywhere))));
        Assert.Equal((OverlapKind.TakenHotkey, "German layout: AltGr types @"), (taken.Kind, taken.Owner));

        static (OverlapKind, string) Named(Overlap overlap) => (overlap.Kind, overlap.Winner!.Placed.Snippet.Name);
    }

    /// <summary>Aho and Corasick, 1975: he, she, his, hers in “ushers”.</summary>
    [Fact]
    public void He_she_his_hers_in_ushers()
    {
        string[] words = ["he", "she", "his", "hers"];
        var index = Index([
            .. words.Select(word => AtOnce(word, word.ToUpperInvariant(), LeftEdge.Any, givesWay: false)),
        ]);
        var typing = new EveryMatch(index);
        var output = Key.ForText("ushers")
            .Select(key =>
            {
                var found = new List<ActiveTrigger>();
                typing.Type(key, found.Add);
                return string.Join(' ', found.Select(trigger => trigger.Trigger.Text).Order(StringComparer.Ordinal));
            });
        Assert.Equal(["", "", "", "he she", "", "hers"], output);

        var inside = Find(
            Lib("A", [.. words.Select(word => AtOnce(word, "X", LeftEdge.Any, givesWay: false)), Snip("ushers", "Y")])
        );
        // Of those that stand in “ushers” the first to end goes off; the others never come to it.
        Assert.Equal(
            ["CutShort he hers", "HiddenInside she ushers"],
            inside.Select(overlap => $"{overlap.Kind} {overlap.Winner!.Trigger.Text} {overlap.Loser.Trigger.Text}")
        );
    }

    /// <summary>
    /// Over all short key strings: where a trigger goes off by itself but something else goes off when all are there,
    /// and the trigger goes off again without that one, an overlap is reported; and every reported one can be typed
    /// again.
    /// </summary>
    [Fact]
    public void What_is_reported_is_what_a_search_over_all_short_texts_finds() =>
        Snippets
            .Array[2, 4]
            .Sample(
                snippets =>
                {
                    var index = Index(snippets);
                    var reported = new OverlapSearch(index).All();
                    foreach (var overlap in reported)
                    {
                        var setting = new RehearsalSetting(
                            overlap.Witness.App,
                            FieldKind.Plain,
                            false,
                            new DashSprout.Core.Bodies.RenderContext(),
                            null
                        );
                        var again = Rehearsal.Run(index, overlap.Witness.Steps, setting, tracing: false);
                        Assert.NotEmpty(again.Firings);
                        Assert.NotSame(overlap.Loser, again.Firings[0].Trigger);
                        Assert.Equal(overlap.Witness.Text, again.Text);
                    }
                    var pairs = reported.Select(overlap => (overlap.Winner, overlap.Loser)).ToHashSet();
                    foreach (var keys in Texts)
                    {
                        if (First(index, keys) is not { } winner)
                            continue;
                        foreach (var loser in index.All.Where(trigger => !ReferenceEquals(trigger, winner.Trigger)))
                        {
                            var typed =
                                loser.Trigger.Text.Length
                                + (
                                    loser.Rules!.Timing switch
                                    {
                                        Timing.AtOnce => 0,
                                        Timing.ClosingKey => 1,
                                        _ => 2,
                                    }
                                );
                            if (typed != keys.Length || First(Alone(loser), keys) is null)
                                continue;
                            if (ReferenceEquals(First(index.Without(winner.Trigger), keys)?.Trigger, loser))
                                Assert.Contains((winner.Trigger, loser), pairs);
                        }
                    }

                    static TriggerIndex Alone(ActiveTrigger trigger) => TriggerIndex.Of([trigger.Placed]);
                },
                iter: Depth.Of(3_000)
            );

    [Fact]
    public void One_trigger_alone_is_told_of_all_its_overlaps() =>
        Snippets
            .Array[2, 5]
            .Sample(
                snippets =>
                {
                    var search = new OverlapSearch(Index(snippets));
                    var all = search.All();
                    foreach (
                        var trigger in all.SelectMany(overlap => (ActiveTrigger[])[overlap.Loser, overlap.Winner!])
                            .Distinct()
                    )
                        Assert.Equal(
                            all.Where(overlap =>
                                    ReferenceEquals(overlap.Loser, trigger) || ReferenceEquals(overlap.Winner, trigger)
                                )
                                .Select(Pair)
                                .ToHashSet(),
                            search.Of(trigger).Select(Pair).ToHashSet()
                        );

                    static (OverlapKind, ActiveTrigger?, ActiveTrigger) Pair(Overlap overlap) =>
                        (overlap.Kind, overlap.Winner, overlap.Loser);
                },
                iter: Depth.Of(1_000)
            );

    /// <summary>After any edit the map that followed says what a map made anew says.</summary>
    [Fact]
    public void A_map_that_followed_an_edit_is_the_map_of_the_new_index() =>
        Gen.Select(Snippets.Array[2, 5], Snippets, Gen.Int[0, 4])
            .Sample(
                (snippets, other, number) =>
                {
                    var before = Index(snippets);
                    var changed = before.All.First(trigger => trigger.Placed.Id == 1 + number % snippets.Length).Placed;
                    var after = before.Change([changed.Id], [changed with { Snippet = other }]);
                    Assert.Equal(
                        OverlapMap.Of(after).All.Select(Written).Order(StringComparer.Ordinal),
                        OverlapMap.Of(before).Follow(after).All.Select(Written).Order(StringComparer.Ordinal)
                    );

                    static string Written(Overlap overlap) =>
                        $"{overlap.Kind} {overlap.Winner?.Placed.Id} {overlap.Loser.Placed.Id} "
                        + $"{string.Join(' ', overlap.Witness.Steps)} {overlap.Witness.Text}";
                },
                iter: Depth.Of(1_000)
            );

    private static readonly Gen<Snippet> Snippets =
        from text in Gen.Char["ab"].Array[1, 3]
        from timing in Gen.Enum<Timing>()
        from edge in Gen.Enum<LeftEdge>()
        from givesWay in Gen.Bool
        select Snip(new string(text), "X", timing, edge, closing: "b.", givesWay: givesWay);

    private static readonly List<Key[]> Texts =
    [
        .. Enumerable
            .Range(1, 5)
            .SelectMany(length =>
                Enumerable
                    .Range(0, (int)Math.Pow(3, length))
                    .Select(number =>
                        Enumerable
                            .Range(0, length)
                            .Select(at => Key.Typed("ab."[number / (int)Math.Pow(3, at) % 3].ToString()))
                            .ToArray()
                    )
            ),
    ];

    private static Firing? First(TriggerIndex index, Key[] keys)
    {
        var engine = new TypingEngine(() => index);
        foreach (var key in keys)
            if (engine.Press(new Keystroke(key)) is Decision.Fires fires)
                return fires.Firing;
        return engine.Tick(TypingEngine.PauseMs) is Decision.Fires settled ? settled.Firing : null;
    }

    private static IReadOnlyList<Overlap> Find(params Library[] libraries) => new OverlapSearch(Index(libraries)).All();

    private static Overlap Only(params Library[] libraries) => Assert.Single(Find(libraries));

    /// <summary>
    /// One abbreviation many times: the first wins over all others, and the work grows no faster than what is found.
    /// </summary>
    [Theory(Timeout = 600_000)]
    [InlineData(400)]
    [InlineData(1200)]
    public async Task One_abbreviation_many_times(int times)
    {
        await Task.Run(() => { }, TestContext.Current.CancellationToken);
        var index = Index([.. Enumerable.Range(0, times).Select(at => AtOnce(";same", $"text {at}"))]);
        var overlaps = new OverlapSearch(index).All();
        Assert.Equal(times - 1, overlaps.Count);
        Assert.All(overlaps, overlap => Assert.Same(index.All.First(), overlap.Winner));
        Assert.All(overlaps, overlap =>
            Assert.Equal((OverlapKind.Same, "text 0"), (overlap.Kind, overlap.Witness.Text))
        );
        Assert.Equal(times, overlaps.Select(overlap => overlap.Loser).Append(index.All.First()).Distinct().Count());
    }
}
