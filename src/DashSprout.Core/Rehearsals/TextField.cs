using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Text;

namespace DashSprout.Core.Rehearsals;

/// <summary>
/// A field to rehearse in: it takes keys as a real field of its kind would, and delivery steps. It holds lines of
/// graphemes; in a rich field each line knows the blocks it lies in.
/// </summary>
public sealed class TextField(FieldKind kind)
{
    private readonly List<Line> lines = [new Line([new Frame(FrameKind.Paragraph)], [])];
    private At caret;
    private At anchor;
    private (string? Plain, Flow? Rich) clipboard = ("", null);
    private (string? Plain, Flow? Rich)? remembered;
    private (List<Line> Lines, At Caret, At Anchor)? beforeText;

    private readonly record struct At(int Line, int Step);

    private readonly record struct Glyph(string Text, EquatableList<Mark> Marks, Piece.Picture? Picture = null);

    private sealed record Line(IReadOnlyList<Frame> Frames, List<Glyph> Glyphs)
    {
        public bool IsRule => Frames[^1].Kind == FrameKind.Rule;
    }

    /// <summary>The text in the field.</summary>
    public string Text => Writers.Plain(ToFlow()).Text;

    /// <summary>What is on the clipboard, as plain text; null when it is too long.</summary>
    public string? Clipboard
    {
        get => clipboard.Plain;
        init => clipboard = (value, null);
    }

    /// <summary>The HTML of a rich field; null when the field takes no formatting.</summary>
    public string? Html => kind == FieldKind.Rich ? Writers.Rich(ToFlow(), wholeBlocks: true).Text : null;

    /// <summary>Graphemes of the text before the caret.</summary>
    public int Caret => Writers.Plain(ToFlow(caret)).Caret!.Value;

    /// <summary>Graphemes of the text before the start and the end of what is selected; null when nothing is.</summary>
    public (int Start, int End)? Selection =>
        caret == anchor ? null : (Writers.Plain(ToFlow(anchor)).Caret!.Value, Caret);

    /// <summary>
    /// Caret steps before the other end of what is selected and before the caret; see <see cref="Written"/>.
    /// </summary>
    public (int Anchor, int Caret) Steps => (StepsTo(anchor), StepsTo(caret));

    /// <summary>What is selected, as plain text.</summary>
    public string Selected =>
        Selection is { } range
            ? Text[
                Graphemes.Offset(Text, Math.Min(range.Start, range.End))..Graphemes.Offset(
                    Text,
                    Math.Max(range.Start, range.End)
                )
            ]
            : "";

    /// <summary>
    /// Takes one key as the application does; keys that depend on a layout (up, down, a page) do nothing here.
    /// </summary>
    public void Press(Key key)
    {
        if (key.AddsText)
        {
            var isLine = kind is FieldKind.SingleLine or FieldKind.Secret;
            if (key.Kind == KeyKind.Typed)
                Insert([new Glyph(key.Text, EquatableList<Mark>.Empty)]);
            else if (isLine)
                return;
            else if (key == Key.Enter || (key == Key.ShiftEnter && kind != FieldKind.Rich))
                Split();
            else
                Insert([new Glyph(key.Text, EquatableList<Mark>.Empty)]);
            return;
        }
        switch (key.Value)
        {
            case "Backspace" when caret != anchor:
                RemoveSelection();
                return;
            case "Backspace":
                DeleteBack(1);
                return;
            case "Delete":
                if (caret == anchor)
                    anchor = Back(caret, -1);
                RemoveSelection();
                return;
            case "ArrowLeft":
                anchor = caret = caret == anchor ? Back(caret, 1) : Earlier(caret, anchor);
                return;
            case "ArrowRight":
                anchor = caret = caret == anchor ? Back(caret, -1) : Later(caret, anchor);
                return;
            case "Home":
                anchor = caret = LineStart(caret);
                return;
            case "End":
                anchor = caret = LineEnd(caret);
                return;
            case "Shift+ArrowLeft":
                caret = Back(caret, 1);
                return;
            case "Shift+ArrowRight":
                caret = Back(caret, -1);
                return;
            case "Shift+Home":
                caret = LineStart(caret);
                return;
            case "Shift+End":
                caret = LineEnd(caret);
                return;
        }
    }

