using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Libraries;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Engine;

/// <summary>The rules by which triggers go off, one table for each.</summary>
public sealed class EngineTests
{
    [Theory]
    [InlineData("mfg ", "Kind regards ")]
    [InlineData("mfg.", "Kind regards.")]
    [InlineData("(mfg)", "(Kind regards)")]
    [InlineData("mfg–", "Kind regards–")]
    [InlineData("mfg/", "Kind regards/")]
    [InlineData("mfg\n", "Kind regards\n")]
    [InlineData("mfg\t", "Kind regards\t")]
    [InlineData("mfg", "mfg")]
    [InlineData("mfgs ", "mfgs ")]
    [InlineData("mfg#", "mfg#")]
    public void After_a_closing_key_which_stays_behind(string typed, string text) =>
        Assert.Equal(text, Index(Snip("mfg", "Kind regards")).Type(typed).Text);

    [Theory]
    [InlineData("mfg ", "Kind regards")]
    [InlineData("mfg\n", "Kind regards")]
    public void After_a_closing_key_which_is_dropped(string typed, string text) =>
        Assert.Equal(text, Index(Snip("mfg", "Kind regards", keep: false)).Type(typed).Text);

    [Theory]
    [InlineData(";bc", "Berth confirmed ")]
    [InlineData("x ;bc", "x Berth confirmed ")]
    [InlineData("x;bc", "x;bc")]
    [InlineData("x;bc ", "x;bc ")]
    public void At_once_on_the_last_character_and_a_space_in_the_text_is_put_in_exactly(string typed, string text)
    {
        var result = Index(AtOnce(";bc", "Berth confirmed ")).Type(typed);
        Assert.Equal(text, result.Text);
        Assert.Equal(text.Length, result.Caret);
    }

    [Theory]
    [InlineData("brk  ", "breakwater")]
    [InlineData("brk ", "brk ")]
    [InlineData("brk. ", "brk. ")]
    [InlineData("brk..", "breakwater")]
    public void After_the_same_closing_key_pressed_twice(string typed, string text) =>
        Assert.Equal(text, Index(Snip("brk", "breakwater", Timing.DoubleClosingKey)).Type(typed).Text);

    [Theory]
    // Before the abbreviation: nothing, a space, a line end, brackets and quotation marks …
    [InlineData(LeftEdge.Space, "ab", true)]
    [InlineData(LeftEdge.Space, " ab", true)]
    [InlineData(LeftEdge.Space, "\nab", true)]
    [InlineData(LeftEdge.Space, "\tab", true)]
    [InlineData(LeftEdge.Space, "\u00A0ab", true)]
    [InlineData(LeftEdge.Space, "(ab", true)]
    [InlineData(LeftEdge.Space, "“ab", true)]
    [InlineData(LeftEdge.Space, "\"ab", true)]
    [InlineData(LeftEdge.Space, "'ab", true)]
    [InlineData(LeftEdge.Space, "-ab", false)]
    [InlineData(LeftEdge.Space, ".ab", false)]
    [InlineData(LeftEdge.Space, "xab", false)]
    [InlineData(LeftEdge.Word, "-ab", true)]
    [InlineData(LeftEdge.Word, "/ab", true)]
    [InlineData(LeftEdge.Word, "xab", false)]
    [InlineData(LeftEdge.Word, "don'ab", false)]
    [InlineData(LeftEdge.Word, "snake_ab", false)]
    [InlineData(LeftEdge.Word, "gate.ab", false)]
    [InlineData(LeftEdge.Word, "7ab", false)]
    [InlineData(LeftEdge.Word, "🙂ab", true)]
    [InlineData(LeftEdge.Any, "xab", true)]
    public void Left_edges(LeftEdge edge, string typed, bool goesOff) =>
        Assert.Equal(goesOff ? typed[..^2] + "X" : typed, Index(AtOnce("ab", "X", edge)).Type(typed).Text);

