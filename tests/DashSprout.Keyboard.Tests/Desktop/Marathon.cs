using System.Diagnostics;
using System.Text;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>
/// Somebody who types on and on, each key held beyond the next, while abbreviations go off; read back from what the
/// application holds.
/// </summary>
internal static class Marathon
{
    public const string Snippets = """
        { "name": "Berth confirmed", "text": "Your berth is ready.", "triggers": [ { "kind": "abbreviation", "text": ";bc", "timing": "at-once" } ] },
        { "name": "The", "text": "the", "triggers": [ { "kind": "abbreviation", "text": "teh", "case": "mirror" } ] },
        { "name": "Hotkey", "text": "Harbour office Gull.", "triggers": [ { "kind": "hotkey", "text": "Ctrl+Alt+H" } ] }
        """;

    /// <summary>The same, through the clipboard.</summary>
    public static string PastedSnippets { get; } =
        Snippets.Replace(
            "\"name\": \"Berth",
            "\"delivery\": \"clipboard\", \"name\": \"Berth",
            StringComparison.Ordinal
        );

    private const string Typed = " so ;bcAnd teh Quay",
        Expanded = " so Your berth is ready.And the Quay";

    /// <summary>Expansions in one line.</summary>
    private const int PerLine = 2;

    private const int LinesPerBatch = 20;

    /// <summary>
    /// Types lines with expansions into a terminal; gives how many were done, and what the lines that came out wrong
    /// hold.
    /// </summary>
    public static (int Done, IReadOnlyList<string> Wrong) InTerminal(
        LinkedDesktop desk,
        OpenApplication terminal,
        int expansions
    )
    {
        var lines = Lines(expansions);
        foreach (var line in lines)
            desk.Keyboard.Type(line + Typed + "\n");
        Wait.Until("all lines", () => terminal.Lines().Length >= lines.Count);
        return (lines.Count * PerLine, [.. Wrong(lines, terminal.Lines())]);
    }

    /// <summary>The same in an editor, which saves what it holds.</summary>
    /// <param name="saved">Has it saved, and gives what it holds.</param>
    public static (int Done, IReadOnlyList<string> Wrong) InEditor(
        LinkedDesktop desk,
        Func<string> saved,
        int expansions
    )
    {
        var wrong = new List<string>();
        var all = Lines(expansions);
        foreach (var lines in all.Chunk(LinesPerBatch))
        {
            foreach (var line in lines)
                desk.Keyboard.Type(line + Typed + "\n");
            wrong.AddRange(Wrong(lines, saved().Split('\n', StringSplitOptions.RemoveEmptyEntries)));
            desk.Keyboard.Chord("Control_L", "a");
            desk.Keyboard.Tap("Delete");
        }
        return (all.Count * PerLine, wrong);
    }

    /// <summary>The same in a field of a page, which tells what it holds in its title.</summary>
    public static (int Done, IReadOnlyList<string> Wrong) InPage(LinkedDesktop desk, BrowserField field, int expansions)
    {
        var wrong = new List<string>();
        var all = Lines(expansions);
        // A page that has just opened says that it has the keyboard a little before its keys arrive.
        Wait.Until("the first key in the page", () =>
        {
            desk.Keyboard.Type("x");
            desk.Desktop.Settle();
            return field.Text()?.Length > 0;
        });
        Empty(desk, field);
        foreach (var line in all)
        {
            desk.Keyboard.Type(line + Typed);
            var wanted = line + Expanded;
            desk.Desktop.Settle();
            if (!field.Comes(wanted))
                wrong.Add($"“{field.Text()}” for “{wanted}”");
            Empty(desk, field);
        }
        return (all.Count * PerLine, wrong);
    }

    private static void Empty(LinkedDesktop desk, BrowserField field)
    {
        desk.Keyboard.Chord("Control_L", "a");
        desk.Keyboard.Tap("Delete");
        Wait.Until("the empty field", () => field.Text() == "");
    }

    /// <summary>Each key is pressed so long after the one before, and held beyond the next.</summary>
    public static void Pace(LinkedDesktop desk, int everyMs = 20) =>
        (desk.Keyboard.EveryMs, desk.Keyboard.HoldMs, desk.Keyboard.ShiftMs) = (
            everyMs,
            Math.Max(60, everyMs * 5 / 4),
            everyMs / 4
        );

    private static List<string> Lines(int expansions) =>
        [.. Enumerable.Range(0, Math.Max(1, expansions / PerLine)).Select(at => $"l{at}")];

    private static IEnumerable<string> Wrong(IReadOnlyList<string> lines, string[] held) =>
        lines
            .Select((line, at) => (Wanted: line + Expanded, Held: at < held.Length ? held[at] : ""))
            .Where(pair => pair.Held != pair.Wanted)
            .Select(pair => $"“{pair.Held}” for “{pair.Wanted}”")
            .Concat(held.Skip(lines.Count).Select(more => $"“{more}” more"));
}

/// <summary>A page in Chromium with one field, whose content is told by the window's title.</summary>
internal sealed class BrowserField
{
    private readonly VirtualDesktop desktop;
    private readonly nint window;

