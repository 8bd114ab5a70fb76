namespace DashSprout.Core.Bodies;

/// <summary>A body at a glance: its words, with live parts shown by what they stand for.</summary>
public static class PreviewText
{
    /// <summary>The sketch of a body as one text; lines are kept.</summary>
    /// <param name="nameOf">What a reference to another snippet means, for the user; null where names are of no
    /// account.</param>
    public static string Of(Body body, Func<string, string>? nameOf = null) =>
        body is Body.Plain plain
            ? plain.Text
            : string.Join('\n', body.Tree.Blocks.Select(block => Line(block, nameOf)));

    private static string Line(Block block, Func<string, string>? nameOf) =>
        block switch
        {
            Block.Paragraph paragraph => Words(paragraph.Content, nameOf),
            Block.Heading heading => Words(heading.Content, nameOf),
            Block.Preformatted preformatted => Words(preformatted.Content, nameOf),
            Block.Notice notice => $"⟨notice: {Words(notice.Content, nameOf)}⟩",
            Block.Quote quote => string.Join(' ', quote.Blocks.Select(inner => Line(inner, nameOf))),
            Block.Passage passage => string.Join(' ', passage.Blocks.Select(inner => Line(inner, nameOf))),
            Block.BulletList list => string.Join(
                ' ',
                list.Items.Select(item => "- " + string.Join(' ', item.Select(inner => Line(inner, nameOf))))
            ),
            Block.Table table => string.Join(
                ' ',
                table.Rows.Select(row =>
                    string.Join(
                        " | ",
                        row.Cells.Select(cell => string.Join(' ', cell.Blocks.Select(inner => Line(inner, nameOf))))
                    )
                )
            ),
            _ => "———",
        };

    private static string Words(IEnumerable<Inline> parts, Func<string, string>? nameOf) =>
        string.Concat(
            parts.Select(part =>
                part switch
                {
                    Inline.Text text => text.Value,
                    Inline.Break => " ⏎ ",
                    Inline.Emphasised emphasised => Words(emphasised.Content, nameOf),
                    Inline.Styled styled => Words(styled.Content, nameOf),
                    Inline.Link link => Words(link.Content, nameOf),
                    Inline.Passage passage => Words(passage.Content, nameOf),
                    Inline.Selected selected => Words(selected.Content, nameOf),
                    Inline.Picture picture => $"⟨picture {picture.Alt}⟩",
                    Inline.Date date => $"⟨{date.Part.Pattern.Source}⟩",
                    Inline.Field field => $"⟨{field.Slip.Label}⟩",
                    Inline.Calculation calculation => $"⟨{calculation.Formula.Source}⟩",
                    Inline.Clipboard => "⟨clipboard⟩",
                    Inline.Selection => "⟨selection⟩",
                    Inline.Group group => $"⟨group {group.Number}⟩",
                    Inline.Reference reference => nameOf is null
                        ? "⟨another snippet⟩"
                        : $"⟨{nameOf(reference.Target).Split('/')[^1]}⟩",
                    Inline.Pick => "⟨one of several⟩",
                    Inline.UniqueId => "⟨unique id⟩",
                    Inline.KeyPress press => $"⟨{press.Key}⟩",
                    Inline.Open open => $"⟨open {open.Target}⟩",
                    _ => "",
                }
            )
        );
}
