using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Delivery;

/// <summary>How texts reach each kind of field: typed, or through the clipboard.</summary>
public sealed class ComposerTests
{
    private const string Bold = "<p>a <strong>b</strong></p>";

    [Theory]
    [InlineData("short", DeliveryWay.Automatic, FieldKind.Rich, "put-in")]
    [InlineData("two\nlines", DeliveryWay.Automatic, FieldKind.Plain, "set paste restore")]
    [InlineData("two\nlines", DeliveryWay.Automatic, FieldKind.Secret, "put-in")]
    [InlineData("two\nlines", DeliveryWay.Keystrokes, FieldKind.Plain, "put-in")]
    [InlineData("short", DeliveryWay.Clipboard, FieldKind.Plain, "set paste restore")]
    [InlineData("short", DeliveryWay.Clipboard, FieldKind.Secret, "put-in")]
    [InlineData(Bold, DeliveryWay.Automatic, FieldKind.Rich, "set paste restore")]
    [InlineData(Bold, DeliveryWay.Automatic, FieldKind.Markdown, "put-in")]
    [InlineData(
        "<p>a<kbd>Tab</kbd>b</p>",
        DeliveryWay.Clipboard,
        FieldKind.SingleLine,
        "set paste press set paste restore"
    )]
    [InlineData(
        "<p>a<slot name=\"go-to\" data-app=\"log-book\" data-field=\"Log\"></slot>b</p>",
        DeliveryWay.Automatic,
        FieldKind.Rich,
        "put-in go-to put-in"
    )]
    public void The_way_follows_the_snippet_its_text_and_the_field(
        string body,
        DeliveryWay way,
        FieldKind field,
        string steps
    ) => Assert.Equal(steps, string.Join(' ', Compose(body, way, field).Select(Word)));

    [Fact]
    public void A_long_text_is_pasted()
    {
        Assert.IsType<DeliveryStep.PutIn>(
            Compose(new string('x', Composer.LongestTyped), DeliveryWay.Automatic, FieldKind.Plain)[0]
        );
        Assert.IsType<DeliveryStep.SetClipboard>(
            Compose(new string('x', Composer.LongestTyped + 1), DeliveryWay.Automatic, FieldKind.Plain)[0]
        );
    }

    [Fact]
    public void What_is_left_on_the_clipboard_is_not_restored_and_typed_text_has_no_formatting()
    {
        Assert.DoesNotContain(Compose("two\nlines", DeliveryWay.Automatic, FieldKind.Plain, leave: true), step =>
            step is DeliveryStep.RestoreClipboard
        );
        var typed = Assert.IsType<DeliveryStep.PutIn>(
            Assert.Single(Compose(Bold, DeliveryWay.Keystrokes, FieldKind.Rich))
        );
        Assert.Equal(("a b", "a b"), (typed.Plain, Writers.Rich(typed.Rich!).Text));
        var pasted = Assert.IsType<DeliveryStep.SetClipboard>(Compose(Bold, DeliveryWay.Automatic, FieldKind.Rich)[0]);
        Assert.Equal(("a b", "a <strong>b</strong>"), (pasted.Plain, Writers.Rich(pasted.Rich!).Text));
    }

    /// <summary>
    /// A rehearsal carries the steps out: the text is in, and the clipboard is what it was, or the text.
    /// </summary>
    [Theory]
    [InlineData(false, "before")]
    [InlineData(true, "one\ntwo")]
    public void The_clipboard_afterwards(bool leave, string clipboard)
    {
        var index = TriggerIndex.Of([Placed("one\ntwo", DeliveryWay.Automatic, leave)]);
        var setting = new RehearsalSetting("", FieldKind.Rich, false, new RenderContext { Clipboard = "before" }, null);
        var result = Rehearsal.Run(index, [.. RehearsalStep.Type(";x")], setting, tracing: false);
        Assert.Equal(("one\ntwo", clipboard), (result.Text, result.Clipboard));
    }

    /// <summary>
    /// What is private goes through the clipboard only where its owner says so, and never stays there.
    /// </summary>
    [Theory]
    [InlineData("two\nlines", DeliveryWay.Automatic, FieldKind.Plain, "put-in")]
    [InlineData(Bold, DeliveryWay.Automatic, FieldKind.Rich, "put-in")]
    [InlineData("short", DeliveryWay.Automatic, FieldKind.Secret, "put-in")]
    [InlineData("short", DeliveryWay.Clipboard, FieldKind.Plain, "set paste restore")]
    [InlineData("short", DeliveryWay.Clipboard, FieldKind.Secret, "put-in")]
    public void What_is_private_is_typed(string body, DeliveryWay way, FieldKind field, string steps) =>
        Assert.Equal(steps, string.Join(' ', Compose(body, way, field, leave: true, isPrivate: true).Select(Word)));

    [Fact]
    public void What_holds_something_private_is_typed_too()
    {
        var body = Body.Html.Parse("<p>Two</p><p><slot name=\"snippet\" data-ref=\"A/Gate\"></slot></p>");
        var trigger = TriggerIndex
            .Of([
                Placed("", DeliveryWay.Automatic, leave: false) with
                {
                    Snippet = Placed("", DeliveryWay.Automatic, leave: false).Snippet with { Body = body },
                },
            ])
            .All.Single();
        var firing = new Firing(
            trigger,
            EquatableList<Key>.Empty,
            EquatableList<Key>.Empty,
            Capitals.AsWritten,
            EquatableList<string>.Empty
        );
        bool Pastes(bool isPrivate) =>
            Composer
                .Compose(
                    firing,
                    0,
                    FieldKind.Plain,
                    new RenderContext { FindSnippet = _ => new Body.Plain("4711"), IsPrivate = _ => isPrivate }
                )
                .Steps.Any(step => step is DeliveryStep.SetClipboard);
        Assert.Equal((true, false), (Pastes(false), Pastes(true)));
    }

    private static IReadOnlyList<DeliveryStep> Compose(
        string body,
        DeliveryWay way,
        FieldKind field,
        bool leave = false,
        bool isPrivate = false
    )
    {
        var placed = Placed(body, way, leave);
        var trigger = TriggerIndex
            .Of([placed with { Snippet = placed.Snippet with { Private = isPrivate } }])
            .All.Single();
        var firing = new Firing(
            trigger,
            EquatableList<Key>.Empty,
            EquatableList<Key>.Empty,
            Capitals.AsWritten,
            EquatableList<string>.Empty
        );
        return
        [
            .. Composer
                .Compose(firing, 0, field, new RenderContext())
                .Steps.Where(step => step is not DeliveryStep.Remember),
        ];
    }

    private static PlacedSnippet Placed(string body, DeliveryWay way, bool leave) =>
        PlacedSnippet.Unplaced("X") with
        {
            Snippet = new Snippet(
                "X",
                true,
                "",
                false,
                way,
                leave,
                body.StartsWith('<') ? Body.Html.Parse(body) : new Body.Plain(body),
                new([new Trigger.Abbreviation(";x", TypingRules.For(";x", Timing.AtOnce), Scope.Everywhere)])
            ),
        };

    private static string Word(DeliveryStep step) =>
        step switch
        {
            DeliveryStep.SetClipboard => "set",
            DeliveryStep.Paste => "paste",
            DeliveryStep.RestoreClipboard => "restore",
            DeliveryStep.PutIn => "put-in",
            DeliveryStep.Press => "press",
            DeliveryStep.GoTo => "go-to",
            _ => step.ToString(),
        };
}
