using System.Globalization;

namespace DashSprout.Core.Bodies;

/// <summary>Blocks as lines, for a place within a line: lists have their signs, tables their tabs.</summary>
/// <param name="told">Is told the notices among them.</param>
internal sealed class BlockLines(RenderedValues values, Action<Block.Notice> told)
{
    /// <summary>The lines of some blocks, in order.</summary>
    public IEnumerable<EquatableList<Inline>> Of(IEnumerable<Block> blocks)
    {
        foreach (var block in blocks)
        {
            switch (block)
            {
                case Block.Paragraph paragraph:
                    yield return paragraph.Content;
                    break;
                case Block.Heading heading:
                    yield return new([new Inline.Emphasised(Emphasis.Strong, heading.Content)]);
                    break;
                case Block.Preformatted preformatted:
                    yield return preformatted.Content;
                    break;
                case Block.Notice notice:
                    told(notice);
                    break;
                case Block.Quote quote:
                    foreach (var line in Of(quote.Blocks))
                        yield return line;
                    break;
                case Block.Passage passage when values.Holds(passage.When):
                    foreach (var line in Of(passage.Blocks))
                        yield return line;
                    break;
                case Block.BulletList list:
                    var number = 1;
                    foreach (var item in list.Items)
                    {
                        var marker = list.Numbered ? string.Create(CultureInfo.InvariantCulture, $"{number}. ") : "- ";
                        var next = marker;
                        foreach (var line in Of(item))
                        {
                            yield return new([new Inline.Text(next), .. line]);
                            next = new string(' ', marker.Length);
                        }
                        if (next != marker)
                            number++;
                    }
                    break;
                case Block.Rule:
                    yield return new([new Inline.Text("---")]);
                    break;
                case Block.Table table:
                    foreach (var row in table.Rows.SelectMany(values.Repeated))
                        yield return new(
                            row.Cells.SelectMany(
                                (cell, at) =>
                                    Of(cell.Blocks)
                                        .SelectMany(line => line)
                                        .Prepend(new Inline.Text(at == 0 ? "" : "\t"))
                            )
                        );
                    break;
            }
        }
    }
}
