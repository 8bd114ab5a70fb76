namespace DashSprout.Core.Bodies;

/// <summary>One body on its way to what it comes to, block by block.</summary>
internal sealed class BlockRendering
{
    private readonly RenderedValues values;
    private readonly InnerSnippets inner;
    private readonly InlineRendering inlines;

    public BlockRendering(BodyTree tree, RenderContext context, Capitals capitals)
    {
        values = new RenderedValues(tree, context);
        inner = new InnerSnippets(tree, context);
        var text = new RenderedText(context, capitals, mayGrow: () => inner.HasAny || values.HasRepeats);
        var lines = new BlockLines(values, notice => One(notice, []));
        inlines = new InlineRendering(context, values, inner, text, lines);
    }

    public List<Leaf> Leaves { get; } = [];

    public IReadOnlyList<OpenTarget> Opened => inlines.Opened;

    public List<string> Notices { get; } = [];

    public IReadOnlyList<string> Rotations => inlines.Rotations;

    public bool HoldsPrivate => inner.HoldsPrivate;

    public void Blocks(IEnumerable<Block> blocks, IReadOnlyList<Frame> frames)
    {
        foreach (var block in blocks)
            One(block, frames);
    }

    private void One(Block block, IReadOnlyList<Frame> frames)
    {
        switch (block)
        {
            // A snippet that stands in a line of its own keeps its blocks.
            case Block.Paragraph { Align: Align.Default, Content: { Count: 1 } content }
                when content[0] is Inline.Reference { Target: var target } && inner.HasBlocks(target):
                inner.Within(target, found => Blocks(found.Tree.Blocks, frames));
                break;
            case Block.Paragraph paragraph:
                Line(paragraph.Content, [.. frames, new Frame(FrameKind.Paragraph, align: paragraph.Align)]);
                break;
            case Block.Heading heading:
                Line(heading.Content, [.. frames, new Frame(FrameKind.Heading, heading.Level, heading.Align)]);
                break;
            case Block.Preformatted preformatted:
                Line(preformatted.Content, [.. frames, new Frame(FrameKind.Preformatted)]);
                break;
            case Block.Rule:
                Leaves.Add(new Leaf([.. frames, new Frame(FrameKind.Rule)], []));
                break;
            case Block.Quote quote:
                Blocks(quote.Blocks, [.. frames, new Frame(FrameKind.Quote)]);
                break;
            case Block.BulletList list:
                IReadOnlyList<Frame> inList =
                [
                    .. frames,
                    new Frame(list.Numbered ? FrameKind.Numbers : FrameKind.Bullets),
                ];
                // What is left out leaves no gap in the numbers.
                var number = 1;
                foreach (var item in list.Items)
                {
                    var before = Leaves.Count;
                    Held(item, [.. inList, new Frame(FrameKind.Item, number)]);
                    if (Leaves.Count > before)
                        number++;
                }
                break;
            case Block.Table table:
                IReadOnlyList<Frame> inTable = [.. frames, new Frame(FrameKind.Table)];
                foreach (var row in table.Rows.SelectMany(values.Repeated))
                {
                    IReadOnlyList<Frame> inRow = [.. inTable, new Frame(FrameKind.Row)];
                    foreach (var cell in row.Cells)
                    {
                        IReadOnlyList<Frame> inCell =
                        [
                            .. inRow,
                            new Frame(cell.Header ? FrameKind.HeaderCell : FrameKind.Cell),
                        ];
                        var before = Leaves.Count;
                        Held(cell.Blocks, inCell);
                        // A cell keeps its place in the row whatever is left out of it.
                        if (Leaves.Count == before)
                            Leaves.Add(new Leaf([.. inCell, new Frame(FrameKind.Paragraph, implied: true)], []));
                    }
                }
                break;
            case Block.Passage passage:
                if (values.Holds(passage.When))
                    Blocks(passage.Blocks, frames);
                break;
            case Block.Notice notice:
                Notices.Add(
                    Writers
                        .Plain(new Flow([new Leaf([new Frame(FrameKind.Paragraph)], inlines.Pieces(notice.Content))]))
                        .Text
                );
                break;
        }
    }

    /// <summary>What an item or cell holds: the paragraph of a single line is not written.</summary>
    private void Held(EquatableList<Block> blocks, IReadOnlyList<Frame> frames)
    {
        if (blocks.Count == 0)
            Line([], [.. frames, new Frame(FrameKind.Paragraph, implied: true)]);
        else if (blocks[0] is Block.Paragraph { Align: Align.Default } first)
        {
            Line(first.Content, [.. frames, new Frame(FrameKind.Paragraph, implied: true)]);
            Blocks(blocks.Skip(1), frames);
        }
        else
            Blocks(blocks, frames);
    }

    private void Line(IEnumerable<Inline> content, IReadOnlyList<Frame> frames)
    {
        var list = content as IReadOnlyCollection<Inline> ?? [.. content];
        var made = inlines.Pieces(list);
        // A paragraph that holds nothing but what is opened or left out is none.
        if (made.Count == 0 && list.Count > 0 && frames[^1].Kind == FrameKind.Paragraph && !list.Any(IsText))
            return;
        Leaves.Add(new Leaf(frames, made));
    }

    private static bool IsText(Inline part) =>
        part
            is Inline.Text
                or Inline.Field
                or Inline.Calculation
                or Inline.Clipboard
                or Inline.Selection
                or Inline.Emphasised
                or Inline.Styled
                or Inline.Link;
}
