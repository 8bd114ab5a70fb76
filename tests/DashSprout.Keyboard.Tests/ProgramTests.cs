using System.Diagnostics;
using System.Net.Http.Json;
using DashSprout.Keyboard.Tests.Desktop;
using DashSprout.Keyboard.X11;
using Xunit;

namespace DashSprout.Keyboard.Tests;

/// <summary>
/// The whole program on a desktop: the companion window over a user's application, and what the settings tell.
/// </summary>
public sealed class ProgramTests
{
    [Fact]
    public void ASlipComesOverTheEditorAndItsTextGoesBackThere()
    {
        using var desktop = new VirtualDesktop();
        var editor = desktop.GtkEditor();
        using var program = new LinkedProgram(desktop);
        program.AwaitCompanion();
        desktop.Keyboard.Type("teh ");
        // Enter right behind a text that is still going in would stop it.
        program.AwaitExpansions(1);
        for (var round = 0; round < 3; round++)
        {
            // Keys typed before the slip is there go into its first field.
            desktop.Keyboard.Type(";bcfMarram\n");
            Shown(desktop, true);
            desktop.Keyboard.Type("Sea Holly\n3\n");
            desktop.Keyboard.Type("\n\n\n\n");
            program.AwaitExpansions(2 + round);
            Shown(desktop, false);
            desktop.Keyboard.Type(" ");
        }
        desktop.Keyboard.Type("end");
        var text = editor.Saved();
        Assert.StartsWith("the Dear Marram,\nyour berth for Sea Holly is confirmed", text, StringComparison.Ordinal);
        Assert.EndsWith("end", text, StringComparison.Ordinal);
        Assert.Equal(3, text.Split("for 3 nights").Length - 1);
        Assert.Equal(2, text.Split("Gullhaven Dear").Length - 1);
    }

    [Fact]
    public void ASlipThatIsLeftLeavesWhatWasTyped()
    {
        using var desktop = new VirtualDesktop();
        var editor = desktop.GtkEditor();
        using var program = new LinkedProgram(desktop);
        program.AwaitCompanion();
        desktop.Keyboard.Type("teh ");
        program.AwaitExpansions(1);
        desktop.Keyboard.Type(";bcf");
        Shown(desktop, true);
        desktop.Keyboard.Type("Mar");
        desktop.Keyboard.Tap("Escape");
        Shown(desktop, false);
        desktop.Keyboard.Type(" x");
        Assert.Equal("the ;bcf x", editor.Saved());
    }

    [Fact]
    public void TheFinderComesByItsChordAndPutsInWhereOneWas()
    {
        using var desktop = new VirtualDesktop();
        var editor = desktop.GtkEditor();
        using var program = new LinkedProgram(desktop);
        program.AwaitCompanion();
        desktop.Keyboard.Type("a ");
        desktop.Keyboard.Chord("Control_L", "Alt_L", "space");
        Shown(desktop, true);
        // Enter belongs to what was typed before it, however fast.
        desktop.Keyboard.EveryMs = 20;
        desktop.Keyboard.Type("say again\n");
        program.AwaitExpansions(1);
        Shown(desktop, false);
        desktop.Keyboard.Type(" b");
        Assert.Equal("a Say again, please. You came through broken. b", editor.Saved());
    }

