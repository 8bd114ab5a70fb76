using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Bodies;

/// <summary>
/// No snippet keeps a field to itself: its pauses and key presses are bounded, alone and through others.
/// </summary>
public sealed class DeliveryLimitTests
{
    private static string Wait(double seconds) =>
        string.Create(
            System.Globalization.CultureInfo.InvariantCulture,
            $"<slot name=\"wait\" data-for=\"PT{seconds}S\"></slot>"
        );

    private static string Press(int times) => $"<kbd data-times=\"{times}\">Tab</kbd>";

    [Fact]
    public void Pauses_add_up_to_ten_seconds_at_most()
    {
        Check($"<p>{Wait(4)}{Wait(6)}</p>");
        Assert.Contains(
            "The pauses add up to 10.5 s",
            Refused($"<p>{Wait(4)}<em>{Wait(6.5)}</em></p>"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "The pauses add up to 12 s",
            Refused($"<p>{Wait(3)}{Wait(3)}{Wait(3)}{Wait(3)}</p>"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Key_presses_are_a_thousand_at_most()
    {
        Check($"<p>{string.Concat(Enumerable.Repeat(Press(100), 10))}</p>");
        Assert.Contains(
            "It presses 1,001 keys",
            Refused($"<p>{string.Concat(Enumerable.Repeat(Press(100), 10))}{Press(1)}</p>"),
            StringComparison.Ordinal
        );
    }

    /// <summary>Snippets that hold each other many times over would press a million keys.</summary>
    [Fact]
    public void Those_of_the_snippets_inside_count()
    {
        var bodies = new Dictionary<string, Body>
        {
            ["L/a"] = Body.Html.Parse($"<p>{Press(100)}</p>"),
            ["L/b"] = Body.Html.Parse(
                $"<p>{string.Concat(Enumerable.Repeat("<slot name=\"snippet\" data-ref=\"L/a\"></slot>", 10))}</p>"
            ),
        };
        BodyCheck.Check(bodies["L/b"], "L/b", bodies.GetValueOrDefault);
        var twice = Body.Html.Parse(
            "<p><slot name=\"snippet\" data-ref=\"L/b\"></slot><slot name=\"snippet\" data-ref=\"L/b\"></slot></p>"
        );
        Assert.Contains(
            "keys; 1,000 are allowed",
            Assert.Throws<InvalidInputException>(() => BodyCheck.Check(twice, "L/c", bodies.GetValueOrDefault)).Message,
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// What was saved before there was a limit, or grew through another snippet, is refused when it goes off, with the
    /// reason.
    /// </summary>
    [Fact]
    public void What_is_stored_already_is_refused_when_it_goes_off()
    {
        var index = Index(AtOnce(";w", "") with { Name = "Waits", Body = new Body.Html($"<p>a{Wait(60)}b</p>") });
        var host = new TypingHost(new HostServices { Index = () => index, Context = () => new RenderContext() });
        host.Focus("post", FieldKind.Plain);
        host.Press(new Keystroke(Core.Text.Key.Typed(";")), held: false);
        var answer = host.Press(new Keystroke(Core.Text.Key.Typed("w")), held: false);
        Assert.Empty(answer.Steps);
        Assert.Contains("“Waits” was not put in. The pauses add up to 60 s", answer.Problem, StringComparison.Ordinal);
    }

    private static void Check(string body) => BodyCheck.Check(Body.Html.Parse(body), "L/x", _ => null);

    private static string Refused(string body) => Assert.Throws<InvalidInputException>(() => Check(body)).Message;
}