    /// <summary>Carries one step out.</summary>
    public void Apply(DeliveryStep step)
    {
        switch (step)
        {
            case DeliveryStep.Delete delete:
                RemoveSelection();
                DeleteBack(delete.Graphemes);
                break;
            case DeliveryStep.Remember:
                beforeText = ([.. lines.Select(line => line with { Glyphs = [.. line.Glyphs] })], caret, anchor);
                break;
            case DeliveryStep.PutIn putIn:
                PutIn(putIn.Plain, putIn.Rich);
                break;
            case DeliveryStep.TakeBack takeBack:
                TakeBack(takeBack.Steps);
                break;
            case DeliveryStep.SetClipboard set:
                remembered ??= clipboard;
                clipboard = (set.Plain, set.Rich);
                break;
            case DeliveryStep.Paste when kind != FieldKind.Secret:
                PutIn(clipboard.Plain ?? "", clipboard.Rich);
                break;
            case DeliveryStep.RestoreClipboard:
                clipboard = remembered ?? clipboard;
                remembered = null;
                break;
            case DeliveryStep.Press press:
                Press(press.Key);
                break;
            case DeliveryStep.MoveBack move:
                anchor = caret = Back(caret, move.Steps);
                break;
            case DeliveryStep.SelectBack select:
                anchor = Back(caret, select.Steps);
                break;
        }
    }

    private void PutIn(string plain, Flow? rich) =>
        Insert(kind == FieldKind.Rich && rich is not null ? rich : Flow.OfText(plain));

    private void TakeBack(int steps)
    {
        if (beforeText is not { } before)
        {
            DeleteBack(steps);
            return;
        }
        lines.Clear();
        lines.AddRange(before.Lines);
        (caret, anchor, beforeText) = (before.Caret, before.Anchor, null);
    }

    private int StepsTo(At place) =>
        lines.Take(place.Line).Where(line => !line.IsRule).Sum(line => line.Glyphs.Count + 1) + place.Step;

    private At LineStart(At place) =>
        place with
        {
            Step = lines[place.Line].Glyphs.Take(place.Step).ToList().FindLastIndex(glyph => glyph.Text == "\n") + 1,
        };

    private At LineEnd(At place)
    {
        var end = lines[place.Line].Glyphs.FindIndex(place.Step, glyph => glyph.Text == "\n");
        return place with { Step = end < 0 ? lines[place.Line].Glyphs.Count : end };
    }

    private static At Earlier(At a, At b) => a.Line < b.Line || (a.Line == b.Line && a.Step < b.Step) ? a : b;

    private static At Later(At a, At b) => Earlier(a, b) == a ? b : a;

    private void DeleteBack(int count)
    {
        anchor = Back(caret, Math.Max(count, 0));
        RemoveSelection();
    }

    private void RemoveSelection()
    {
        var (start, end) = (Earlier(anchor, caret), Later(anchor, caret));
        var tail = lines[end.Line].Glyphs.Skip(end.Step).ToList();
        lines[start.Line].Glyphs.RemoveRange(start.Step, lines[start.Line].Glyphs.Count - start.Step);
        lines[start.Line].Glyphs.AddRange(tail);
        lines.RemoveRange(start.Line + 1, end.Line - start.Line);
        anchor = caret = start;
    }

    /// <summary>The place some caret steps back, forward when the number is negative; rules are stepped over.</summary>
    private At Back(At place, int steps)
    {
        var (line, step) = place;
        for (; steps > 0; steps--)
        {
            if (step > 0)
                step--;
            else if (LineBefore(line) is var before and >= 0)
                (line, step) = (before, lines[before].Glyphs.Count);
        }
        for (; steps < 0; steps++)
        {
            if (step < lines[line].Glyphs.Count)
                step++;
            else if (lines.FindIndex(line + 1, other => !other.IsRule) is var next and >= 0)
                (line, step) = (next, 0);
        }
        return new At(line, step);
    }

    private int LineBefore(int line) => line == 0 ? -1 : lines.FindLastIndex(line - 1, other => !other.IsRule);

    private void Split()
    {
        RemoveSelection();
        var line = lines[caret.Line];
        if (line.Frames[^1].Kind == FrameKind.Preformatted)
        {
            Insert([new Glyph("\n", EquatableList<Mark>.Empty)]);
            return;
        }
        var tail = line.Glyphs.Skip(caret.Step).ToList();
        line.Glyphs.RemoveRange(caret.Step, tail.Count);
        var frames = line
            .Frames.Select(
                (frame, at) => frame.Kind == FrameKind.Item ? new Frame(FrameKind.Item, frame.Number + 1) : frame
            )
            .ToList();
        // The next line is a paragraph, aligned as this one; within a heading it goes on as one.
        var own = line.Frames[^1];
        frames[^1] =
            own.Kind == FrameKind.Heading && tail.Count > 0
                ? new Frame(FrameKind.Heading, own.Number, own.Align)
                : new Frame(FrameKind.Paragraph, align: own.Align, implied: own.Implied);
        lines.Insert(caret.Line + 1, new Line(frames, tail));
        anchor = caret = new At(caret.Line + 1, 0);
    }

