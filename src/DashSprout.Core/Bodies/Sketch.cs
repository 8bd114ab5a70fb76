namespace DashSprout.Core.Bodies;

/// <summary>A body at a glance: its words, with live parts shown by what they stand for.</summary>
public static class Sketch
{
    /// <summary>The sketch of a body as one text; lines are kept.</summary>
    public static string Of(Body body)
    {
        if (body is Body.Plain plain) return plain.Text;
        return string.Join('\n', body.Tree.Blocks.Select(Line));
    }

    private static string Line(Block block) => block switch
    {
        Block.Paragraph paragraph => Words(paragraph.Content),
        Block.Heading heading => Words(heading.Content),
        Block.Preformatted preformatted => Words(preformatted.Content),
        Block.Notice notice => $"⟨notice: {Words(notice.Content)}⟩",
        Block.Quote quote => string.Join(' ', quote.Blocks.Select(Line)),
        Block.Passage passage => string.Join(' ', passage.Blocks.Select(Line)),
        Block.BulletList list => string.Join(' ', list.Items.Select(item => "- " + string.Join(' ', item.Select(Line)))),
        Block.Table table => string.Join(' ', table.Rows.Select(row => string.Join(" | ", row.Select(cell => string.Join(' ', cell.Blocks.Select(Line)))))),
        _ => "———",
    };

    private static string Words(IEnumerable<Inline> parts) => string.Concat(parts.Select(part => part switch
    {
        Inline.Text text => text.Value,
        Inline.Break => " ⏎ ",
        Inline.Emphasised emphasised => Words(emphasised.Content),
        Inline.Styled styled => Words(styled.Content),
        Inline.Link link => Words(link.Content),
        Inline.Passage passage => Words(passage.Content),
        Inline.Selected selected => Words(selected.Content),
        Inline.Picture picture => $"⟨picture {picture.Alt}⟩",
        Inline.Date date => $"⟨{date.Part.Pattern.Source}⟩",
        Inline.Field field => $"⟨{field.Slip.Label}⟩",
        Inline.Calculation calculation => $"⟨{calculation.Formula.Source}⟩",
        Inline.Clipboard => "⟨clipboard⟩",
        Inline.Selection => "⟨selection⟩",
        Inline.Group group => $"⟨group {group.Number}⟩",
        Inline.Reference reference => $"⟨{reference.Path.Split('/')[^1]}⟩",
        Inline.Pick => "⟨one of several⟩",
        Inline.UniqueId => "⟨unique id⟩",
        Inline.KeyPress press => $"⟨{press.Key}⟩",
        Inline.Open open => $"⟨open {open.Target}⟩",
        _ => "",
    }));
}
