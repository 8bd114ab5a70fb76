using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Libraries;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Keyboard.Linking;

/// <summary>
/// Has everything done once that an expansion does, for nobody: the first one would take ten times as long as the
/// others.
/// </summary>
internal static class WarmUp
{
    /// <summary>Types into hosts that no keyboard follows.</summary>
    /// <param name="services">Those of the link, so that its patterns are ready too.</param>
    public static void Hosts(HostServices services)
    {
        var triggers = new[]
        {
            Abbreviation("zqa"),
            new Trigger.Pattern("zqb(\\d)", TypingRules.For("zqb"), Scope.Everywhere),
        };
        var snippet = new Snippet(
            "Warm",
            true,
            "",
            false,
            DeliveryWay.Automatic,
            false,
            new Body.Plain("warm\n→"),
            new(triggers)
        );
        var index = TriggerIndex.Of(
            PlacedSnippet.All([new Library("Warm", true, LibraryRules.Default, new([]), new([snippet]))])
        );
        Type(
            new TypingHost(new HostServices { Index = () => index, Context = () => new RenderContext() }),
            "zqa zqb1 a"
        );
        Type(new TypingHost(services), "zq9a b");
    }

    private static Trigger Abbreviation(string text) =>
        new Trigger.Abbreviation(text, TypingRules.For(text), Scope.Everywhere);

    private static void Type(TypingHost host, string text)
    {
        host.Focus("", FieldKind.Rich);
        foreach (var key in Key.ForText(text))
            host.Press(new Keystroke(key, CapsLock: false, AtMs: 0), held: false);
    }
}
