namespace DashSprout.Core.Bodies;

/// <summary>Something the parser dropped, and where.</summary>
/// <param name="Line">Line of the source, from 1.</param>
/// <param name="Column">Column of the source, from 1.</param>
public sealed record BodyWarning(string Message, int Line, int Column);

/// <summary>
/// A body as a typed tree. Whatever is put in comes from here, so nothing the tree does not know can reach a page.
/// </summary>
public sealed record BodyTree(EquatableList<Block> Blocks)
{
    /// <summary>The tree of a plain text: one paragraph for each line.</summary>
    public static BodyTree OfText(string text) =>
        new(
            new EquatableList<Block>(
                text.Split('\n')
                    .Select(line => new Block.Paragraph(
                        line.Length == 0 ? EquatableList<Inline>.Empty : new([new Inline.Text(line)])
                    ))
            )
        );

    /// <summary>Every inline part, outer ones before inner ones, in the order in which they appear.</summary>
    public IEnumerable<Inline> Inlines() => Blocks.SelectMany(Inlines);

    /// <summary>Every inline part of a line, outer ones before inner ones.</summary>
    public static IEnumerable<Inline> InlinesOf(IEnumerable<Inline> line) => Inlines(line);

    /// <summary>The rows that are repeated, in order; none lies in another.</summary>
    public IEnumerable<BodyRow> RepeatedRows() =>
        AllBlocks(Blocks).OfType<Block.Table>().SelectMany(table => table.Rows).Where(row => row.Repeats is not null);

    /// <summary>Every inline part of a row.</summary>
    public static IEnumerable<Inline> InlinesOf(BodyRow row) =>
        row.Cells.SelectMany(cell => cell.Blocks).SelectMany(Inlines);

    /// <summary>Every formula with the part it belongs to.</summary>
    public IEnumerable<Formula> Formulas() =>
        AllBlocks(Blocks)
            .OfType<Block.Passage>()
            .Select(passage => passage.When)
            .Concat(
                Inlines()
                    .Select(part =>
                        part switch
                        {
                            Inline.Passage passage => passage.When,
                            Inline.Calculation calculation => calculation.Formula,
                            Inline.Field { Slip.DefaultFormula: { } worked } => worked,
                            _ => null,
                        }
                    )
                    .OfType<Formula>()
            );

    private static IEnumerable<Block> AllBlocks(IEnumerable<Block> blocks) =>
        blocks.SelectMany(block => AllBlocks(Inside(block)).Prepend(block));

    private static IEnumerable<Block> Inside(Block block) =>
        block switch
        {
            Block.Quote quote => quote.Blocks,
            Block.Passage passage => passage.Blocks,
            Block.BulletList list => list.Items.SelectMany(item => item),
            Block.Table table => table.Rows.SelectMany(row => row.Cells.SelectMany(cell => cell.Blocks)),
            _ => [],
        };

    private static IEnumerable<Inline> Inlines(Block block) =>
        block switch
        {
            Block.Paragraph paragraph => Inlines(paragraph.Content),
            Block.Heading heading => Inlines(heading.Content),
            Block.Preformatted preformatted => Inlines(preformatted.Content),
            Block.Notice notice => Inlines(notice.Content),
            _ => Inside(block).SelectMany(Inlines),
        };

    private static IEnumerable<Inline> Inlines(IEnumerable<Inline> parts) =>
        parts.SelectMany(part => Inlines(Inside(part)).Prepend(part));

    private static IEnumerable<Inline> Inside(Inline part) =>
        part switch
        {
            Inline.Emphasised emphasised => emphasised.Content,
            Inline.Styled styled => styled.Content,
            Inline.Link link => link.Content,
            Inline.Passage passage => passage.Content,
            Inline.Selection selection => selection.Otherwise,
            Inline.Selected selected => selected.Content,
            Inline.Pick pick => pick.Choices.SelectMany(choice => choice),
            _ => [],
        };
}