    private void Insert(Flow flow)
    {
        RemoveSelection();
        if (flow.Leaves.Count == 0)
            return;
        if (flow.Leaves.Count == 1 && flow.IsInline)
        {
            Insert(Glyphs(flow.Leaves[0]));
            return;
        }
        var here = lines[caret.Line];
        var tail = here.Glyphs.Skip(caret.Step).ToList();
        here.Glyphs.RemoveRange(caret.Step, tail.Count);
        // Blocks that come behind a line lie in what it lies in: an item, a quotation, a cell.
        var around = here.Frames.SkipLast(1);
        var goesOn = flow.Leaves[0].Frames is [{ Kind: FrameKind.Paragraph, Align: Align.Default }];
        if (goesOn)
            Insert(Glyphs(flow.Leaves[0]));
        var added = flow
            .Leaves.Skip(goesOn ? 1 : 0)
            .Select(leaf => new Line([.. around, .. leaf.Frames], Glyphs(leaf)))
            .ToList();
        if (!goesOn && here.Glyphs.Count == 0 && !BeginsItem(caret.Line))
        {
            lines.RemoveAt(caret.Line);
            caret = new At(caret.Line - 1, 0);
        }
        lines.InsertRange(caret.Line + 1, added);
        var last = caret.Line + added.Count;
        anchor = caret = new At(last, lines[last].Glyphs.Count);
        lines[last].Glyphs.AddRange(tail);
    }

    /// <summary>Whether a line is the first of its item, which has to begin with a paragraph.</summary>
    private bool BeginsItem(int line) =>
        lines[line].Frames is [.., { Kind: FrameKind.Item } item, _]
        && (line == 0 || !lines[line - 1].Frames.Contains(item));

    private void Insert(List<Glyph> glyphs)
    {
        RemoveSelection();
        var line = lines[caret.Line].Glyphs;
        var at = caret.Step;
        // What is put in may join the grapheme before it.
        if (at > 0 && glyphs.Count > 0 && Graphemes.IsOne(line[at - 1].Text + glyphs[0].Text))
        {
            glyphs = [line[at - 1] with { Text = line[at - 1].Text + glyphs[0].Text }, .. glyphs.Skip(1)];
            line.RemoveAt(--at);
        }
        line.InsertRange(at, glyphs);
        anchor = caret = new At(caret.Line, at + glyphs.Count);
    }

    private static List<Glyph> Glyphs(Leaf leaf)
    {
        var cells = new List<Glyph>();
        foreach (var piece in leaf.Pieces)
        {
            if (piece is Piece.Words words)
                cells.AddRange(Graphemes.Split(words.Text).Select(grapheme => new Glyph(grapheme, words.Marks)));
            if (piece is Piece.Break)
                cells.Add(new Glyph("\n", EquatableList<Mark>.Empty));
            if (piece is Piece.Picture picture)
                cells.Add(new Glyph("\uFFFC", EquatableList<Mark>.Empty, picture));
        }
        return cells;
    }

    private Flow ToFlow(At? marked = null)
    {
        var leaves = new List<Leaf>();
        for (var line = 0; line < lines.Count; line++)
        {
            var pieces = new List<Piece>();
            for (var at = 0; at <= lines[line].Glyphs.Count; at++)
            {
                if (marked == new At(line, at))
                    pieces.Add(new Piece.Caret(EquatableList<Mark>.Empty));
                if (at == lines[line].Glyphs.Count)
                    break;
                var cell = lines[line].Glyphs[at];
                if (cell.Picture is not null)
                    pieces.Add(cell.Picture);
                else if (cell.Text == "\n")
                    pieces.Add(new Piece.Break());
                else if (pieces.Count > 0 && pieces[^1] is Piece.Words words && words.Marks.Equals(cell.Marks))
                    pieces[^1] = words with { Text = words.Text + cell.Text };
                else
                    pieces.Add(new Piece.Words(cell.Text, cell.Marks));
            }
            leaves.Add(new Leaf(lines[line].Frames, pieces));
        }
        return new Flow(leaves);
    }
}
