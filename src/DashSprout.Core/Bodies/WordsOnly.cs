namespace DashSprout.Core.Bodies;

/// <summary>A body as plain text for good: its words as the plain writer sets them, without live parts.</summary>
public static class WordsOnly
{
    /// <summary>
    /// The text of a body. Passages stay, of several texts the first; what is worked out is left out.
    /// </summary>
    public static string Of(Body body) =>
        body is Body.Plain plain
            ? plain.Text
            : Writers.Plain(Renderer.Render(new BodyTree(new(Blocks(body.Tree.Blocks))), new RenderContext())).Text;

    private static IEnumerable<Block> Blocks(IEnumerable<Block> blocks) =>
        blocks.SelectMany<Block, Block>(block =>
            block switch
            {
                Block.Passage passage => Blocks(passage.Blocks),
                Block.Quote quote => [new Block.Quote(new(Blocks(quote.Blocks)))],
                Block.Notice => [],
                _ => [Lines.Of(block, line => Line(line))],
            }
        );

    private static EquatableList<Inline> Line(IEnumerable<Inline> line) => InlineNormal.Of(line.SelectMany(Words));

    private static IEnumerable<Inline> Words(Inline part) =>
        part switch
        {
            Inline.Text or Inline.Break or Inline.Picture => [part],
            Inline.Emphasised emphasised => emphasised.Content.SelectMany(Words),
            Inline.Styled styled => styled.Content.SelectMany(Words),
            Inline.Link link => [link with { Content = Line(link.Content) }],
            Inline.Passage passage => passage.Content.SelectMany(Words),
            Inline.Selection selection => selection.Otherwise.SelectMany(Words),
            Inline.Selected selected => selected.Content.SelectMany(Words),
            Inline.Pick { Choices: { Count: > 0 } choices } => choices[0].SelectMany(Words),
            _ => [],
        };
}
