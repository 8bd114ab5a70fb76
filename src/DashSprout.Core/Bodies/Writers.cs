using System.Text;
using DashSprout.Core.Text;

namespace DashSprout.Core.Bodies;

/// <summary>A flow as text, with the caret and the selection in it.</summary>
/// <param name="Text">The text.</param>
/// <param name="Stepped">
/// What the caret steps through. One caret step is what an arrow key does: a grapheme, a picture, or the end of a line; bullets and
/// rules are none. In a field without formatting the caret steps through the text itself.
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
        var output = new Output();
        Leaf? previous = null;
        foreach (var leaf in flow.Leaves)
        {
            if (previous is not null) output.Add(FrameOf(previous, FrameKind.Row) is { } row && row == FrameOf(leaf, FrameKind.Row) && !SameCell(previous, leaf) ? "\t" : "\n");
            output.Add(ItemPrefix(previous, leaf, "- "));
            if (leaf.Own.Kind == FrameKind.Rule) output.Add("---");
            foreach (var piece in leaf.Pieces)
            {
                switch (piece)
                {
                    case Piece.Words words: output.Add(words.Text); break;
                    case Piece.Break: output.Add("\n"); break;
                    case Piece.Picture picture: output.Add(picture.Alt); break;
                    default: output.Mark(piece); break;
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
        var steps = new Output();
        IReadOnlyList<Frame> open = [];
        var inline = flow.IsInline && !wholeBlocks;
        var lines = 0;
        foreach (var leaf in flow.Leaves)
        {
            // A rule is no line: the caret steps over it from the line before to the line behind.
            if (leaf.Own.Kind != FrameKind.Rule && lines++ > 0) steps.Add("\n");
            if (!inline) open = Open(open, leaf.Frames, html);
            Pieces(leaf, html, steps);
        }
        if (!inline) Open(open, [], html);
        return steps.Done() with { Text = html.ToString() };
    }

    /// <summary>Markdown: CommonMark with tables.</summary>
    public static Written Markdown(Flow flow)
    {
        var output = new Output();
        Leaf? previous = null;
        for (var at = 0; at < flow.Leaves.Count; at++)
        {
            var leaf = flow.Leaves[at];
            if (FrameOf(leaf, FrameKind.Table) is { } table)
            {
                if (previous is not null) output.Add("\n\n");
                var last = at;
                while (last + 1 < flow.Leaves.Count && FrameOf(flow.Leaves[last + 1], FrameKind.Table) == table) last++;
                MarkdownTable(flow.Leaves.Skip(at).Take(last - at + 1).ToList(), output);
                at = last;
                previous = flow.Leaves[at];
                continue;
            }
            if (previous is not null) output.Add(SameTightList(previous, leaf) ? "\n" : "\n" + Quotes(previous, leaf) + "\n");
            MarkdownLine(previous, leaf, output);
            previous = leaf;
        }
        return output.Done();
    }

    private static Frame? FrameOf(Leaf leaf, FrameKind kind) => leaf.Frames.FirstOrDefault(frame => frame.Kind == kind);

    private static bool SameCell(Leaf a, Leaf b) =>
        a.Frames.FirstOrDefault(IsCell) is { } cell && cell == b.Frames.FirstOrDefault(IsCell);

    private static bool IsCell(Frame frame) => frame.Kind is FrameKind.Cell or FrameKind.HeaderCell;

    /// <summary>What stands before a line in a list: its bullet or number when the item begins here, else as much space.</summary>
    private static string ItemPrefix(Leaf? previous, Leaf leaf, string bullet)
    {
        var prefix = new StringBuilder();
        for (var at = 1; at < leaf.Frames.Count; at++)
        {
            if (leaf.Frames[at].Kind != FrameKind.Item) continue;
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
        while (shared < open.Count && shared < wanted.Count && open[shared] == wanted[shared]) shared++;
        for (var at = open.Count - 1; at >= shared; at--)
            if (!open[at].Implied && open[at].Kind != FrameKind.Rule) html.Append("</").Append(Name(open[at])).Append('>');
        for (var at = shared; at < wanted.Count; at++)
            if (!wanted[at].Implied) html.Append('<').Append(Name(wanted[at])).Append(BodyWriter.Aligned(wanted[at].Align)).Append('>');
        return wanted;
    }

    private static string Name(Frame frame) => frame.Kind switch
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

    private static void Pieces(Leaf leaf, StringBuilder html, Output steps)
    {
        IReadOnlyList<Mark> open = [];
        foreach (var piece in leaf.Pieces)
        {
            switch (piece)
            {
                case Piece.Words words:
                    open = Marks(open, words.Marks, html);
                    html.Append(BodyWriter.Escape(words.Text));
                    steps.Add(words.Text);
                    break;
                case Piece.Break:
                    html.Append("<br>");
                    steps.Add("\n");
                    break;
                case Piece.Picture picture:
                    html.Append(BodyWriter.Picture(picture.Media, picture.Alt, picture.Width));
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
        while (shared < open.Count && shared < wanted.Count && open[shared] == wanted[shared]) shared++;
        for (var at = open.Count - 1; at >= shared; at--)
            html.Append("</").Append(open[at] switch { Mark.Emphasised mark => BodyWriter.Name(mark.Emphasis), Mark.Link => "a", _ => "span" }).Append('>');
        for (var at = shared; at < wanted.Count; at++)
            html.Append('<').Append(wanted[at] switch
            {
                Mark.Emphasised mark => BodyWriter.Name(mark.Emphasis),
                Mark.Link link => "a" + BodyWriter.Attribute("href", link.Target),
                Mark.Styled styled => "span" + BodyWriter.Styled(styled.Style),
                _ => "span",
            }).Append('>');
        return wanted;
    }

    // ---- Markdown ------------------------------------------------------------------------------------------------

    private static bool SameTightList(Leaf previous, Leaf leaf) =>
        previous.Frames.LastOrDefault(IsList) is { } list && (leaf.Frames.Contains(list) || (leaf.Frames.LastOrDefault(IsList) is { } inner && previous.Frames.Contains(inner)))
        && (BeginsItem(previous, leaf) || !leaf.Frames.Contains(previous.Frames.Last(frame => frame.Kind == FrameKind.Item)));

    private static bool BeginsItem(Leaf previous, Leaf leaf) => leaf.Frames.Any(frame => frame.Kind == FrameKind.Item && !previous.Frames.Contains(frame));

    private static bool IsList(Frame frame) => frame.Kind is FrameKind.Bullets or FrameKind.Numbers;

    private static string Quotes(Leaf previous, Leaf leaf) =>
        string.Concat(leaf.Frames.Where(frame => frame.Kind == FrameKind.Quote && previous.Frames.Contains(frame)).Select(_ => ">"));

    private static void MarkdownLine(Leaf? previous, Leaf leaf, Output output)
    {
        var quotes = string.Concat(leaf.Frames.Where(frame => frame.Kind == FrameKind.Quote).Select(_ => "> "));
        var prefix = quotes + ItemPrefix(previous, leaf, "- ");
        var next = quotes + new string(' ', prefix.Length - quotes.Length);
        output.Add(prefix);
        output.BeginLine();
        switch (leaf.Own.Kind)
        {
            case FrameKind.Rule:
                output.Add("---");
                break;
            case FrameKind.Preformatted:
                var text = string.Concat(leaf.Pieces.Select(piece => piece switch { Piece.Words words => words.Text, Piece.Break => "\n", _ => "" }));
                var fence = new string('`', Math.Max(3, LongestRun(text, '`') + 1));
                output.Add($"{fence}\n");
                foreach (var piece in leaf.Pieces)
                {
                    if (output.AtLineStart) output.Add(next);
                    if (piece is Piece.Words words) output.Add(words.Text.Replace("\n", "\n" + next, StringComparison.Ordinal));
                    else if (piece is Piece.Break) output.Add("\n");
                    else output.Mark(piece);
                }
                output.Add($"\n{next}{fence}");
                break;
            case FrameKind.Heading:
                output.Add(new string('#', leaf.Own.Number) + " ");
                Inlines(leaf, output, " ", inTable: false);
                break;
            default:
                Inlines(leaf, output, "\\\n" + next, inTable: false);
                break;
        }
    }

    private static void MarkdownTable(List<Leaf> leaves, Output output)
    {
        var rows = leaves.GroupBy(leaf => FrameOf(leaf, FrameKind.Row)).ToList();
        var columns = rows.Max(row => row.Select(leaf => leaf.Frames.First(IsCell)).Distinct().Count());
        for (var at = 0; at < rows.Count; at++)
        {
            if (at > 0) output.Add("\n");
            var cells = rows[at].GroupBy(leaf => leaf.Frames.First(IsCell)).ToList();
            for (var column = 0; column < columns; column++)
            {
                output.Add(column == 0 ? "| " : " | ");
                if (column >= cells.Count) continue;
                var first = true;
                foreach (var leaf in cells[column])
                {
                    if (!first) output.Add("<br>");
                    first = false;
                    Inlines(leaf, output, "<br>", inTable: true);
                }
            }
            output.Add(" |");
            if (at == 0) output.Add("\n" + string.Concat(Enumerable.Repeat("| --- ", columns)) + "|");
        }
    }

    private static void Inlines(Leaf leaf, Output output, string lineBreak, bool inTable)
    {
        List<Mark> open = [];
        var blank = "";
        foreach (var piece in leaf.Pieces)
        {
            if (piece is Piece.Words words)
            {
                foreach (var (text, isBlank) in Runs(words.Text))
                {
                    if (isBlank)
                    {
                        blank += text;
                        continue;
                    }
                    var marks = words.Marks.Where(Shows).ToList();
                    if (marks.Exists(mark => mark is Mark.Emphasised { Emphasis: Emphasis.Code }))
                    {
                        marks = [.. marks.Where(mark => mark is not Mark.Emphasised { Emphasis: Emphasis.Code })];
                        Change(open, marks, ref blank, output);
                        output.Add(Code(text));
                        continue;
                    }
                    Change(open, marks, ref blank, output);
                    output.Add(Escape(text, output.AtLineStart, inTable));
                }
                continue;
            }
            // Emphasis cannot close behind a blank, so blanks wait until it is known what follows.
            switch (piece)
            {
                case Piece.Break:
                    blank += lineBreak;
                    break;
                case Piece.Picture picture:
                    Change(open, open.ToList(), ref blank, output);
                    output.Add($"![{Escape(picture.Alt, false, inTable)}](media:{picture.Media})");
                    break;
                case Piece.Caret caret:
                    // Signs open before the caret even when nothing is written between them yet.
                    Change(open, [.. caret.Marks.Where(Shows)], ref blank, output);
                    output.Mark(piece);
                    break;
                default:
                    output.Add(blank);
                    blank = "";
                    output.Mark(piece);
                    break;
            }
        }
        Change(open, [], ref blank, output);
    }

    private static bool Shows(Mark mark) => mark is Mark.Link or Mark.Emphasised { Emphasis: not Emphasis.U };

    private static void Change(List<Mark> open, List<Mark> wanted, ref string blank, Output output)
    {
        var shared = 0;
        while (shared < open.Count && shared < wanted.Count && open[shared] == wanted[shared]) shared++;
        for (var at = open.Count - 1; at >= shared; at--)
            output.Add(open[at] is Mark.Link link ? $"]({Destination(link.Target)})" : Sign(open[at]));
        output.Add(blank);
        if (blank.Contains('\n', StringComparison.Ordinal)) output.BeginLine();
        blank = "";
        for (var at = shared; at < wanted.Count; at++) output.Add(wanted[at] is Mark.Link ? "[" : Sign(wanted[at]));
        open.Clear();
        open.AddRange(wanted);
    }

    private static string Sign(Mark mark) => mark is Mark.Emphasised { Emphasis: var emphasis }
        ? emphasis switch { Emphasis.Strong => "**", Emphasis.Em => "*", Emphasis.S => "~~", _ => "" }
        : "";

    private static string Destination(string target) => target.AsSpan().IndexOfAny(" ()<>") < 0
        ? target
        : $"<{target.Replace("<", "%3C", StringComparison.Ordinal).Replace(">", "%3E", StringComparison.Ordinal)}>";

    private static string Code(string text)
    {
        var fence = new string('`', LongestRun(text, '`') + 1);
        var pad = text.StartsWith('`') || text.EndsWith('`') ? " " : "";
        return $"{fence}{pad}{text}{pad}{fence}";
    }

    private static int LongestRun(string text, char unit)
    {
        int longest = 0, run = 0;
        foreach (var other in text) longest = Math.Max(longest, run = other == unit ? run + 1 : 0);
        return longest;
    }

    private static IEnumerable<(string Text, bool IsBlank)> Runs(string text)
    {
        var start = 0;
        for (var at = 1; at <= text.Length; at++)
        {
            if (at < text.Length && text[at] == ' ' == (text[start] == ' ')) continue;
            yield return (text[start..at], text[start] == ' ');
            start = at;
        }
    }

    /// <summary>Backslashes before what CommonMark would read as a sign.</summary>
    private static string Escape(string text, bool atLineStart, bool inTable)
    {
        var escaped = new StringBuilder();
        for (var at = 0; at < text.Length; at++)
        {
            var unit = text[at];
            var first = atLineStart && at == 0;
            var special = unit switch
            {
                '\\' or '`' or '*' or '_' or '[' or ']' or '<' or '~' => true,
                '|' => inTable,
                '&' => at + 1 < text.Length && (char.IsAsciiLetter(text[at + 1]) || text[at + 1] == '#'),
                '#' or '>' or '+' or '-' or '=' => first,
                // 1. at the start of a line would begin a list.
                '.' or ')' => atLineStart && at > 0 && at + 1 == text.Length && text.AsSpan(0, at).IndexOfAnyExceptInRange('0', '9') < 0,
                _ => false,
            };
            if (special) escaped.Append('\\');
            escaped.Append(unit);
        }
        return escaped.ToString();
    }

    /// <summary>Text that grows, counted in graphemes where something is marked.</summary>
    private sealed class Output
    {
        private readonly StringBuilder text = new();
        private int? caret;
        private int? start;
        private int? end;

        private bool begun;

        /// <summary>Whether what comes next stands where a line's signs are read.</summary>
        public bool AtLineStart => begun || text.Length == 0 || text[^1] == '\n';

        public void BeginLine() => begun = true;

        public void Add(string part)
        {
            if (part.Length > 0) begun = false;
            text.Append(part);
        }

        public void Mark(Piece piece)
        {
            switch (piece)
            {
                case Piece.Caret: caret = text.Length; break;
                case Piece.SelectionStart: start = text.Length; break;
                case Piece.SelectionEnd: end = text.Length; break;
            }
        }

        public Written Done()
        {
            var whole = text.ToString();
            int Steps(int units) => Graphemes.Count(whole.AsSpan(0, units));
            return new Written(whole, whole, caret is { } at ? Steps(at) : null, start is { } from && end is { } to ? (Steps(from), Steps(to)) : null);
        }
    }
}
