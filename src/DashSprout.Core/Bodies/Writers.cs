using System.Text;
using DashSprout.Core.Text;

namespace DashSprout.Core.Bodies;

/// <summary>A flow as text, with the caret and the selection in it.</summary>
/// <param name="Text">The text.</param>
/// <param name="Stepped">What the caret steps through. One caret step is what an arrow key does: a grapheme, a
/// picture, or the end of a line; bullets and rules are none. In a field without formatting the caret steps through the
/// text itself.
/// </param>
/// <param name="Caret">Caret steps before the place where the caret will stand; null for the end.</param>
/// <param name="Selection">Caret steps before the start and the end of the text left selected; null for none.</param>
public sealed record Written(string Text, string Stepped, int? Caret, (int Start, int End)? Selection)
{
    /// <summary>Its length in caret steps.</summary>
    public int Length { get; } = Graphemes.Count(Stepped);
}

/// <summary>Writes flows as plain text, rich text and Markdown.</summary>
public static class Writers
{
    /// <summary>Plain text: blocks are separated by one line end, and a <c>br</c> is one too.</summary>
    public static Written Plain(Flow flow)
    {
        var output = new WrittenText();
        Leaf? previous = null;
        foreach (var leaf in flow.Leaves)
        {
            var isNextCell =
                previous is not null
                && FrameOf(previous, FrameKind.Row) is { } row
                && row == FrameOf(leaf, FrameKind.Row)
                && !SameCell(previous, leaf);
            if (previous is not null)
                output.Add(isNextCell ? "\t" : "\n");
            output.Add(ItemPrefix(previous, leaf, "- ", isNextCell ? leaf.Frames.ToList().FindLastIndex(IsCell) : 0));
            if (leaf.Own.Kind == FrameKind.Rule)
                output.Add("---");
            foreach (var piece in leaf.WithTargets())
            {
                switch (piece)
                {
                    case Piece.Words words:
                        output.Add(words.Text);
                        break;
                    case Piece.Break:
                        output.Add("\n");
                        break;
                    case Piece.Picture picture:
                        output.Add(picture.Alt);
                        break;
                    default:
                        output.Mark(piece);
                        break;
                }
            }
            previous = leaf;
        }
        return output.Done();
    }

    /// <summary>
    /// Rich text as HTML; a single paragraph comes without its element unless whole blocks are wanted.
    /// </summary>
    public static Written Rich(Flow flow, bool wholeBlocks = false)
    {
        var html = new StringBuilder();
        var steps = new WrittenText();
        IReadOnlyList<Frame> open = [];
        var inline = flow.IsInline && !wholeBlocks;
        var lines = 0;
        foreach (var leaf in flow.Leaves)
        {
            // A rule is no line: the caret steps over it from the line before to the line behind.
            if (leaf.Own.Kind != FrameKind.Rule && lines++ > 0)
                steps.Add("\n");
            if (!inline)
                open = Open(open, leaf.Frames, html);
            Pieces(leaf, html, steps);
        }
        if (!inline)
            Open(open, [], html);
        return steps.Done() with { Text = html.ToString() };
    }

    /// <summary>Markdown: CommonMark with tables.</summary>
    public static Written Markdown(Flow flow) => MarkdownWriter.Write(flow);

    private static Frame? FrameOf(Leaf leaf, FrameKind kind) => leaf.Frames.FirstOrDefault(frame => frame.Kind == kind);

    private static bool SameCell(Leaf a, Leaf b) =>
        a.Frames.FirstOrDefault(IsCell) is { } cell && cell == b.Frames.FirstOrDefault(IsCell);

    internal static bool IsCell(Frame frame) => frame.Kind is FrameKind.Cell or FrameKind.HeaderCell;