    [Fact]
    public void WithoutABrowserOfItsOwnASlipOpensInTheUsualOne()
    {
        using var desktop = new VirtualDesktop();
        desktop.HideChromium();
        var editor = desktop.GtkEditor();
        using var program = new LinkedProgram(desktop);
        desktop.Keyboard.Type("teh ;bcf");
        Wait.Until("the page in the usual browser", () => Asks(desktop.Windows.Active().Title));
        desktop.Keyboard.Type("Marram\nSea Holly\n3\n\n\n\n\n");
        program.AwaitExpansions(2);
        Wait.Until("the editor again", () => desktop.Windows.ActiveId() == editor.Window.Id);
        desktop.Keyboard.Type("end");
        var text = editor.Saved();
        Assert.StartsWith("the Dear Marram,\nyour berth for Sea Holly is confirmed", text, StringComparison.Ordinal);
        Assert.EndsWith("end", text, StringComparison.Ordinal);

        // Whoever goes on where it was asked leaves it.
        desktop.Keyboard.Type(" ;bcf");
        // Whole, and with the focus: a page that is still coming would take it from the editor again.
        Wait.Until("the page again", () =>
            desktop.Windows.Active() is var page && Asks(page.Title) && desktop.Windows.HasKeys(page.Id)
        );
        editor.Activate();
        desktop.Keyboard.Type(" teh x");
        program.AwaitExpansions(3);
        Assert.EndsWith("end ;bcf the x", editor.Saved(), StringComparison.Ordinal);
    }

    [Fact]
    public void OnSeveralMonitorsItStaysOnTheOneSomebodyTypesOn()
    {
        using var desktop = new VirtualDesktop();
        desktop.Run("xrandr", "--setmonitor", "left", "640/170x800/210+0+0", "screen");
        desktop.Run("xrandr", "--setmonitor", "right", "640/170x800/210+640+0", "none");
        var editor = desktop.GtkEditor();
        desktop.Run("xdotool", "windowsize", $"{editor.Window.Id}", "500", "400");
        desktop.Run("xdotool", "windowmove", $"{editor.Window.Id}", "760", "350");
        using var program = new LinkedProgram(desktop);
        program.AwaitCompanion();
        desktop.Keyboard.Chord("Control_L", "Alt_L", "space");
        Shown(desktop, true);
        Wait.Until("the finder on the right monitor", () =>
            desktop.Windows.Place(desktop.Windows.ActiveId()) is { } place
            && new ScreenArea(640, 0, 640, 800).Holds(new ScreenArea(place.X, place.Y, place.Width, place.Height))
        );
    }

    [Fact]
    public void AClosedCompanionWindowComesAgain()
    {
        using var desktop = new VirtualDesktop();
        var editor = desktop.GtkEditor();
        using var program = new LinkedProgram(desktop);
        program.AwaitCompanion();
        desktop.Keyboard.Chord("Control_L", "Alt_L", "space");
        Shown(desktop, true);
        Thread.Sleep(700);
        desktop.Keyboard.Chord("Alt_L", "F4");
        Shown(desktop, false);
        program.AwaitCompanion();
        desktop.Keyboard.Chord("Control_L", "Alt_L", "space");
        Shown(desktop, true);
        desktop.Keyboard.Tap("Escape");
        Shown(desktop, false);
        desktop.Keyboard.Type("teh end");
        program.AwaitExpansions(1);
        Assert.Equal("the end", editor.Saved());
    }

    [Fact]
    public async Task WhatIsSelectedBecomesASnippetOfOnesOwn()
    {
        using var desktop = new VirtualDesktop();
        var editor = desktop.GtkEditor();
        using var program = new LinkedProgram(desktop);
        program.AwaitCompanion();
        desktop.Keyboard.Type("The pilot boards at the outer buoy.");
        desktop.Keyboard.Chord("Control_L", "a");
        Wait.Until("the selection", () =>
            desktop.Selected("primary").StartsWith("The pilot", StringComparison.Ordinal)
        );
        desktop.Keyboard.Chord("Control_L", "Alt_L", "n");
        Shown(desktop, true);
        Thread.Sleep(500);
        desktop.Keyboard.Type("tpb\n");
        Shown(desktop, false);
        desktop.Keyboard.Tap("End");
        desktop.Keyboard.Type("\ntpb ");
        program.AwaitExpansions(1);
        var text = editor.Saved();
        Assert.Equal("The pilot boards at the outer buoy.\nThe pilot boards at the outer buoy. ", text);
        var state = await program.Client.GetFromJsonAsync<System.Text.Json.JsonElement>("/api/keyboard");
        Assert.Equal("Mousepad", state.GetProperty("apps")[0].GetProperty("id").GetString());
    }

