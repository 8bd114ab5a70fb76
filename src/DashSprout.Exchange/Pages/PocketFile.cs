using System.Reflection;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Exchange.Pages;

/// <summary>
/// One page with all snippets that needs nothing else, to find and copy them on a phone: what the program would work
/// out stands there as a gap to type over. Private snippets and those that are off are not on it.
/// </summary>
public static class PocketFile
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        // Nothing in it may end the element it stands in.
        Encoder = JavaScriptEncoder.Create(System.Text.Unicode.UnicodeRanges.All),
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    private static readonly Lazy<string> Page = new(() =>
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("pocket.html")!;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    });

    /// <summary>The page.</summary>
    public static string Write(IEnumerable<Library> libraries) =>
        Page.Value.Replace(
            "[/* snippets */]",
            JsonSerializer.Serialize(libraries.Where(library => library.Enabled).SelectMany(Of), Json),
            StringComparison.Ordinal
        );

    /// <summary>
    /// A snippet on the page: its name, where it lies, what sets it off, its plain text, and its formatted text where
    /// it has one.
    /// </summary>
    private sealed record PocketSnippet(string N, string W, IReadOnlyList<string> T, string P, string? H);

    private static IEnumerable<PocketSnippet> Of(Library library) =>
        library
            .AllSnippets()
            .Where(found => found.OffFolder is null && found.Snippet is { Enabled: true, Private: false })
            .Select(found => new PocketSnippet(
                found.Snippet.Name,
                string.Join(" › ", [library.Name, .. found.Path]),
                [.. found.Snippet.Triggers.Select(trigger => trigger.Text)],
                PreviewText.Of(found.Snippet.Twin ?? found.Snippet.Body),
                found.Snippet.Body is Body.Html html ? WithGaps(html.Markup) : null
            ));

    /// <summary>The markup with a marked gap for each part that is worked out when a snippet goes off.</summary>
    internal static string WithGaps(string markup)
    {
        var parser = new HtmlParser();
        var page = parser.ParseDocument("");
        var body = page.CreateElement("div");
        body.InnerHtml = markup;
        foreach (
            var part in body.QuerySelectorAll(
                    "time, input, textarea, select, output, slot, menu, wbr, kbd, img, aside, a[data-open]"
                )
                .ToList()
        )
        {
            if (Gap(part) is not { } label)
            {
                part.Remove();
                continue;
            }
            var gap = page.CreateElement("mark");
            gap.TextContent = $"⟨{label}⟩";
            part.Replace(gap);
        }
        foreach (var passage in body.QuerySelectorAll("[data-when]").ToList())
            passage.RemoveAttribute("data-when");
        return body.InnerHtml;
    }

    /// <summary>What stands in a gap; null for what leaves none.</summary>
    private static string? Gap(IElement part) =>
        part.LocalName switch
        {
            "time" => part.GetAttribute("data-pattern"),
            "output" => part.GetAttribute("data-formula"),
            "img" => $"picture {part.GetAttribute("alt")}".TrimEnd(),
            "menu" => string.Join(" / ", part.QuerySelectorAll("li").Select(choice => choice.TextContent.Trim())),
            "slot" => part.GetAttribute("name") switch
            {
                "selection" when part.TextContent.Length > 0 => part.TextContent,
                "wait" or "go-to" => null,
                "snippet" => part.GetAttribute("data-ref")?.Split('/')[^1],
                var name => name,
            },
            // What is ticked puts nothing in itself.
            "input" when part.GetAttribute("type") == "checkbox" => null,
            "input" or "textarea" or "select" => part.GetAttribute("title") is { Length: > 0 } title
                ? title
                : part.GetAttribute("name"),
            _ => null,
        };
}
