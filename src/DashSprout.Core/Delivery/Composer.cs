using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Text;

namespace DashSprout.Core.Delivery;

/// <summary>The steps of one delivery, and what they amount to.</summary>
/// <param name="Steps">The steps in order.</param>
/// <param name="Inserted">The plain text that goes in, with everything put back behind it.</param>
/// <param name="Neighbour">The last character put in before the caret, or before the keys put back; empty when nothing
/// was put in there, null when a key was pressed that leaves it unknown.
/// </param>
/// <param name="KeysBehind">Whether the keys put back stand right before the caret at the end.</param>
/// <param name="TakeBackSteps">Its length in caret steps when it can be taken back; null when it is more than
/// text.</param>
/// <param name="OpensOnly">Whether something is opened and no text of the snippet put in.</param>
/// <param name="Opened">What the steps open, in order.</param>
/// <param name="Rotations">The parts that have taken a turn, by name.</param>
public sealed record ComposedDelivery(
    IReadOnlyList<DeliveryStep> Steps,
    string Inserted,
    string? Neighbour,
    bool KeysBehind,
    int? TakeBackSteps,
    bool OpensOnly,
    IReadOnlyList<OpenTarget> Opened,
    IReadOnlyList<string> Rotations
);

/// <summary>Turns a firing into delivery steps for a kind of field.</summary>
public static class Composer
{
    /// <summary>
    /// The longest text, in graphemes, that *automatic* delivery types; longer ones go through the clipboard.
    /// </summary>
    public const int LongestTyped = 200;

    /// <summary>
    /// Composes the delivery of a firing; throws <see cref="RenderingException"/> when its body cannot be put in.
    /// </summary>
    /// <param name="inField">How many of the typed graphemes are in the field.</param>
    public static ComposedDelivery Compose(Firing firing, int inField, FieldKind field, RenderContext context)
    {
        var snippet = firing.Trigger.Placed.Snippet.For(field);
        var rendering = Renderer.Render(
            snippet.Body,
            context.Writing(snippet.Links) with
            {
                Groups = firing.Groups,
            },
            firing.Capitals
        );
        DeliveryLimits.Check(rendering.Flow);
        var steps = new List<DeliveryStep>();
        if (firing.Typed.Count > 0)
            steps.Add(new DeliveryStep.Delete(inField));
        steps.AddRange(rendering.Notices.Select(notice => new DeliveryStep.ShowNotice(notice)));
        steps.AddRange(rendering.Opened.Select(opening => new DeliveryStep.Open(opening.Target)));

        var isPrivate = snippet.Private || rendering.HoldsPrivate;
        var way = WayOf(snippet, isPrivate, field, rendering.Flow);
        var flow =
            way == DeliveryWay.Keystrokes && snippet.Delivery == way ? rendering.Flow.Unformatted() : rendering.Flow;
        var writer = new StepWriter(steps, field, snippet.Body, way);
        var parts = flow.Split().ToList();
        var last = Write(parts[^1].Part, field, snippet.Body);
        string? before = "";
        foreach (var (part, then) in parts)
        {
            if (then is null)
            {
                writer.PutInLast(part, firing.PutBack);
                continue;
            }
            writer.PutIn(part);
            before = After(then, Write(part, field, snippet.Body).Stepped is { Length: > 0 } text ? text : before);
            if (then is Piece.KeyPress press)
                steps.AddRange(Enumerable.Repeat(new DeliveryStep.Press(press.Key), press.Times));
            if (then is Piece.Wait wait)
                steps.Add(new DeliveryStep.Wait(wait.For));
            if (then is Piece.GoTo goTo)
                steps.Add(new DeliveryStep.GoTo(goTo.App, goTo.Field));
        }
        if ((isPrivate || !snippet.LeaveOnClipboard) && steps.Exists(step => step is DeliveryStep.Paste))
            steps.Add(new DeliveryStep.RestoreClipboard());

        var behind = firing.PutBack.Count;
        var caret = last.Selection?.Start ?? last.Caret;
        if (last.Selection is { } selection)
        {
            MoveBack(steps, last.Length + behind - selection.End);
            if (selection.End > selection.Start)
                steps.Add(new DeliveryStep.SelectBack(selection.End - selection.Start));
        }
        else if (last.Caret is { } marked)
        {
            MoveBack(steps, last.Length + behind - marked);
        }

        var beforeCaret = caret is { } at ? last.Stepped[..Graphemes.Offset(last.Stepped, at)] : last.Stepped;
        var actsOnKeys =
            field is FieldKind.SingleLine or FieldKind.Secret && firing.PutBack.Any(key => key.Kind != KeyKind.Typed);
        var onlyText =
            !actsOnKeys
            && parts.Count == 1
            && !steps.Exists(step =>
                step is DeliveryStep.Open or DeliveryStep.ShowNotice or DeliveryStep.MoveBack or DeliveryStep.SelectBack
            );
        if (onlyText)
            steps.Insert(firing.Typed.Count > 0 ? 1 : 0, new DeliveryStep.Remember());
        return new ComposedDelivery(
            steps,
            Writers.Plain(flow).Text + string.Concat(firing.PutBack.Select(key => key.Text)),
            beforeCaret.Length > 0 ? Graphemes.Last(beforeCaret)
                : before is { Length: > 0 } ? Graphemes.Last(before)
                : before,
            caret is null,
            onlyText ? last.Length + behind : null,
            rendering.Opened.Count > 0 && rendering.Flow.Leaves.Count == 0,
            rendering.Opened,
            rendering.Rotations
        );
    }

