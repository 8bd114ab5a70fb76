using DashSprout.Core.Bodies;
using Markdig;
using Markdig.Extensions.EmphasisExtras;

namespace DashSprout.Exchange;

/// <summary>CommonMark with tables, read to be looked at.</summary>
public static class MarkdownText
{
    private static readonly MarkdownPipeline Pipeline =
        new MarkdownPipelineBuilder().DisableHtml().UsePipeTables().UseEmphasisExtras(EmphasisExtraOptions.Strikethrough).Build();

    /// <summary>
    /// The HTML of a text. HTML within it is shown as written, and what comes out goes through the body's typed tree, so that
    /// nothing unsafe is in it.
    /// </summary>
    public static string ToHtml(string text) => Body.Html.Parse(Markdown.ToHtml(text, Pipeline)).Markup;
}
