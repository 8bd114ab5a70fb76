using CsCheck;
using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Hosting;
using DashSprout.Core.Learning;
using DashSprout.Core.Tests.Hosting;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Learning;

/// <summary>What is offered while somebody types, and what is handed on to be learned.</summary>
public sealed class TextFollowerTests
{
    private const string Thanks = "Thank you for your booking at our harbour.";

    private static readonly DateTimeOffset Now = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);

    private readonly List<TypedText> typed = [];
    private readonly List<(string Trigger, int Keys)> missed = [];
    private readonly PhraseMemory memory = new(OpenWords.Secrets);
    private readonly Following following;

    public TextFollowerTests()
    {
        following = new Following
        {
            Rules = FollowingRules.Off with { Learns = true, Offers = true, Misses = true },
            Typed = text =>
            {
                typed.Add(text);
                memory.Learn(text, Now);
            },
            Missed = (trigger, keys) =>
            {
                missed.Add((trigger.Trigger.Text, keys));
                return true;
            },
        };
        memory.Began = following.Phrases.Add;
        memory.Came = following.Phrases.Came;
        memory.Ended = following.Phrases.Remove;
    }

    private Keyboard Typing(
        FieldKind field = FieldKind.Plain,
        string app = "post",
        params IEnumerable<(string Trigger, string Text)> snippets
    )
    {
        var index = Index([.. snippets.Select(snippet => Snip(snippet.Trigger, snippet.Text))]);
        following.Snippets = SnippetBeginnings.Of(index, SnippetBeginnings.None);
        return new Keyboard(index, field, app: app, follow: () => new TextFollower(following));
    }

    private static string Offered(Keyboard keyboard) =>
        string.Join(" | ", keyboard.Last.Offers.All.Select(offer => offer.Rest));

    [Fact]
    public void A_phrase_that_was_typed_three_times_is_offered_when_it_is_begun()
    {
        var keyboard = Typing();
        for (var time = 0; time < 3; time++)
        {
            Assert.Equal("", Offered(keyboard.Type("Thank you for y")));
            keyboard.Type(Thanks["Thank you for y".Length..]).Press("Enter");
            keyboard.Last = keyboard.Host.Click();
        }
        Assert.Equal("", Offered(keyboard.Type("thank you fo")));
        Assert.Equal("our booking at our harbour.", Offered(keyboard.Type("r y")));
        Assert.Contains("ArrowRight", keyboard.Host.Chords());
        Assert.Equal("put in “our booking at our harbour.”", keyboard.Press("ArrowRight").Steps);
        Assert.Equal("", Offered(keyboard));
        Assert.Equal("", Offered(keyboard.Type("x")));
        // What was taken was meant, and counts like what was typed.
        keyboard.Last = keyboard.Host.Click();
        Assert.Equal("thank you for your booking at our harbour.", typed[^2].Text);
    }

    [Fact]
    public void What_was_taken_can_be_taken_back_and_going_on_typing_passes_over_it()
    {
        var keyboard = Typing(snippets: (";ty", Thanks));
        Assert.Equal("r booking at our harbour.", Offered(keyboard.Type("Thank you for you")));
        Assert.Equal(
            "delete 17, put in “Thank you for your booking at our harbour.”",
            keyboard.Press("ArrowRight").Steps
        );
        Assert.Equal(Outcome.Inserted, keyboard.Last.Ended.Single().Outcome);
        Assert.Equal("take back 42, put in “Thank you for you”", keyboard.Press("Ctrl+Alt+Z").Steps);
        keyboard.Last = keyboard.Host.Click();
        Assert.Empty(typed);
        Assert.Equal("", Offered(keyboard.Type("Thank you for your patience")));
    }

    [Fact]
    public void The_arrow_takes_an_offer_at_a_lines_end_only_and_a_chosen_key_anywhere()
    {
        var keyboard = Typing(snippets: [(";ty", Thanks), (";q", "See you at the north quay at noon")]);
        foreach (var key in Key.ForText("See you at the north "))
            keyboard.Press(key.Value, held: false, endsLine: false);
        Assert.Equal("", Offered(keyboard));
        keyboard.Last = keyboard.Host.Click();
        Assert.NotEqual("", Offered(keyboard.Type("Thank you for yo")));
        Assert.Equal("press ArrowRight", keyboard.Press("ArrowRight", held: true, endsLine: false).Steps);
        Assert.Equal("", Offered(keyboard));
    }

    [Theory]
    [InlineData("ArrowRight")]
    [InlineData("End")]
    [InlineData("F9")]
    [InlineData("Ctrl+Enter")]
    public void Keys_that_ordinary_typing_does_not_use_can_take_offers(string key) =>
        Assert.Equal(key, OfferKeys.Read("takeKey", key).Value);

    [Theory]
    [InlineData("a")]
    [InlineData(" ")]
    [InlineData("Enter")]
    [InlineData("Shift+Enter")]
    [InlineData("Tab")]
    [InlineData("Backspace")]
    [InlineData("Delete")]
    [InlineData("Escape")]
    [InlineData("Shift")]
    [InlineData("Alt+ArrowDown")]
    [InlineData("")]
    public void Keys_of_ordinary_typing_cannot(string key) =>
        Assert.Equal(
            "takeKey",
            Assert.Throws<InvalidInputException>(() => OfferKeys.Read("takeKey", key)).Errors[0].Field
        );

    [Fact]
    public void Several_are_walked_with_the_arrows_and_the_last_follows_the_first()
    {
        var keyboard = Typing(
            snippets:
            [
                (";a", "Please note that the crane is closed"),
                (";b", "Please note that the quay is closed until noon"),
                (";c", "something else entirely here"),
            ]
        );
        Assert.Equal(
            "the quay is closed until noon | the crane is closed",
            Offered(keyboard.Type("Please note that "))
        );
        Assert.Equal((0, 1), (keyboard.Last.Offers.At, keyboard.Press("Alt+ArrowDown").Last.Offers.At));
        Assert.Equal(
            (0, 1),
            (keyboard.Press("Alt+ArrowDown").Last.Offers.At, keyboard.Press("Alt+ArrowUp").Last.Offers.At)
        );
        Assert.Equal("", keyboard.Steps);
        Assert.Equal("delete 17, put in “Please note that the crane is closed”", keyboard.Press("ArrowRight").Steps);
        keyboard.Last = keyboard.Host.Click();
        Assert.Equal("uay is closed until noon", Offered(keyboard.Type("Please note that the q")));
    }

    [Fact]
    public void A_snippet_with_live_parts_is_offered_by_its_fixed_beginning_and_goes_in_as_a_whole()
    {
        var index = Index(
            Snip(";kr", "") with
            {
                Body = Body.Html.Parse(
                    "<p>With kind <strong>regards from</strong> us, <time data-pattern=\"d\"></time></p>"
                ),
            }
        );
        following.Snippets = SnippetBeginnings.Of(index, SnippetBeginnings.None);
        var keyboard = new Keyboard(index, FieldKind.Rich, follow: () => new TextFollower(following));
        Assert.Equal("from us, …", Offered(keyboard.Type("With kind regards ")));
        var steps = keyboard.Press("ArrowRight").Last.Steps;
        Assert.Equal(18, Assert.Single(steps.OfType<DeliveryStep.Delete>()).Graphemes);
        Assert.Empty(missed);
    }

    [Fact]
    public void A_text_typed_in_full_is_a_missed_chance()
    {
        var keyboard = Typing(
            snippets: [(";ty", "Thank you for your booking"), (";gh", "Gullhaven Harbour"), ("longer", "long one")]
        );
        keyboard.Type("so: thank you for your booking");
        Assert.Null(keyboard.Last.Missed);
        Assert.Equal(";ty", keyboard.Type(" ").Last.Missed!.Trigger.Text);
        // It is told once, whatever happens before the next key.
        Assert.Null(keyboard.Host.Settle().Missed);
        Assert.Null(keyboard.Type("x").Last.Missed);
        keyboard.Type(" long one. Gullhaven\nHarbour,");
        keyboard.Last = keyboard.Host.Click();
        Assert.Equal(";gh", keyboard.Last.Missed!.Trigger.Text);
        keyboard.Last = keyboard.Host.Click();
        Assert.Null(keyboard.Last.Missed);
        Assert.Equal([(";ty", 23), (";gh", 14)], missed);
        // The abbreviation is no missed chance, nor is what was erased before it was whole.
        keyboard.Type(";ty ").Type("thank you for your booki").Press("Backspace").Type(" ");
        Assert.Equal(2, missed.Count);
    }

    [Fact]
    public void Nothing_is_followed_in_secret_fields_other_applications_and_while_it_is_off()
    {
        void TypeAndLeave(Keyboard keyboard)
        {
            Assert.Equal("", Offered(keyboard.Type("Thank you for your ")));
            keyboard.Type("booking at our harbour. ");
            keyboard.Last = keyboard.Host.Click();
        }
        TypeAndLeave(Typing(FieldKind.Secret, snippets: (";ty", Thanks)));
        following.Rules = following.Rules with { Where = new Scope.OnlyIn(new(["log"])) };
        TypeAndLeave(Typing(snippets: (";ty", Thanks)));
        following.Rules = FollowingRules.Off;
        TypeAndLeave(Typing(snippets: (";ty", Thanks)));
        following.Rules = FollowingRules.Off with { Learns = true };
        TypeAndLeave(Typing(snippets: (";ty", Thanks)));
        Assert.Empty(missed);
        Assert.Equal(["Thank you for your booking at our harbour. "], typed.Select(text => text.Text));
    }

    [Fact]
    public void Switched_off_in_the_middle_nothing_of_before_is_handed_on()
    {
        var keyboard = Typing().Type("Thank you for");
        following.Rules = following.Rules with { Learns = false };
        keyboard.Type(" your booking").Press("Enter");
        keyboard.Last = keyboard.Host.Click();
        following.Rules = following.Rules with { Learns = true };
        keyboard.Type("and so on");
        keyboard.Last = keyboard.Host.Click();
        Assert.Equal(["and so on"], typed.Select(text => text.Text));
    }

    [Fact]
    public void What_is_erased_undone_or_put_in_is_not_handed_on()
    {
        var keyboard = Typing(snippets: ("kr", "Kind regards"));
        keyboard.Type("one mistake").Press("Backspace").Press("Backspace").Type("! then kr and");
        keyboard
            .Press("Ctrl+Z")
            .Type("after undo")
            .Press("ArrowLeft")
            .Type("é👩‍⚕️")
            .Press("Backspace")
            .Type("nd kr ")
            .Press("Ctrl+Alt+Z")
            .Type("x");
        keyboard.Last = keyboard.Host.Focus("log", FieldKind.Plain);
        Assert.Equal(["one mista! then ", "after undo", "énd ", "x"], typed.Select(text => text.Text));
    }

    /// <summary>A terminal cannot tell a line that it hides from other lines.</summary>
    [Fact]
    public void Nothing_is_learned_in_a_terminal_but_in_one_that_was_named()
    {
        var keyboard = Typing(snippets: (";ty", Thanks));
        keyboard.Host.Focus("console", FieldKind.SingleLine, runsCommands: true);
        keyboard.Type("my long pass phrase").Press("Enter");
        Assert.Empty(typed);
        following.Rules = following.Rules with { Where = new Scope.OnlyIn(new(["console"])) };
        keyboard.Host.Focus("console", FieldKind.SingleLine, runsCommands: true);
        keyboard.Type("ls -l").Press("Enter");
        Assert.Equal(["ls -l\n"], typed.Select(text => text.Text));
    }

    /// <summary>Until a field has told that it is an open one, it may be one for pass-phrases.</summary>
    [Fact]
    public void What_is_typed_before_a_field_tells_what_it_is_counts_and_is_not_learned()
    {
        var keyboard = Typing(FieldKind.Secret, snippets: (";ty", Thanks));
        keyboard.Type("never learn this ;t");
        keyboard.Last = keyboard.Host.FieldTold(FieldKind.Plain);
        Assert.Equal($"delete 4, put in “{Thanks} ”", keyboard.Type("y ").Steps);
        keyboard.Type("but this");
        keyboard.Last = keyboard.Host.FieldTold(FieldKind.Secret);
        keyboard.Type("nor this");
        keyboard.Last = keyboard.Host.Focus("log", FieldKind.Plain);
        Assert.Empty(typed);
    }

    [Fact]
    public void A_word_that_is_erased_and_typed_anew_goes_on_where_it_was()
    {
        var keyboard = Typing(snippets: (";ty", Thanks));
        keyboard.Type("Thank you for yours ");
        Assert.Equal("", Offered(keyboard));
        Assert.Equal("booking at our harbour.", Offered(keyboard.Press("Backspace").Press("Backspace").Type(" ")));
    }

    /// <summary>Whatever is typed, erased and clicked: what is handed on is what stands in the field.</summary>
    [Fact]
    public void What_is_handed_on_is_what_stands_there() =>
        HostModel
            .OneOf("a", "é", "👩‍⚕️", " ", "Enter", ".", "Backspace", "Backspace", "click", "Ctrl+Z", "ArrowLeft")
            .Array[1, 40]
            .Sample(keys =>
            {
                var handed = new List<string>();
                var follower = new TextFollower(
                    new Following
                    {
                        Rules = FollowingRules.Off with { Learns = true },
                        Typed = text => handed.Add(text.Text),
                    }
                );
                follower.Focus("post", FieldKind.Plain, runsCommands: false);
                var expected = new List<string>();
                var field = new List<string>();
                void Leave(bool keeps)
                {
                    if (keeps && field.Count > 0)
                        expected.Add(string.Concat(field));
                    field.Clear();
                }
                foreach (var key in keys)
                {
                    if (key == "click")
                        follower.Moved();
                    else
                        follower.Pressed(Key.Parse("key", key), true);
                    if (key == "Backspace")
                        field.RemoveRange(Math.Max(0, field.Count - 1), Math.Min(1, field.Count));
                    else if (key is "click" or "ArrowLeft")
                        Leave(keeps: true);
                    else if (key == "Ctrl+Z")
                        Leave(keeps: false);
                    else
                        field.Add(key == "Enter" ? "\n" : key);
                }
                follower.Moved();
                Leave(keeps: true);
                Assert.Equal(expected, handed);
            });

    /// <summary>
    /// Whatever is typed with offers on, what comes of the engine is the same as without, as long as no offer is taken.
    /// </summary>
    [Fact]
    public void Offers_that_are_passed_over_change_nothing() =>
        HostModel.Keys.Sample(
            HostModel.Snippets,
            (snippets, keys) =>
            {
                var index = Index(snippets);
                var shared = new Following
                {
                    Rules = FollowingRules.Off with
                    {
                        Learns = true,
                        Offers = true,
                        Misses = true,
                        Take = OfferKeys.Read("", "F9"),
                    },
                    Snippets = SnippetBeginnings.Of(index, SnippetBeginnings.None),
                };
                var (plain, followed) = (
                    new Keyboard(index),
                    new Keyboard(index, follow: () => new TextFollower(shared))
                );
                foreach (var key in keys.Where(key => !key.StartsWith("pause", StringComparison.Ordinal)))
                    Assert.Equal(plain.Press(key).Steps, followed.Press(key).Steps);
            },
            times: 2000
        );
}
