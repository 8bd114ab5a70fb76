using System.Globalization;
using NodaTime;

namespace DashSprout.Core.Bodies;

/// <summary>What a body comes to: the text, and what is done beside it.</summary>
/// <param name="Opened">Addresses to open, in order.</param>
/// <param name="Notices">Notices to show, in order.</param>
public sealed record Rendering(Flow Flow, IReadOnlyList<string> Opened, IReadOnlyList<string> Notices);

/// <summary>Works a body out: every live part becomes text, a key press, or something beside the text.</summary>
public static class Renderer
{
    private const int MostNesting = 20;

    /// <summary>Renders a body; throws <see cref="RenderingException"/> when it cannot be put in as things are.</summary>
    public static Rendering Render(Body body, RenderContext context, Capitals capitals)
    {
        if (body is Body.Plain plain) return new Rendering(Flow.OfText(CapitalShapes.Shape(plain.Text, capitals)), [], []);
        var run = new Run(body.Tree, context, capitals);
        run.Blocks(body.Tree.Blocks, []);
        return new Rendering(new Flow(run.Leaves), run.Opened, run.Notices);
    }

    private sealed class Run(BodyTree tree, RenderContext context, Capitals capitals)
    {
        private readonly Answers answers = new(BodyFields.Of(tree, context.FindSnippet), context.Answers);
        private readonly List<string> inside = [];
        private bool firstLetterPending = capitals == Capitals.First;
        private int turns;
        private List<Piece> pieces = [];

        public List<Leaf> Leaves { get; } = [];

        public List<string> Opened { get; } = [];

        public List<string> Notices { get; } = [];

        public void Blocks(IEnumerable<Block> blocks, IReadOnlyList<Frame> frames)
        {
            foreach (var block in blocks) One(block, frames);
        }

        private void One(Block block, IReadOnlyList<Frame> frames)
        {
            switch (block)
            {
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
                    IReadOnlyList<Frame> inList = [.. frames, new Frame(list.Numbered ? FrameKind.Numbers : FrameKind.Bullets)];
                    for (var at = 0; at < list.Items.Count; at++)
                        Held(list.Items[at], [.. inList, new Frame(FrameKind.Item, at + 1)]);
                    break;
                case Block.Table table:
                    IReadOnlyList<Frame> inTable = [.. frames, new Frame(FrameKind.Table)];
                    foreach (var row in table.Rows)
                    {
                        IReadOnlyList<Frame> inRow = [.. inTable, new Frame(FrameKind.Row)];
                        foreach (var cell in row) Held(cell.Blocks, [.. inRow, new Frame(cell.Header ? FrameKind.HeaderCell : FrameKind.Cell)]);
                    }
                    break;
                case Block.Passage passage:
                    if (Holds(passage.When)) Blocks(passage.Blocks, frames);
                    break;
                case Block.Notice notice:
                    Notices.Add(Writers.Plain(new Flow([new Leaf([new Frame(FrameKind.Paragraph)], Pieces(notice.Content))])).Text);
                    break;
            }
        }

        /// <summary>What an item or cell holds: the paragraph of a single line is not written.</summary>
        private void Held(EquatableList<Block> blocks, IReadOnlyList<Frame> frames)
        {
            if (blocks.Count == 0) Line([], [.. frames, new Frame(FrameKind.Paragraph, implied: true)]);
            else if (blocks[0] is Block.Paragraph { Align: Align.Default } first)
            {
                Line(first.Content, [.. frames, new Frame(FrameKind.Paragraph, implied: true)]);
                Blocks(blocks.Skip(1), frames);
            }
            else Blocks(blocks, frames);
        }

        private void Line(IEnumerable<Inline> content, IReadOnlyList<Frame> frames)
        {
            var list = content as IReadOnlyCollection<Inline> ?? [.. content];
            var made = Pieces(list);
            // A paragraph that holds nothing but what is opened or left out is none.
            if (made.Count == 0 && list.Count > 0 && frames is [{ Kind: FrameKind.Paragraph }] && !list.Any(IsText)) return;
            Leaves.Add(new Leaf(frames, made));
        }

        private static bool IsText(Inline part) => part is Inline.Text or Inline.Field or Inline.Calculation or Inline.Clipboard or Inline.Selection or Inline.Emphasised or Inline.Styled or Inline.Link;

