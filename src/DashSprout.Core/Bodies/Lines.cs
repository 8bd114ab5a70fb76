namespace DashSprout.Core.Bodies;

/// <summary>Changes the lines of blocks, whatever the blocks lie in.</summary>
internal static class Lines
{
    /// <summary>A block with other lines.</summary>
    public static Block Of(Block block, Func<EquatableList<Inline>, EquatableList<Inline>> change) =>
        block switch
        {
            Block.Paragraph paragraph => paragraph with { Content = change(paragraph.Content) },
            Block.Heading heading => heading with { Content = change(heading.Content) },
            Block.Preformatted preformatted => new Block.Preformatted(change(preformatted.Content)),
            Block.Notice notice => new Block.Notice(change(notice.Content)),
            Block.Quote quote => new Block.Quote(Of(quote.Blocks, change)),
            Block.Passage passage => passage with { Blocks = Of(passage.Blocks, change) },
            Block.BulletList list => list with { Items = new(list.Items.Select(item => Of(item, change))) },
            Block.Table table => new Block.Table(
                new(
                    table.Rows.Select(row =>
                        row with
                        {
                            Cells = new(row.Cells.Select(cell => cell with { Blocks = Of(cell.Blocks, change) })),
                        }
                    )
                )
            ),
            _ => block,
        };

    private static EquatableList<Block> Of(
        IEnumerable<Block> blocks,
        Func<EquatableList<Inline>, EquatableList<Inline>> change
    ) => new(blocks.Select(block => Of(block, change)));
}
