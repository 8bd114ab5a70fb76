using DashSprout.Core.Text;
using NodaTime;

namespace DashSprout.Core.Bodies;

/// <summary>The kinds of blocks a line of text can lie in.</summary>
public enum FrameKind
{
    /// <summary>A paragraph.</summary>
    Paragraph,

    /// <summary>A heading; the number is its level.</summary>
    Heading,

    /// <summary>Preformatted text.</summary>
    Preformatted,

    /// <summary>A quotation.</summary>
    Quote,

    /// <summary>A list with bullets.</summary>
    Bullets,

    /// <summary>A list with numbers.</summary>
    Numbers,

    /// <summary>An item of a list; the number is its place.</summary>
    Item,

    /// <summary>A table.</summary>
    Table,

    /// <summary>A row.</summary>
    Row,

    /// <summary>A cell.</summary>
    Cell,

    /// <summary>A header cell.</summary>
    HeaderCell,

    /// <summary>A line across.</summary>
    Rule,
}

/// <summary>
/// One block on the way down to a line of text; the same object for all lines that lie in the same block.
/// </summary>
/// <param name="implied">True for the paragraph of an item or cell that is not written.</param>
public sealed class Frame(FrameKind kind, int number = 0, Align align = Align.Default, bool implied = false)
{
    /// <summary>What block it is.</summary>
    public FrameKind Kind { get; } = kind;

    /// <summary>A heading's level or an item's place.</summary>
    public int Number { get; } = number;

    /// <summary>How its lines are aligned.</summary>
    public Align Align { get; } = align;

    /// <summary>Whether it is left out when written.</summary>
    public bool Implied { get; } = implied;
}

/// <summary>Formatting that a stretch of text carries.</summary>
public abstract record Mark
{
    private Mark() { }

    /// <summary>Text set off.</summary>
    public sealed record Emphasised(Emphasis Emphasis) : Mark;

    /// <summary>A colour, face or size.</summary>
    public sealed record Styled(TextStyle Style) : Mark;

    /// <summary>A link.</summary>
    /// <param name="ShowsTarget">Whether its address follows its words where there are no links.</param>
    public sealed record Link(string Target, bool ShowsTarget = false) : Mark;
}

/// <summary>A piece of a line.</summary>
public abstract record Piece
{
    private Piece() { }

    /// <summary>Words with their formatting, outermost first.</summary>
    public sealed record Words(string Text, EquatableList<Mark> Marks) : Piece;

    /// <summary>A line's end within the block.</summary>
    public sealed record Break : Piece;

    /// <summary>A picture.</summary>
    public sealed record Picture(string Media, string Alt, int? Width) : Piece;

    /// <summary>Where the caret will stand, within its formatting.</summary>
    public sealed record Caret(EquatableList<Mark> Marks) : Piece;

    /// <summary>Where the text left selected begins.</summary>
    public sealed record SelectionStart : Piece;

    /// <summary>Where it ends.</summary>
    public sealed record SelectionEnd : Piece;

    /// <summary>A key that is pressed here.</summary>
    public sealed record KeyPress(Key Key, int Times) : Piece;

    /// <summary>A pause that is made here.</summary>
    public sealed record Wait(Duration For) : Piece;

    /// <summary>Another field gets the focus here.</summary>
    public sealed record GoTo(string App, string Field) : Piece;
}

/// <summary>A line of text in its blocks, outermost first; the last frame is its own.</summary>
public sealed record Leaf(IReadOnlyList<Frame> Frames, IReadOnlyList<Piece> Pieces)
{
    /// <summary>The block that the line itself is.</summary>
    public Frame Own => Frames[^1];

    /// <summary>
    /// The pieces with the addresses of links behind their words, where they are wanted and are not the words
    /// themselves.
    /// </summary>
    public IEnumerable<Piece> WithTargets()
    {
        Mark.Link? open = null;
        var words = "";
        foreach (var piece in Pieces)
        {
            if (piece is Piece.Words next)
            {
                var link = next.Marks.OfType<Mark.Link>().FirstOrDefault(mark => mark.ShowsTarget);
                if (open is not null && link != open && Target() is { } target)
                    yield return target;
                if (link != open)
                    words = "";
                open = link;
                words += next.Text;
            }
            yield return piece;
        }
        if (open is not null && Target() is { } last)
            yield return last;

        Piece.Words? Target()
        {
            var address = open!.Target.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase)
                ? open.Target["mailto:".Length..]
                : open.Target;
            return words.Trim() == address || words.Trim() == open.Target
                ? null
                : new Piece.Words($" ({address})", EquatableList<Mark>.Empty);
        }
    }
}

/// <summary>What a body comes to when it is put in: lines of text with everything worked out.</summary>
public sealed record Flow(IReadOnlyList<Leaf> Leaves)
{
    /// <summary>The flow without lines.</summary>
    public static Flow Empty { get; } = new([]);

    /// <summary>Whether it goes in within the paragraph where the caret is.</summary>
    public bool IsInline => Leaves is [{ Frames: [{ Kind: FrameKind.Paragraph, Align: Align.Default }] }];

    /// <summary>
    /// The flow with words behind its last line; a rule that ends it is no line, so that one begins behind it.
    /// </summary>
    public Flow With(string words)
    {
        var lines = Ended();
        if (words.Length == 0)
            return lines;
        if (lines.Leaves.Count == 0)
            return OfText(words);
        var last = lines.Leaves[^1];
        return new([
            .. lines.Leaves.Take(lines.Leaves.Count - 1),
            last with
            {
                Pieces = [.. last.Pieces, new Piece.Words(words, EquatableList<Mark>.Empty)],
            },
        ]);
    }

    private Flow Ended() =>
        Leaves is [.., { Own.Kind: FrameKind.Rule }]
            ? new([.. Leaves, new Leaf([new Frame(FrameKind.Paragraph)], [])])
            : this;

    /// <summary>Lines of plain text.</summary>
    public static Flow OfText(string text) =>
        new([
            .. text.Split('\n')
                .Select(line => new Leaf(
                    [new Frame(FrameKind.Paragraph)],
                    line.Length == 0 ? [] : [new Piece.Words(line, EquatableList<Mark>.Empty)]
                )),
        ]);

    /// <summary>The same text without formatting and blocks, as one would type it.</summary>
    public Flow Unformatted() =>
        new([
            .. Leaves.Select(leaf => new Leaf(
                [new Frame(FrameKind.Paragraph)],
                [
                    .. leaf.WithTargets()
                        .Select(piece =>
                            piece is Piece.Words words ? words with { Marks = EquatableList<Mark>.Empty } : piece
                        ),
                ]
            )),
        ]);

    /// <summary>
    /// The parts between the key presses, pauses and changes of field, with what comes after each part; null after the
    /// last.
    /// </summary>
    public IEnumerable<(Flow Part, Piece? Then)> Split()
    {
        var leaves = new List<Leaf>();
        foreach (var leaf in Leaves)
        {
            var pieces = new List<Piece>();
            foreach (var piece in leaf.Pieces)
            {
                if (piece is not (Piece.KeyPress or Piece.Wait or Piece.GoTo))
                {
                    pieces.Add(piece);
                    continue;
                }
                leaves.Add(leaf with { Pieces = [.. pieces] });
                yield return (new Flow([.. leaves]), piece);
                leaves.Clear();
                pieces.Clear();
            }
            leaves.Add(leaf with { Pieces = pieces });
        }
        yield return (new Flow(leaves), null);
    }
}
