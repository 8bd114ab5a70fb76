using DashSprout.Keyboard.Tests.Desktop;
using Xunit;

namespace DashSprout.Keyboard.Tests;

/// <summary>Keyboards of several languages, and what changes while somebody types.</summary>
public sealed class LayoutTests
{
    private const string Snippets = """
        { "name": "The", "text": "the", "triggers": [ { "kind": "abbreviation", "text": "teh" } ] },
        { "name": "Mail", "text": "office@gullhaven.example [€] {x} y~z", "triggers": [ { "kind": "abbreviation", "text": "ml" } ] },
        { "name": "Umlaut", "text": "Größe", "triggers": [ { "kind": "abbreviation", "text": "äg" } ] },
        { "name": "Acute", "text": "café", "triggers": [ { "kind": "abbreviation", "text": "cé" } ] },
        { "name": "Hotkey", "text": "zzz", "triggers": [ { "kind": "hotkey", "text": "Ctrl+Alt+Y" } ] }
        """;

    [Theory]
    [InlineData("us", null)]
    [InlineData("de", null)]
    [InlineData("fr", null)]
    [InlineData("cz", null)]
    [InlineData("us", "dvorak")]
    public void WhatTheLayoutReachesIsTypedAndTheRestIsLentAKey(string layout, string? variant)
    {
        using var desk = new LinkedDesktop(Snippets, new VirtualDesktop(layout, variant));
        using (desk.Desktop)
        {
            var editor = desk.Desktop.GtkEditor();
            desk.Keyboard.Type("teh ml x");
            Assert.Equal("the office@gullhaven.example [€] {x} y~z x", editor.Saved());
            Assert.Empty(desk.Said);
        }
    }

    /// <summary>
    /// Shift goes down while the text goes in, and its letter comes when the keys are the user's again: some toolkits
    /// look at the keyboard anew whenever keys come from another one.
    /// </summary>
    [Theory]
    [InlineData("GTK")]
    [InlineData("Qt")]
    public void ACapitalRightBehindAnExpansionKeepsItsShift(string toolkit)
    {
        using var desk = new LinkedDesktop(Marathon.Snippets);
        var editor = toolkit == "Qt" ? desk.Desktop.QtEditor() : desk.Desktop.GtkEditor();
        const int rounds = 30;
        for (var round = 0; round < rounds; round++)
        {
            (desk.Keyboard.EveryMs, desk.Keyboard.HoldMs) = (3, 3);
            desk.Keyboard.ShiftMs = 4 + round % 10 * 3;
            desk.Keyboard.Type(";bcA");
            // A hand needs a moment from Shift to the next letter.
            Thread.Sleep(20);
            (desk.Keyboard.EveryMs, desk.Keyboard.HoldMs) = (15, 5);
            desk.Keyboard.Type("nd\n");
        }
        Assert.Equal(
            string.Concat(Enumerable.Repeat("Your berth is ready.And\n", rounds)),
            editor.Saved().TrimEnd('\n') + "\n"
        );
    }

    [Fact]
    public void LettersWithMarksAreHeardFromTheirOwnKeysAndFromDeadOnes()
    {
        using var desk = new LinkedDesktop(Snippets, new VirtualDesktop("de"));
        using (desk.Desktop)
        {
            var editor = desk.Desktop.GtkEditor();
            desk.Keyboard.Type("äg c");
            // The dead acute, then e: the application composes, and so does the link.
            desk.Keyboard.Tap("dead_acute");
            desk.Keyboard.Type("e x");
            Assert.Equal("Größe café x", editor.Saved());
        }
    }

    [Fact]
    public void AHotkeyIsWhereItsLetterIsOnTheLayout()
    {
        using var desk = new LinkedDesktop(Snippets, new VirtualDesktop("de"));
        using (desk.Desktop)
        {
            var editor = desk.Desktop.GtkEditor();
            desk.Keyboard.Chord("Control_L", "Alt_L", "y");
            Wait.Until("the hotkey", () => desk.Ended.Count == 1);
            Assert.Equal("zzz", editor.Saved());
        }
    }

