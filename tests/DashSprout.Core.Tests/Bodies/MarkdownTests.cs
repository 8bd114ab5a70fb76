using System.Text;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using CsCheck;
using DashSprout.Core.Bodies;
using Markdig;
using Markdig.Extensions.EmphasisExtras;

namespace DashSprout.Core.Tests.Bodies;

/// <summary>
/// What Markdig, a CommonMark library, reads out of the Markdown that bodies come to: the same letters with the same
/// formatting, in the same blocks, as in the rich form.
/// </summary>
public sealed class MarkdownTests
{
    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder()
        .UsePipeTables()
        .UseEmphasisExtras(EmphasisExtraOptions.Strikethrough)
        .Build();

    private static readonly HtmlParser Html = new();

    private static readonly HashSet<string> Blocks =
    [
        "p",
        "h1",
        "h2",
        "h3",
        "ul",
        "ol",
        "li",
        "blockquote",
        "pre",
        "table",
        "tr",
        "td",
        "th",
        "hr",
    ];

    [Fact]
    public void Every_body_is_read_back_with_the_same_words_and_formatting() =>
        BodyTrees.OfWords.Sample(SaysTheSame, iter: Depth.Of(20_000));

    [Theory]
    [InlineData("<p><strong>Note:</strong>text</p>", "<strong>Note:</strong>text")]
    [InlineData("<p>a<strong>(b)</strong></p>", "a<strong>(b)</strong>")]
    [InlineData("<p>a<em>b</em>c</p>", "a*b*c")]
    [InlineData("<p><strong>a</strong><em>b</em>c</p>", "**a**<em>b</em>c")]
    [InlineData("<p><strong>a<em>b</em></strong>c</p>", "<strong>a*b*</strong>c")]
    [InlineData("<p><code>two words</code></p>", "`two words`")]
    [InlineData("<p>    four</p>", "&#32;   four")]
    [InlineData("<p>see!<a href=\"https://example.org/\">here</a></p>", "see\\![here](https://example.org/)")]
    [InlineData("<ul><li>a</li></ul><ul><li>b</li></ul>", "- a\n\n* b")]
    [InlineData("<ol><li>a<ul><li>b</li></ul></li><li>c</li></ol>", "1. a\n   - b\n2. c")]
    [InlineData("<ul><li><p>a</p><p>b</p></li><li>c</li></ul>", "- a\n\n  b\n\n- c")]
    [InlineData("<blockquote><ul><li>a</li></ul><pre>x\ny</pre></blockquote>", "> - a\n>\n> ```\n> x\n> y\n> ```")]
    [InlineData(
        "<ul><li><table><tr><th>a</th></tr><tr><td><code>b|c</code></td></tr></table></li></ul>",
        "- | a |\n  | --- |\n  | <code>b&#124;c</code> |"
    )]
    [InlineData("<p>a<br></p><p>b</p>", "a<br>\n\nb")]
    public void The_edges(string html, string markdown)
    {
        var tree = BodyParser.Parse(html).Tree;
        Assert.Equal(
            markdown,
            Writers.Markdown(Renderer.Render(new Body.Html(html), new RenderContext(), Capitals.AsWritten).Flow).Text
        );
        SaysTheSame(tree);
    }

    private static void SaysTheSame(BodyTree tree)
    {
        var flow = Renderer.Render(new Body.Html(BodyWriter.Write(tree)), new RenderContext(), Capitals.AsWritten).Flow;
        var markdown = Writers.Markdown(flow).Text;
        var wanted = Read(Writers.Rich(flow, wholeBlocks: true).Text);
        var read = Read(Markdown.ToHtml(markdown, Pipeline));
        if (wanted == read)
            return;
        var first = wanted.Split('\n').Zip(read.Split('\n')).First(pair => pair.First != pair.Second);
        Assert.Fail($"wanted {first.First}\nread   {first.Second}\nof\n{markdown}");
    }

    /// <summary>Every line with its letters, each run of them with the formatting it has; blanks have none.</summary>
    private static string Read(string html)
    {
        var lines = new List<string>();
        var line = new StringBuilder();
        var last = "";
        Walk(Html.ParseDocument(html).Body!, []);
        EndLine();
        return string.Join('\n', lines);

        void EndLine()
        {
            // Blanks at the end of a line are not seen; in headings and cells nor are those at the start.
            if (!string.IsNullOrWhiteSpace(line.ToString()))
                lines.Add(line.ToString().TrimEnd());
            line.Clear();
            last = "";
        }

        void Walk(INode node, IReadOnlyList<string> marks)
        {
            if (node is IText text)
                Words(text, string.Join(' ', marks.Order(StringComparer.Ordinal).Distinct()));
            if (node is not IElement element)
                return;
            var isInHeading = element.Closest("h1, h2, h3") is not null;
            if (element.LocalName == "br" && isInHeading)
                line.Append(line.Length > 2 ? " " : "");
            else if (element.LocalName == "br" || Blocks.Contains(element.LocalName))
                EndLine();
            if (element.LocalName is "hr" or "h1" or "h2" or "h3")
                line.Append(element.LocalName);
            IReadOnlyList<string> inside = element.LocalName switch
            {
                "strong" or "em" or "code" => [.. marks, element.LocalName],
                "s" or "del" => [.. marks, "s"],
                "a" => [.. marks, element.GetAttribute("href")!],
                _ => marks,
            };
            foreach (var child in element.ChildNodes)
                Walk(child, inside);
            if (Blocks.Contains(element.LocalName))
                EndLine();
        }

        void Words(IText text, string marks)
        {
            var isPre = text.ParentElement!.Closest("pre") is not null;
            if (isPre)
                marks = "";
            // Line ends beside elements only lay the source out.
            var words = isPre ? text.Data : text.Data.Replace("\n", "", StringComparison.Ordinal);
            foreach (var letter in words)
            {
                if (letter == '\n')
                {
                    EndLine();
                    continue;
                }
                if (
                    char.IsWhiteSpace(letter)
                    && line.ToString() is "" or "h1" or "h2" or "h3"
                    && text.ParentElement.Closest("td, th, h1, h2, h3") is not null
                )
                    continue;
                if (!char.IsWhiteSpace(letter) && marks != last)
                    line.Append('{').Append(last = marks).Append('}');
                line.Append(letter);
            }
        }
    }
}
