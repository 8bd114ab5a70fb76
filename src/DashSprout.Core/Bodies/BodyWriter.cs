using System.Globalization;
using System.Text;
using NodaTime.Text;

namespace DashSprout.Core.Bodies;

/// <summary>Writes a body tree as HTML; reading that again gives the same tree.</summary>
public static class BodyWriter
{
    /// <summary>The HTML fragment of a tree.</summary>
    public static string Write(BodyTree tree)
    {
        var html = new StringBuilder();
        foreach (var block in tree.Blocks)
            WriteBlock(block, html);
        return html.ToString();
    }

    private static void WriteBlock(Block block, StringBuilder html)
    {
        switch (block)
        {
            case Block.Paragraph paragraph:
                // The parser ends a p where a menu begins, so such a paragraph is a div.
                var name = BodyTree.InlinesOf(paragraph.Content).Any(part => part is Inline.Pick) ? "div" : "p";
                Line(name, Markup.Aligned(paragraph.Align), paragraph.Content, html);
                break;
            case Block.Heading heading:
                Line($"h{heading.Level}", Markup.Aligned(heading.Align), heading.Content, html);
                break;
            case Block.Preformatted preformatted:
                html.Append("<pre>\n");
                Inlines(preformatted.Content, html);
                html.Append("</pre>");
                break;
            case Block.Quote quote:
                Around("blockquote", "", quote.Blocks, html);
                break;
            case Block.BulletList list:
                html.Append(list.Numbered ? "<ol>" : "<ul>");
                foreach (var item in list.Items)
                    Around("li", "", item, html);
                html.Append(list.Numbered ? "</ol>" : "</ul>");
                break;
            case Block.Table table:
                html.Append("<table>");
                foreach (var row in table.Rows)
                {
                    html.Append("<tr").Append(Markup.Attribute("data-rows", row.Repeats?.ToString())).Append('>');
                    foreach (var cell in row.Cells)
                        Around(cell.Header ? "th" : "td", "", cell.Blocks, html);
                    html.Append("</tr>");
                }
                html.Append("</table>");
                break;
            case Block.Rule:
                html.Append("<hr>");
                break;
            case Block.Passage passage:
                Around("div", Markup.Attribute("data-when", passage.When.Source), passage.Blocks, html);
                break;
            case Block.Notice notice:
                Line("aside", " data-notice=\"\"", notice.Content, html);
                break;
        }
    }

    private static void Line(string name, string attributes, IEnumerable<Inline> content, StringBuilder html)
    {
        html.Append('<').Append(name).Append(attributes).Append('>');
        Inlines(content, html);
        html.Append("</").Append(name).Append('>');
    }

    private static void Around(string name, string attributes, IEnumerable<Block> blocks, StringBuilder html)
    {
        html.Append('<').Append(name).Append(attributes).Append('>');
        foreach (var block in blocks)
            WriteBlock(block, html);
        html.Append("</").Append(name).Append('>');
    }

    private static void Inlines(IEnumerable<Inline> parts, StringBuilder html)
    {
        foreach (var part in parts)
            WriteInline(part, html);
    }

