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
        Thread.Sleep(200);
        desk.Keyboard.Tap("F8");
        Wait.Until("the snippet", () => desk.Ended.Count == 1);
        desk.Keyboard.Type(" ");
        desk.Keyboard.Type("Thank you for your ");
        Thread.Sleep(200);
        desk.Keyboard.Chord("Alt_L", "Down");
        Thread.Sleep(100);
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
        Thread.Sleep(200);
        desk.Keyboard.Tap("Right");
        desk.Keyboard.Type("!");
        Assert.Equal("xThank you for your y!", editor.Saved());
        Assert.Empty(desk.Ended);
    }

    [Fact]
    public async Task AtALinesEndTheArrowTakesItWhereTheApplicationTells()
    {
        using var desktop = new VirtualDesktop(tellsFields: true);
        using var bus = new DBusConnection(desktop.Bus);
        await bus.ConnectAsync();
        var sightings = new FieldSightings();
        await sightings.Begin(bus);
        // The bus goes on by itself while the desktop is waited for.
        await Task.Delay(1);
        using var desk = new LinkedDesktop(Snippets, desktop, sightings, Offering("ArrowRight"));
        sightings.Changed += desk.Link.SightChanged;
        var editor = desktop.GtkEditor();
        desk.Keyboard.Type("Thank you for your b");
        for (var round = 0; round < 100 && sightings.EndsLine() != true; round++)
            await Task.Delay(50);
        Assert.True(sightings.EndsLine());
        desk.Keyboard.Tap("Right");
        for (var round = 0; round < 100 && desk.Ended.Count == 0; round++)
            await Task.Delay(50);
        Assert.Equal("Thank you for your booking.", editor.Saved());
        sightings.End();
    }
}
