using System.Text.RegularExpressions;

namespace DashSprout.Bench;

/// <summary>
/// An open text of many hands: what the packages that the page is built from say of themselves (their read-me files, as
/// the lock file pins them), as lines that somebody might type.
/// </summary>
internal static partial class OpenText
{
    /// <summary>The lines, in the order of the packages' names; empty when the packages are not installed.</summary>
    public static IReadOnlyList<string> Lines()
    {
        var folder = Folder();
        if (folder is null)
            return [];
        var lines = new List<string>();
        foreach (
            var file in Directory
                .EnumerateFiles(folder, "*.md", SearchOption.AllDirectories)
                .Where(file => Path.GetFileName(file).StartsWith("readme", StringComparison.OrdinalIgnoreCase))
                .Order(StringComparer.Ordinal)
        )
            lines.AddRange(Prose(File.ReadAllText(file)));
        return lines;
    }

    private static string? Folder()
    {
        for (var at = new DirectoryInfo(AppContext.BaseDirectory); at is not null; at = at.Parent)
            if (File.Exists(Path.Combine(at.FullName, "DashSprout.slnx")))
                return Path.Combine(at.FullName, "node_modules") is var found && Directory.Exists(found) ? found : null;
        return null;
    }

    /// <summary>Paragraphs without marks, code, tables and addresses.</summary>
    private static IEnumerable<string> Prose(string markdown)
    {
        foreach (var paragraph in Blank().Split(Code().Replace(markdown.ReplaceLineEndings("\n"), "\n\n")))
        {
            if (
                paragraph.TrimStart() is not [>= 'A' and <= 'z' or '-' or '*', ..]
                || paragraph.Contains("    ", StringComparison.Ordinal)
                || paragraph.Contains('|')
                || paragraph.Contains('<')
            )
                continue;
            var text = Link().Replace(paragraph, "$1");
            foreach (var item in Item().Split(text))
            {
                var line = Space().Replace(Mark().Replace(item, ""), " ").Trim();
                if (line.Count(unit => unit == ' ') >= 3)
                    yield return line;
            }
        }
    }

    [GeneratedRegex("```.*?(```|$)|~~~.*?(~~~|$)", RegexOptions.Singleline)]
    private static partial Regex Code();

    [GeneratedRegex(@"\n\s*\n")]
    private static partial Regex Blank();

    [GeneratedRegex(@"!?\[([^\]]*)\](\([^)]*\)|\[[^\]]*\])?")]
    private static partial Regex Link();

    [GeneratedRegex(@"\n\s*[-*] |^[-*] ")]
    private static partial Regex Item();

    [GeneratedRegex("[*`#_]")]
    private static partial Regex Mark();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Space();
}
