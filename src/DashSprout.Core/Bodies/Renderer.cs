using System.Globalization;
using DashSprout.Core.Text;
using NodaTime;

namespace DashSprout.Core.Bodies;

/// <summary>What a body comes to: the text, and what is done beside it.</summary>
/// <param name="Opened">What is to be opened, in order.</param>
/// <param name="Notices">Notices to show, in order.</param>
/// <param name="Rotations">The parts that have taken a turn, by name, once it goes in.</param>
/// <param name="HoldsPrivate">Whether a private snippet went into it.</param>
public sealed record Rendering(
    Flow Flow,
    IReadOnlyList<OpenTarget> Opened,
    IReadOnlyList<string> Notices,
    IReadOnlyList<string> Rotations,
    bool HoldsPrivate = false
);

/// <summary>Something that is to be opened.</summary>
/// <param name="Origin">The snippet whose part it is, as others refer to it: one that goes into another is asked for
/// itself.</param>
public sealed record OpenTarget(string Target, string Origin);

/// <summary>Works a body out: every live part becomes text, a key press, or something beside the text.</summary>
public static class Renderer
{
    /// <summary>
    /// Renders a body; throws <see cref="RenderingException"/> when it cannot be put in as things are.
    /// </summary>
    public static Rendering Render(Body body, RenderContext context, Capitals capitals)
    {
        if (body is Body.Plain plain)
            return new Rendering(Flow.OfText(CapitalShapes.Shape(plain.Text, capitals, context.Locale)), [], [], []);
        return Render(body.Tree, context, capitals);
    }

    /// <summary>The lines that a tree comes to.</summary>
    internal static Flow Render(BodyTree tree, RenderContext context) => Render(tree, context, Capitals.AsWritten).Flow;

    private static Rendering Render(BodyTree tree, RenderContext context, Capitals capitals)
    {
        var run = new Run(tree, context, capitals);
        run.Blocks(tree.Blocks, []);
        return new Rendering(new Flow(run.Leaves), run.Opened, run.Notices, run.Rotations, run.HoldsPrivate);
    }

    private sealed class Run(BodyTree tree, RenderContext context, Capitals capitals)
    {
        private readonly Answers answers = new(
            BodyFields.Of(tree, context.FindSnippet),
            context.Answers,
            context.Locale
        );
        private readonly List<string> inside = [];
        private bool firstLetterPending = capitals == Capitals.First;
        private readonly Dictionary<string, (Body Body, BodyTree Tree)> bodies = [];
        private readonly Stack<BodyTree> trees = new([tree]);
        private readonly Dictionary<string, List<Inline.Pick>> picks = [];
        private int references,
            characters,
            outside;
        private bool repeats;
        private List<Piece> pieces = [];

        public List<Leaf> Leaves { get; } = [];

        public List<OpenTarget> Opened { get; } = [];

        public List<string> Notices { get; } = [];

        public List<string> Rotations { get; } = [];

