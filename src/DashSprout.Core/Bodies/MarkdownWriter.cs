using System.Globalization;

namespace DashSprout.Core.Bodies;

/// <summary>
/// Writes flows as CommonMark with tables, so that every reader of it gets the same words and formatting back. What
/// Markdown has no sign for, such as underlining and colours, is left out.
/// </summary>
internal sealed class MarkdownWriter
{
    private readonly WrittenText output = new();
    private string prefix = "";

    private MarkdownWriter() { }

    /// <summary>A flow as Markdown.</summary>
    public static Written Write(Flow flow)
    {
        var writer = new MarkdownWriter();
        writer.Blocks(flow.Leaves, 0, tight: false);
        return writer.output.Done();
    }

    /// <summary>Blocks that lie side by side, some levels down.</summary>
    /// <param name="tight">Whether a list may follow a paragraph without an empty line, as in an item.</param>
    private void Blocks(IReadOnlyList<Leaf> leaves, int depth, bool tight)
    {
        Frame? before = null;
        var isOther = false;
        foreach (var (block, lines) in Grouped(leaves, depth))
        {
            if (before is not null)
            {
                var close = tight && before.Kind == FrameKind.Paragraph && IsList(block) && !IsBlank(lines[0]);
                if (!close)
                    NewLine(isBlank: true);
                NewLine();
            }
            // Two lists of one kind would be read as one: the second has other signs.
            isOther = before is not null && IsList(block) && before.Kind == block.Kind && !isOther;
            Block(block, lines, depth, isOther);
            before = block;
        }
    }

    private void Block(Frame block, IReadOnlyList<Leaf> lines, int depth, bool isOther)
    {
        switch (block.Kind)
        {
            case FrameKind.Quote:
                Within("> ", () => Blocks(lines, depth + 1, tight: false));
                break;
            case FrameKind.Bullets or FrameKind.Numbers:
                Items(block.Kind, lines, depth + 1, isOther);
                break;
            case FrameKind.Table:
                Table(lines, depth + 1);
                break;
            case FrameKind.Rule:
                // Behind the sign of an item a row of - would be one rule with it.
                output.Add(prefix.EndsWith("  ", StringComparison.Ordinal) ? "___" : "---");
                break;
            case FrameKind.Preformatted:
                Preformatted(lines[0]);
                break;
            case FrameKind.Heading:
                output.Add(new string('#', block.Number) + " ");
                new MarkdownLine(output, lines[0].Pieces, " ") { IsHeading = true }.Write();
                break;
            default:
                new MarkdownLine(output, lines[0].Pieces, "\\\n" + prefix).Write();
                break;
        }
    }

    private void Items(FrameKind kind, IReadOnlyList<Leaf> leaves, int depth, bool isOther)
    {
        var isSimple = Grouped(leaves, depth)
            .All(item =>
                Grouped(item.Lines, depth + 1)
                    .Select((held, at) => at == 0 ? held.Frame.Kind == FrameKind.Paragraph : IsList(held.Frame))
                    .All(fits => fits)
            );
        var isFirst = true;
        foreach (var (item, lines) in Grouped(leaves, depth))
        {
            if (!isFirst)
            {
                if (!isSimple)
                    NewLine(isBlank: true);
                NewLine();
            }
            isFirst = false;
            var sign =
                kind == FrameKind.Numbers ? item.Number.ToString(CultureInfo.InvariantCulture) + (isOther ? ") " : ". ")
                : isOther ? "* "
                : "- ";
            output.Add(sign);
            // An item that began with an empty line would end there.
            var held = lines.Count > 1 && IsBlank(lines[0]) ? [.. lines.Skip(1)] : lines;
            Within(new string(' ', sign.Length), () => Blocks(held, depth + 1, tight: true), begins: false);
        }
    }