        private List<Piece> Pieces(IEnumerable<Inline> content)
        {
            var outer = pieces;
            pieces = [];
            All(content, EquatableList<Mark>.Empty);
            var made = pieces;
            pieces = outer;
            return made;
        }

        private void All(IEnumerable<Inline> content, EquatableList<Mark> marks)
        {
            foreach (var part in content) One(part, marks);
        }

        private void One(Inline part, EquatableList<Mark> marks)
        {
            switch (part)
            {
                case Inline.Text text: Words(Shaped(text.Value), marks); break;
                case Inline.Break: pieces.Add(new Piece.Break()); break;
                case Inline.Emphasised emphasised: All(emphasised.Content, new([.. marks, new Mark.Emphasised(emphasised.Emphasis)])); break;
                case Inline.Styled styled: All(styled.Content, new([.. marks, new Mark.Styled(styled.Style)])); break;
                case Inline.Link link: All(link.Content, new([.. marks, new Mark.Link(link.Target)])); break;
                case Inline.Picture picture: pieces.Add(new Piece.Picture(picture.Media, picture.Alt, picture.Width)); break;
                case Inline.Date date: Words(Shaped(DateText(date)), marks); break;
                case Inline.Field field: Words(AsIs(AnswerText(field.Slip)), marks); break;
                case Inline.Calculation calculation: Words(AsIs(CalculationText(calculation)), marks); break;
                case Inline.Passage passage:
                    if (Holds(passage.When)) All(passage.Content, marks);
                    break;
                case Inline.Clipboard clipboard:
                    var copied = Short(context.Clipboard, "clipboard");
                    Words(AsIs(clipboard.Trim ? copied.Trim() : copied), marks);
                    break;
                case Inline.Selection selection:
                    var selected = Short(context.Selection, "selection");
                    if (selected.Length > 0) Words(AsIs(selected), marks);
                    else All(selection.Otherwise, marks);
                    break;
                case Inline.Group group: Words(AsIs(group.Number < context.Groups.Count ? context.Groups[group.Number] : ""), marks); break;
                case Inline.UniqueId: Words(AsIs(context.NewId().ToString()), marks); break;
                case Inline.Pick pick: All(Picked(pick), marks); break;
                case Inline.Reference reference: Other(reference.Target, marks); break;
                case Inline.Caret: pieces.Add(new Piece.Caret(marks)); break;
                case Inline.Selected left:
                    pieces.Add(new Piece.SelectionStart());
                    All(left.Content, marks);
                    pieces.Add(new Piece.SelectionEnd());
                    break;
                case Inline.KeyPress press: pieces.Add(new Piece.KeyPress(press.Key, press.Times)); break;
                case Inline.Wait wait: pieces.Add(new Piece.Wait(wait.For)); break;
                case Inline.GoTo goTo: pieces.Add(new Piece.GoTo(goTo.App, goTo.FieldName)); break;
                case Inline.Open open: Opened.Add(open.Target); break;
            }
        }

        private static string Short(string? text, string what) => text
            ?? throw new RenderingException($"The {what} holds more than {RenderContext.MostUnits:N0} characters. Take a shorter one.");

        private void Words(string text, EquatableList<Mark> marks)
        {
            var lines = text.Split('\n');
            for (var at = 0; at < lines.Length; at++)
            {
                if (at > 0) pieces.Add(new Piece.Break());
                if (lines[at].Length > 0) pieces.Add(new Piece.Words(lines[at], marks));
            }
        }

        /// <summary>The snippet's own words take the typed capitals …</summary>
        private string Shaped(string text)
        {
            if (capitals == Capitals.All) return text.ToUpperInvariant();
            if (!firstLetterPending) return text;
            text = CapitalShapes.FirstInTitleCase(text, out var found);
            firstLetterPending = !found;
            return text;
        }

        /// <summary>… and what comes from outside does not.</summary>
        private string AsIs(string text)
        {
            if (firstLetterPending && text.EnumerateRunes().Any(System.Text.Rune.IsLetter)) firstLetterPending = false;
            return text.ReplaceLineEndings("\n");
        }

