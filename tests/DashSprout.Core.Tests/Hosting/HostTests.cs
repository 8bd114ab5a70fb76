using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Hosting;

/// <summary>The host as a keyboard meets it.</summary>
public sealed class HostTests
{
    [Fact]
    public void A_held_key_is_given_on_or_used_but_never_both()
    {
        var keyboard = new Keyboard(Index(Snip("mfg", "Kind regards"))).Type("mfg");
        Assert.Equal("delete 3, put in “Kind regards”, press Enter", keyboard.Press("Enter").Steps);
        Assert.Equal("press ArrowLeft", keyboard.Press("ArrowLeft").Steps);
        Assert.Equal("", new Keyboard(Index(Snip("mfg", "X"))).Type("mfg").Press("Escape").Steps);
        Assert.Equal(
            "press Escape",
            new Keyboard(Index(Snip("mfg", "X"))).Type("mf").Press("Escape", held: true).Steps
        );
        Assert.Equal(
            "press Escape",
            new Keyboard(Index(Snip("mfg", "X")), FieldKind.Secret).Type("mfg").Press("Escape", held: true).Steps
        );
    }

    [Fact]
    public void A_held_letter_is_not_deleted_from_a_field_that_never_had_it()
    {
        var index = Index(AtOnce(";bc", "berth"));
        Assert.Equal("delete 3, put in “berth”", new Keyboard(index).Type(";b").Press("c", held: false).Steps);
        Assert.Equal("delete 2, put in “berth”", new Keyboard(index).Type(";b").Press("c", held: true).Steps);
    }

    [Fact]
    public void What_gives_way_is_settled_before_a_held_key_and_not_after_one_that_acted_already()
    {
        var index = Index(AtOnce("br", "berth"), AtOnce("brk", "long"));
        Assert.Equal(
            "delete 2, put in “berth”, press ArrowLeft",
            new Keyboard(index).Type("br").Press("ArrowLeft").Steps
        );
        Assert.Equal("", new Keyboard(index).Type("br").Press("ArrowLeft", held: false).Steps);
        var keyboard = new Keyboard(index).Type("br");
        keyboard.Last = keyboard.Host.Settle();
        Assert.Equal("delete 2, put in “berth”", keyboard.Steps);
    }

    [Fact]
    public void An_Enter_that_has_sent_the_line_deletes_nothing_of_the_next_one()
    {
        var index = Index(Snip("mfg", "X"));
        Assert.Equal("", new Keyboard(index, FieldKind.SingleLine).Type("mfg").Press("Enter", held: false).Steps);
        Assert.Equal(
            "delete 4, put in “X”, press Enter",
            new Keyboard(index, FieldKind.Plain).Type("mfg").Press("Enter", held: false).Steps
        );
    }

    [Fact]
    public void It_wants_to_be_asked_again_when_the_pause_is_over_and_not_while_a_longer_one_is_complete()
    {
        var index = Index(AtOnce("br", "berth"), Snip("brk", "long"), Snip("brkwxy", "longer"));
        Assert.Equal(100 + TypingEngine.PauseMs, new Keyboard(index).Type("br").Last.AskAt);
        Assert.Null(new Keyboard(index).Type("brk").Last.AskAt);
        Assert.Equal(200 + TypingEngine.PauseMs, new Keyboard(index).Type("brkw").Last.AskAt);
        Assert.Null(new Keyboard(index).Type("x").Last.AskAt);
    }

    [Fact]
    public void A_slip_that_is_left_gives_the_closing_key_on()
    {
        var keyboard = new Keyboard(Index(HoldTests.Fields with { Triggers = Snip(";s", "").Triggers }))
            .Type(";s")
            .Press(" ", held: true);
        Assert.IsType<HostQuestion.FillIn>(keyboard.Last.Question);
        Assert.Equal("", keyboard.Steps);
        keyboard.Last = keyboard.Host.Leave();
        Assert.Equal(("press  ", Hold.Nothing), (keyboard.Steps, keyboard.Last.Next));
        Assert.Equal(Outcome.Cancelled, Assert.Single(keyboard.Last.Ended).Outcome);
    }

    [Fact]
    public void A_slip_that_is_filled_in_puts_the_text_in_and_its_answers_are_not_asked_twice()
    {
        var keyboard = new Keyboard(Index(HoldTests.Fields)).Type(";s");
        keyboard.Last = keyboard.Host.Fill(1, new Dictionary<string, string> { ["skipper"] = "Quill" });
        Assert.Equal("delete 2, put in “Dear Quill”", keyboard.Steps);
        Assert.Equal("", Keyboard.Told(keyboard.Host.Fill(1, new Dictionary<string, string>())));
        Assert.Equal("", Keyboard.Told(keyboard.Host.Confirm(1)));
    }

