using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Delivery;

/// <summary>
/// A field to rehearse in: it takes keys as a real field of its kind would, and delivery steps. It holds lines of
/// graphemes; in a rich field each line knows the blocks it lies in.
/// </summary>
public sealed class TextField(FieldKind kind)
{
    private readonly List<Line> lines = [new Line([new Frame(FrameKind.Paragraph)], [])];
    private Place caret;
    private Place anchor;
    private (string Plain, string? Html) clipboard = ("", null);
    private (string Plain, string? Html)? remembered;

    private readonly record struct Place(int Line, int Cell);

    private readonly record struct Cell(string Text, EquatableList<Mark> Marks, Piece.Picture? Picture = null);

    private sealed record Line(IReadOnlyList<Frame> Frames, List<Cell> Cells);

    /// <summary>The text in the field.</summary>
    public string Text => Writers.Plain(ToFlow()).Text;

    /// <summary>What is on the clipboard, as plain text.</summary>
    public string Clipboard
    {
        get => clipboard.Plain;
        init => clipboard = (value, null);
    }

    /// <summary>The HTML of a rich field; null when the field takes no formatting.</summary>
    public string? Html => kind == FieldKind.Rich ? Writers.Rich(ToFlow(), wholeBlocks: true).Text : null;

    /// <summary>Graphemes of the text before the caret.</summary>
    public int Caret => Writers.Plain(ToFlow(caret)).Caret!.Value;

    /// <summary>Graphemes of the text before the start and the end of what is selected; null when nothing is.</summary>
    public (int Start, int End)? Selection => caret == anchor ? null : (Writers.Plain(ToFlow(anchor)).Caret!.Value, Caret);

    /// <summary>Takes one key that the engine passed on.</summary>
    public void Press(Key key)
    {
        var acts = kind is FieldKind.SingleLine or FieldKind.Secret && key.Kind == KeyKind.Named;
        if (key == Key.Enter && !acts)
        {
            Split();
            return;
        }
        if (key.AddsText)
        {
            if (!acts) Insert([new Cell(key.Text, EquatableList<Mark>.Empty)]);
            return;
        }
        switch (key.Value)
        {
            case "Backspace" when caret != anchor: RemoveSelection(); return;
            case "Backspace": DeleteBack(1); return;
            case "Delete":
                if (caret == anchor) anchor = Back(caret, -1);
                RemoveSelection();
                return;
            case "ArrowLeft": caret = Back(caret, 1); break;
            case "ArrowRight": caret = Back(caret, -1); break;
            case "Home": caret = new Place(caret.Line, lines[caret.Line].Cells.FindLastIndex(Math.Max(caret.Cell - 1, 0), caret.Cell, cell => cell.Text == "\n") + 1); break;
            case "End":
                var end = lines[caret.Line].Cells.FindIndex(caret.Cell, cell => cell.Text == "\n");
                caret = new Place(caret.Line, end < 0 ? lines[caret.Line].Cells.Count : end);
                break;
            default: return;
        }
        anchor = caret;
    }

    /// <summary>Carries one step out.</summary>
    /// <param name="heldBack">Graphemes of the typed ones that never reached this field: the key being decided, or none.</param>
    public void Apply(DeliveryStep step, int heldBack)
    {
        switch (step)
        {
            case DeliveryStep.Delete delete: DeleteBack(delete.Graphemes - heldBack); break;
            case DeliveryStep.PutIn putIn: PutIn(putIn.Plain, putIn.Html); break;
            case DeliveryStep.SetClipboard set:
                remembered ??= clipboard;
                clipboard = (set.Plain, set.Html);
                break;
            case DeliveryStep.Paste when kind != FieldKind.Secret: PutIn(clipboard.Plain, clipboard.Html); break;
            case DeliveryStep.RestoreClipboard:
                clipboard = remembered ?? clipboard;
                remembered = null;
                break;
            case DeliveryStep.Press press: Press(press.Key); break;
            case DeliveryStep.MoveBack move: anchor = caret = Back(caret, move.Steps); break;
            case DeliveryStep.SelectBack select: anchor = Back(caret, select.Steps); break;
        }
    }

    /// <summary>Puts plain text in at the caret.</summary>
    public void PutIn(string text) => Insert(Flow.OfText(text));

    private void PutIn(string plain, string? html)
    {
        if (kind != FieldKind.Rich || html is null)
        {
            PutIn(plain);
            return;
        }
        var tree = BodyParser.Parse(html).Tree;
        Insert(Renderer.Render(new Body.Html(BodyWriter.Write(tree)), new RenderContext(), Capitals.AsWritten).Flow);
    }

    private void DeleteBack(int count)
    {
        anchor = Back(caret, Math.Max(count, 0));
        RemoveSelection();
    }

