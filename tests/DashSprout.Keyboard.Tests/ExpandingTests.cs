using DashSprout.Core.Hosting;
using DashSprout.Keyboard.Tests.Desktop;
using Xunit;

[assembly: Xunit.v3.Parallelization(Mode = Xunit.Sdk.ParallelMode.None)]

namespace DashSprout.Keyboard.Tests;

/// <summary>What goes off where, read back from what real applications hold.</summary>
public sealed class ExpandingTests
{
    internal const string Snippets = """
        { "name": "Berth confirmed", "text": "Your berth is confirmed.", "triggers": [ { "kind": "abbreviation", "text": ";bc", "timing": "at-once" } ] },
        { "name": "The", "text": "the", "triggers": [ { "kind": "abbreviation", "text": "teh", "case": "mirror" } ] },
        { "name": "Berth", "text": "berth", "triggers": [ { "kind": "abbreviation", "text": ";b", "timing": "at-once" } ] },
        { "name": "Twice", "text": "twice pressed", "triggers": [ { "kind": "abbreviation", "text": "tw", "timing": "double-closing-key" } ] },
        { "name": "Pattern", "body": "<p>berth number <slot name=\"match\" data-group=\"1\"></slot></p>",
          "triggers": [ { "kind": "pattern", "text": "b(\\d{1,2})", "timing": "closing-key" } ] },
        { "name": "Hotkey", "text": "Harbour office", "triggers": [ { "kind": "hotkey", "text": "Ctrl+Alt+H" } ] },
        { "name": "Quoted", "body": "<p>(<slot name=\"selection\">nothing</slot>)</p>", "triggers": [ { "kind": "hotkey", "text": "Ctrl+Alt+Q" } ] },
        { "name": "Lines", "text": "one\ntwo\nthree", "triggers": [ { "kind": "abbreviation", "text": ";ln", "timing": "at-once" } ] },
        { "name": "Caret", "body": "<p>from <wbr data-caret> to</p>", "triggers": [ { "kind": "abbreviation", "text": ";ft", "timing": "at-once" } ] },
        { "name": "Chosen", "body": "<p>at <mark data-select>nine</mark> o'clock</p>",
          "triggers": [ { "kind": "abbreviation", "text": ";ch", "timing": "at-once" } ] },
        { "name": "Keys", "body": "<p>first<kbd>Enter</kbd>second</p>", "triggers": [ { "kind": "abbreviation", "text": ";ke", "timing": "at-once" } ] },
        { "name": "Copied", "body": "<p>[<slot name=\"clipboard\"></slot>]</p>",
          "triggers": [ { "kind": "abbreviation", "text": ";cp", "timing": "at-once" } ] },
        { "name": "Signs", "text": "→ № ≈ ✓", "triggers": [ { "kind": "abbreviation", "text": ";si", "timing": "at-once" } ] },
        { "name": "Scoped", "text": "only in the terminal",
          "triggers": [ { "kind": "abbreviation", "text": ";sc", "timing": "at-once", "scope": { "mode": "only-in", "apps": [ "XTerm" ] } } ] },
        { "name": "Opens", "body": "<p><a data-open href=\"https://tides.example.org/\">tides</a></p>",
          "triggers": [ { "kind": "abbreviation", "text": ";op", "timing": "at-once" } ] }
        """;