    private static void WriteInline(Inline part, StringBuilder html)
    {
        switch (part)
        {
            case Inline.Text text:
                html.Append(Markup.Escape(text.Value));
                break;
            case Inline.Break:
                html.Append("<br>");
                break;
            case Inline.Emphasised emphasised:
                Line(Markup.Name(emphasised.Emphasis), "", emphasised.Content, html);
                break;
            case Inline.Styled styled:
                Line("span", Markup.Styled(styled.Style), styled.Content, html);
                break;
            case Inline.Link link:
                Line("a", Markup.Attribute("href", link.Target), link.Content, html);
                break;
            case Inline.Picture picture:
                html.Append(Markup.Picture(picture.Media, picture.Alt, picture.Width));
                break;
            case Inline.Date { Part: var date }:
                html.Append("<time")
                    .Append(Markup.Attribute("data-pattern", date.Pattern.Source))
                    .Append(Markup.Attribute("data-shift", date.Shift?.Source))
                    .Append(Markup.Attribute("data-days", date.Working ? "working" : null))
                    .Append(Markup.Attribute("data-snap", date.Snap?.Source))
                    .Append(Markup.Attribute("data-from", date.From))
                    .Append(Markup.Attribute("data-zone", date.Zone))
                    .Append(Markup.Attribute("data-locale", date.Locale))
                    .Append("></time>");
                break;
            case Inline.Field { Slip: var field }:
                Field(field, html);
                break;
            case Inline.Calculation calculation:
                html.Append("<output")
                    .Append(Markup.Attribute("data-formula", calculation.Formula.Source))
                    .Append(Markup.Attribute("data-pattern", calculation.Pattern))
                    .Append("></output>");
                break;
            case Inline.Passage passage:
                Line("span", Markup.Attribute("data-when", passage.When.Source), passage.Content, html);
                break;
            case Inline.Clipboard clipboard:
                html.Append(
                    clipboard.Trim
                        ? "<slot name=\"clipboard\" data-trim=\"\"></slot>"
                        : "<slot name=\"clipboard\"></slot>"
                );
                break;
            case Inline.Selection selection:
                Line("slot", " name=\"selection\"", selection.Otherwise, html);
                break;
            case Inline.Group group:
                html.Append("<slot name=\"match\"")
                    .Append(Markup.Attribute("data-group", group.Number.ToString(CultureInfo.InvariantCulture)))
                    .Append("></slot>");
                break;
            case Inline.Reference reference:
                html.Append("<slot name=\"snippet\"")
                    .Append(Markup.Attribute("data-ref", reference.Target))
                    .Append("></slot>");
                break;
            case Inline.Pick pick:
                html.Append("<menu").Append(Markup.Attribute("data-pick", Wording.Of(pick.Way))).Append('>');
                foreach (var choice in pick.Choices)
                    Line("li", "", choice, html);
                html.Append("</menu>");
                break;
            case Inline.UniqueId:
                html.Append("<slot name=\"uuid\"></slot>");
                break;
            case Inline.Caret:
                html.Append("<wbr data-caret=\"\">");
                break;
            case Inline.Selected selected:
                Line("mark", " data-select=\"\"", selected.Content, html);
                break;
            case Inline.KeyPress press:
                html.Append("<kbd")
                    .Append(
                        Markup.Attribute(
                            "data-times",
                            press.Times == 1 ? null : press.Times.ToString(CultureInfo.InvariantCulture)
                        )
                    )
                    .Append('>')
                    .Append(Markup.Escape(press.Key.Value))
                    .Append("</kbd>");
                break;
            case Inline.KeyRun run:
                html.Append("<kbd data-run=\"\">")
                    .Append(
                        Markup.Escape(string.Join(' ', run.Keys.Select(key => key.Value == " " ? "Space" : key.Value)))
                    )
                    .Append("</kbd>");
                break;
            case Inline.Live live:
                html.Append("<slot name=\"live\"")
                    .Append(Markup.Attribute("data-url", live.Source))
                    .Append(Markup.Attribute("data-path", live.Path))
                    .Append("></slot>");
                break;
            case Inline.Wait wait:
                html.Append("<slot name=\"wait\"")
                    .Append(
                        Markup.Attribute(
                            "data-for",
                            PeriodPattern.NormalizingIso.Format(
                                NodaTime.Period.FromNanoseconds((long)wait.For.TotalNanoseconds)
                            )
                        )
                    )
                    .Append("></slot>");
                break;
            case Inline.GoTo goTo:
                html.Append("<slot name=\"go-to\"")
                    .Append(Markup.Attribute("data-app", goTo.App))
                    .Append(Markup.Attribute("data-field", goTo.FieldName))
                    .Append("></slot>");
                break;
            case Inline.Open open:
                html.Append("<a data-open=\"\"").Append(Markup.Attribute("href", open.Target)).Append("></a>");
                break;
        }
    }

    private static void Field(BodyField field, StringBuilder html)
    {
        var named =
            Markup.Attribute("name", field.Name)
            + Markup.Attribute("title", field.Title.Length > 0 ? field.Title : null)
            + Markup.Attribute("data-default", field.DefaultFormula?.Source)
            + Markup.Attribute("pattern", field.Pattern);
        var required = field.Required ? " required=\"\"" : "";
        switch (field.Type)
        {
            case FieldType.LongText:
                html.Append("<textarea")
                    .Append(named)
                    .Append(Markup.Attribute("rows", field.Size?.ToString(CultureInfo.InvariantCulture)))
                    .Append(required)
                    .Append(">\n")
                    .Append(Markup.Escape(field.Default))
                    .Append("</textarea>");
                break;
            case FieldType.Choice:
                html.Append("<select").Append(named).Append(required).Append('>');
                foreach (var choice in field.Choices)
                    html.Append("<option")
                        .Append(Markup.Attribute("value", choice.Value))
                        .Append(choice.Label == field.Default ? " selected=\"\">" : ">")
                        .Append(Markup.Escape(choice.Label))
                        .Append("</option>");
                html.Append("</select>");
                break;
            default:
                html.Append("<input")
                    .Append(named)
                    .Append(Markup.Attribute("type", field.Type == FieldType.Text ? null : Wording.Of(field.Type)))
                    .Append(
                        Markup.Attribute(
                            "value",
                            field.Default.Length == 0 || (field.Type == FieldType.Checkbox && field.Default == "false")
                                ? null
                                : field.Default
                        )
                    )
                    .Append(Markup.Attribute("size", field.Size?.ToString(CultureInfo.InvariantCulture)))
                    .Append(Markup.Attribute("min", field.Min))
                    .Append(Markup.Attribute("max", field.Max))
                    .Append(Markup.Attribute("step", field.Step))
                    .Append(required)
                    .Append('>');
                break;
        }
    }
}
