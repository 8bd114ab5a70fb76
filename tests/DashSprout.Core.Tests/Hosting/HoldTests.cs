using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Hosting;

/// <summary>
/// What a keyboard holds back next: it is part of the host's answer, and nobody guesses it from the hint.
/// </summary>
public sealed class HoldTests
{
    [Theory]
    [InlineData("x", Hold.Nothing)]
    [InlineData("mf", Hold.Nothing)]
    [InlineData("mfg", Hold.ActingKeys)]
    [InlineData("mfgx", Hold.Nothing)]
    [InlineData("omfg", Hold.Nothing)]
    // Its closing keys are typed characters only, but Escape on its hint keeps it quiet.
    [InlineData("dot", Hold.ActingKeys)]
    // It begins a longer one.
    [InlineData("br", Hold.ActingKeys)]
    [InlineData("brx", Hold.ActingKeys)]
    // The first of two closing keys is for the application, the second is not.
    [InlineData("tw", Hold.ActingKeys)]
    [InlineData("tw\n", Hold.ActingKeys)]
    [InlineData("tw ", Hold.Nothing)]
    // A pattern shows no hint.
    [InlineData("b1", Hold.ActingKeys)]
    [InlineData("ab1", Hold.Nothing)]
    public void After_what_was_typed(string typed, Hold next) =>
        Assert.Equal(next, new Keyboard(Harbour).Type(typed).Last.Next);

    [Theory]
    [InlineData("mfg", FieldKind.Secret, true, Hold.ActingKeys)]
    [InlineData("mfg", FieldKind.Plain, false, Hold.ActingKeys)]
    [InlineData("dot", FieldKind.Plain, false, Hold.Nothing)]
    [InlineData("dot", FieldKind.Secret, true, Hold.Nothing)]
    public void Without_hints_closing_keys_are_held_back_all_the_same(
        string typed,
        FieldKind field,
        bool hints,
        Hold next
    )
    {
        var keyboard = new Keyboard(Harbour, field, hints).Type(typed);
        Assert.Equal(next, keyboard.Last.Next);
        Assert.Null(keyboard.Last.Hint);
    }

    [Fact]
    public void After_a_firing_the_keys_that_can_take_it_back()
    {
        Assert.Equal(Hold.ActingKeys, new Keyboard(Harbour).Type("mfg ").Last.Next);
        Assert.Equal(Hold.Nothing, new Keyboard(Harbour).Type("mfg x").Last.Next);
        var none = new TypingHost(
            new HostServices
            {
                Index = () => Harbour,
                Context = () => new RenderContext(),
                TakeBackChord = () => null,
            }
        );
        HostAnswer last = default;
        foreach (var key in "mfg ")
            last = none.Press(new Keystroke(Core.Text.Key.Typed(key.ToString())), held: false);
        Assert.Equal(Hold.Nothing, last.Next);
    }

    [Fact]
    public void A_pattern_at_once_that_ends_in_Enter_is_waited_for()
    {
        var index = Index(
            With("X", new Trigger.Pattern("go\\n", TypingRules.For("g", Timing.AtOnce), Scope.Everywhere))
        );
        Assert.Equal(Hold.ActingKeys, new Keyboard(index).Type("go").Last.Next);
        Assert.Equal(Hold.Nothing, new Keyboard(index).Type("g").Last.Next);
        Assert.Equal("delete 2, put in “X”", new Keyboard(index).Type("go").Press("Enter").Steps);
    }

    [Fact]
    public void Chords_are_those_that_set_something_off_here_and_now()
    {
        var resting = false;
        var index = Index(
            With("a", new Trigger.Hotkey("Ctrl+Alt+A", Scope.Everywhere)),
            With("b", new Trigger.Hotkey("Ctrl+Alt+B", new Scope.OnlyIn(new(["console"]))))
        );
        var keyboard = new Keyboard(index, rests: _ => resting);
        Assert.Equal(["Ctrl+Alt+A"], keyboard.Host.Chords());
        keyboard.Host.Focus("console", FieldKind.Plain);
        Assert.Equal(["Ctrl+Alt+A", "Ctrl+Alt+B"], keyboard.Host.Chords());
        resting = true;
        Assert.Empty(keyboard.Host.Chords());
        var takes = new Keyboard(Harbour).Type("mfg ");
        Assert.Equal(["Ctrl+Alt+Z"], takes.Host.Chords());
        Assert.Empty(takes.Type("x").Host.Chords());
    }

    [Fact]
    public void While_the_engine_rests_nothing_is_held_back_and_a_held_key_goes_on()
    {
        var resting = false;
        var keyboard = new Keyboard(Harbour, rests: _ => resting).Type("mfg");
        resting = true;
        keyboard.Press("Enter", held: true);
        Assert.Equal(("press Enter", Hold.Nothing), (keyboard.Steps, keyboard.Last.Next));
        resting = false;
        Assert.Equal("", keyboard.Press(" ").Steps);
    }

    [Fact]
    public void While_a_slip_or_question_is_open_everything_is_held_back()
    {
        Assert.Equal(Hold.Everything, new Keyboard(Index(Fields)).Type(";s").Last.Next);
        Assert.Equal(Hold.Everything, new Keyboard(Index(Opens)).Type(";o").Last.Next);
    }

    /// <summary>
    /// Every key that sets something off, is used up or takes something back was announced by the answer before it,
    /// whatever was typed.
    /// </summary>
    [Fact]
    public void No_acting_key_is_used_that_was_not_to_be_held_back() =>
        HostModel.Keys.Sample(HostModel.Snippets, (snippets, keys) =>
        {
            var keyboard = new Keyboard(Index(snippets));
            foreach (var key in keys)
            {
                if (key.StartsWith("pause", StringComparison.Ordinal))
                    continue;
                var before = keyboard.Last.Next;
                var typed = Core.Text.Key.Parse("", key).Kind == Core.Text.KeyKind.Typed;
                var last = keyboard.Press(key, held: true).Last;
                var goesOn = last.Steps is [DeliveryStep.Press press] && press.Key.Value == key;
                Assert.True(
                    goesOn || typed || before != Hold.Nothing || last.Question is not null,
                    $"{key} was used, but was not to be held back"
                );
            }
        });

    internal static Snippet Fields =>
        AtOnce(";s", "") with
        {
            Body = Body.Html.Parse("<p>Dear <input name=\"skipper\" value=\"Marram\"></p>"),
        };

    internal static Snippet Opens =>
        AtOnce(";o", "") with
        {
            Body = Body.Html.Parse("<p><a data-open href=\"https://example.org/tides\"></a></p>"),
        };

    private static readonly TriggerIndex Harbour = Index(
        Snip("mfg", "Kind regards"),
        Snip("dot", "X", closing: "."),
        AtOnce("br", "berth"),
        Snip("brxyz", "long"),
        Snip("tw", "twice", Timing.DoubleClosingKey),
        With("P", new Trigger.Pattern("b\\d", TypingRules.For("b"), Scope.Everywhere))
    );
}
