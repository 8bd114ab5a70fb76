using System.Net;
using System.Text;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Exchange.Pages;

/// <summary>
/// What sets each snippet off, on paper: a page to print and the same in Markdown. Snippets that are off, private or
/// set off by nothing do not stand on it.
/// </summary>
public static class CheatSheet
{
    private const int LongestText = 110;

    private const string Style = """
        body { font: 14px/1.4 system-ui, sans-serif; color: #14342b; background: #fff; margin: 2rem auto; max-width: 60rem; padding: 0 1rem; }
        h1 { font-size: 1.5rem; } h2 { font-size: 1.2rem; border-bottom: 2px solid #14342b; } h3 { font-size: 1rem; margin-bottom: .3rem; }
        table { width: 100%; border-collapse: collapse; }
        th, td { text-align: left; vertical-align: top; padding: 3px 12px 3px 0; border-bottom: 1px solid #d6cbb2; overflow-wrap: anywhere; }
        th:nth-child(1) { width: 24%; } th:nth-child(2) { width: 26%; }
        code { font: 700 13px ui-monospace, monospace; white-space: pre-wrap; }
        @media print { body { margin: 0; max-width: none; font-size: 10pt; } tr { break-inside: avoid; } h2, h3 { break-after: avoid; } }
        """;

    /// <summary>A page that needs nothing else and prints well.</summary>
    public static string Html(IEnumerable<Library> libraries)
    {
        var page = new StringBuilder(
            "<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>Cheat sheet</title><style>\n"
        )
            .Append(Style)
            .Append("</style></head><body>\n<h1>Cheat sheet</h1>\n");
        foreach (var (library, groups) in Groups(libraries))
        {
            page.Append("<h2>").Append(Escaped(library)).Append("</h2>\n");
            foreach (var (folder, lines) in groups)
            {
                if (folder.Length > 0)
                    page.Append("<h3>").Append(Escaped(folder)).Append("</h3>\n");
                page.Append("<table><thead><tr><th>Type</th><th>Name</th><th>What goes in</th></tr></thead><tbody>\n");
                foreach (var line in lines)
                {
                    page.Append("<tr><td>")
                        .AppendJoin(", ", line.Triggers.Select(trigger => $"<code>{Escaped(trigger)}</code>"))
                        .Append("</td><td>")
                        .Append(Escaped(line.Name))
                        .Append("</td><td>")
                        .Append(Escaped(line.Text))
                        .Append("</td></tr>\n");
                }
                page.Append("</tbody></table>\n");
            }
        }
        return page.Append("</body></html>\n").ToString();
    }

    /// <summary>The same in Markdown, with tables.</summary>
    public static string Markdown(IEnumerable<Library> libraries)
    {
        var text = new StringBuilder("# Cheat sheet\n");
        foreach (var (library, groups) in Groups(libraries))
        {
            text.Append("\n## ").Append(Plain(library)).Append('\n');
            foreach (var (folder, lines) in groups)
            {
                if (folder.Length > 0)
                    text.Append("\n### ").Append(Plain(folder)).Append('\n');
                text.Append("\n| Type | Name | What goes in |\n| --- | --- | --- |\n");
                foreach (var line in lines)
                    text.Append("| ")
                        .AppendJoin(", ", line.Triggers.Select(Code))
                        .Append(" | ")
                        .Append(Plain(line.Name))
                        .Append(" | ")
                        .Append(Plain(line.Text))
                        .Append(" |\n");
            }
        }
        return text.ToString();
    }

    private sealed record SheetLine(IReadOnlyList<string> Triggers, string Name, string Text);

    private static IEnumerable<(
        string Library,
        IReadOnlyList<(string Folder, IReadOnlyList<SheetLine> Lines)> Groups
    )> Groups(IEnumerable<Library> libraries)
    {
        foreach (var library in libraries)
        {
            var groups = library
                .AllSnippets()
                .Where(found =>
                    found.OffFolder is null && found.Snippet is { Enabled: true, Private: false, Triggers.Count: > 0 }
                )
                .GroupBy(
                    found => string.Join(" › ", found.Path),
                    found => new SheetLine(
                        [.. found.Snippet.Triggers.Select(Typed)],
                        found.Snippet.Name,
                        Beginning(found.Snippet.Body)
                    )
                )
                .Select(group => (group.Key, (IReadOnlyList<SheetLine>)[.. group]))
                .ToList();
            if (groups.Count > 0)
                yield return (library.Name, groups);
        }
    }

    /// <summary>A trigger as one types it; a chord with its space by name.</summary>
    private static string Typed(Trigger trigger) =>
        trigger is Trigger.Hotkey && trigger.Text.EndsWith(' ') ? trigger.Text[..^1] + "Space" : trigger.Text;

    private static string Beginning(Body body)
    {
        var words = PreviewText.Of(body).ReplaceLineEndings(" ⏎ ").Trim();
        var end = Graphemes.Offset(words, LongestText);
        return end < words.Length ? words[..end] + "…" : words;
    }

    private static string Escaped(string text) => WebUtility.HtmlEncode(text);

    /// <summary>A text in a cell or heading: no sign of it means anything.</summary>
    private static string Plain(string text)
    {
        var escaped = new StringBuilder(text.Length);
        foreach (var unit in text)
        {
            if (
                char.IsAscii(unit) && char.IsPunctuation(unit)
                || unit is '|' or '`' or '<' or '>' or '~' or '^' or '$' or '+' or '='
            )
                escaped.Append('\\');
            escaped.Append(unit);
        }
        return escaped.ToString();
    }

    /// <summary>
    /// A code span that holds a text, whatever backticks are in it. Readers differ in what a bar is in a code span of a
    /// table, so that one has none.
    /// </summary>
    private static string Code(string text)
    {
        if (text.Contains('|', StringComparison.Ordinal))
            return Plain(text);
        var longest = 0;
        for (int at = 0, run = 0; at < text.Length; at++)
            longest = Math.Max(longest, run = text[at] == '`' ? run + 1 : 0);
        var fence = new string('`', longest + 1);
        var padding = text.StartsWith('`') || text.EndsWith('`') ? " " : "";
        return $"{fence}{padding}{text}{padding}{fence}";
    }
}
