using DashSprout.Core;
using DashSprout.Core.Bodies;
using Markdig;
using Markdig.Extensions.EmphasisExtras;

namespace DashSprout.Exchange;

/// <summary>CommonMark with tables, read to be looked at.</summary>
public static class MarkdownText
{
    /// <summary>The longest text, in UTF-16 units.</summary>
    public const int MaxLength = 200_000;

    private static readonly MarkdownPipeline Pipeline =
        new MarkdownPipelineBuilder().DisableHtml().UsePipeTables().UseEmphasisExtras(EmphasisExtraOptions.Strikethrough).Build();

    /// <summary>
    /// The HTML of a text. HTML within it is shown as written, and what comes out goes through the body's typed tree, so that
    /// nothing unsafe is in it.
    /// </summary>
    public static string ToHtml(string text)
    {
        if (text.Length > MaxLength) throw new InvalidInputException("text", $"The text has {text.Length:N0} characters; {MaxLength:N0} can be shown. Look at it in pieces.");
        string html;
        try
        {
            html = Markdown.ToHtml(text, Pipeline);
        }
        catch (ArgumentException)
        {
            throw new InvalidInputException("text", "The Markdown is nested too deeply to be shown. Take some of the brackets, quotations or lists in it away.");
        }
        return Body.Html.Parse(html).Markup;
    }
}
