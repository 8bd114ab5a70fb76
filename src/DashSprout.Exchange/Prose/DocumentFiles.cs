using System.Text.RegularExpressions;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Exchange.Files;
using Markdig;

namespace DashSprout.Exchange.Prose;

/// <summary>A text file by its name.</summary>
/// <param name="Name">With the folders it lies in, divided by slashes.</param>
public sealed record NamedText(string Name, string Text);

/// <summary>
/// Markdown and HTML files as snippets, one each; a Markdown file may begin with fields between two lines of
/// <c>---</c>.
/// </summary>
public static partial class DocumentFiles
{
    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder()
        .UsePipeTables()
        .UseEmphasisExtras()
        .Build();

    /// <summary>The snippets of some files, by their names; the folders they lie in become folders.</summary>
    public static IReadOnlyList<IncomingRow> Read(
        IReadOnlyList<NamedText> files,
        ICollection<PictureData> pictures,
        CancellationToken cancellation = default
    ) =>
        [
            .. files
                .OrderBy(file => file.Name, StringComparer.OrdinalIgnoreCase)
                .Select(
                    (file, at) =>
                    {
                        cancellation.ThrowIfCancellationRequested();
                        return Row(file, at + 1, pictures);
                    }
                ),
        ];

    private static IncomingRow Row(NamedText file, int number, ICollection<PictureData> pictures)
    {
        var way = file.Name.Split('/', StringSplitOptions.RemoveEmptyEntries);
        var name = Path.GetFileNameWithoutExtension(way[^1]);
        try
        {
            var (fields, text) = Divided(file.Text);
            var isHtml = Path.GetExtension(way[^1]).ToLowerInvariant() is ".html" or ".htm";
            var markup = InlinePictures.Take(isHtml ? InBody(text) : Written(text), pictures);
            // What is one plain paragraph is kept as plain text.
            var plain =
                PlainParagraph().Match(markup) is { Success: true } only && !only.Groups[1].Value.Contains('<')
                    ? System.Net.WebUtility.HtmlDecode(only.Groups[1].Value)
                    : null;
            var triggers = fields
                .Where(field => field.Name is "abbreviation" or "trigger")
                .SelectMany(field => field.Values)
                .Select(typed => new TriggerDocument("abbreviation", typed))
                .ToList();
            var tags = fields.Where(field => field.Name == "tags").SelectMany(field => field.Values).ToList();
            string? First(string field) =>
                fields.Where(one => one.Name == field).SelectMany(one => one.Values).FirstOrDefault();
            var note = First("note");
            string[] parts =
            [
                SnippetParts.Text,
                .. triggers.Count > 0 ? [SnippetParts.Triggers] : Array.Empty<string>(),
                .. tags.Count > 0 ? [SnippetParts.Tags] : Array.Empty<string>(),
                .. note is not null ? [SnippetParts.Note] : Array.Empty<string>(),
            ];
            var document = new SnippetDocument(
                First("name") ?? First("title") ?? name,
                Note: note,
                Body: plain is null ? markup : null,
                Text: plain,
                Triggers: triggers,
                Tags: tags
            );
            return new IncomingRow(number, null, way[..^1], document, parts);
        }
        catch (InvalidInputException exception)
        {
            return new IncomingRow(
                number,
                null,
                way[..^1],
                new SnippetDocument(name, Text: "", Triggers: []),
                [],
                exception.Message
            );
        }
    }

    private static string Written(string markdown)
    {
        MarkdownLimits.Check("file", markdown);
        try
        {
            return Markdig.Markdown.ToHtml(markdown, Pipeline);
        }
        catch (ArgumentException)
        {
            throw new InvalidInputException("file", MarkdownLimits.TooDeep);
        }
    }

    /// <summary>The fields in front of a text, each with its values, and the text behind them.</summary>
    private static (IReadOnlyList<(string Name, IReadOnlyList<string> Values)> Fields, string Text) Divided(string file)
    {
        if (FrontMatter().Match(file) is not { Success: true } front)
            return ([], file);
        var fields = front
            .Groups[1]
            .Value.Split('\n')
            .Select(line => line.Split(':', 2))
            .Where(pair => pair.Length == 2)
            .Select(pair => (pair[0].Trim().ToLowerInvariant(), (IReadOnlyList<string>)[.. Values(pair[1])]))
            .ToList();
        return (fields, file[front.Length..]);
    }

    private static IEnumerable<string> Values(string written) =>
        (written.Trim() is ['[', .., ']'] list ? list[1..^1].Split(',') : [written.Trim()])
            .Select(value => value.Trim().Trim('"', '\''))
            .Where(value => value.Length > 0);

    /// <summary>What stands in the body element; all where there is none.</summary>
    private static string InBody(string html)
    {
        var start = html.IndexOf("<body", StringComparison.OrdinalIgnoreCase);
        var inside = start < 0 ? -1 : html.IndexOf('>', start);
        if (inside < 0)
            return html;
        var end = html.IndexOf("</body>", inside, StringComparison.OrdinalIgnoreCase);
        return html[(inside + 1)..(end < 0 ? html.Length : end)];
    }

    [GeneratedRegex(@"\A---\n(.*?)\n---(?:\n|\z)", RegexOptions.Singleline | RegexOptions.CultureInvariant)]
    private static partial Regex FrontMatter();

    [GeneratedRegex(@"\A<p>([^\n]*)</p>\s*\z", RegexOptions.CultureInvariant)]
    private static partial Regex PlainParagraph();
}