    [Fact]
    public void An_answer_that_comes_late_is_none_to_the_next_question()
    {
        var keyboard = new Keyboard(Index(HoldTests.Fields, HoldTests.Opens)).Type(";s");
        var first = keyboard.Last.Question!.Number;
        keyboard.Last = keyboard.Host.Fill(first, new Dictionary<string, string> { ["skipper"] = "Quill" });
        keyboard.Type(" ;s");
        var second = keyboard.Last.Question!.Number;
        Assert.NotEqual(first, second);
        var late = keyboard.Host.Fill(first, new Dictionary<string, string> { ["skipper"] = "Quill" });
        Assert.Equal("", Keyboard.Told(late));
        Assert.Equal(second, late.Question?.Number);
        late = keyboard.Host.Leave(first);
        Assert.Equal(second, late.Question?.Number);
        keyboard.Last = keyboard.Host.Fill(second, new Dictionary<string, string> { ["skipper"] = "Rook" });
        Assert.Equal("delete 2, put in “Dear Rook”", keyboard.Steps);
        var opens = new Keyboard(Index(HoldTests.Opens)).Type(";o");
        Assert.Equal("", Keyboard.Told(opens.Host.Confirm(opens.Last.Question!.Number + 1)));
        Assert.Equal(
            "delete 2, open https://example.org/tides",
            Keyboard.Told(opens.Host.Confirm(opens.Last.Question.Number))
        );
    }

    [Fact]
    public void What_is_opened_is_asked_for_first_and_puts_back_what_was_typed_behind_it()
    {
        var index = Index(HoldTests.Opens with { Triggers = AtOnce(";p", "").Triggers }, AtOnce(";pil", "pilot"));
        var keyboard = new Keyboard(index).Type(";px");
        Assert.Equal(
            ["https://example.org/tides"],
            Assert.IsType<HostQuestion.MayOpen>(keyboard.Last.Question).Targets
        );
        keyboard.Last = keyboard.Host.Confirm(keyboard.Last.Question!.Number);
        Assert.Equal("delete 3, open https://example.org/tides, put in “x”", keyboard.Steps);
        Assert.Equal(Outcome.Opened, Assert.Single(keyboard.Last.Ended).Outcome);
    }

    [Fact]
    public void What_happens_while_a_question_is_open_leaves_it()
    {
        foreach (
            var happens in (Func<TypingHost, HostAnswer>[])
                [host => host.Click(), host => host.Focus("post", FieldKind.Plain), host => host.LinkLost()]
        )
        {
            var keyboard = new Keyboard(Index(HoldTests.Fields)).Type(";s");
            var answer = happens(keyboard.Host);
            Assert.Null(answer.Question);
            Assert.Equal((Hold.Nothing, Outcome.Cancelled), (answer.Next, Assert.Single(answer.Ended).Outcome));
            Assert.Equal("", Keyboard.Told(keyboard.Host.Fill(1, new Dictionary<string, string>())));
        }
    }

    [Fact]
    public void A_link_that_was_lost_knows_nothing_of_what_was_typed_but_is_told_where_the_focus_is()
    {
        var index = Index(Snip("mfg", "X", scope: new Scope.OnlyIn(new(["console"]))));
        var keyboard = new Keyboard(index, app: "console").Type("mf");
        keyboard.Host.LinkLost();
        keyboard.Last = keyboard.Host.Focus("console", FieldKind.Plain);
        Assert.Equal("", keyboard.Type("g ").Steps);
        Assert.Equal("delete 4, put in “X ”", keyboard.Type("mfg ").Steps);
    }

    [Fact]
    public void A_composed_text_counts_by_grapheme_and_what_is_behind_a_firing_is_typed_after_it()
    {
        var index = Index(AtOnce("né", "born"), Snip("teh", "the"));
        Assert.Equal("delete 2, put in “born”", Compose(new Keyboard(index).Type("n"), "e\u0301").Steps);
        Assert.Equal(
            "delete 3, delete 4, put in “the ”, press a, press b, press c",
            Compose(new Keyboard(index), "teh abc").Steps
        );
        Assert.Equal(
            "delete 4, delete 4, put in “the ”, press t, press e, press h, delete 3, put in “the.”",
            Compose(new Keyboard(index), "teh teh.").Steps
        );
    }

