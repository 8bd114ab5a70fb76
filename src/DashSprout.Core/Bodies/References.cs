using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;

namespace DashSprout.Core.Bodies;

/// <summary>
/// References from one snippet to another. Where snippets are kept a reference is an identity (<c>#42</c>), so that
/// renaming and moving break nothing; files write it as a path (<c>Library/Folder/Name</c>).
/// </summary>
public static partial class References
{
    /// <summary>The reference to a snippet by its identity.</summary>
    public static string To(long id) => $"#{id.ToString(CultureInfo.InvariantCulture)}";

    /// <summary>The identity that a reference holds; null for a path.</summary>
    public static long? Id(string target) =>
        target.StartsWith('#')
        && long.TryParse(target.AsSpan(1), NumberStyles.None, CultureInfo.InvariantCulture, out var id)
            ? id
            : null;

    /// <summary>Whether a body refers to another snippet at all.</summary>
    public static bool Any(Body body) =>
        body is Body.Html html && html.Markup.Contains("data-ref=", StringComparison.Ordinal);

    /// <summary>What a body refers to, each once.</summary>
    public static IReadOnlyList<string> In(Body body) =>
        Any(body)
            ? [.. body.Tree.Inlines().OfType<Inline.Reference>().Select(reference => reference.Target).Distinct()]
            : [];

    /// <summary>The body with other references; the same body when none of them is another one.</summary>
    public static Body Rewrite(Body body, Func<string, string> target)
    {
        if (!Any(body))
            return body;
        var markup = ((Body.Html)body).Markup;
        // Markup that is kept was written by the body writer, so a reference has one form only.
        var rewritten = Written()
            .Replace(markup, found =>
            {
                var old = WebUtility.HtmlDecode(found.Groups[1].Value);
                return target(old) is var next && next == old
                    ? found.Value
                    : $"<slot name=\"snippet\" data-ref=\"{Markup.Escaped(next)}\"></slot>";
            });
        return rewritten == markup ? body : new Body.Html(rewritten);
    }

    [GeneratedRegex("<slot name=\"snippet\" data-ref=\"([^\"]*)\"></slot>", RegexOptions.CultureInvariant)]
    private static partial Regex Written();
}