    [Fact]
    public void A_number_is_no_word_start_within_itself() =>
        Assert.Equal("12.30 ", Index(Snip("30", "thirty")).Type("12.30 ").Text);

    [Theory]
    [InlineData("bc", LeftEdge.Word)]
    [InlineData("7x", LeftEdge.Word)]
    [InlineData("/fee", LeftEdge.Space)]
    [InlineData("é", LeftEdge.Word)]
    [InlineData("🙂", LeftEdge.Space)]
    public void The_default_left_edge_depends_on_the_first_character(string text, LeftEdge edge) =>
        Assert.Equal(edge, TypingRules.For(text).LeftEdge);

    [Fact]
    public void A_symbol_abbreviation_stays_quiet_in_a_web_address() =>
        Assert.Equal("https://example.org/fee ", Index(Snip("/fee", "fee")).Type("https://example.org/fee ").Text);

    [Theory]
    [InlineData(LetterCase.Either, "teh ", "the ")]
    [InlineData(LetterCase.Either, "TEH ", "the ")]
    [InlineData(LetterCase.Exact, "teh ", "the ")]
    [InlineData(LetterCase.Exact, "Teh ", "Teh ")]
    [InlineData(LetterCase.Mirror, "teh ", "the ")]
    [InlineData(LetterCase.Mirror, "Teh ", "The ")]
    [InlineData(LetterCase.Mirror, "TEH ", "THE ")]
    [InlineData(LetterCase.Mirror, "TeH ", "the ")]
    [InlineData(LetterCase.Mirror, "tEH ", "the ")]
    public void Letter_case(LetterCase letterCase, string typed, string text) =>
        Assert.Equal(text, Index(Snip("teh", "the", letterCase: letterCase)).Type(typed).Text);

    [Theory]
    [InlineData("B", Capitals.First)]
    [InlineData(";BC", Capitals.All)]
    [InlineData(";Bc", Capitals.First)]
    [InlineData(";bc", Capitals.AsWritten)]
    [InlineData("Ǆb", Capitals.First)]
    [InlineData("ǅ", Capitals.First)]
    [InlineData("B7", Capitals.First)]
    [InlineData("77", Capitals.AsWritten)]
    [InlineData("ÉÀ", Capitals.All)]
    public void Shape_of_typed_capitals(string typed, Capitals shape) => Assert.Equal(shape, CapitalShapes.Of(typed));

    [Fact]
    public void A_text_that_begins_with_a_sign_gets_its_first_letter_in_title_case() =>
        Assert.Equal("“ǅungla ", Index(Snip("dz", "“ǆungla", letterCase: LetterCase.Mirror)).Type("Dz ").Text);

    [Fact]
    public void Caps_Lock_types_capitals()
    {
        Assert.Equal("the ", Index(Snip("teh", "the")).Type("TEH ", caps: true).Text);
        Assert.Equal("TEH ", Index(Snip("teh", "the", letterCase: LetterCase.Exact)).Type("TEH ", caps: true).Text);
        var shouting = Lib("Loud", Snip("teh", "the")) with
        {
            Rules = LibraryRules.Default with { CapsLockShouts = true },
        };
        Assert.Equal("THE ", Index(shouting).Type("TEH ", caps: true).Text);
        Assert.Equal("the ", Index(shouting).Type("TEH ", caps: false).Text);
    }

    [Fact]
    public void Closing_keys_come_from_the_trigger_else_from_the_library()
    {
        var slash = ClosingKeys.Parse("closingKeys", ["/"]);
        var library = Lib("Berths", Snip("ab", "X"), Snip("cd", "Y", closing: "+")) with
        {
            Rules = new LibraryRules(slash),
        };
        Assert.Equal("X/Y+ab cd ", Index(library).Type("ab/cd+ab cd ").Text);
    }