    [Fact]
    public void What_is_composed_behind_a_question_stays_in_the_field_until_the_text_goes_in()
    {
        Keyboard Asks() => Compose(new Keyboard(Index(HoldTests.Fields, Snip("teh", "the"))), ";steh ");
        Assert.Equal(("", Hold.Everything), (Asks().Steps, Asks().Last.Next));

        var filled = Asks();
        filled.Last = filled.Host.Fill(1, new Dictionary<string, string> { ["skipper"] = "Quill" });
        Assert.Equal("delete 4, delete 2, put in “Dear Quill”, press t, press e, press h, press  ", filled.Steps);

        var left = Asks();
        left.Last = left.Host.Leave();
        Assert.Equal("", left.Steps);

        var clicked = Asks();
        clicked.Last = clicked.Host.Click();
        Assert.Equal("", clicked.Steps);

        // What was taken out already when the next one asks is typed again first.
        var second = Compose(new Keyboard(Index(HoldTests.Fields, Snip("teh", "the"))), "teh ;sxy");
        Assert.Equal("delete 4, delete 4, put in “the ”, press ;, press s, press x, press y", second.Steps);
        second.Last = second.Host.Click();
        Assert.Equal("", second.Steps);
    }

    [Fact]
    public void While_the_engine_rests_nobody_hears_of_what_is_typed_and_nothing_goes_off()
    {
        var resting = false;
        var paces = 0;
        var follower = new Following();
        var index = Index(AtOnce("br", "berth"), Snip("brk", "long"), AtOnce("é", "e"), Snip("mfg", "regards"));
        var host = new TypingHost(
            new HostServices
            {
                Index = () => index,
                Context = () => new RenderContext(),
                RestsIn = _ => resting,
                Typed = _ => paces++,
                Follow = () => follower,
            }
        );
        host.Press(new Keystroke(Key.Typed("b")), held: false);
        Assert.NotNull(host.Press(new Keystroke(Key.Typed("r")), held: false).AskAt);
        resting = true;
        Assert.Equal("", Keyboard.Told(host.Pause(5000)));
        Assert.Equal("", Keyboard.Told(host.Settle()));
        var before = (paces, follower.Heard);
        Assert.Equal("", Keyboard.Told(host.Compose([new Keystroke(Key.Typed("é"))])));
        Assert.Equal("", Keyboard.Told(host.Press(new Keystroke(Key.Typed("x")), held: false)));
        Assert.Equal("press x", Keyboard.Told(host.Press(new Keystroke(Key.Typed("x")), held: true)));
        Assert.Equal(before, (paces, follower.Heard));
        // Whoever chooses a snippet by hand wants it.
        var chosen = host.Choose(PlacedSnippet.All([Lib("Harbour", Snip("mfg", "regards"))]).Single(), "");
        Assert.Equal(("put in “regards”", Hold.Nothing), (Keyboard.Told(chosen), chosen.Next));
        resting = false;
        Assert.Equal("", Keyboard.Told(host.Press(new Keystroke(Key.Typed("k")), held: false)));
    }

    private sealed class Following : ITextFollower
    {
        public int Heard { get; private set; }
        public IReadOnlyList<Offer> Offers => [];
        public ActiveTrigger? Missed => null;

        public void Focus(string app, FieldKind field, bool runsCommands) { }

        public void Pressed(Key key, bool atLineEnd) => Heard++;

        public void PutIn(int graphemes) { }

        public void Moved() { }

        public void TakenBack() { }

        public void Taken(Offer offer) { }
    }

    private static Keyboard Compose(Keyboard keyboard, string text)
    {
        keyboard.Last = keyboard.Host.Compose([.. Key.ForText(text).Select(key => new Keystroke(key))]);
        return keyboard;
    }

    [Fact]
    public void A_snippet_that_cannot_be_worked_out_says_so_and_leaves_everything_as_typed()
    {
        var snippet = Snip("fee", "") with
        {
            Name = "Fee",
            Body = new Body.Html("<p><slot name=\"snippet\" data-ref=\"A/gone\"></slot></p>"),
        };
        var keyboard = new Keyboard(Index(snippet)).Type("fee").Press("Enter");
        Assert.Equal("press Enter", keyboard.Steps);
        Assert.Contains("“Fee” was not put in. The snippet “A/gone”", keyboard.Last.Problem, StringComparison.Ordinal);
    }

    [Fact]
    public void A_clipboard_that_is_too_long_is_said_and_not_cut()
    {
        var snippet = AtOnce(";c", "") with { Body = Body.Html.Parse("<p><slot name=\"clipboard\"></slot></p>") };
        var keyboard = new Keyboard(Index(snippet));
        keyboard.Host.Clipboard = null;
        Assert.Contains(
            "The clipboard holds more than 1,000,000 characters",
            keyboard.Type(";c").Last.Problem,
            StringComparison.Ordinal
        );
        keyboard.Host.Clipboard = "tide";
        Assert.Equal("delete 2, put in “tide”", keyboard.Type(" ;c").Steps);
    }

