using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Tests.Desktop;
using Xunit;

namespace DashSprout.Keyboard.Tests;

/// <summary>What goes through the clipboard goes in whole or not at all, and what was copied before comes back.</summary>
public sealed class PastingTests
{
    private const string Snippets = """
        { "name": "Lines", "text": "one\ntwo",
          "triggers": [ { "kind": "abbreviation", "text": ";ln", "timing": "at-once" } ] },
        { "name": "Mail", "text": "office@gullhaven.example", "triggers": [ { "kind": "abbreviation", "text": "ад" } ] },
        { "name": "Hotkey", "text": "порт", "triggers": [ { "kind": "hotkey", "text": "Ctrl+Alt+Y" } ] }
        """;

    /// <summary>
    /// With Russian in force neither the @ nor the V of Ctrl+V nor the Y of a hotkey has a key of its own.
    /// </summary>
    [Fact]
    public void WithASecondLayoutInForceTextsArePastedAndHotkeysGoOff()
    {
        using var desk = new LinkedDesktop(Snippets);
        desk.Desktop.SetLayout("us,ru", null, "grp:menu_toggle");
        desk.Desktop.SettleKeymap();
        var editor = desk.Desktop.GtkEditor();
        desk.Desktop.SwitchGroup();
        desk.Keyboard.Group = 1;
        desk.Keyboard.Type("ад ");
        Wait.Until("the pasted text", () => desk.Ended.Count == 1);
        desk.Keyboard.Group = 0;
        desk.Keyboard.Chord("Control_L", "Alt_L", "y");
        Wait.Until("the hotkey", () => desk.Ended.Count == 2);
        Assert.Equal("office@gullhaven.example порт", editor.Saved());
        Assert.Empty(desk.Said);
    }

    [Fact]
    public void AnApplicationThatStandsStillGetsTheTextAndNotWhatWasCopiedBefore()
    {
        using var desk = new LinkedDesktop(Snippets);
        desk.Desktop.Copy("copied before");
        var editor = desk.Desktop.GtkEditor();
        desk.Desktop.Run("kill", "-STOP", $"{editor.Process.Id}");
        desk.Keyboard.Type(";ln");
        Thread.Sleep(1300);
        Assert.Empty(desk.Ended);
        desk.Desktop.Run("kill", "-CONT", $"{editor.Process.Id}");
        Wait.Until("the text", () => desk.Ended.Count == 1);
        desk.Keyboard.Type(" x");
        Assert.Equal("one\ntwo x", editor.Saved());
        Assert.Equal("copied before", desk.Desktop.Selected("clipboard"));
        Assert.Empty(desk.Said);
    }

    [Fact]
    public void WhatIsNotTakenLeavesWhatWasTyped()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Deliveries["Mousepad"] = AppDelivery.Usual with { PasteChord = "Ctrl+Shift+F9" };
        desk.Keyboard.Type("a ;ln");
        Wait.Until("the words", () => desk.Said.Count > 0);
        Assert.Contains("did not take the text", desk.Said[0], StringComparison.Ordinal);
        Assert.EndsWith("What you typed is there again.", desk.Said[0], StringComparison.Ordinal);
        desk.Keyboard.Type(" x");
        Assert.Equal("a ;ln x", editor.Saved());
        // What is typed again sets nothing off again.
        Assert.Single(desk.Said);
        Assert.Empty(desk.Ended);
    }

    [Fact]
    public void WhatCannotBeDoneIsNotBegun()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Deliveries["Mousepad"] = AppDelivery.Usual with { PasteChord = "Ctrl+Ж" };
        desk.Keyboard.Type(";ln x");
        Wait.Until("the words", () => desk.Said.Count > 0);
        Assert.Equal("The keyboard layout has no key for Ctrl+Ж, so nothing went in.", desk.Said[0]);
        Assert.Equal(";ln x", editor.Saved());
    }
}
