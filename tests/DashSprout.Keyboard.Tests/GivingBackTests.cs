using System.Diagnostics;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Tests.Desktop;
using DashSprout.Keyboard.X11;
using Xunit;

namespace DashSprout.Keyboard.Tests;

/// <summary>Whatever happens to the link, the keys are the user's.</summary>
public sealed class GivingBackTests
{
    private const string Snippets = """
        { "name": "The", "text": "the", "triggers": [ { "kind": "abbreviation", "text": "teh" } ] },
        { "name": "Sign", "text": "№", "triggers": [ { "kind": "abbreviation", "text": ";no", "timing": "at-once" } ] },
        { "name": "Slow", "body": "<p>a<slot name=\"wait\" data-for=\"PT6S\"></slot>b</p>",
          "triggers": [ { "kind": "abbreviation", "text": ";sl", "timing": "at-once" } ] },
        { "name": "Long", "text": "Your berth is confirmed; please call the harbour office before noon.",
          "triggers": [ { "kind": "abbreviation", "text": ";lo", "timing": "at-once" } ] },
        { "name": "Lines", "text": "one\ntwo", "triggers": [ { "kind": "abbreviation", "text": ";ln", "timing": "at-once" } ] },
        { "name": "Asks", "body": "<p><input name=\"a\"></p>", "triggers": [ { "kind": "abbreviation", "text": ";as", "timing": "at-once" } ] }
        """;

    [Fact]
    public void ALinkThatHangsLosesTheDisplayAndComesBack()
    {
        using var desk = new LinkedDesktop(Snippets);
        var terminal = desk.Desktop.Terminal();
        using var hangs = new ManualResetEventSlim();
        desk.OnEnded = () =>
        {
            desk.OnEnded = null;
            hangs.Wait(Patience.Longest);
        };
        desk.Keyboard.Type("teh\n");
        // The link hangs with the keyboards in its hands; the display gives them back and the user types on.
        Wait.Until("a line that is typed on", () =>
        {
            desk.Keyboard.Type("on\n");
            Thread.Sleep(200);
            return terminal.Lines().Length > 0 && terminal.Lines()[^1].EndsWith("on", StringComparison.Ordinal);
        });
        hangs.Set();
        Wait.Until("the link to come back", () => desk.Link.State.IsLinked && desk.Said.Count > 0);
        desk.Keyboard.Type("teh\n");
        Wait.Until("the line after it", () => terminal.Lines()[^1] == "the");
    }