    /// <param name="isRich">A contenteditable element rather than a plain field.</param>
    /// <param name="isFirefox">Whether another family of browsers shows it.</param>
    public BrowserField(VirtualDesktop desktop, bool isRich, bool isFirefox = false)
    {
        this.desktop = desktop;
        var file = Path.Combine(desktop.Folder, $"field-{isRich}.html");
        var field = isRich
            ? "<div id=f contenteditable style='white-space:pre-wrap;min-height:200px'></div>"
            : "<textarea id=f rows=10 cols=80></textarea>";
        File.WriteAllText(
            file,
            $$"""
            <!doctype html><meta charset=utf-8><title>field</title>{{field}}<script>
            const f = document.getElementById("f");
            // Only a page that has the keyboard says so: what is typed before goes nowhere.
            const tell = () => { if (document.hasFocus()) document.title = `held [${(f.value ?? f.textContent).replaceAll("\u00a0", " ")}]`; };
            f.addEventListener("input", tell); addEventListener("focus", tell); f.focus(); tell();
            </script>
            """
        );
        window = isFirefox ? InFirefox(file) : InChromium(file, isRich);
        Wait.Until("the field", () => Text() == "");
    }

    private nint InChromium(string file, bool isRich)
    {
        desktop.Start(
            "chromium",
            $"--app=file://{file}",
            $"--user-data-dir={Path.Combine(desktop.Folder, $"profile-{isRich}")}",
            "--class=FieldPage",
            "--ozone-platform=x11",
            "--no-first-run",
            "--no-default-browser-check",
            "--password-store=basic",
            "--disable-background-networking",
            "--disable-extensions",
            "--no-sandbox",
            "--test-type",
            "--disable-gpu",
            "--disable-dev-shm-usage"
        );
        return desktop.Await("FieldPage").Id;
    }

    private nint InFirefox(string file)
    {
        var profile = Path.Combine(desktop.Folder, $"firefox-{Guid.NewGuid():N}");
        Directory.CreateDirectory(profile);
        File.WriteAllText(
            Path.Combine(profile, "user.js"),
            """
            user_pref("browser.shell.checkDefaultBrowser", false);
            user_pref("browser.aboutwelcome.enabled", false);
            user_pref("datareporting.policy.dataSubmissionEnabled", false);
            user_pref("toolkit.telemetry.reportingpolicy.firstRun", false);
            user_pref("browser.startup.homepage_override.mstone", "ignore");
            user_pref("termsofuse.bypassNotification", true);
            user_pref("app.normandy.enabled", false);
            user_pref("app.update.enabled", false);
            """
        );
        desktop.Start("firefox-esr", "--no-remote", "--profile", profile, $"file://{file}");
        nint found = 0;
        Wait.Until("the browser", () =>
        {
            var active = desktop.Windows.Active();
            found = active.Id;
            return active.Title.StartsWith("held [", StringComparison.Ordinal);
        });
        return found;
    }

    /// <summary>Waits for what is to be in the field; false when something else stays there.</summary>
    public bool Comes(string wanted)
    {
        for (var (last, since) = (Text(), Stopwatch.StartNew()); last != wanted; Thread.Sleep(10))
        {
            if (Text() is var now && now != last)
                (last, since) = (now, Stopwatch.StartNew());
            // What has not changed for so long is not on its way any more.
            if (since.Elapsed > Patience.Longest / 6)
                return false;
        }
        return true;
    }

    /// <summary>What the field holds; null when the page does not tell.</summary>
    public string? Text() =>
        desktop.Windows.Of(window).Title is ['h', 'e', 'l', 'd', ' ', '[', .. var rest]
        && rest.LastIndexOf(']') is var end and >= 0
            ? rest[..end]
            : null;
}

/// <summary>A terminal that tells each byte as it comes: the time from a key to the text shown.</summary>
internal sealed class ByteTerminal : IDisposable
{
    private readonly FileStream bytes;
    private readonly StringBuilder text = new();
    private readonly Lock gate = new();

    public ByteTerminal(VirtualDesktop desktop)
    {
        var pipe = Path.Combine(desktop.Folder, "bytes");
        desktop.Run("mkfifo", pipe);
        desktop.Start(
            "xterm",
            "-xrm",
            "*backarrowKeyIsErase: true",
            "-e",
            "bash",
            "-c",
            $"stty raw -echo; exec cat > {pipe}"
        );
        bytes = new FileStream(pipe, FileMode.Open, FileAccess.Read);
        new Thread(Read) { IsBackground = true }.Start();
        desktop.Await("XTerm");
    }

    /// <summary>When the last byte came, in <see cref="Stopwatch"/> ticks.</summary>
    public long LastAt { get; private set; }

    /// <summary>Waits until a text has come, and forgets it.</summary>
    public void Await(string end)
    {
        Wait.Until($"“{end}”", () =>
        {
            lock (gate)
                return text.ToString().EndsWith(end, StringComparison.Ordinal);
        });
        lock (gate)
            text.Clear();
    }

    public void Dispose() => bytes.Dispose();

    private void Read()
    {
        var buffer = new byte[4096];
        try
        {
            while (bytes.Read(buffer) is var count and > 0)
            {
                var now = Stopwatch.GetTimestamp();
                lock (gate)
                {
                    LastAt = now;
                    text.Append(Encoding.UTF8.GetString(buffer, 0, count));
                }
            }
        }
        catch (ObjectDisposedException)
        {
            // The terminal is done with.
        }
    }
}
