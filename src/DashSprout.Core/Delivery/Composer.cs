using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;

namespace DashSprout.Core.Delivery;

/// <summary>The steps of one delivery, and what they amount to.</summary>
/// <param name="Steps">The steps in order.</param>
/// <param name="Inserted">The plain text that goes in, with everything put back behind it.</param>
/// <param name="TextOnly">Whether it only removes and puts in text, so that it can be taken back.</param>
public sealed record ComposedDelivery(IReadOnlyList<DeliveryStep> Steps, string Inserted, bool TextOnly);

/// <summary>Turns a firing into delivery steps for a kind of field.</summary>
public static class Composer
{
    /// <summary>Composes the delivery of a firing.</summary>
    public static ComposedDelivery Compose(Firing firing, FieldKind field)
    {
        var steps = new List<DeliveryStep>();
        if (firing.Typed.Count > 0) steps.Add(new DeliveryStep.Delete(firing.Typed.Count));

        var text = BodyText.Render(firing.Trigger.Placed.Snippet.Body, firing.Capitals);
        var inserted = text;
        foreach (var key in firing.PutBack)
        {
            inserted += key.Text;
            if (key.Kind == KeyKind.Typed)
            {
                text += key.Text;
                continue;
            }
            PutIn(steps, text, field);
            text = "";
            steps.Add(new DeliveryStep.Press(key));
        }
        PutIn(steps, text, field);
        // Enter and Tab are text where the field keeps them; elsewhere they act and cannot be taken back.
        var keysAreText = field is FieldKind.Rich or FieldKind.Plain or FieldKind.Markdown
            || firing.PutBack.All(key => key.Kind == KeyKind.Typed);
        return new ComposedDelivery(steps, inserted, keysAreText);
    }

    private static void PutIn(List<DeliveryStep> steps, string text, FieldKind field)
    {
        if (text.Length > 0) steps.Add(new DeliveryStep.PutIn(text, field == FieldKind.Rich ? Html(text) : null));
    }

    private static string Html(string text) =>
        string.Concat(text.Split('\n').Select(line => $"<p>{System.Net.WebUtility.HtmlEncode(line)}</p>"));
}