    [Fact]
    public void TheLettersGoAndTheTextComes()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("Hello ;bc and teh boat, Teh quay; TEH end. b12 tw  x");
        Wait.Until("the last", () => desk.Ended.Count + desk.Said.Count > 0);
        Assert.True(desk.Said.Count == 0, string.Join("\n", desk.Said) + desk.Ended.Count);
        Assert.Equal(
            "Hello Your berth is confirmed. and the boat, The quay; THE end. berth number 12 twice pressedx",
            editor.Saved()
        );
        Assert.Empty(desk.Said);
    }

    [Fact]
    public void EnterReachesTheTerminalBehindTheText()
    {
        using var desk = new LinkedDesktop(Snippets);
        var terminal = desk.Desktop.Terminal();
        for (var round = 0; round < 10; round++)
            desk.Keyboard.Type("say teh\nso teh next ;sc\n");
        Wait.Until("all lines", () => terminal.Lines().Length >= 20);
        Assert.Equal(
            Enumerable.Repeat(new[] { "say the", "so the next only in the terminal" }, 10).SelectMany(pair => pair),
            terminal.Lines()
        );
    }

    [Fact]
    public void TypingOnWhileTextGoesInLosesNothing()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        (desk.Keyboard.EveryMs, desk.Keyboard.HoldMs) = (20, 60);
        desk.Keyboard.Type(string.Concat(Enumerable.Repeat("so ;bc and teh quay, ", 20)));
        Assert.Equal(
            string.Concat(Enumerable.Repeat("so Your berth is confirmed. and the quay, ", 20)),
            editor.Saved()
        );
    }

    [Fact]
    public void WhatGivesWayIsSettledByAPauseOrByTheNextKey()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("a ;b");
        Wait.Until("the pause to settle it", () => desk.Ended.Count == 1);
        desk.Keyboard.Type(" and ;b, then");
        Assert.Equal("a berth and berth, then", editor.Saved());
    }

    [Fact]
    public void AHotkeyPutsInAndTheSelectionIsWrapped()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("x ");
        desk.Keyboard.Chord("Control_L", "Alt_L", "h");
        Wait.Until("the first hotkey", () => desk.Ended.Count == 1);
        desk.Keyboard.Type(" y");
        desk.Keyboard.Chord("Shift_L", "Left");
        desk.Desktop.Settle();
        desk.Keyboard.Chord("Control_L", "Alt_L", "q");
        Wait.Until("the second hotkey", () => desk.Ended.Count == 2);
        Assert.Equal("x Harbour office (y)", editor.Saved());
    }

    [Fact]
    public void ASelectionThatIsNotInPrimaryIsCopiedAndTheClipboardIsAsBefore()
    {
        using var desk = new LinkedDesktop(Snippets);
        desk.Desktop.Copy("copied before");
        var editor = desk.Desktop.QtEditor();
        desk.Keyboard.Type("x yz");
        desk.Keyboard.Chord("Shift_L", "Left");
        Wait.Until("the selected letter", () => desk.Desktop.Selected("primary") == "z");
        // Another program has selected something since: PRIMARY is not this window's any more.
        desk.Desktop.Start("xclip", "-selection", "primary", "-i", "note.txt");
        Wait.Until("the other selection", () => desk.Desktop.Selected("primary") == "copied before");
        desk.Keyboard.Chord("Control_L", "Alt_L", "q");
        Wait.Until("the hotkey", () => desk.Ended.Count == 1);
        Assert.Equal("x y(z)", editor.Saved().TrimEnd('\n'));
        Assert.Equal("copied before", desk.Desktop.Selected("clipboard"));
    }

    [Fact]
    public void TakingBackGivesWhatWasTyped()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("teh ");
        desk.Keyboard.Chord("Control_L", "Alt_L", "z");
        Wait.Until("it to be taken back", () => desk.Ended.Exists(one => one.Outcome == Outcome.TakenBack));
        desk.Keyboard.Type("and");
        Assert.Equal("teh and", editor.Saved());
    }

    [Fact]
    public void LinesGoThroughTheClipboardWhichIsAsItWasBefore()
    {
        using var desk = new LinkedDesktop(Snippets);
        desk.Desktop.Copy("what was copied before");
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("a ;ln b ;cp");
        Assert.Equal("a one\ntwo\nthree b [what was copied before]", editor.Saved());
        Assert.Equal("what was copied before", desk.Desktop.Selected("clipboard"));
    }

    [Fact]
    public void ATerminalPastesByShiftInsert()
    {
        using var desk = new LinkedDesktop(Snippets);
        var terminal = desk.Desktop.Terminal();
        desk.Keyboard.Type("a ;ln.\n");
        Wait.Until("three lines", () => terminal.Lines().Length >= 3);
        Assert.Equal(["a one", "two", "three."], terminal.Lines());
    }

    [Fact]
    public void TheCaretTheSelectionAndKeysAreCarriedOut()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        // A key that moves the caret ends a delivery that has not begun; a person waits for the text.
        void After(int firings, string typed)
        {
            Wait.Until($"firing {firings}", () => desk.Ended.Count == firings);
            desk.Keyboard.Type(typed);
        }
        desk.Keyboard.Type(";ft");
        After(1, "A");
        desk.Keyboard.Tap("End");
        desk.Keyboard.Type("\n;ch");
        After(2, "ten");
        desk.Keyboard.Tap("End");
        desk.Keyboard.Type("\n;ke");
        After(3, "");
        Assert.Equal("from A to\nat ten o'clock\nfirst\nsecond", editor.Saved());
    }

    [Fact]
    public void SignsThatTheLayoutLacksAreTypedByLentKeys()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("x ;si y");
        Assert.Equal("x → № ≈ ✓ y", editor.Saved());
        Assert.Empty(desk.Said);
    }

    [Fact]
    public void CapsLockIsOffForTheTextAndOnAgainForTheUser()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Tap("Caps_Lock");
        desk.Keyboard.Type(";bc and teh x");
        desk.Keyboard.Tap("Caps_Lock");
        desk.Keyboard.Type(" y");
        Assert.Equal("Your berth is confirmed. AND THE X y", editor.Saved());
    }

    [Fact]
    public void AClickForgetsWhatWasTyped()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("te");
        desk.Keyboard.Click(640, 300);
        desk.Desktop.Settle();
        desk.Keyboard.Type("h x");
        Assert.Equal("teh x", editor.Saved());
    }

    [Fact]
    public void RestingByItsChordAndInOneApplication()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Chord("Control_L", "Alt_L", "r");
        Wait.Until("the rest", () => desk.Resting);
        desk.Keyboard.Type("teh ");
        desk.Desktop.Settle();
        desk.Keyboard.Chord("Control_L", "Alt_L", "r");
        Wait.Until("the end of the rest", () => !desk.Resting);
        desk.Keyboard.Type("teh ");
        desk.Desktop.Settle();
        desk.RestingApps.Add("Mousepad");
        desk.Keyboard.Type("teh\n");
        Assert.Equal("teh the teh\n", editor.Saved());
    }

    [Fact]
    public void WhatIsOpenedIsOpened()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("x ;op");
        Wait.Until("it to be opened", () => desk.Opened.Count + desk.Said.Count == 1);
        Assert.Empty(desk.Said);
        Assert.Equal("https://tides.example.org/", desk.Opened[0]);
        Assert.Equal("x ", editor.Saved());
    }
}