    private void Preformatted(Leaf leaf)
    {
        var text = string.Concat(
            leaf.Pieces.Select(piece =>
                piece switch
                {
                    Piece.Words words => words.Text,
                    Piece.Break => "\n",
                    _ => "",
                }
            )
        );
        var fence = new string('`', Math.Max(3, MarkdownLine.LongestRun(text, '`') + 1));
        output.Add(fence);
        NewLine();
        foreach (var piece in leaf.Pieces)
        {
            if (piece is Piece.Words words)
            {
                var lines = words.Text.Split('\n');
                for (var at = 0; at < lines.Length; at++)
                {
                    if (at > 0)
                        NewLine();
                    output.Add(lines[at]);
                }
            }
            else if (piece is Piece.Break)
            {
                NewLine();
            }
            else
            {
                output.Mark(piece);
            }
        }
        NewLine();
        output.Add(fence);
    }

    private void Table(IReadOnlyList<Leaf> leaves, int depth)
    {
        var rows = Grouped(leaves, depth).Select(row => Grouped(row.Lines, depth + 1).ToList()).ToList();
        var columns = rows.Max(row => row.Count);
        for (var at = 0; at < rows.Count; at++)
        {
            if (at > 0)
                NewLine();
            for (var column = 0; column < columns; column++)
            {
                output.Add(column == 0 ? "| " : " | ");
                if (column < rows[at].Count)
                    Cell(rows[at][column].Lines);
            }
            output.Add(" |");
            if (at > 0)
                continue;
            NewLine();
            output.Add(string.Concat(Enumerable.Repeat("| --- ", columns)) + "|");
        }
    }

    /// <summary>
    /// A cell has one line: what lies below each other in it stands behind each other, with breaks between.
    /// </summary>
    private void Cell(IReadOnlyList<Leaf> lines)
    {
        Leaf? before = null;
        foreach (var leaf in lines)
        {
            if (before is not null)
                output.Add("<br>");
            var pieces = leaf
                .Pieces.SelectMany(piece =>
                    piece is Piece.Words { Text: var text } words && text.Contains('\n', StringComparison.Ordinal)
                        ? text.Split('\n')
                            .SelectMany(
                                (line, at) =>
                                    at == 0
                                        ? (IEnumerable<Piece>)[words with { Text = line }]
                                        : [new Piece.Break(), words with { Text = line }]
                            )
                        : [piece]
                )
                .ToList();
            var sign = Writers.ItemPrefix(before, leaf, "- ", leaf.Frames.ToList().FindIndex(Writers.IsCell));
            if (leaf.Own.Kind == FrameKind.Rule)
                sign += "---";
            if (sign.Length > 0)
                pieces.Insert(0, new Piece.Words(sign, EquatableList<Mark>.Empty));
            new MarkdownLine(output, pieces, "<br>") { IsCell = true }.Write();
            before = leaf;
        }
    }

    private void Within(string more, Action write, bool begins = true)
    {
        if (begins)
            output.Add(more);
        var outer = prefix;
        prefix += more;
        write();
        prefix = outer;
    }

    private void NewLine(bool isBlank = false) => output.Add("\n" + (isBlank ? prefix.TrimEnd() : prefix));

    private static bool IsList(Frame frame) => frame.Kind is FrameKind.Bullets or FrameKind.Numbers;

    /// <summary>
    /// Whether nothing of a paragraph is read: readers take an item that begins so for an empty one, or for HTML.
    /// </summary>
    private static bool IsBlank(Leaf leaf) =>
        leaf.Own.Kind == FrameKind.Paragraph
        && leaf.Pieces.All(piece =>
            piece is Piece.Break || (piece is Piece.Words words && string.IsNullOrWhiteSpace(words.Text))
        );

    /// <summary>The lines by the block that holds them at a level, in order.</summary>
    private static IEnumerable<(Frame Frame, IReadOnlyList<Leaf> Lines)> Grouped(IReadOnlyList<Leaf> leaves, int depth)
    {
        for (var from = 0; from < leaves.Count; )
        {
            var frame = leaves[from].Frames[depth];
            var to = from + 1;
            while (to < leaves.Count && leaves[to].Frames[depth] == frame)
                to++;
            yield return (frame, [.. leaves.Skip(from).Take(to - from)]);
            from = to;
        }
    }
}