    [Fact]
    public void APauseAfterEachKeyIsNoHang()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Deliveries["Mousepad"] = AppDelivery.Usual with { AlwaysType = true, DelayMs = AppDelivery.MostDelayMs };
        desk.Keyboard.Type(";lo");
        Wait.Until("the text", () => desk.Ended.Count == 1);
        Assert.Equal("Your berth is confirmed; please call the harbour office before noon.", editor.Saved());
        Assert.Empty(desk.Said);
    }

    [Fact]
    public void AFaultInTheLinkEndsItWithWordsAndItComesBack()
    {
        using var desk = new LinkedDesktop(Snippets);
        var terminal = desk.Desktop.Terminal();
        desk.OnEnded = () =>
        {
            desk.OnEnded = null;
            throw new InvalidOperationException("made for the test");
        };
        desk.Keyboard.Type("teh\n");
        Wait.Until("the fault to be said", () =>
            desk.Said.Exists(words => words.Contains("by a fault of its own", StringComparison.Ordinal))
        );
        desk.Keyboard.Type("on\n");
        Wait.Until("typing to go on", () =>
            terminal.Lines().Length > 0 && terminal.Lines()[^1].EndsWith("on", StringComparison.Ordinal)
        );
        Wait.Until("the link to come back", () => desk.Link.State.IsLinked);
        desk.Keyboard.Type("teh\n");
        Wait.Until("the line after it", () => terminal.Lines()[^1] == "the");
    }

    [Fact]
    public void KeysAreNeverHeldLongerThanTwoSeconds()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type(";sl");
        Thread.Sleep(2300);
        desk.Keyboard.Type("xy");
        Wait.Until("the rest of the text", () => desk.Ended.Count == 1);
        Assert.Equal("axyb", editor.Saved());
    }

    [Fact]
    public void AKilledLinkGivesTheKeysBack()
    {
        using var desktop = new VirtualDesktop();
        var terminal = desktop.Terminal();
        using var program = TypedInto(desktop, terminal);
        desktop.Run("kill", "-KILL", $"{program.Pid}");
        Wait.Until("the program to be gone", () => program.HasEnded);
        desktop.Keyboard.Type("b\n");
        Wait.Until("typing to go on", () => terminal.Lines().Length == 2);
        Assert.Equal("b", terminal.Lines()[^1]);
    }

    [Fact]
    public void AStoppedLinkGivesTheKeysBack()
    {
        using var desktop = new VirtualDesktop();
        var terminal = desktop.Terminal();
        using var program = TypedInto(desktop, terminal);
        desktop.Run("kill", "-STOP", $"{program.Pid}");
        // It keeps the keys that act until the watcher outside ends it.
        Wait.Until("typing to go on", () =>
        {
            desktop.Keyboard.Type("b\n");
            Thread.Sleep(200);
            return terminal.Lines()[^1].EndsWith('b');
        });
    }

    /// <summary>The program, once it has expanded a first line in the terminal.</summary>
    private static LinkedProgram TypedInto(VirtualDesktop desktop, OpenApplication terminal)
    {
        var program = new LinkedProgram(desktop);
        program.AwaitCompanion();
        desktop.Keyboard.Type("teh\n");
        Wait.Until("the first line", () => terminal.Lines().Length == 1);
        return program;
    }

    [Fact]
    public void WhatAKilledLinkLentIsTakenBackByTheNext()
    {
        using var desktop = new VirtualDesktop();
        using (var program = new LinkedProgram(desktop))
        {
            Wait.Until("keys to be lent", () => Lent(desktop).Length > 0);
            desktop.Run("kill", "-KILL", $"{program.Pid}");
        }
        Assert.NotEmpty(Lent(desktop));
        using (
            var desk = new LinkedDesktop(
                """{ "name": "The", "text": "the", "triggers": [ { "kind": "abbreviation", "text": "teh" } ] }""",
                desktop
            )
        )
        {
            Assert.Empty(Lent(desktop));
            using var layout = Layout.Read(desktop.Display);
            Assert.Null(layout.StrokeFor(0, '→'));
        }
    }

    [Fact]
    public void ASecondLinkOnTheSameDisplayIsRefusedWithWords()
    {
        using var desk = new LinkedDesktop(Snippets);
        using var second = new KeyboardLink(desk.Program, () => null, desk.Desktop.Display);
        second.Start();
        Wait.Until("an answer", () => second.State.Problem is not null);
        Assert.False(second.State.IsLinked);
        Assert.Contains(
            "Another Dash Sprout is linked to this display already",
            second.State.Problem,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void SwitchedOffWhileItBeginsItEnds()
    {
        using var desktop = new VirtualDesktop();
        using var desk = new LinkedDesktop(Snippets, desktop);
        for (var round = 0; round < 12; round++)
        {
            desk.Link.Stop();
            Assert.Equal(LinkState.Off, desk.Link.State);
            desk.Link.Start();
            // At another moment of its beginning each time.
            Thread.Sleep(round * 25);
            var stopped = Task.Run(desk.Link.Stop);
            Wait.Until($"the end in round {round}", () => stopped.IsCompleted);
            Assert.Equal(LinkState.Off, desk.Link.State);
            desk.Link.Start();
        }
        Wait.Until("the link", () => desk.Link.State.IsLinked);
        desk.Desktop.Terminal();
        desk.Keyboard.Type(";sl");
        Wait.Until("the text", () => desk.Ended.Count == 1);
    }

    [Fact]
    public void WithoutADisplayTheWordsSayWhatWorks()
    {
        using var desk = new LinkedDesktop(Snippets);
        using var link = new KeyboardLink(desk.Program, () => null, ":4711");
        link.Start();
        Wait.Until("an answer", () => link.State.Problem is not null);
        Assert.Contains("No X display answers at “:4711”", link.State.Problem, StringComparison.Ordinal);
    }

    [Fact]
    public void AWindowThatDiesWhileTextGoesInEndsTheDelivery()
    {
        using var desk = new LinkedDesktop(Snippets);
        var other = desk.Desktop.GtkEditor();
        var terminal = desk.Desktop.Terminal();
        desk.Keyboard.Type(";sl");
        Thread.Sleep(300);
        terminal.Process.Kill(entireProcessTree: true);
        Wait.Until("the other window", () => desk.Desktop.Windows.ActiveId() == other.Window.Id);
        desk.Desktop.Settle();
        desk.Keyboard.Type("teh end");
        Assert.Equal("the end", other.Saved());
    }

    [Fact]
    public void APictureOnTheClipboardComesBackByteForByte()
    {
        using var desk = new LinkedDesktop(Snippets);
        var picture = Path.Combine(desk.Desktop.Folder, "chart.png");
        // Larger than one request of the display, so that it comes and goes in pieces.
        var bytes = new byte[3_000_000];
        new Random(7).NextBytes(bytes);
        File.WriteAllBytes(picture, bytes);
        desk.Desktop.Start("xclip", "-selection", "clipboard", "-t", "image/png", "-i", picture);
        Wait.Until("the picture", () => Kinds().Contains("image/png", StringComparer.Ordinal));
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type(";ln.");
        Assert.Equal("one\ntwo.", editor.Saved());
        Assert.Equal("image/png", Kinds().First(line => line.StartsWith("image", StringComparison.Ordinal)));
        desk.Desktop.Run("bash", "-c", "xclip -selection clipboard -o -t image/png > back.png");
        Assert.Equal(bytes, File.ReadAllBytes(Path.Combine(desk.Desktop.Folder, "back.png")));

        string[] Kinds() => desk.Desktop.Run("xclip", "-selection", "clipboard", "-o", "-t", "TARGETS").Split('\n');
    }

    [Fact]
    public void AHeldKeyIsRepeatedByNobodyButTheUser()
    {
        using var desktop = new VirtualDesktop(repeats: true);
        using var desk = new LinkedDesktop(Snippets, desktop);
        var editor = desk.Desktop.GtkEditor();
        desk.Keyboard.Type("teh");
        var enter = desk.Keyboard.Keycode("Return");
        // Enter sets it off and stays down beyond the repeat delay: one line's end, not twenty.
        desk.Keyboard.Press(enter, true);
        Thread.Sleep(1200);
        desk.Keyboard.Press(enter, false);
        desk.Keyboard.Type("xxxx");
        var back = desk.Keyboard.Keycode("BackSpace");
        desk.Keyboard.Press(back, true);
        Thread.Sleep(2000);
        desk.Keyboard.Press(back, false);
        desk.Keyboard.Type("y");
        Assert.Equal("y", editor.Saved());
    }

    [Fact]
    public void ALetterThatIsHeldDownForgetsTheWord()
    {
        using var desktop = new VirtualDesktop(repeats: true);
        using var desk = new LinkedDesktop(Snippets, desktop);
        var editor = desk.Desktop.GtkEditor();
        var t = desk.Keyboard.Keycode("t");
        desk.Keyboard.Press(t, true);
        Thread.Sleep(900);
        desk.Keyboard.Press(t, false);
        desk.Keyboard.Type("eh x");
        Assert.EndsWith("teh x", editor.Saved(), StringComparison.Ordinal);
    }

    /// <summary>On a busy machine the link reads the end of a short press late: that is no letter held down.</summary>
    [Fact]
    public void AShortPressThatIsReadLateIsNoneThatRepeats()
    {
        const int longerThanTheRepeatDelay = 750,
            shorter = 300;
        using var desktop = new VirtualDesktop(repeats: true);
        using var desk = new LinkedDesktop(Snippets, desktop);
        var editor = desktop.GtkEditor();
        var t = desk.Keyboard.Keycode("t");
        Wait.Until("a short press", () =>
        {
            using var busy = new ManualResetEventSlim();
            var began = Stopwatch.StartNew();
            desk.Keyboard.Press(t, true);
            desktop.Settle();
            desk.OnRenewed = () =>
            {
                desk.OnRenewed = null;
                busy.Set();
                Thread.Sleep(longerThanTheRepeatDelay);
            };
            desk.Link.ProgramChanged();
            busy.Wait();
            desk.Keyboard.Press(t, false);
            desk.Keyboard.Sync();
            if (began.ElapsedMilliseconds < shorter)
                return true;
            // This machine has held the hand itself up for so long that the letter may have repeated.
            desktop.Settle();
            desk.Keyboard.Chord("Control_L", "a");
            desk.Keyboard.Tap("Delete");
            return false;
        });
        desktop.Settle();
        desk.Keyboard.Type("eh x");
        Assert.Equal("the x", editor.Saved());
    }

    [Fact]
    public void KeysOfOtherProgramsAreHeardAndExpandToo()
    {
        using var desk = new LinkedDesktop(Snippets);
        var editor = desk.Desktop.GtkEditor();
        // Another program's keys cannot be held back: what it types on at once would come into the midst of the text.
        desk.Desktop.Run("xdotool", "type", "--delay", "30", "teh ");
        Wait.Until("the text", () => desk.Ended.Count == 1);
        desk.Desktop.Run("xdotool", "type", "--delay", "30", "x");
        Assert.Equal("the x", editor.Saved());
    }

    private static nint[] Lent(VirtualDesktop desktop) =>
        desktop.Connection.Words(desktop.Connection.Root, "_DASH_SPROUT_KEYCODES");
}
