using DashSprout.Core.Hosting;
using DashSprout.Core.Learning;
using DashSprout.Keyboard.Accessibility;
using DashSprout.Keyboard.Tests.Desktop;
using Tmds.DBus.Protocol;
using Xunit;

namespace DashSprout.Keyboard.Tests;

/// <summary>What is offered while one types in a real application, and the key that takes it.</summary>
public sealed class OfferTests
{
    private const string Snippets = """
        { "name": "Thanks", "text": "Thank you for your booking.", "triggers": [ { "kind": "abbreviation", "text": ";ty" } ] },
        { "name": "Wait", "text": "Thank you for your patience while we look.", "triggers": [ { "kind": "abbreviation", "text": ";tp" } ] }
        """;

    private static Following Offering(string key) =>
        new() { Rules = FollowingRules.Off with { Offers = true, Take = OfferKeys.Read("takeKey", key) } };

    [Fact]
    public void AChosenKeyTakesWhatIsOfferedAndTheArrowsWalk()
    {
        using var desk = new LinkedDesktop(Snippets, following: Offering("F8"));
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("Thank you for your p");
        desk.Desktop.Settle();
        desk.Keyboard.Tap("F8");
        Wait.Until("the snippet", () => desk.Ended.Count == 1);
        desk.Keyboard.Type(" ");
        desk.Keyboard.Type("Thank you for your ");
        desk.Desktop.Settle();
        desk.Keyboard.Chord("Alt_L", "Down");
        desk.Desktop.Settle();
        desk.Keyboard.Tap("F8");
        Wait.Until("the other one", () => desk.Ended.Count == 2);
        Assert.Equal("Thank you for your patience while we look. Thank you for your booking.", editor.Saved());
        Assert.Equal([Outcome.Inserted, Outcome.Inserted], desk.Ended.Select(ended => ended.Outcome));
    }

    [Fact]
    public void WhereNobodyTellsWhatStandsBehindTheCaretAnArrowIsAnArrow()
    {
        using var desk = new LinkedDesktop(Snippets, following: Offering("ArrowRight"));
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("xy");
        desk.Keyboard.Tap("Left");
        desk.Keyboard.Type("Thank you for your ");
        desk.Desktop.Settle();
        desk.Keyboard.Tap("Right");
        desk.Keyboard.Type("!");
        Assert.Equal("xThank you for your y!", editor.Saved());
        Assert.Empty(desk.Ended);
    }

    /// <summary>Outside the tests' own context, which would wait for itself while the bus is waited for.</summary>
    [Fact]
    public Task AtALinesEndTheArrowTakesItWhereTheApplicationTells() =>
        Task.Run(async () =>
        {
            using var desktop = new VirtualDesktop(tellsFields: true);
            using var bus = new DBusConnection(desktop.Bus);
            await bus.ConnectAsync();
            var sightings = new FieldSightings();
            await sightings.Begin(bus);
            using var desk = new LinkedDesktop(Snippets, desktop, sightings, Offering("ArrowRight"));
            sightings.Changed += desk.Link.SightChanged;
            var editor = desktop.GtkEditor();
            // An application that is slow to answer has an arrow, which ends the offer: one types it anew then.
            await Patience.Until(
                async () =>
                {
                    desk.Keyboard.Chord("Control_L", "a");
                    desk.Keyboard.Tap("Delete");
                    desk.Keyboard.Type("Thank you for your b");
                    desktop.Settle();
                    await Patience.Until(() => sightings.EndsLine() == true, "the end of the line");
                    desk.Keyboard.Tap("Right");
                    desktop.Settle();
                    return desk.Ended.Count > 0;
                },
                "the snippet"
            );
            Assert.Equal("Thank you for your booking.", editor.Saved());
            sightings.End();
        });
}