        private string DateText(Inline.Date date)
        {
            var start = context.Now;
            if (date.Part.From is { } from)
                start = Answered(() => answers.DateOf(from), from).AtMidnight().InZoneLeniently(context.Now.Zone);
            return date.Part.Format(start, context.Locale, context.WorkingDays);
        }

        private string AnswerText(BodyField field) => field.Type switch
        {
            FieldType.Checkbox => "",
            FieldType.Date when answers.Of(field).Length > 0 => Long(Answered(() => answers.DateOf(field.Name), field.Name)),
            _ => answers.Of(field),
        };

        private string CalculationText(Inline.Calculation calculation) => Answered(() => calculation.Formula.Evaluate(answers.Value), null) switch
        {
            FormulaValue.Number number => number.Value.ToString(calculation.Pattern ?? "0.############", context.Locale),
            FormulaValue.Text text => text.Value,
            FormulaValue.Date date => Long(date.Value),
            FormulaValue.Truth truth => truth.Value ? "yes" : "no",
            _ => "",
        };

        private string Long(LocalDate date) => Dates.DatePattern.Parse("", "d MMMM y").Format(date.AtMidnight().InUtc(), context.Locale);

        private bool Holds(Formula formula) => Answered(() => formula.Holds(answers.Value), null);

        private static T Answered<T>(Func<T> work, string? field)
        {
            try
            {
                return work();
            }
            catch (FormulaException exception)
            {
                throw new RenderingException(exception.Message, field);
            }
        }

        private EquatableList<Inline> Picked(Inline.Pick pick)
        {
            if (pick.Choices.Count == 0) return EquatableList<Inline>.Empty;
            var name = string.Create(CultureInfo.InvariantCulture, $"{string.Join('>', inside)}#{turns++}");
            var at = pick.Way == PickWay.Random ? context.Random(pick.Choices.Count) : context.NextTurn(name) % pick.Choices.Count;
            return pick.Choices[at];
        }

        /// <summary>Another snippet: its lines go in where the reference stands, its blocks as lines of their own.</summary>
        private void Other(string target, EquatableList<Mark> marks)
        {
            if (inside.Contains(target) || inside.Count >= MostNesting)
                throw new RenderingException($"The snippets contain each other: {string.Join(" → ", inside.Append(target).Select(context.NameSnippet))}.");
            var body = context.FindSnippet(target)
                ?? throw new RenderingException(References.Id(target) is null
                    ? $"The snippet “{target}” inside this one is not there any more. Choose another one or take the part out."
                    : "A snippet inside this one is not there any more. Bring it back from the bin, choose another one or take the part out.");
            inside.Add(target);
            if (body is Body.Plain plain)
            {
                Words(Shaped(plain.Text), marks);
            }
            else
            {
                var first = true;
                foreach (var line in Lines(body.Tree.Blocks))
                {
                    if (!first) pieces.Add(new Piece.Break());
                    first = false;
                    All(line, marks);
                }
            }
            inside.RemoveAt(inside.Count - 1);
        }

        private IEnumerable<EquatableList<Inline>> Lines(IEnumerable<Block> blocks)
        {
            foreach (var block in blocks)
            {
                switch (block)
                {
                    case Block.Paragraph paragraph: yield return paragraph.Content; break;
                    case Block.Heading heading: yield return new([new Inline.Emphasised(Emphasis.Strong, heading.Content)]); break;
                    case Block.Preformatted preformatted: yield return preformatted.Content; break;
                    case Block.Notice: One(block, []); break;
                    case Block.Quote quote:
                        foreach (var line in Lines(quote.Blocks)) yield return line;
                        break;
                    case Block.Passage passage when Holds(passage.When):
                        foreach (var line in Lines(passage.Blocks)) yield return line;
                        break;
                    case Block.BulletList list:
                        for (var at = 0; at < list.Items.Count; at++)
                            foreach (var line in Lines(list.Items[at]))
                                yield return new([new Inline.Text(list.Numbered ? $"{at + 1}. " : "- "), .. line]);
                        break;
                    case Block.Table table:
                        foreach (var row in table.Rows)
                            yield return new(row.SelectMany((cell, at) => Lines(cell.Blocks).SelectMany(line => line).Prepend(new Inline.Text(at == 0 ? "" : "\t"))));
                        break;
                }
            }
        }
    }
}