    [Fact]
    public async Task KeysRecordedInTwoWindowsAreTypedInBothAgain()
    {
        using var desktop = new VirtualDesktop();
        var terminal = desktop.Terminal();
        var editor = desktop.GtkEditor();
        using var program = new LinkedProgram(desktop);
        program.AwaitCompanion();
        desktop.Keyboard.Type("first ");
        Record();
        desktop.Keyboard.Type("Berth teh 7");
        program.AwaitExpansions(1);
        // A hand needs a moment from a caret key to another window.
        desktop.Keyboard.Tap("Home");
        Thread.Sleep(300);
        terminal.Activate();
        desktop.Keyboard.Type("moored\n");
        Wait.Until("the line", () => terminal.Lines().Length == 1);
        Record();
        Shown(desktop, true);
        Thread.Sleep(500);
        desktop.Keyboard.Type("zrk\n");
        Shown(desktop, false);
        editor.Activate();
        desktop.Keyboard.Tap("End");
        desktop.Keyboard.Type(" and zrk ");
        Wait.Until("the line again", () => terminal.Lines().Length == 2);
        Assert.Equal(["moored", "moored"], terminal.Lines());
        // What stands behind the abbreviation goes in behind the whole, where the keys have led.
        editor.Activate();
        Assert.Equal("first Berth the 7 and Berth the 7", editor.Saved().Trim());

        var found = await program.Client.GetStringAsync("/api/finder?query=Recorded");
        Assert.Contains("Recorded at", found, StringComparison.Ordinal);

        void Record() => desktop.Keyboard.Chord("Control_L", "Alt_L", "Shift_L", "r");
    }

    [Fact]
    public void TheProgramEndsAndEverythingIsGivenBack()
    {
        using var desktop = new VirtualDesktop();
        var terminal = desktop.Terminal();
        using var program = new LinkedProgram(desktop);
        desktop.Keyboard.Type("teh\n");
        Wait.Until("the first line", () => terminal.Lines().Length == 1);
        using (var ended = Process.Start("kill", ["-TERM", $"{program.Pid}"]))
            ended.WaitForExit();
        using var running = Process.GetProcessById(program.Pid);
        Assert.True(running.WaitForExit(10_000), "The program does not end.");
        desktop.Keyboard.Type("teh\n");
        Wait.Until("the second line", () => terminal.Lines().Length == 2);
        Assert.Equal(["the", "teh"], terminal.Lines());
    }

    [Fact]
    public void TheCheckTypesIntoAWindowOfItsOwnAndSaysHowItWent()
    {
        using var desktop = new VirtualDesktop();
        var editor = desktop.GtkEditor();
        using var program = new LinkedProgram(desktop);
        program.AwaitCompanion();
        desktop.Keyboard.Type("a");
        var check = program.Check();
        Assert.True(check.GetProperty("isGood").GetBoolean(), check.ToString());
        Assert.InRange(check.GetProperty("medianMs").GetDouble(), 0, 50);
        desktop.Keyboard.Type("b");
        Assert.Equal("ab", editor.Saved());
    }

    private static void Shown(VirtualDesktop desktop, bool isShown) =>
        Wait.Until(isShown ? "the companion window with the keyboard" : "the companion window to go", () =>
            desktop.Windows.Active() is var active
            && (
                isShown
                    ? active.App == "DashSproutCompanion" && Asks(active.Title)
                    : active.App != "DashSproutCompanion"
            )
        );

    /// <summary>The page's name says what it asks once its first field has the keyboard.</summary>
    private static bool Asks(string title) => title.StartsWith("Dash Sprout – ", StringComparison.Ordinal);
}
