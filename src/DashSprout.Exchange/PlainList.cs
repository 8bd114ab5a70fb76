using System.Text.RegularExpressions;
using DashSprout.Core;

namespace DashSprout.Exchange;

/// <summary>A line of a pasted list.</summary>
/// <param name="Line">Its place in the list, from 1; empty lines are counted and left out.</param>
/// <param name="Code">The abbreviation; empty when the line holds none.</param>
/// <param name="Text">What it stands for.</param>
/// <param name="Problem">Why the line cannot be used; null when it can.</param>
public sealed record ListLine(int Line, string Code, string Text, string? Problem);

/// <summary>
/// A list of abbreviations with their texts, one a line: <c>code</c>, then a tab, <c>=</c> or a comma, then the text.
/// What most lines have between the two is tried first in all of them, since a text may hold the other signs.
/// </summary>
public static partial class PlainList
{
    /// <summary>How many lines a pasted list has at most.</summary>
    public const int MostLines = 2000;

    private static readonly Func<Regex>[] Forms = [Tab, EqualsSign, Comma];

    /// <summary>Reads a list; throws <see cref="InvalidInputException"/> when it is too long.</summary>
    public static IReadOnlyList<ListLine> Read(string list, int most = MostLines)
    {
        var lines = list.TrimStart('\uFEFF').ReplaceLineEndings("\n").Split('\n');
        if (lines.Length > most)
            throw new InvalidInputException(
                "text",
                $"The list has {lines.Length} lines; {most} are allowed at once. Divide it."
            );
        var forms = Forms
            .Select(form => form())
            .OrderByDescending(form => lines.Count(line => form.IsMatch(line)))
            .ToList();
        return
        [
            .. lines
                .Select((line, at) => (line, at))
                .Where(one => one.line.Trim().Length > 0)
                .Select(one => Line(one.at + 1, one.line, forms)),
        ];
    }

    private static ListLine Line(int number, string line, IReadOnlyList<Regex> forms)
    {
        foreach (var form in forms)
            if (form.Match(line) is { Success: true } found)
                return new ListLine(number, found.Groups[1].Value, found.Groups[2].Value, null);
        return new ListLine(
            number,
            "",
            line.Trim(),
            "There is no tab, = or comma between an abbreviation and its text."
        );
    }

    [GeneratedRegex(@"^\s*(\S+) *\t\s*(\S.*?)\s*$", RegexOptions.CultureInvariant)]
    private static partial Regex Tab();

    [GeneratedRegex(@"^\s*(\S+?)\s*=\s*(\S.*?)\s*$", RegexOptions.CultureInvariant)]
    private static partial Regex EqualsSign();

    [GeneratedRegex(@"^\s*(\S+?)\s*,\s*(\S.*?)\s*$", RegexOptions.CultureInvariant)]
    private static partial Regex Comma();
}
