using DashSprout.Core;

namespace DashSprout.Exchange.Prose;

/// <summary>
/// How much of what a Markdown reader must try again and again one paragraph may have: brackets and backticks that find
/// no partner, and lists in lists, cost it more than their number.
/// </summary>
internal static class MarkdownLimits
{
    /// <summary>The words for Markdown that is nested without measure.</summary>
    public const string TooDeep =
        "The Markdown is nested too deeply to be shown. Take some of the brackets, quotations or lists in it away.";

    private const int MostSigns = 3000,
        MostSignsInAll = 200_000,
        MostDepth = 60;

    /// <summary>Throws <see cref="InvalidInputException"/> for a text that would take without end.</summary>
    public static void Check(string field, string text)
    {
        int line = 1,
            signs = 0,
            all = 0;
        foreach (var written in text.AsSpan().EnumerateLines())
        {
            if (written.IsWhiteSpace())
                signs = 0;
            foreach (var unit in written)
                if (unit is '[' or ']' or '(' or '`' or '<' or '*' or '_' or '~' or '!')
                    (signs, all) = (signs + 1, all + 1);
            if (all > MostSignsInAll)
                throw new InvalidInputException(
                    field,
                    $"There are more than {MostSignsInAll} brackets, backticks and stars up to line {line}. Divide the text."
                );
            if (signs > MostSigns)
                throw new InvalidInputException(
                    field,
                    $"The paragraph at line {line} has more than {MostSigns} brackets, backticks and stars. "
                        + "Divide it by empty lines."
                );
            if (Depth(written) > MostDepth)
                throw new InvalidInputException(field, $"{TooDeep} (line {line})");
            line++;
        }
    }

    /// <summary>How deep the lists and quotations go that a line may begin or lie in.</summary>
    private static int Depth(ReadOnlySpan<char> line)
    {
        int depth = 0,
            blanks = 0,
            at = 0;
        while (at < line.Length)
        {
            var unit = line[at];
            if (unit is ' ' or '\t')
            {
                blanks += unit == ' ' ? 1 : 4;
                at++;
            }
            else if (unit == '>')
            {
                depth++;
                at++;
            }
            else if (MarkEnd(line, at) is > 0 and var end)
            {
                depth++;
                at = end;
            }
            else
                break;
        }
        // Two blanks are the least that a list in a list stands further in; a line without a sign is only a text.
        return depth == 0 ? 0 : Math.Max(depth, blanks / 2);
    }

    /// <summary>Where the sign of a list ends that begins here; 0 where none does.</summary>
    private static int MarkEnd(ReadOnlySpan<char> line, int at)
    {
        var end = at;
        while (end < line.Length && end - at < 9 && char.IsAsciiDigit(line[end]))
            end++;
        if (end >= line.Length || (end > at ? line[end] is not ('.' or ')') : line[end] is not ('-' or '+' or '*')))
            return 0;
        end++;
        return end == line.Length || line[end] is ' ' or '\t' ? end : 0;
    }
}
