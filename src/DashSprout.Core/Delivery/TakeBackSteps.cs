using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Delivery;

/// <summary>
/// The steps that take a firing back: its text goes, and what was typed comes again, as it was typed.
/// </summary>
public static class TakeBackSteps
{
    /// <summary>The steps for a kind of field.</summary>
    /// <param name="steps">Caret steps of the text that was put in.</param>
    public static IEnumerable<DeliveryStep> Of(Firing firing, int steps, FieldKind field)
    {
        yield return new DeliveryStep.TakeBack(steps);
        var text = "";
        foreach (var key in firing.Typed)
        {
            if (key.Kind == KeyKind.Typed)
            {
                text += key.Text;
                continue;
            }
            // A key that acts in this field is not pressed again: it would send what is only to be put right.
            if (field is FieldKind.SingleLine or FieldKind.Secret)
                continue;
            if (text.Length > 0)
                yield return Typed(text);
            text = "";
            yield return new DeliveryStep.Press(key);
        }
        if (text.Length > 0)
            yield return Typed(text);

        DeliveryStep Typed(string typed) =>
            new DeliveryStep.PutIn(typed, field == FieldKind.Rich ? Flow.OfText(typed) : null);
    }
}