    [Fact]
    public void The_last_keys_are_explained_when_somebody_asks()
    {
        var keyboard = new Keyboard(Index(Snip("mfg", "regards"), AtOnce("br", "berth"), Snip("brk", "long")))
            .Type("omfg mfg ")
            .Type("br");
        keyboard.Last = keyboard.Host.Settle();
        keyboard.Press("Ctrl+Alt+Z");
        var why = keyboard.Host.Explain();
        Assert.Equal("`mfg` stays quiet: not at a word's start: `o` stands before it", why[3].Trace.Why);
        Assert.Equal(TraceEvent.Fires, why[8].Trace.Event);
        Assert.Equal((TraceEvent.TakesBack, "Ctrl+Alt+Z"), (why[^1].Trace.Event, why[^1].Keystroke.Key.Value));
        Assert.Null(keyboard.Last.Trace);
        keyboard.Type(new string('x', 200));
        Assert.All(keyboard.Host.Explain(), key => Assert.Equal("x", key.Keystroke.Key.Value));
    }

    [Fact]
    public void Nothing_is_remembered_of_a_secret_field()
    {
        var keyboard = new Keyboard(Index(Snip("mfg", "regards")), FieldKind.Secret).Type("mfg ");
        Assert.Empty(keyboard.Host.Explain());
    }

    /// <summary>
    /// A keyboard that is told of every key late and holds all of them comes to the same text as one that holds as
    /// little as it may.
    /// </summary>
    [Fact]
    public void Holding_more_than_is_needed_changes_nothing() =>
        HostModel.Keys.Sample(
            HostModel.Snippets,
            (snippets, keys) =>
            {
                var index = Index(snippets);
                foreach (var field in Enum.GetValues<FieldKind>())
                {
                    var setting = In(field);
                    var (some, all) = (index.Keys(setting, keys), index.Keys(setting with { HoldAll = true }, keys));
                    Assert.Equal(
                        (some.Text, some.Html, some.Caret, some.Selection),
                        (all.Text, all.Html, all.Caret, all.Selection)
                    );
                }
            },
            times: 4_000
        );

    /// <summary>
    /// Whatever goes in, taking it back as the very next key leaves the field as it would be without any trigger.
    /// </summary>
    [Fact]
    public void Taking_back_leaves_nothing_of_the_text_in_any_field() =>
        HostModel.Keys.Sample(
            HostModel.Snippets,
            (snippets, keys) =>
            {
                var index = Index(snippets);
                foreach (var field in (FieldKind[])[FieldKind.Rich, FieldKind.Plain, FieldKind.Markdown])
                {
                    var typed = keys.TakeWhile(key => key.Length == 1 || key == "Enter").ToArray();
                    for (var length = 1; length <= typed.Length; length++)
                    {
                        var start = typed[..length];
                        var fired = index.Keys(In(field), start);
                        if (fired.Firings is not [{ Outcome: Outcome.Inserted } only] || only.Step != length - 1)
                            continue;
                        var back = index.Keys(In(field), [.. start, "Ctrl+Alt+Z"]);
                        if (back.Firings[0].Outcome != Outcome.TakenBack)
                            break;
                        var plain = TriggerIndex.Empty.Keys(In(field), start);
                        Assert.Equal((plain.Text, plain.Html, plain.Caret), (back.Text, back.Html, back.Caret));
                        break;
                    }
                }
            },
            times: 4_000
        );

    [Fact]
    public void A_key_that_sets_nothing_off_allocates_nothing()
    {
        var index = Index(
            Snip("mfg", "X"),
            AtOnce(";bc", "Y"),
            With("P", new Trigger.Pattern("b\\d", TypingRules.For("b"), Scope.Everywhere))
        );
        var host = new TypingHost(new HostServices { Index = () => index, Context = () => new RenderContext() });
        var keys = Key.ForText("the quay is quiet – nobody's there, and it rains; ")
            .Append(Key.Backspace)
            .Append(Key.Enter)
            .ToArray();
        for (var round = 0; round < 20; round++)
            PressAll();
        var before = GC.GetAllocatedBytesForCurrentThread();
        for (var round = 0; round < 200; round++)
            PressAll();
        Assert.Equal(before, GC.GetAllocatedBytesForCurrentThread());

        void PressAll()
        {
            for (var at = 0; at < keys.Length; at++)
                host.Press(new Keystroke(keys[at]), held: false);
        }
    }
}
