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
