using System.Text;

namespace DashSprout.Exchange.Lists;

/// <summary>A content line of a vCard (RFC 6350, section 3.3): <c>item1.TEL;TYPE=work:+44 …</c>.</summary>
/// <param name="Line">Where it begins in the file, from 1.</param>
/// <param name="Name">Its property, in capitals and without a group.</param>
/// <param name="Parameters">Its parameters, names in capitals.</param>
/// <param name="Value">Its value as it stands there.</param>
internal sealed record ContactLine(
    int Line,
    string Name,
    IReadOnlyList<(string Name, string Value)> Parameters,
    string Value
)
{
    /// <summary>What kind of number or address it is: <c>work</c>, <c>home</c>, <c>cell</c>; in lower case.</summary>
    public IReadOnlyList<string> Types =>
        [
            .. Parameters
                .Where(parameter => parameter.Name is "TYPE" or "")
                .SelectMany(parameter => parameter.Value.ToLowerInvariant().Split(',')),
        ];

    /// <summary>The lines of a file, those that were folded in one again (section 3.2).</summary>
    public static IEnumerable<ContactLine> Read(string text)
    {
        var (start, open, at) = (0, new StringBuilder(), 0);
        foreach (var line in text.Split('\n'))
        {
            at++;
            if (open.Length > 0 && line is [' ' or '\t', ..])
            {
                open.Append(line.AsSpan(1));
                continue;
            }
            if (Parse(start, open.ToString()) is { } complete)
                yield return complete;
            (start, open) = (at, new StringBuilder(line.TrimEnd('\r')));
        }
        if (Parse(start, open.ToString()) is { } last)
            yield return last;
    }

    /// <summary>A text value without its escapes (section 3.4).</summary>
    public static string Text(string value)
    {
        var text = new StringBuilder(value.Length);
        for (var at = 0; at < value.Length; at++)
        {
            if (value[at] != '\\' || at + 1 == value.Length)
                text.Append(value[at]);
            else
                text.Append(value[++at] is 'n' or 'N' ? '\n' : value[at]);
        }
        return text.ToString().Trim();
    }

    /// <summary>The parts of a structured value such as a name or an address.</summary>
    public static IReadOnlyList<string> Parts(string value)
    {
        var parts = new List<string>();
        var start = 0;
        for (var at = 0; at <= value.Length; at++)
        {
            if (at < value.Length && value[at] == '\\')
                at++;
            else if (at == value.Length || value[at] == ';')
            {
                parts.Add(Text(value[start..at]));
                start = at + 1;
            }
        }
        return parts;
    }

    private static ContactLine? Parse(int line, string text)
    {
        // A colon inside quotation marks belongs to a parameter.
        var (colon, inside) = (-1, false);
        for (var at = 0; at < text.Length && colon < 0; at++)
        {
            if (text[at] == '"')
                inside = !inside;
            else if (text[at] == ':' && !inside)
                colon = at;
        }
        if (colon < 0)
            return null;
        var head = Split(text[..colon]);
        var name = head[0].ToUpperInvariant();
        return new ContactLine(
            line,
            name[(name.LastIndexOf('.') + 1)..],
            [
                .. head.Skip(1)
                    .Select(parameter =>
                        parameter.IndexOf('=') is var equals and >= 0
                            ? (
                                parameter[..equals].ToUpperInvariant(),
                                parameter[(equals + 1)..].Replace("\"", "", StringComparison.Ordinal)
                            )
                            : ("", parameter)
                    ),
            ],
            text[(colon + 1)..]
        );
    }

    private static List<string> Split(string head)
    {
        var parts = new List<string>();
        var (start, inside) = (0, false);
        for (var at = 0; at <= head.Length; at++)
        {
            if (at < head.Length && head[at] == '"')
                inside = !inside;
            if (at < head.Length && (head[at] != ';' || inside))
                continue;
            parts.Add(head[start..at]);
            start = at + 1;
        }
        return parts;
    }
}