        public bool HoldsPrivate { get; private set; }

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
                    when content[0] is Inline.Reference { Target: var target } && HasBlocks(target):
                    Within(target, inner => Blocks(inner.Tree.Blocks, frames));
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
                    foreach (var row in table.Rows.SelectMany(Repeated))
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
                    if (Holds(passage.When))
                        Blocks(passage.Blocks, frames);
                    break;
                case Block.Notice notice:
                    Notices.Add(
                        Writers
                            .Plain(new Flow([new Leaf([new Frame(FrameKind.Paragraph)], Pieces(notice.Content))]))
                            .Text
                    );
                    break;
            }
        }

        /// <summary>A row as often as it is repeated, each time with the answers given in it.</summary>
        private IEnumerable<BodyRow> Repeated(BodyRow row)
        {
            if (
                row.Repeats is null
                || BodyTree
                    .InlinesOf(row)
                    .OfType<Inline.Field>()
                    .Select(field => answers.RowOf(field.Slip))
                    .FirstOrDefault(one => one is not null)
                    is not { } repeated
            )
            {
                yield return row;
                yield break;
            }
            repeats = true;
            for (var at = 1; at <= answers.RowsOf(repeated); at++)
            {
                answers.Row = at;
                yield return row;
            }
            answers.Row = 0;
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
            var made = Pieces(list);
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
            foreach (var part in content)
                One(part, marks);
        }

        private void One(Inline part, EquatableList<Mark> marks)
        {
            Grow(1);
            switch (part)
            {
                case Inline.Text text:
                    Words(Shaped(text.Value), marks);
                    break;
                case Inline.Break:
                    pieces.Add(new Piece.Break());
                    break;
                case Inline.Emphasised emphasised:
                    All(emphasised.Content, new([.. marks, new Mark.Emphasised(emphasised.Emphasis)]));
                    break;
                case Inline.Styled styled:
                    All(styled.Content, new([.. marks, new Mark.Styled(styled.Style)]));
                    break;
                case Inline.Link link:
                    All(link.Content, new([.. marks, new Mark.Link(link.Target, context.ShowsLinkTargets)]));
                    break;
                case Inline.Picture picture:
                    pieces.Add(new Piece.Picture(picture.Media, picture.Alt, picture.Width));
                    break;
                case Inline.Date date:
                    OrEmpty(() => Shaped(DateText(date)), date.Part.From ?? "", marks);
                    break;
                case Inline.Field field:
                    Answer(field.Slip, marks);
                    break;
                case Inline.Calculation calculation:
                    OrEmpty(() => AsIs(CalculationText(calculation)), calculation.Formula.Source, marks);
                    break;
                case Inline.Passage passage:
                    if (Holds(passage.When))
                        All(passage.Content, marks);
                    break;
                case Inline.Clipboard clipboard:
                    var copied = Short(context.Clipboard, "clipboard");
                    Words(AsIs(clipboard.Trim ? copied.Trim() : copied), marks);
                    break;
                case Inline.Selection selection:
                    var selected = Short(context.Selection, "selection");
                    if (selected.Length > 0)
                        Words(AsIs(selected), marks);
                    else
                        All(selection.Otherwise, marks);
                    break;
                case Inline.Group group:
                    Words(AsIs(group.Number < context.Groups.Count ? context.Groups[group.Number] : ""), marks);
                    break;
                case Inline.UniqueId:
                    Words(AsIs(context.NewId().ToString()), marks);
                    break;
                case Inline.Pick pick:
                    All(Picked(pick), marks);
                    break;
                case Inline.Reference reference:
                    Other(reference.Target, marks);
                    break;
                case Inline.Caret:
                    pieces.Add(new Piece.Caret(marks));
                    break;
                case Inline.Selected left:
                    pieces.Add(new Piece.SelectionStart());
                    All(left.Content, marks);
                    pieces.Add(new Piece.SelectionEnd());
                    break;
                case Inline.KeyPress press:
                    pieces.Add(new Piece.KeyPress(press.Key, press.Times));
                    break;
                case Inline.KeyRun run:
                    foreach (var key in run.Keys)
                        pieces.Add(new Piece.KeyPress(key, 1));
                    break;
                case Inline.Live live:
                    Words(AsIs(LiveText(live)), marks);
                    break;
                case Inline.Wait wait:
                    pieces.Add(new Piece.Wait(wait.For));
                    break;
                case Inline.GoTo goTo:
                    pieces.Add(new Piece.GoTo(goTo.App, goTo.FieldName));
                    break;
                case Inline.Wrong wrong:
                    throw new RenderingException(wrong.Why);
                case Inline.Open open:
                    Opened.Add(new OpenTarget(open.Target, Here));
                    break;
            }
        }

        private static string Short(string? text, string what) =>
            text
            ?? throw new RenderingException(
                $"The {what} holds more than {RenderContext.MostUnits:N0} characters. Take a shorter one."
            );

        private void Words(string text, EquatableList<Mark> marks)
        {
            var lines = text.Split('\n');
            for (var at = 0; at < lines.Length; at++)
            {
                if (at > 0)
                    pieces.Add(new Piece.Break());
                if (lines[at].Length > 0)
                    pieces.Add(new Piece.Words(lines[at], marks));
            }
        }

        /// <summary>The snippet's own words take the typed capitals …</summary>
        private string Shaped(string text)
        {
            Grow(text.Length);
            if (capitals == Capitals.All)
                return FullCasing.Upper(text, context.Locale);
            if (!firstLetterPending)
                return text;
            text = CapitalShapes.FirstInTitleCase(text, context.Locale, out var found);
            firstLetterPending = !found;
            return text;
        }

        /// <summary>Snippets that hold others many times over are stopped before they become too much.</summary>
        private void Grow(int by)
        {
            characters += by;
            if ((references > 0 || repeats) && characters > BodyLimits.MostCharacters)
                throw new RenderingException(BodyLimits.TooLong);
        }

        /// <summary>… and what comes from outside does not.</summary>
        private string AsIs(string text)
        {
            outside += text.Length;
            if (outside > RenderContext.MostUnits)
                throw new RenderingException(
                    $"More than {RenderContext.MostUnits:N0} characters of the clipboard, the selection and "
                        + "answers would go in. Put them in less often."
                );
            if (firstLetterPending && text.EnumerateRunes().Any(System.Text.Rune.IsLetter))
                firstLetterPending = false;
            return text.ReplaceLineEndings("\n");
        }

        private string DateText(Inline.Date date)
        {
            var start = context.Now;
            if (date.Part.From is { } from)
                start = Answered(() => answers.DateOf(from), from).AtMidnight().InZoneLeniently(context.Now.Zone);
            return Answered(() => date.Part.Format(start, context.Locale, context.WorkingDays), date.Part.From);
        }

        /// <summary>A value from outside; one that cannot be had now comes with its age.</summary>
        private string LiveText(Inline.Live live) =>
            context.ReadLive(live.Source, live.Path) switch
            {
                LiveValue.Now now => now.Text,
                LiveValue.Before before => $"{before.Text} ({before.Age})",
                LiveValue.Missing missing => throw new RenderingException(missing.Why),
                _ => "",
            };

        /// <summary>
        /// The answer to a field; while the slip is being filled in, what is still empty shows by its name.
        /// </summary>
        private void Answer(BodyField field, EquatableList<Mark> marks)
        {
            var text = AnswerText(field);
            if (text.Length == 0 && context.MarksEmpty && field.Type != FieldType.Checkbox)
                Words($"⟨{field.Label}⟩", new([.. marks, Empty]));
            else
                Words(AsIs(text), marks);
        }

        /// <summary>
        /// What is worked out from answers; while they are being given, what cannot be worked out yet shows by its
        /// formula.
        /// </summary>
        private void OrEmpty(Func<string> text, string name, EquatableList<Mark> marks)
        {
            try
            {
                Words(text(), marks);
            }
            catch (RenderingException) when (context.MarksEmpty)
            {
                Words($"⟨{name}⟩", new([.. marks, Empty]));
            }
        }

        private static readonly Mark Empty = new Mark.Styled(new TextStyle("#14342b", "#fbe8c3", null, null));

        private string AnswerText(BodyField field) =>
            field.Type switch
            {
                FieldType.Checkbox => "",
                FieldType.Date when Answers.Date(answers.Of(field)) is { } date => Long(date),
                FieldType.Date when answers.Of(field).Length > 0 => throw new RenderingException(
                    $"{field.Label}: “{answers.Of(field)}” is not a date such as 2026-03-02.",
                    field.Name
                ),
                _ => answers.Of(field),
            };

        private string CalculationText(Inline.Calculation calculation) =>
            Answered(() => calculation.Formula.Evaluate(answers.Names), null) switch
            {
                FormulaValue.Number number => number.Value.ToString(
                    calculation.Pattern ?? "0.############",
                    context.Locale
                ),
                FormulaValue.Text text => text.Value,
                FormulaValue.Date date => Long(date.Value),
                FormulaValue.Truth truth => truth.Value ? "yes" : "no",
                _ => "",
            };

        private string Long(LocalDate date) =>
            Dates.DatePattern.Parse("", "d MMMM y").Format(date.AtMidnight().InUtc(), context.Locale);

        private bool Holds(Formula formula)
        {
            try
            {
                return Answered(() => formula.Holds(answers.Names), null);
            }
            catch (RenderingException) when (context.MarksEmpty)
            {
                return false;
            }
        }

        private static T Answered<T>(Func<T> work, string? field)
        {
            try
            {
                return work();
            }
            catch (Exception exception) when (exception is FormulaException or Dates.DateException)
            {
                throw new RenderingException(exception.Message, field);
            }
        }

        private EquatableList<Inline> Picked(Inline.Pick pick)
        {
            if (pick.Choices.Count == 0)
                return EquatableList<Inline>.Empty;
            if (pick.Way == PickWay.Random)
                return pick.Choices[context.Random(pick.Choices.Count)];
            var name = NameOf(pick);
            // A part that goes in twice takes two turns.
            var taken = context.RotationsTaken(name) + Rotations.Count(turn => turn == name);
            Rotations.Add(name);
            return pick.Choices[taken % pick.Choices.Count];
        }

        /// <summary>The snippet that is being worked out, as others refer to it.</summary>
        private string Here => inside.Count > 0 ? inside[^1] : context.Self;

        /// <summary>
        /// A part that takes turns is named by its snippet and its place there, whatever else goes in.
        /// </summary>
        private string NameOf(Inline.Pick pick)
        {
            if (!picks.TryGetValue(Here, out var known))
                picks[Here] = known = [.. trees.Peek().Inlines().OfType<Inline.Pick>()];
            return string.Create(
                CultureInfo.InvariantCulture,
                $"{Here}/{known.FindIndex(one => ReferenceEquals(one, pick))}"
            );
        }

        /// <summary>
        /// Another snippet: its lines go in where the reference stands, its blocks as lines of their own.
        /// </summary>
        private void Other(string target, EquatableList<Mark> marks) => Within(target, inner =>
            {
                if (inner.Body is Body.Plain plain)
                {
                    Words(Shaped(plain.Text), marks);
                    return;
                }
                var first = true;
                foreach (var line in Lines(inner.Tree.Blocks))
                {
                    if (!first)
                        pieces.Add(new Piece.Break());
                    first = false;
                    All(line, marks);
                }
            });

        private bool HasBlocks(string target) =>
            Find(target) is { Body: Body.Html } found
            && found.Tree.Blocks.Any(block => block is not (Block.Paragraph or Block.Notice));

        private (Body Body, BodyTree Tree)? Find(string target)
        {
            if (bodies.TryGetValue(target, out var found))
                return found;
            return context.FindSnippet(target) is { } body ? bodies[target] = (body, body.Tree) : null;
        }

        private void Within(string target, Action<(Body Body, BodyTree Tree)> work)
        {
            if (++references > BodyLimits.MostReferences)
                throw new RenderingException(BodyLimits.TooManyReferences);
            if (inside.Contains(target))
                throw new RenderingException(
                    "The snippets contain each other: "
                        + $"{string.Join(" → ", inside.Append(target).Select(context.NameSnippet))}."
                );
            if (inside.Count >= BodyLimits.MostNesting)
                throw new RenderingException(BodyLimits.NestedTooDeep(inside.Select(context.NameSnippet)));
            HoldsPrivate |= context.IsPrivate(target);
            var found = Find(target)
                ?? throw new RenderingException(
                    References.Id(target) is null
                        ? $"The snippet “{target}” inside this one is not there any more. Choose another one or "
                            + "take the part out."
                        : "A snippet inside this one is not there any more. Bring it back from the bin, choose "
                            + "another one or take the part out."
                );
            inside.Add(target);
            trees.Push(found.Tree);
            work(found);
            trees.Pop();
            inside.RemoveAt(inside.Count - 1);
        }

        private IEnumerable<EquatableList<Inline>> Lines(IEnumerable<Block> blocks)
        {
            foreach (var block in blocks)
            {
                switch (block)
                {
                    case Block.Paragraph paragraph:
                        yield return paragraph.Content;
                        break;
                    case Block.Heading heading:
                        yield return new([new Inline.Emphasised(Emphasis.Strong, heading.Content)]);
                        break;
                    case Block.Preformatted preformatted:
                        yield return preformatted.Content;
                        break;
                    case Block.Notice:
                        One(block, []);
                        break;
                    case Block.Quote quote:
                        foreach (var line in Lines(quote.Blocks))
                            yield return line;
                        break;
                    case Block.Passage passage when Holds(passage.When):
                        foreach (var line in Lines(passage.Blocks))
                            yield return line;
                        break;
                    case Block.BulletList list:
                        var number = 1;
                        foreach (var item in list.Items)
                        {
                            var marker = list.Numbered
                                ? string.Create(CultureInfo.InvariantCulture, $"{number}. ")
                                : "- ";
                            var next = marker;
                            foreach (var line in Lines(item))
                            {
                                yield return new([new Inline.Text(next), .. line]);
                                next = new string(' ', marker.Length);
                            }
                            if (next != marker)
                                number++;
                        }
                        break;
                    case Block.Rule:
                        yield return new([new Inline.Text("---")]);
                        break;
                    case Block.Table table:
                        foreach (var row in table.Rows.SelectMany(Repeated))
                            yield return new(
                                row.Cells.SelectMany(
                                    (cell, at) =>
                                        Lines(cell.Blocks)
                                            .SelectMany(line => line)
                                            .Prepend(new Inline.Text(at == 0 ? "" : "\t"))
                                )
                            );
                        break;
                }
            }
        }
    }
}