    private void RemoveSelection()
    {
        var (start, end) = anchor.Line < caret.Line || (anchor.Line == caret.Line && anchor.Cell < caret.Cell) ? (anchor, caret) : (caret, anchor);
        var tail = lines[end.Line].Cells.Skip(end.Cell).ToList();
        lines[start.Line].Cells.RemoveRange(start.Cell, lines[start.Line].Cells.Count - start.Cell);
        lines[start.Line].Cells.AddRange(tail);
        lines.RemoveRange(start.Line + 1, end.Line - start.Line);
        anchor = caret = start;
    }

    /// <summary>The place some caret steps back; forward when the number is negative.</summary>
    private Place Back(Place from, int steps)
    {
        var (line, cell) = from;
        for (; steps > 0; steps--)
        {
            if (cell > 0) cell--;
            else if (line > 0) cell = lines[--line].Cells.Count;
        }
        for (; steps < 0; steps++)
        {
            if (cell < lines[line].Cells.Count) cell++;
            else if (line + 1 < lines.Count) (line, cell) = (line + 1, 0);
        }
        return new Place(line, cell);
    }

    private void Split()
    {
        RemoveSelection();
        var line = lines[caret.Line];
        var tail = line.Cells.Skip(caret.Cell).ToList();
        line.Cells.RemoveRange(caret.Cell, tail.Count);
        var frames = line.Frames.Select((frame, at) => frame.Kind == FrameKind.Item ? new Frame(FrameKind.Item, frame.Number + 1) : frame).ToList();
        frames[^1] = new Frame(FrameKind.Paragraph, implied: line.Frames[^1].Implied);
        lines.Insert(caret.Line + 1, new Line(frames, tail));
        anchor = caret = new Place(caret.Line + 1, 0);
    }

    private void Insert(Flow flow)
    {
        RemoveSelection();
        if (flow.Leaves.Count == 0) return;
        if (flow.Leaves.Count == 1 && flow.IsInline)
        {
            Insert(Cells(flow.Leaves[0]));
            return;
        }
        var here = lines[caret.Line];
        var tail = here.Cells.Skip(caret.Cell).ToList();
        here.Cells.RemoveRange(caret.Cell, tail.Count);
        var added = flow.Leaves.Select(leaf => new Line(leaf.Frames, Cells(leaf))).ToList();
        if (added[0].Frames is [{ Kind: FrameKind.Paragraph, Align: Align.Default }])
        {
            Insert(added[0].Cells);
            added.RemoveAt(0);
        }
        else if (here.Cells.Count == 0)
        {
            lines.RemoveAt(caret.Line);
            caret = new Place(caret.Line - 1, 0);
        }
        lines.InsertRange(caret.Line + 1, added);
        var last = caret.Line + added.Count;
        anchor = caret = new Place(last, lines[last].Cells.Count);
        lines[last].Cells.AddRange(tail);
    }

    private void Insert(List<Cell> cells)
    {
        RemoveSelection();
        var line = lines[caret.Line].Cells;
        var at = caret.Cell;
        // What is put in may join the grapheme before it.
        if (at > 0 && cells.Count > 0 && Graphemes.IsOne(line[at - 1].Text + cells[0].Text))
        {
            cells = [line[at - 1] with { Text = line[at - 1].Text + cells[0].Text }, .. cells.Skip(1)];
            line.RemoveAt(--at);
        }
        line.InsertRange(at, cells);
        anchor = caret = new Place(caret.Line, at + cells.Count);
    }

    private static List<Cell> Cells(Leaf leaf)
    {
        var cells = new List<Cell>();
        foreach (var piece in leaf.Pieces)
        {
            if (piece is Piece.Words words) cells.AddRange(Graphemes.Split(words.Text).Select(grapheme => new Cell(grapheme, words.Marks)));
            if (piece is Piece.Break) cells.Add(new Cell("\n", EquatableList<Mark>.Empty));
            if (piece is Piece.Picture picture) cells.Add(new Cell("\uFFFC", EquatableList<Mark>.Empty, picture));
        }
        return cells;
    }

    private Flow ToFlow(Place? marked = null)
    {
        var leaves = new List<Leaf>();
        for (var line = 0; line < lines.Count; line++)
        {
            var pieces = new List<Piece>();
            for (var at = 0; at <= lines[line].Cells.Count; at++)
            {
                if (marked == new Place(line, at)) pieces.Add(new Piece.Caret(EquatableList<Mark>.Empty));
                if (at == lines[line].Cells.Count) break;
                var cell = lines[line].Cells[at];
                if (cell.Picture is not null) pieces.Add(cell.Picture);
                else if (cell.Text == "\n") pieces.Add(new Piece.Break());
                else if (pieces.Count > 0 && pieces[^1] is Piece.Words words && words.Marks.Equals(cell.Marks)) pieces[^1] = words with { Text = words.Text + cell.Text };
                else pieces.Add(new Piece.Words(cell.Text, cell.Marks));
            }
            leaves.Add(new Leaf(lines[line].Frames, pieces));
        }
        return new Flow(leaves);
    }
}
