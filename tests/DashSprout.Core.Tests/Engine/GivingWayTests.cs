using CsCheck;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Engine;

/// <summary>Giving way: how it goes on, and what settles it.</summary>
public sealed class GivingWayTests
{
    private static readonly TriggerIndex Harbour = Index(AtOnce("br", "berth"), Snip("brk", "breakwater"));

    [Fact]
    public void A_pause_settles_only_what_is_not_a_longer_one_itself()
    {
        Assert.Equal("berth", Harbour.Keys("b", "r", "pause 700").Text);
        Assert.Equal("brk", Harbour.Keys("b", "r", "k", "pause 5000").Text);
        Assert.Equal("breakwater ", Harbour.Keys("b", "r", "k", "pause 5000", " ").Text);
        Assert.Equal("berthkx", Harbour.Keys("b", "r", "k", "pause 5000", "x").Text);
        Assert.Equal("see brk", Harbour.Keys("type see brk", "ArrowLeft").Text);
        Assert.Equal(6, Harbour.Keys("type see brk", "ArrowLeft").Caret);
        Assert.Equal("brk ", Harbour.Keys("b", "r", "k", "click", " ").Text);
    }

    [Fact]
    public void A_key_that_moves_the_caret_settles_first_and_acts_after()
    {
        Assert.Equal(
            ("see berth", 8),
            (Harbour.Keys("type see br", "ArrowLeft").Text, Harbour.Keys("type see br", "ArrowLeft").Caret)
        );
        Assert.Equal(("berth", 0), (Harbour.Keys("b", "r", "Home").Text, Harbour.Keys("b", "r", "Home").Caret));
        Assert.Equal("bertx", Harbour.Keys("b", "r", "Shift+ArrowLeft", "x").Text);
    }

    [Fact]
    public void A_hotkey_pressed_while_something_gives_way_comes_behind_it()
    {
        var index = Index(
            AtOnce("br", "berth"),
            Snip("brk", "breakwater"),
            With("!", new Trigger.Hotkey("Ctrl+Alt+B", Scope.Everywhere))
        );
        Assert.Equal("berth!", index.Keys("b", "r", "Ctrl+Alt+B").Text);
        Assert.Equal("brk!", index.Keys("b", "r", "k", "Ctrl+Alt+B").Text);
    }

    [Fact]
    public void The_pause_counts_from_the_last_key()
    {
        var index = Index(AtOnce("a", "short"), AtOnce("abcd", "long"));
        Assert.Equal("long", index.Keys("a", "pause 300", "b", "pause 300", "c", "pause 300", "d").Text);
        Assert.Equal("shortb", index.Keys("a", "pause 300", "b", "pause 700").Text);
    }

    [Fact]
    public void Erasing_back_makes_the_shorter_one_wait_again()
    {
        var index = Index(AtOnce("b", "B"), AtOnce("be", "BE"), AtOnce("berth", "berth text"));
        Assert.Equal("B", index.Keys("b", "e", "Backspace", "pause 700").Text);
        Assert.Equal("BE", index.Keys("b", "e", "r", "Backspace", "pause 700").Text);
        Assert.Equal("Bx", index.Keys("b", "e", "Backspace", "x").Text);
        Assert.Equal("berth text", index.Keys("b", "e", "Backspace", "e", "r", "t", "h").Text);
        Assert.Equal("", index.Keys("b", "Backspace", "pause 700").Text);
    }

    [Fact]
    public void A_mark_that_joins_the_last_letter_makes_another_text()
    {
        var index = Index(AtOnce("a", "A"), AtOnce("å", "ring"), AtOnce("a'", "quote"));
        Assert.Equal("ring ", index.Keys("a", "\u030A", " ").Text);
        Assert.Equal("A ", index.Keys("a", " ").Text);
        Assert.Equal("quote", index.Keys("a", "'").Text);
        Assert.Equal("a\u0301 ", index.Keys("a", "\u0301", " ").Text);
    }

    [Fact]
    public void It_survives_an_edit_of_another_snippet_and_not_one_of_its_own()
    {
        var placed = PlacedSnippet
            .All([Lib("A", AtOnce("br", "berth"), Snip("brk", "breakwater"), Snip("mo", "moorings"))])
            .ToList();
        var index = TriggerIndex.Of(placed);
        var engine = new TypingEngine(() => index);
        foreach (var key in Key.ForText("br"))
            engine.Press(new Keystroke(key));
        index = index.Change([3], [placed[2] with { Snippet = Snip("mu", "x") }]);
        Assert.IsType<Decision.Fires>(engine.Tick(TypingEngine.PauseMs));
        engine.LeaveAsTyped();
        engine.Click();
        foreach (var key in Key.ForText("br"))
            engine.Press(new Keystroke(key));
        index = index.Change([1], []);
        Assert.Same(Decision.PassOn, engine.Tick(TypingEngine.PauseMs));
    }

    /// <summary>However many longer ones a rule keeps back, one look tells whether one of them may follow.</summary>
    [Fact]
    public void Whether_a_longer_one_may_follow_is_what_asking_each_of_them_says()
    {
        string[] apps = ["post", "console", "sheet"];
        var rule =
            from edge in Gen.Enum<LeftEdge>()
            from scope in Gen.Int[0, 6]
            from exact in Gen.Bool
            select (edge, scope, exact);
        Gen.Select(rule.Array[1, 5], Gen.Int[0, 2], Gen.Bool, Gen.Bool)
            .Sample(
                (rules, app, space, capital) =>
                {
                    var snippets = rules
                        .Select(
                            (one, at) =>
                            {
                                var (edge, scope, exact) = one;
                                var some = apps.Where((_, number) => (scope & (1 << number)) != 0).ToArray();
                                Scope where =
                                    scope == 0 ? Scope.Everywhere
                                    : at % 2 == 0 ? new Scope.OnlyIn(new(some))
                                    : new Scope.NotIn(new(some));
                                return Snip(
                                    "Br" + (char)('a' + at),
                                    "long",
                                    edge: edge,
                                    letterCase: exact ? LetterCase.Exact : LetterCase.Either,
                                    scope: where
                                );
                            }
                        )
                        .ToArray();
                    var before = space ? " " : "x";
                    var typed = capital ? "Br" : "br";
                    var givesWay =
                        Index([AtOnce("br", "short", LeftEdge.Any), .. snippets])
                            .Type(before + typed, app: apps[app])
                            .Text
                        == before + typed;
                    var wanted = snippets.Any(snippet =>
                        ((Trigger.Abbreviation)snippet.Triggers[0]) is var trigger
                        && trigger.Scope.Admits(apps[app])
                        && (trigger.Rules.LeftEdge == LeftEdge.Any || space)
                        && (trigger.Rules.Case != LetterCase.Exact || typed == "Br")
                    );
                    Assert.Equal(wanted, givesWay);
                },
                iter: Depth.Of(3_000)
            );
    }
}