    [Fact]
    public void TheLayoutMayBeChangedWhileOneTypes()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("teh ");
        desk.Desktop.SetLayout("de");
        desk.Desktop.SettleKeymap();
        desk.Keyboard.Type("äg ml teh x");
        Assert.Equal("the Größe office@gullhaven.example [€] {x} y~z the x", editor.Saved());
    }

    [Fact]
    public void GroupsAreSwitchedWithTheirKey()
    {
        using var desk = new LinkedDesktop(Snippets);
        desk.Desktop.SetLayout("us,de", null, "grp:menu_toggle");
        desk.Desktop.SettleKeymap();
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("teh ");
        // While text goes in, the switch would be the link's key and not the hand's.
        Wait.Until("the text", () => desk.Ended.Count == 1);
        desk.Desktop.Settle();
        desk.Desktop.SwitchGroup();
        desk.Keyboard.Group = 1;
        desk.Keyboard.Type("äg teh x");
        Assert.Equal("the Größe the x", editor.Saved());
    }

    [Fact]
    public void AKeyboardIsTakenOutAndPutInAndASecondOneComesAndGoes()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("teh ");
        AtRest(1);
        Plugging.Plug(desk.Desktop.Display, false);
        desk.Desktop.Settle();
        Plugging.Plug(desk.Desktop.Display, true);
        desk.Desktop.Settle();
        desk.Keyboard.Type("ml teh ");
        AtRest(3);
        Plugging.AddSeat(desk.Desktop.Display);
        desk.Desktop.Settle();
        desk.Keyboard.Type("teh ml ");
        AtRest(5);
        Plugging.RemoveSeat(desk.Desktop.Display);
        desk.Desktop.Settle();
        desk.Keyboard.Chord("Control_L", "Alt_L", "y");
        Wait.Until("the hotkey", () => desk.Ended.Count == 6);
        desk.Keyboard.Type(" teh x");
        const string Mail = "office@gullhaven.example [€] {x} y~z";
        Assert.Equal($"the {Mail} the the {Mail} zzz the x", editor.Saved());
        Assert.Empty(desk.Said);

        // Xvfb itself ends when a keyboard goes of which a key is down (21.1.7).
        void AtRest(int ended)
        {
            Wait.Until("the texts", () => desk.Ended.Count == ended);
            desk.Desktop.Settle();
        }
    }

    [Fact]
    public void ModifiersThatStayForTheNextKeyAreSeen()
    {
        using var desk = new LinkedDesktop(
            """
            { "name": "The", "text": "the", "triggers": [ { "kind": "abbreviation", "text": "teh", "case": "mirror" } ] },
            { "name": "Hotkey", "text": "zzz", "triggers": [ { "kind": "hotkey", "text": "Ctrl+Alt+Y" } ] }
            """
        );
        var editor = desk.Desktop.GtkEditor();
        Plugging.StickyModifiers(desk.Desktop.Display);
        // Who needs this types one key after the other.
        (desk.Keyboard.EveryMs, desk.Keyboard.HoldMs) = (40, 15);
        desk.Keyboard.Type("teh ");
        Tap("Shift_L");
        desk.Keyboard.Type("teh ");
        Tap("Control_L");
        Tap("Alt_L");
        desk.Keyboard.Type("y");
        Wait.Until("the hotkey", () => desk.Ended.Count == 3);
        desk.Keyboard.Type(" x");
        Assert.Equal("the The zzz x", editor.Saved());

        void Tap(string name)
        {
            desk.Desktop.Settle();
            desk.Keyboard.Tap(name);
            desk.Desktop.Settle();
        }
    }

    [Fact]
    public void NumLockAndTheKeypadAreTyped()
    {
        using var desk = new LinkedDesktop(
            """{ "name": "Berth", "text": "berth seven", "triggers": [ { "kind": "abbreviation", "text": "b7" } ] }"""
        );
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Tap("Num_Lock");
        desk.Keyboard.Type("b");
        desk.Keyboard.Press(79, true);
        desk.Keyboard.Press(79, false);
        desk.Keyboard.Type(" x");
        desk.Keyboard.Tap("Num_Lock");
        Assert.Equal("berth seven x", editor.Saved());
    }
}