    /// <summary>The text of a flow as a kind of field takes it.</summary>
    public static Written Write(Flow flow, FieldKind field, Body body) =>
        field switch
        {
            FieldKind.Rich => Writers.Rich(flow),
            // A plain text goes into a Markdown field as it is: it may be Markdown itself.
            FieldKind.Markdown when body is Body.Html => Writers.Markdown(flow),
            FieldKind.Secret => OneLine(Writers.Plain(flow)),
            _ => Writers.Plain(flow),
        };

    /// <summary>A pass-phrase has no line ends: a space stands for each, as a browser's own control puts it.</summary>
    private static Written OneLine(Written written) =>
        written with
        {
            Text = written.Text.Replace('\n', ' '),
            Stepped = written.Stepped.Replace('\n', ' '),
        };

    /// <summary>What stands before the caret after a key was pressed or a pause made; null when nobody knows.</summary>
    private static string? After(Piece then, string? before) =>
        then switch
        {
            Piece.Wait => before,
            Piece.KeyPress { Key: { AddsText: true } key } => key.Text,
            _ => null,
        };

    /// <summary>
    /// How the text reaches the field. A field that refuses pasting is typed into whatever the snippet says;
    /// *automatic* types short plain text of one line and pastes the rest. What is private goes through the clipboard
    /// only where its owner says so.
    /// </summary>
    private static DeliveryWay WayOf(Snippet snippet, bool isPrivate, FieldKind field, Flow flow)
    {
        if (field == FieldKind.Secret)
            return DeliveryWay.Keystrokes;
        if (snippet.Delivery != DeliveryWay.Automatic)
            return snippet.Delivery;
        if (isPrivate)
            return DeliveryWay.Keystrokes;
        var formatted =
            field == FieldKind.Rich
            && flow.Leaves.Any(leaf =>
                leaf.Own.Kind != FrameKind.Paragraph
                || leaf.Pieces.Any(piece => piece is Piece.Picture or Piece.Words { Marks.Count: > 0 })
            );
        var plain = Writers.Plain(flow).Text;
        return formatted || plain.Contains('\n', StringComparison.Ordinal) || Graphemes.Count(plain) > LongestTyped
            ? DeliveryWay.Clipboard
            : DeliveryWay.Keystrokes;
    }

    /// <summary>Writes the parts of a text as steps for one kind of field.</summary>
    private sealed class StepWriter(List<DeliveryStep> steps, FieldKind field, Body body, DeliveryWay way)
    {
        public void PutIn(Flow part)
        {
            var text = field == FieldKind.Rich ? Writers.Plain(part).Text : Write(part, field, body).Text;
            var isNothing =
                field == FieldKind.Rich
                    ? part.Leaves is [] or [{ Pieces: [] }] && (part.Leaves.Count == 0 || part.IsInline)
                    : text.Length == 0;
            if (isNothing)
                return;
            var rich = field == FieldKind.Rich ? part : null;
            if (way == DeliveryWay.Clipboard)
                steps.AddRange([new DeliveryStep.SetClipboard(text, rich), new DeliveryStep.Paste()]);
            else
                steps.Add(new DeliveryStep.PutIn(text, rich));
        }

        /// <summary>
        /// The last part with the closing keys behind it: those that are text go in with it, in one step.
        /// </summary>
        public void PutInLast(Flow part, EquatableList<Key> putBack)
        {
            var typed = string.Concat(putBack.TakeWhile(key => key.Kind == KeyKind.Typed).Select(key => key.Text));
            PutIn(typed.Length > 0 || field is FieldKind.Rich or FieldKind.Markdown ? part.With(typed) : part);
            foreach (var key in putBack.SkipWhile(key => key.Kind == KeyKind.Typed))
            {
                if (key.Kind == KeyKind.Typed)
                    steps.Add(new DeliveryStep.PutIn(key.Text, field == FieldKind.Rich ? Flow.OfText(key.Text) : null));
                else
                    steps.Add(new DeliveryStep.Press(key));
            }
        }
    }

    private static void MoveBack(List<DeliveryStep> steps, int count)
    {
        if (count > 0)
            steps.Add(new DeliveryStep.MoveBack(count));
    }
}
