using DashSprout.Core;

namespace DashSprout.Exchange.Prose;

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
public static class PlainList
{
    /// <summary>How many lines a pasted list has at most.</summary>
    public const int MostLines = 2000;

    /// <summary>The signs between an abbreviation and its text.</summary>
    private static readonly char[] Signs = ['\t', '=', ','];

    /// <summary>Reads a list; throws <see cref="InvalidInputException"/> when it is too long.</summary>
    public static IReadOnlyList<ListLine> Read(
        string list,
        int most = MostLines,
        CancellationToken cancellation = default
    )
    {
        var lines = list.TrimStart('\uFEFF').ReplaceLineEndings("\n").Split('\n');
        if (lines.Length > most)
            throw new InvalidInputException(
                "text",
                $"The list has {lines.Length} lines; {most} are allowed at once. Divide it."
            );
        cancellation.ThrowIfCancellationRequested();
        var signs = Signs.OrderByDescending(sign => lines.Count(line => Divided(line, sign) is not null)).ToList();
        cancellation.ThrowIfCancellationRequested();
        return
        [
            .. lines
                .Select((line, at) => (line, at))
                .Where(one => one.line.Trim().Length > 0)
                .Select(one => Line(one.at + 1, one.line, signs)),
        ];
    }

    private static ListLine Line(int number, string line, IReadOnlyList<char> signs)
    {
        foreach (var sign in signs)
            if (Divided(line, sign) is var (code, text))
                return new ListLine(number, code, text, null);
        return new ListLine(
            number,
            "",
            line.Trim(),
            "There is no tab, = or comma between an abbreviation and its text."
        );
    }

    /// <summary>
    /// The abbreviation and the text on both sides of the first sign behind one word; null when there is none. Blanks
    /// may stand around the sign.
    /// </summary>
    private static (string Code, string Text)? Divided(string line, char sign)
    {
        var rest = line.AsSpan().TrimStart();
        var end = 0;
        while (end < rest.Length && !char.IsWhiteSpace(rest[end]) && (end == 0 || rest[end] != sign))
            end++;
        var code = rest[..end];
        var behind = rest[end..];
        // A tab is white space itself: only other blanks may stand before it.
        behind = sign == '\t' ? behind.TrimStart(' ') : behind.TrimStart();
        if (code.Length == 0 || behind.Length == 0 || behind[0] != sign)
            return null;
        var text = behind[1..].Trim();
        return text.Length == 0 ? null : (code.ToString(), text.ToString());
    }
}
