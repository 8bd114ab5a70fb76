using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;

namespace DashSprout.Core.Delivery;

/// <summary>The steps of one delivery, and what they amount to.</summary>
/// <param name="Steps">The steps in order.</param>
/// <param name="Inserted">The plain text that goes in, with everything put back behind it.</param>
/// <param name="BeforeCaret">The part of it that stands before the caret at the end.</param>
/// <param name="TakeBackLength">Its length in caret steps when it can be taken back; null when it is more than text.</param>
/// <param name="OpensOnly">Whether something is opened and nothing put in.</param>
public sealed record ComposedDelivery(IReadOnlyList<DeliveryStep> Steps, string Inserted, string BeforeCaret, int? TakeBackLength, bool OpensOnly);

/// <summary>Turns a firing into delivery steps for a kind of field.</summary>
public static class Composer
{
    /// <summary>The longest text, in graphemes, that *automatic* delivery types; longer ones go through the clipboard.</summary>
    public const int LongestTyped = 200;

    /// <summary>Composes the delivery of a firing; throws <see cref="RenderingException"/> when its body cannot be put in.</summary>
    public static ComposedDelivery Compose(Firing firing, FieldKind field, RenderContext context)
    {
        var snippet = firing.Trigger.Placed.Snippet;
        var rendering = Renderer.Render(snippet.Body, context with { Groups = firing.Groups }, firing.Capitals);
        var steps = new List<DeliveryStep>();
        if (firing.Typed.Count > 0) steps.Add(new DeliveryStep.Delete(firing.Typed.Count));
        steps.AddRange(rendering.Notices.Select(notice => new DeliveryStep.ShowNotice(notice)));
        steps.AddRange(rendering.Opened.Select(target => new DeliveryStep.Open(target)));
        var opensOnly = rendering.Opened.Count > 0 && rendering.Flow.Leaves.Count == 0;
        if (opensOnly) return new ComposedDelivery(steps, "", "", null, true);

        var way = WayOf(snippet, field, rendering.Flow);
        var flow = way == DeliveryWay.Keystrokes && snippet.Delivery == way ? rendering.Flow.Unformatted() : rendering.Flow;
        var writer = new StepWriter(steps, field, snippet.Body, way);
        var text = Writers.Plain(flow);
        var putBack = string.Concat(firing.PutBack.Select(key => key.Text));
        var parts = flow.Split().ToList();
        var last = Write(parts[^1].Part, field, snippet.Body);
        foreach (var (part, then) in parts)
        {
            if (then is null) writer.PutInLast(part, firing.PutBack);
            else writer.PutIn(part);
            if (then is Piece.KeyPress press) steps.AddRange(Enumerable.Repeat(new DeliveryStep.Press(press.Key), press.Times));
            if (then is Piece.Wait wait) steps.Add(new DeliveryStep.Wait(wait.For));
            if (then is Piece.GoTo goTo) steps.Add(new DeliveryStep.GoTo(goTo.App, goTo.Field));
        }
        if (!snippet.LeaveOnClipboard && steps.Exists(step => step is DeliveryStep.Paste)) steps.Add(new DeliveryStep.RestoreClipboard());

        var after = firing.PutBack.Count;
        if (last.Selection is { } selection)
        {
            MoveBack(steps, last.Length + after - selection.End);
            if (selection.End > selection.Start) steps.Add(new DeliveryStep.SelectBack(selection.End - selection.Start));
        }
        else if (last.Caret is { } caret)
        {
            MoveBack(steps, last.Length + after - caret);
        }

        var actsOnKeys = field is FieldKind.SingleLine or FieldKind.Secret && firing.PutBack.Any(key => key.Kind != KeyKind.Typed);
        var onlyText = !actsOnKeys && parts.Count == 1
            && !steps.Exists(step => step is DeliveryStep.Open or DeliveryStep.ShowNotice or DeliveryStep.MoveBack or DeliveryStep.SelectBack);
        var whole = text.Text + putBack;
        var before = text.Selection is null && text.Caret is { } at ? whole[..Core.Text.Graphemes.Offset(whole, at)] : whole;
        return new ComposedDelivery(steps, whole, before, onlyText ? last.Length + after : null, false);
    }

    /// <summary>The text of a flow as a kind of field takes it.</summary>
    public static Written Write(Flow flow, FieldKind field, Body body) => field switch
    {
        FieldKind.Rich => Writers.Rich(flow),
        // A plain text goes into a Markdown field as it is: it may be Markdown itself.
        FieldKind.Markdown when body is Body.Html => Writers.Markdown(flow),
        _ => Writers.Plain(flow),
    };

    /// <summary>
    /// How the text reaches the field. A field that refuses pasting is typed into whatever the snippet says; *automatic* types
    /// short plain text of one line and pastes the rest.
    /// </summary>
    private static DeliveryWay WayOf(Snippet snippet, FieldKind field, Flow flow)
    {
        if (field == FieldKind.Secret) return DeliveryWay.Keystrokes;
        if (snippet.Delivery != DeliveryWay.Automatic) return snippet.Delivery;
        var formatted = field == FieldKind.Rich && flow.Leaves.Any(leaf => leaf.Own.Kind != FrameKind.Paragraph
            || leaf.Pieces.Any(piece => piece is Piece.Picture or Piece.Words { Marks.Count: > 0 }));
        var plain = Writers.Plain(flow).Text;
        return formatted || plain.Contains('\n', StringComparison.Ordinal) || Core.Text.Graphemes.Count(plain) > LongestTyped
            ? DeliveryWay.Clipboard
            : DeliveryWay.Keystrokes;
    }

    /// <summary>Writes the parts of a text as steps for one kind of field.</summary>
    private sealed class StepWriter(List<DeliveryStep> steps, FieldKind field, Body body, DeliveryWay way)
    {
        public void PutIn(Flow part)
        {
            var text = Write(part, field, body).Text;
            if (text.Length > 0) Add(field == FieldKind.Rich ? Writers.Plain(part).Text : text, field == FieldKind.Rich ? text : null);
        }

        /// <summary>The last part with the closing keys behind it: those that are text go in with it, in one step.</summary>
        public void PutInLast(Flow part, EquatableList<Key> putBack)
        {
            var typed = string.Concat(putBack.TakeWhile(key => key.Kind == KeyKind.Typed).Select(key => key.Text));
            PutIn(typed.Length == 0 ? part : With(part, typed));
            foreach (var key in putBack.SkipWhile(key => key.Kind == KeyKind.Typed))
            {
                if (key.Kind == KeyKind.Typed) steps.Add(new DeliveryStep.PutIn(key.Text, field == FieldKind.Rich ? BodyWriter.Escape(key.Text) : null));
                else steps.Add(new DeliveryStep.Press(key));
            }
        }

        private void Add(string plain, string? html)
        {
            if (way == DeliveryWay.Clipboard) steps.AddRange([new DeliveryStep.SetClipboard(plain, html), new DeliveryStep.Paste()]);
            else steps.Add(new DeliveryStep.PutIn(plain, html));
        }

        private static Flow With(Flow flow, string typed)
        {
            if (flow.Leaves.Count == 0) return Flow.OfText(typed);
            var last = flow.Leaves[^1];
            return new Flow([.. flow.Leaves.Take(flow.Leaves.Count - 1), last with { Pieces = [.. last.Pieces, new Piece.Words(typed, EquatableList<Mark>.Empty)] }]);
        }
    }

    private static void MoveBack(List<DeliveryStep> steps, int count)
    {
        if (count > 0) steps.Add(new DeliveryStep.MoveBack(count));
    }
}
