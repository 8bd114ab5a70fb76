using DashSprout.Core;
using DashSprout.Core.Bodies;
using Markdig;
using Markdig.Extensions.EmphasisExtras;
using Markdig.Parsers;
using Markdig.Syntax;
using Markdig.Syntax.Inlines;

namespace DashSprout.Exchange.Prose;

/// <summary>CommonMark with tables, read to be looked at.</summary>
public static class MarkdownText
{
    /// <summary>The longest text, in UTF-16 units.</summary>
    public const int MaxLength = 200_000;

    /// <summary>
    /// Elements that stand for formatting where Markdown's own signs cannot; all other HTML is shown as written.
    /// </summary>
    private static readonly HashSet<string> Formatting =
    [
        "<strong>",
        "</strong>",
        "<em>",
        "</em>",
        "<s>",
        "</s>",
        "<code>",
        "</code>",
        "<br>",
    ];

    private static readonly MarkdownPipeline Pipeline = Make();

    /// <summary>
    /// The HTML of a text. HTML within it that is no formatting is shown as written, and what comes out goes through
    /// the body's typed tree, so that nothing unsafe is in it.
    /// </summary>
    public static string ToHtml(string text)
    {
        if (text.Length > MaxLength)
            throw new InvalidInputException(
                "text",
                $"The text has {text.Length:N0} characters; {MaxLength:N0} can be shown. Look at it in pieces."
            );
        MarkdownLimits.Check("text", text);
        string html;
        try
        {
            var document = Markdown.Parse(text, Pipeline);
            foreach (
                var element in document
                    .Descendants<HtmlInline>()
                    .Where(element => !Formatting.Contains(element.Tag))
                    .ToList()
            )
                element.ReplaceBy(new LiteralInline(element.Tag));
            html = document.ToHtml(Pipeline);
        }
        catch (ArgumentException)
        {
            throw new InvalidInputException("text", MarkdownLimits.TooDeep);
        }
        return Body.Html.Parse(html).Markup;
    }

    private static MarkdownPipeline Make()
    {
        var builder = new MarkdownPipelineBuilder()
            .UsePipeTables()
            .UseEmphasisExtras(EmphasisExtraOptions.Strikethrough);
        builder.BlockParsers.TryRemove<HtmlBlockParser>();
        return builder.Build();
    }
}