    [Fact]
    public void The_longest_wins_then_scoped_then_exact_then_the_order()
    {
        Assert.Equal("long ", Index(Snip("c", "short", edge: LeftEdge.Any), Snip("bc", "long")).Type("bc ").Text);
        var console = new Scope.OnlyIn(new(["console"]));
        var scoped = Index(Snip("bc", "everywhere"), Snip("bc", "scoped", scope: console));
        Assert.Equal("scoped ", scoped.Type("bc ", app: "console").Text);
        Assert.Equal("everywhere ", scoped.Type("bc ").Text);
        Assert.Equal(
            "exact ",
            Index(Snip("bc", "either"), Snip("bc", "exact", letterCase: LetterCase.Exact)).Type("bc ").Text
        );
        Assert.Equal("upper ", Index(Lib("A", Snip("bc", "upper")), Lib("B", Snip("bc", "lower"))).Type("bc ").Text);
        var folder = new Folder("F", EquatableList<Folder>.Empty, new([Snip("bc", "in the folder")]));
        Assert.Equal(
            "in the folder ",
            Index(Lib("A", Snip("bc", "beside")) with { Folders = new([folder]) }).Type("bc ").Text
        );
    }

    [Fact]
    public void Only_one_goes_off_and_what_is_put_in_sets_off_nothing()
    {
        var index = Index(
            AtOnce("ab", "cd", LeftEdge.Any),
            AtOnce("cd", "ef", LeftEdge.Any),
            Snip("cd", "gh", edge: LeftEdge.Any)
        );
        var result = index.Type("ab ");
        Assert.Equal("cd ", result.Text);
        Assert.Single(result.Firings);
    }

    [Fact]
    public void After_a_firing_only_the_last_character_counts_for_left_edges()
    {
        Assert.Equal("note X", Index(AtOnce("nt", "note "), AtOnce("ab", "X", LeftEdge.Space)).Type("ntab").Text);
        Assert.Equal("noteab", Index(AtOnce("nt", "note"), AtOnce("ab", "X", LeftEdge.Space)).Type("ntab").Text);
    }

    [Fact]
    public void Switches_of_library_and_snippet()
    {
        Assert.Equal("ab ", Index(Lib("A", Snip("ab", "X")) with { Enabled = false }).Type("ab ").Text);
        Assert.Equal("ab ", Index(Snip("ab", "X", on: false)).Type("ab ").Text);
    }

    [Fact]
    public void Giving_way()
    {
        var index = Index(
            AtOnce("br", "berth", LeftEdge.Space),
            AtOnce("brk", "breakwater", LeftEdge.Space),
            Snip("brxyz", "far")
        );
        Assert.Equal("br", index.Type("br").Text);
        Assert.Equal("breakwater", index.Type("brk").Text);
        Assert.Equal("berth ", index.Type("br ").Text);
        Assert.Equal("berthxq", index.Type("brxq").Text);
        Assert.Equal("far ", index.Type("brxyz ").Text);
        Assert.Equal("berth\n", index.Type("br\n").Text);
        Assert.Equal("berth", index.Keys("b", "r", "pause 700").Text);
        Assert.Equal("br", index.Keys("b", "r", "pause 699").Text);
        Assert.Equal("berthx", index.Keys("b", "r", "x", "pause 800").Text);
        Assert.Equal("b ", index.Keys("b", "r", "Backspace", " ").Text);
        Assert.Equal("berth ", index.Keys("b", "r", "x", "Backspace", " ").Text);
        Assert.Equal("br ", index.Keys("b", "r", "Escape", " ").Text);
        Assert.Equal("brk ", index.Keys("b", "r", "click", "k", " ").Text);
        Assert.Equal("bertxh", index.Keys("b", "r", "ArrowLeft", "x").Text);
        Assert.Equal(
            "berthk",
            Index(AtOnce("br", "berth", givesWay: false), AtOnce("brk", "breakwater")).Type("brk").Text
        );
        Assert.Equal(
            "berthk ",
            Index(
                    AtOnce("br", "berth"),
                    Snip("brk", "x", letterCase: LetterCase.Exact, scope: new Scope.OnlyIn(new(["console"])))
                )
                .Type("brk ")
                .Text
        );
        Assert.Equal(
            "twice",
            Index(AtOnce("br", "berth"), Snip("brk", "twice", Timing.DoubleClosingKey)).Type("brk  ").Text
        );
        Assert.Equal(
            "berthk x",
            Index(AtOnce("br", "berth"), Snip("brk", "twice", Timing.DoubleClosingKey)).Type("brk x").Text
        );
    }

