using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;

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
    /// <summary>Composes the delivery of a firing; throws <see cref="RenderingException"/> when its body cannot be put in.</summary>
    public static ComposedDelivery Compose(Firing firing, FieldKind field, RenderContext context)
    {
        var body = firing.Trigger.Placed.Snippet.Body;
        var rendering = Renderer.Render(body, context with { Groups = firing.Groups }, firing.Capitals);
        var steps = new List<DeliveryStep>();
        if (firing.Typed.Count > 0) steps.Add(new DeliveryStep.Delete(firing.Typed.Count));
        steps.AddRange(rendering.Notices.Select(notice => new DeliveryStep.ShowNotice(notice)));
        steps.AddRange(rendering.Opened.Select(target => new DeliveryStep.Open(target)));
        var opensOnly = rendering.Opened.Count > 0 && rendering.Flow.Leaves.Count == 0;
        if (opensOnly) return new ComposedDelivery(steps, "", "", null, true);

        var text = Writers.Plain(rendering.Flow);
        var putBack = string.Concat(firing.PutBack.Select(key => key.Text));
        var last = new Written("", 0, null, null);
        foreach (var (part, then) in rendering.Flow.Split())
        {
            last = Write(part, field, body);
            if (then is null)
            {
                PutInLast(steps, part, last, firing.PutBack, field, body);
                break;
            }
            PutIn(steps, last.Text, field);
            if (then is Piece.KeyPress press) steps.AddRange(Enumerable.Repeat(new DeliveryStep.Press(press.Key), press.Times));
            if (then is Piece.Wait wait) steps.Add(new DeliveryStep.Wait(wait.For));
        }

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
        var onlyText = !actsOnKeys && steps.TrueForAll(step => step is DeliveryStep.Delete or DeliveryStep.PutIn or DeliveryStep.Press)
            && rendering.Flow.Split().Count() == 1;
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

    private static void PutInLast(List<DeliveryStep> steps, Flow part, Written written, EquatableList<Key> putBack, FieldKind field, Body body)
    {
        // Closing keys that are text go in with the text, in one step.
        var typed = string.Concat(putBack.TakeWhile(key => key.Kind == KeyKind.Typed).Select(key => key.Text));
        PutIn(steps, typed.Length == 0 ? written.Text : Write(With(part, typed), field, body).Text, field);
        foreach (var key in putBack.SkipWhile(key => key.Kind == KeyKind.Typed))
        {
            if (key.Kind == KeyKind.Typed) PutIn(steps, field == FieldKind.Rich ? BodyWriter.Escape(key.Text) : key.Text, field);
            else steps.Add(new DeliveryStep.Press(key));
        }
    }

    private static Flow With(Flow flow, string typed)
    {
        if (flow.Leaves.Count == 0) return Flow.OfText(typed);
        var last = flow.Leaves[^1];
        return new Flow([.. flow.Leaves.Take(flow.Leaves.Count - 1), last with { Pieces = [.. last.Pieces, new Piece.Words(typed, EquatableList<Mark>.Empty)] }]);
    }

    private static void PutIn(List<DeliveryStep> steps, string text, FieldKind field)
    {
        if (text.Length > 0) steps.Add(field == FieldKind.Rich ? new DeliveryStep.PutIn("", text) : new DeliveryStep.PutIn(text, null));
    }

    private static void MoveBack(List<DeliveryStep> steps, int count)
    {
        if (count > 0) steps.Add(new DeliveryStep.MoveBack(count));
    }
}
