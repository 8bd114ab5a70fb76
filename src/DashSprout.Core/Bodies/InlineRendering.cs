namespace DashSprout.Core.Bodies;

/// <summary>The parts of a line on their way to what they come to.</summary>
internal sealed class InlineRendering(
    RenderContext context,
    RenderedValues values,
    InnerSnippets inner,
    RenderedText text,
    BlockLines lines
)
{
    private static readonly Mark Empty = new Mark.Styled(new TextStyle("#14342b", "#fbe8c3", null, null));
    private readonly List<OpenTarget> opened = [];
    private readonly List<string> rotations = [];
    private List<Piece> pieces = [];

    /// <summary>What is to be opened so far.</summary>
    public IReadOnlyList<OpenTarget> Opened => opened;

    /// <summary>The parts that took a turn so far, by name.</summary>
    public IReadOnlyList<string> Rotations => rotations;

    /// <summary>What the parts of a line come to.</summary>
    public List<Piece> Pieces(IEnumerable<Inline> content)
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
        text.Grow(1);
        switch (part)
        {
            case Inline.Text own:
                Words(text.Own(own.Value), marks);
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
            case Inline.Passage passage:
                if (values.Holds(passage.When))
                    All(passage.Content, marks);
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
            default:
                Worked(part, marks);
                break;
        }
    }

    /// <summary>What is worked out, or comes from outside.</summary>
    private void Worked(Inline part, EquatableList<Mark> marks)
    {
        switch (part)
        {
            case Inline.Date date:
                OrEmpty(() => text.Own(values.Date(date)), date.Part.From ?? "", marks);
                break;
            case Inline.Field field:
                Answer(field.Slip, marks);
                break;
            case Inline.Calculation calculation:
                OrEmpty(() => text.Outside(values.Calculation(calculation)), calculation.Formula.Source, marks);
                break;
            case Inline.Clipboard clipboard:
                var copied = Short(context.Clipboard, "clipboard");
                Words(text.Outside(clipboard.Trim ? copied.Trim() : copied), marks);
                break;
            case Inline.Selection selection:
                var selected = Short(context.Selection, "selection");
                if (selected.Length > 0)
                    Words(text.Outside(selected), marks);
                else
                    All(selection.Otherwise, marks);
                break;
            case Inline.Group group:
                Words(text.Outside(group.Number < context.Groups.Count ? context.Groups[group.Number] : ""), marks);
                break;
            case Inline.UniqueId:
                Words(text.Outside(context.NewId().ToString()), marks);
                break;
            case Inline.Live live:
                Words(text.Outside(values.Live(live)), marks);
                break;
            default:
                Done(part);
                break;
        }
    }

    /// <summary>What is no text: keys, pauses, other fields, what is opened.</summary>
    private void Done(Inline part)
    {
        switch (part)
        {
            case Inline.KeyPress press:
                pieces.Add(new Piece.KeyPress(press.Key, press.Times));
                break;
            case Inline.KeyRun run:
                foreach (var key in run.Keys)
                    pieces.Add(new Piece.KeyPress(key, 1));
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
                opened.Add(new OpenTarget(open.Target, inner.Here));
                break;
        }
    }

    private static string Short(string? given, string what) =>
        given
        ?? throw new RenderingException(
            $"The {what} holds more than {RenderContext.MostUnits:N0} characters. Take a shorter one."
        );

    private void Words(string words, EquatableList<Mark> marks)
    {
        var parts = words.Split('\n');
        for (var at = 0; at < parts.Length; at++)
        {
            if (at > 0)
                pieces.Add(new Piece.Break());
            if (parts[at].Length > 0)
                pieces.Add(new Piece.Words(parts[at], marks));
        }
    }

    /// <summary>
    /// The answer to a field; while the slip is being filled in, what is still empty shows by its name.
    /// </summary>
    private void Answer(BodyField field, EquatableList<Mark> marks)
    {
        var answer = values.Answer(field);
        if (answer.Length == 0 && context.MarksEmpty && field.Type != FieldType.Checkbox)
            Words($"⟨{field.Label}⟩", new([.. marks, Empty]));
        else
            Words(text.Outside(answer), marks);
    }

    /// <summary>
    /// What is worked out from answers; while they are being given, what cannot be worked out yet shows by its
    /// formula.
    /// </summary>
    private void OrEmpty(Func<string> words, string name, EquatableList<Mark> marks)
    {
        try
        {
            Words(words(), marks);
        }
        catch (RenderingException) when (context.MarksEmpty)
        {
            Words($"⟨{name}⟩", new([.. marks, Empty]));
        }
    }

    private EquatableList<Inline> Picked(Inline.Pick pick)
    {
        if (pick.Choices.Count == 0)
            return EquatableList<Inline>.Empty;
        if (pick.Way == PickWay.Random)
            return pick.Choices[context.Random(pick.Choices.Count)];
        var name = inner.NameOf(pick);
        // A part that goes in twice takes two turns.
        var taken = context.RotationsTaken(name) + rotations.Count(turn => turn == name);
        rotations.Add(name);
        return pick.Choices[taken % pick.Choices.Count];
    }

    /// <summary>
    /// Another snippet: its lines go in where the reference stands, its blocks as lines of their own.
    /// </summary>
    private void Other(string target, EquatableList<Mark> marks) => inner.Within(target, found =>
        {
            if (found.Body is Body.Plain plain)
            {
                Words(text.Own(plain.Text), marks);
                return;
            }
            var first = true;
            foreach (var line in lines.Of(found.Tree.Blocks))
            {
                if (!first)
                    pieces.Add(new Piece.Break());
                first = false;
                All(line, marks);
            }
        });
}