    /// <summary>
    /// What stands before a line in a list: its bullet or number when the item begins here, else as much space.
    /// </summary>
    /// <param name="from">The level from which lists count; behind the first cell of a row only those in the cell
    /// do.</param>
    internal static string ItemPrefix(Leaf? previous, Leaf leaf, string bullet, int from = 0)
    {
        var prefix = new StringBuilder();
        for (var at = Math.Max(1, from); at < leaf.Frames.Count; at++)
        {
            if (leaf.Frames[at].Kind != FrameKind.Item)
                continue;
            var marker = leaf.Frames[at - 1].Kind == FrameKind.Numbers ? $"{leaf.Frames[at].Number}. " : bullet;
            var begins = previous is null || !previous.Frames.Contains(leaf.Frames[at]);
            prefix.Append(begins ? marker : new string(' ', marker.Length));
        }
        return prefix.ToString();
    }

    // ---- rich ----------------------------------------------------------------------------------------------------

    private static IReadOnlyList<Frame> Open(IReadOnlyList<Frame> open, IReadOnlyList<Frame> wanted, StringBuilder html)
    {
        var shared = 0;
        while (shared < open.Count && shared < wanted.Count && open[shared] == wanted[shared])
            shared++;
        for (var at = open.Count - 1; at >= shared; at--)
            if (!open[at].Implied && open[at].Kind != FrameKind.Rule)
                html.Append("</").Append(Name(open[at])).Append('>');
        for (var at = shared; at < wanted.Count; at++)
            if (!wanted[at].Implied)
                html.Append('<').Append(Name(wanted[at])).Append(Markup.Aligned(wanted[at].Align)).Append('>');
        return wanted;
    }

    private static string Name(Frame frame) =>
        frame.Kind switch
        {
            FrameKind.Paragraph => "p",
            FrameKind.Heading => $"h{frame.Number}",
            FrameKind.Preformatted => "pre",
            FrameKind.Quote => "blockquote",
            FrameKind.Bullets => "ul",
            FrameKind.Numbers => "ol",
            FrameKind.Item => "li",
            FrameKind.Table => "table",
            FrameKind.Row => "tr",
            FrameKind.Cell => "td",
            FrameKind.HeaderCell => "th",
            _ => "hr",
        };

    private static void Pieces(Leaf leaf, StringBuilder html, WrittenText steps)
    {
        IReadOnlyList<Mark> open = [];
        foreach (var piece in leaf.Pieces)
        {
            switch (piece)
            {
                case Piece.Words words:
                    open = Marks(open, words.Marks, html);
                    html.Append(Markup.Escape(words.Text));
                    steps.Add(words.Text);
                    break;
                case Piece.Break:
                    html.Append("<br>");
                    steps.Add("\n");
                    break;
                case Piece.Picture picture:
                    html.Append(Markup.Picture(picture.Media, picture.Alt, picture.Width));
                    steps.Add("\uFFFC");
                    break;
                default:
                    steps.Mark(piece);
                    break;
            }
        }
        Marks(open, [], html);
    }

    private static IReadOnlyList<Mark> Marks(IReadOnlyList<Mark> open, IReadOnlyList<Mark> wanted, StringBuilder html)
    {
        var shared = 0;
        while (shared < open.Count && shared < wanted.Count && open[shared] == wanted[shared])
            shared++;
        for (var at = open.Count - 1; at >= shared; at--)
            html.Append("</")
                .Append(
                    open[at] switch
                    {
                        Mark.Emphasised mark => Markup.Name(mark.Emphasis),
                        Mark.Link => "a",
                        _ => "span",
                    }
                )
                .Append('>');
        for (var at = shared; at < wanted.Count; at++)
            html.Append('<')
                .Append(
                    wanted[at] switch
                    {
                        Mark.Emphasised mark => Markup.Name(mark.Emphasis),
                        Mark.Link link => "a" + Markup.Attribute("href", link.Target),
                        Mark.Styled styled => "span" + Markup.Styled(styled.Style),
                        _ => "span",
                    }
                )
                .Append('>');
        return wanted;
    }
}