    [Fact]
    public void Backspace_shortens_what_was_typed_and_other_keys_reset_it()
    {
        var index = Index(Snip("abc", "X"));
        Assert.Equal("X ", index.Keys("a", "b", "d", "Backspace", "c", " ").Text);
        foreach (
            var reset in (string[])["click", "app console", "Delete", "ArrowLeft", "Home", "PageUp", "Ctrl+A", "F5"]
        )
            Assert.DoesNotContain("X", index.Keys("a", "b", reset, "c", " ").Text, StringComparison.Ordinal);
        Assert.Equal("X ", index.Keys("a", "Shift", "b", "CapsLock", "c", " ").Text);
        Assert.Equal("abX ", Index(Snip("cd", "X")).Keys("a", "b", "click", "c", "d", " ").Text);
    }

    [Fact]
    public void Graphemes_are_what_is_counted_and_deleted()
    {
        const string Family = "👩‍👩‍👧";
        var result = Index(AtOnce(";" + Family, "crew", LeftEdge.Any)).Type("é👍🏽;" + Family);
        Assert.Equal("é👍🏽crew", result.Text);
        Assert.Equal(2, Assert.Single(result.Firings).Deleted);
        Assert.Equal(6, result.Caret);
    }

    [Fact]
    public void A_mark_typed_by_itself_joins_its_letter()
    {
        var result = Index(AtOnce("né", "born")).Keys("n", "e", "\u0301");
        Assert.Equal("born", result.Text);
        Assert.Equal(2, Assert.Single(result.Firings).Deleted);
    }

    [Fact]
    public void Patterns_use_their_groups_and_the_same_rules()
    {
        var index = Index(With("berth", new Trigger.Pattern("b(\\d{1,2})", TypingRules.For("b"), Scope.Everywhere)));
        Assert.Equal("berth ", index.Type("b12 ").Text);
        Assert.Equal("ab12 ", index.Type("ab12 ").Text);
        Assert.Equal("b123 ", index.Type("b123 ").Text);
        Assert.Equal("b12", index.Type("b12").Text);
    }

    [Fact]
    public void Hotkeys_put_in_at_the_caret()
    {
        var index = Index(With("X", new Trigger.Hotkey("Ctrl+Alt+B", Scope.Everywhere)));
        Assert.Equal("abXc", index.Keys("a", "b", "Ctrl+Alt+B", "c").Text);
        Assert.Equal("ab", index.Keys("a", "b", "Ctrl+Alt+C").Text);
    }

    [Fact]
    public void Taking_back_restores_exactly_what_was_typed_and_keeps_the_word_quiet()
    {
        var index = Index(Snip("e\u0301b", "crew"), AtOnce("ad", "fare"));
        var result = index.Keys("x", " ", "e", "\u0301", "b", " ", "Ctrl+Alt+Z", "Backspace", ".", " ");
        Assert.Equal("x e\u0301b. ", result.Text);
        Assert.Equal(Outcome.TakenBack, Assert.Single(result.Firings).Outcome);
        Assert.Equal("crew ", index.Keys("e", "\u0301", "b", " ", "ArrowLeft", "Ctrl+Alt+Z").Text);
        Assert.Equal("x ad fare", index.Keys("x", " ", "a", "d", "Ctrl+Alt+Z", " ", "a", "d").Text);
    }

    [Fact]
    public void Backspace_takes_back_only_where_it_is_switched_on()
    {
        Assert.Equal("the", Index(Snip("teh", "the")).Keys("t", "e", "h", " ", "Backspace").Text);
        var corrections = Lib("Spelling", Snip("teh", "the")) with
        {
            Rules = LibraryRules.Default with { BackspaceTakesBack = true },
        };
        Assert.Equal("teh ", Index(corrections).Keys("t", "e", "h", " ", "Backspace").Text);
        Assert.Equal("the x", Index(corrections).Keys("t", "e", "h", " ", "x").Text);
    }

