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

    /// <summary>Text as HTML writes it.</summary>
    public static string Escape(string text) =>
        text.Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal)
            .Replace("\u00A0", "&nbsp;", StringComparison.Ordinal);

    /// <summary>An attribute; nothing when the value is null.</summary>
    public static string Attribute(string name, string? value) => value is null ? "" : $" {name}=\"{Escaped(value)}\"";

    /// <summary>A value as it stands between the quotation marks of an attribute.</summary>
    public static string Escaped(string value) =>
        Escape(value)
            .Replace("\"", "&quot;", StringComparison.Ordinal)
            .Replace("\n", "&#10;", StringComparison.Ordinal);

    /// <summary>The style attribute of an alignment.</summary>
    public static string Aligned(Align align) =>
        align == Align.Default ? "" : $" style=\"text-align: {Wording.Of(align)}\"";

    /// <summary>The style attribute of colours and letters.</summary>
    public static string Styled(TextStyle style)
    {
        var parts = new List<string>();
        if (style.Color is not null)
            parts.Add($"color: {style.Color}");
        if (style.Background is not null)
            parts.Add($"background-color: {style.Background}");
        if (style.Family is not null)
            parts.Add($"font-family: {style.Family}");
        if (style.Size is not null)
            parts.Add($"font-size: {style.Size}");
        return Attribute("style", string.Join("; ", parts));
    }

    /// <summary>The element of a picture.</summary>
    public static string Picture(string media, string alt, int? width) =>
        $"<img{Attribute("src", "media:" + media)}{Attribute("alt", alt)}{Attribute("width", width?.ToString(CultureInfo.InvariantCulture))}>";

    /// <summary>The element name of a way to set text off.</summary>
    public static string Name(Emphasis emphasis) => Wording.Of(emphasis);

    private static void WriteBlock(Block block, StringBuilder html)
    {
        switch (block)
        {
            case Block.Paragraph paragraph:
                // The parser ends a p where a menu begins, so such a paragraph is a div.
                var name = BodyTree.InlinesOf(paragraph.Content).Any(part => part is Inline.Pick) ? "div" : "p";
                Line(name, Aligned(paragraph.Align), paragraph.Content, html);
                break;
            case Block.Heading heading:
                Line($"h{heading.Level}", Aligned(heading.Align), heading.Content, html);
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
                    html.Append("<tr").Append(Attribute("data-rows", row.Repeats?.ToString())).Append('>');
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
                Around("div", Attribute("data-when", passage.When.Source), passage.Blocks, html);
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
                html.Append(Escape(text.Value));
                break;
            case Inline.Break:
                html.Append("<br>");
                break;
            case Inline.Emphasised emphasised:
                Line(Name(emphasised.Emphasis), "", emphasised.Content, html);
                break;
            case Inline.Styled styled:
                Line("span", Styled(styled.Style), styled.Content, html);
                break;
            case Inline.Link link:
                Line("a", Attribute("href", link.Target), link.Content, html);
                break;
            case Inline.Picture picture:
                html.Append(Picture(picture.Media, picture.Alt, picture.Width));
                break;
            case Inline.Date { Part: var date }:
                html.Append("<time")
                    .Append(Attribute("data-pattern", date.Pattern.Source))
                    .Append(Attribute("data-shift", date.Shift?.Source))
                    .Append(Attribute("data-days", date.Working ? "working" : null))
                    .Append(Attribute("data-snap", date.Snap?.Source))
                    .Append(Attribute("data-from", date.From))
                    .Append(Attribute("data-zone", date.Zone))
                    .Append(Attribute("data-locale", date.Locale))
                    .Append("></time>");
                break;
            case Inline.Field { Slip: var field }:
                Field(field, html);
                break;
            case Inline.Calculation calculation:
                html.Append("<output")
                    .Append(Attribute("data-formula", calculation.Formula.Source))
                    .Append(Attribute("data-pattern", calculation.Pattern))
                    .Append("></output>");
                break;
            case Inline.Passage passage:
                Line("span", Attribute("data-when", passage.When.Source), passage.Content, html);
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
                    .Append(Attribute("data-group", group.Number.ToString(CultureInfo.InvariantCulture)))
                    .Append("></slot>");
                break;
            case Inline.Reference reference:
                html.Append("<slot name=\"snippet\"")
                    .Append(Attribute("data-ref", reference.Target))
                    .Append("></slot>");
                break;
            case Inline.Pick pick:
                html.Append("<menu").Append(Attribute("data-pick", Wording.Of(pick.Way))).Append('>');
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
                        Attribute(
                            "data-times",
                            press.Times == 1 ? null : press.Times.ToString(CultureInfo.InvariantCulture)
                        )
                    )
                    .Append('>')
                    .Append(Escape(press.Key.Value))
                    .Append("</kbd>");
                break;
            case Inline.KeyRun run:
                html.Append("<kbd data-run=\"\">")
                    .Append(Escape(string.Join(' ', run.Keys.Select(key => key.Value == " " ? "Space" : key.Value))))
                    .Append("</kbd>");
                break;
            case Inline.Live live:
                html.Append("<slot name=\"live\"")
                    .Append(Attribute("data-url", live.Source))
                    .Append(Attribute("data-path", live.Path))
                    .Append("></slot>");
                break;
            case Inline.Wait wait:
                html.Append("<slot name=\"wait\"")
                    .Append(
                        Attribute(
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
                    .Append(Attribute("data-app", goTo.App))
                    .Append(Attribute("data-field", goTo.FieldName))
                    .Append("></slot>");
                break;
            case Inline.Open open:
                html.Append("<a data-open=\"\"").Append(Attribute("href", open.Target)).Append("></a>");
                break;
        }
    }

    private static void Field(BodyField field, StringBuilder html)
    {
        var named =
            Attribute("name", field.Name)
            + Attribute("title", field.Title.Length > 0 ? field.Title : null)
            + Attribute("data-default", field.DefaultFormula?.Source)
            + Attribute("pattern", field.Pattern);
        var required = field.Required ? " required=\"\"" : "";
        switch (field.Type)
        {
            case FieldType.LongText:
                html.Append("<textarea")
                    .Append(named)
                    .Append(Attribute("rows", field.Size?.ToString(CultureInfo.InvariantCulture)))
                    .Append(required)
                    .Append(">\n")
                    .Append(Escape(field.Default))
                    .Append("</textarea>");
                break;
            case FieldType.Choice:
                html.Append("<select").Append(named).Append(required).Append('>');
                foreach (var choice in field.Choices)
                    html.Append("<option")
                        .Append(Attribute("value", choice.Value))
                        .Append(choice.Label == field.Default ? " selected=\"\">" : ">")
                        .Append(Escape(choice.Label))
                        .Append("</option>");
                html.Append("</select>");
                break;
            default:
                html.Append("<input")
                    .Append(named)
                    .Append(Attribute("type", field.Type == FieldType.Text ? null : Wording.Of(field.Type)))
                    .Append(
                        Attribute(
                            "value",
                            field.Default.Length == 0 || (field.Type == FieldType.Checkbox && field.Default == "false")
                                ? null
                                : field.Default
                        )
                    )
                    .Append(Attribute("size", field.Size?.ToString(CultureInfo.InvariantCulture)))
                    .Append(Attribute("min", field.Min))
                    .Append(Attribute("max", field.Max))
                    .Append(Attribute("step", field.Step))
                    .Append(required)
                    .Append('>');
                break;
        }
    }
}
