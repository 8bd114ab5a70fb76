namespace DashSprout.Core.Bodies;

/// <summary>
/// Counts what an HTML source holds before it is parsed, in one pass: a parser that repairs wrong HTML can take a small
/// source for a very large tree.
/// </summary>
internal static class MarkupScan
{
    /// <summary>Elements that have no end, or whose end may be left out: they do not stay open.</summary>
    private static readonly HashSet<string> NeverOpen = new(StringComparer.OrdinalIgnoreCase)
    {
        "area",
        "base",
        "br",
        "col",
        "embed",
        "hr",
        "img",
        "input",
        "link",
        "meta",
        "param",
        "source",
        "track",
        "wbr",
        "p",
        "li",
        "dt",
        "dd",
        "tr",
        "td",
        "th",
        "thead",
        "tbody",
        "tfoot",
        "colgroup",
        "caption",
        "option",
        "optgroup",
        "rp",
        "rt",
    };

    /// <summary>Elements whose content is text and no markup.</summary>
    private static readonly HashSet<string> Texts = new(StringComparer.OrdinalIgnoreCase)
    {
        "script",
        "style",
        "textarea",
        "title",
        "xmp",
        "iframe",
        "noembed",
        "noframes",
        "plaintext",
    };

    /// <summary>Why a source is too large to be read; null when it is not.</summary>
    public static string? Problem(string source)
    {
        var open = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        int parts = 0,
            ends = 0,
            depth = 0,
            at = 0;
        while ((at = source.IndexOf('<', at)) >= 0 && at + 1 < source.Length)
        {
            var next = source[at + 1];
            if (source.AsSpan(at).StartsWith("<!--", StringComparison.Ordinal))
            {
                var end = source.IndexOf("-->", at + 2, StringComparison.Ordinal);
                if (++parts > BodyLimits.MostParts)
                    return BodyLimits.TooManyParts;
                if (end < 0)
                    break;
                at = end + 3;
            }
            else if (next is '!' or '?')
            {
                if (++parts > BodyLimits.MostParts)
                    return BodyLimits.TooManyParts;
                at += 2;
            }
            else if (next == '/' && at + 2 < source.Length && char.IsAsciiLetter(source[at + 2]))
            {
                // An end without a start may stand for an element too.
                if (++ends > 2 * BodyLimits.MostParts)
                    return BodyLimits.TooManyParts;
                var name = Name(source, at + 2);
                at += 2 + name.Length;
                if (!open.TryGetValue(name, out var count) || count == 0)
                    continue;
                open[name] = count - 1;
                depth--;
            }
            else if (char.IsAsciiLetter(next))
            {
                if (++parts > BodyLimits.MostParts)
                    return BodyLimits.TooManyParts;
                var name = Name(source, at + 1);
                at = AfterAttributes(source, at + 1 + name.Length, out var attributes);
                if (attributes > BodyLimits.MostAttributes)
                    return $"<{name}> has more than {BodyLimits.MostAttributes} attributes. Leave out those that are "
                        + "not needed.";
                if (Texts.Contains(name))
                {
                    var end = source.IndexOf("</" + name, at, StringComparison.OrdinalIgnoreCase);
                    if (end < 0)
                        break;
                    at = end;
                }
                else if (!NeverOpen.Contains(name))
                {
                    open[name] = open.GetValueOrDefault(name) + 1;
                    if (++depth > BodyLimits.MostDepth)
                        return BodyLimits.TooDeep;
                }
            }
            else
            {
                at++;
            }
        }
        return null;
    }

    private static string Name(string source, int start)
    {
        var end = start;
        while (end < source.Length && source[end] is not ('>' or '/' or '<') && !char.IsWhiteSpace(source[end]))
            end++;
        return source[start..end];
    }

    /// <summary>The place behind a start tag; quoted values may hold what ends it.</summary>
    private static int AfterAttributes(string source, int at, out int attributes)
    {
        attributes = 0;
        var between = true;
        while (at < source.Length && source[at] != '>')
        {
            var unit = source[at];
            if (char.IsWhiteSpace(unit) || unit == '/')
            {
                between = true;
            }
            else if (unit == '=')
            {
                at++;
                while (at < source.Length && char.IsWhiteSpace(source[at]))
                    at++;
                if (at >= source.Length)
                    break;
                if (source[at] is '"' or '\'')
                {
                    var end = source.IndexOf(source[at], at + 1);
                    if (end < 0)
                        return source.Length;
                    at = end;
                    between = true;
                }
                else
                {
                    while (at < source.Length && source[at] != '>' && !char.IsWhiteSpace(source[at]))
                        at++;
                    between = true;
                    continue;
                }
            }
            else if (between)
            {
                attributes++;
                between = false;
            }
            at++;
        }
        return Math.Min(at + 1, source.Length);
    }
}