    [Fact]
    public void Escape_keeps_a_waiting_word_quiet() =>
        Assert.Equal(
            "mfg regards ",
            Index(Snip("mfg", "X"), Snip("kr", "regards")).Keys("m", "f", "g", "Escape", " ", "k", "r", " ").Text
        );

    [Theory]
    [InlineData("mfg", TraceEvent.Waits, "`mfg` waits for a closing key")]
    [InlineData("mfg#", TraceEvent.NearMiss, "`mfg` does not go off: `#` is none of its closing keys")]
    [InlineData("omfg", TraceEvent.NearMiss, "`mfg` stays quiet: not at a word's start: `o` stands before it")]
    [InlineData("-;bc", TraceEvent.NearMiss, "`;bc` stays quiet: not after a space: `-` stands before it")]
    [InlineData("BRK", TraceEvent.NearMiss, "`brk` wants exact case: you typed `BRK`")]
    [InlineData("teh ", TraceEvent.NearMiss, "`teh` stays quiet: library *Spelling* is off")]
    [InlineData("cns ", TraceEvent.NearMiss, "`cns` stays quiet: not in this application")]
    [InlineData("q", TraceEvent.Typed, "no trigger ends here")]
    [InlineData(
        "mfg ",
        TraceEvent.Fires,
        "`mfg` in *Berth desk* puts in *regards*; `mfg` in *Lower* loses to `mfg` in *Berth desk*"
    )]
    public void The_trace_says_why(string typed, TraceEvent happened, string why)
    {
        var index = Index(
            Lib(
                "Berth desk",
                Snip("mfg", "regards"),
                AtOnce(";bc", "berth"),
                AtOnce("brk", "X", letterCase: LetterCase.Exact),
                Snip("cns", "X", scope: new Scope.OnlyIn(new(["console"])))
            ),
            Lib("Lower", Snip("mfg", "other")),
            Lib("Spelling", Snip("teh", "the")) with
            {
                Enabled = false,
            }
        );
        var entry = index.Type(typed).Trace[^1];
        Assert.Equal((happened, why), (entry.Event, entry.Why));
    }

    [Fact]
    public void A_changed_snippet_changes_the_index_and_an_older_index_stays_as_it_was()
    {
        var libraries = new[] { Lib("A", Snip("ab", "X"), Snip("abc", "Y"), AtOnce("zz", "Z")) };
        var placed = PlacedSnippet.All(libraries).ToList();
        var index = TriggerIndex.Of(placed);
        var changed = index.Change([1], [placed[0] with { Snippet = Snip("ac", "W") }]);
        Assert.Equal("X ac Y ", index.Type("ab ac abc ").Text);
        Assert.Equal("ab W Y ", changed.Type("ab ac abc ").Text);
        Assert.Equal("ab ac abc zz", changed.Change([1, 2, 3], []).Type("ab ac abc zz").Text);
    }

    [Fact]
    public void A_key_that_sets_nothing_off_allocates_nothing()
    {
        var index = Index(Snip("mfg", "X"), AtOnce(";bc", "Y"), AtOnce("qx", "Z", LeftEdge.Space));
        var engine = new TypingEngine(() => index);
        var keys = Key.ForText("the quay is quiet – nobody's there, and it rains; ").ToArray();
        for (var round = 0; round < 20; round++)
            PressAll();
        var before = GC.GetAllocatedBytesForCurrentThread();
        for (var round = 0; round < 200; round++)
            PressAll();
        Assert.Equal(before, GC.GetAllocatedBytesForCurrentThread());

        void PressAll()
        {
            engine.Click();
            for (var at = 0; at < keys.Length; at++)
                Assert.Same(Decision.PassOn, engine.Press(new Keystroke(keys[at])));
        }
    }
}
