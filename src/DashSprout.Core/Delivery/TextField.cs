using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Delivery;

/// <summary>A field to rehearse in: it takes keys as a real field of its kind would, and delivery steps.</summary>
public sealed class TextField(FieldKind kind)
{
    private readonly List<string> graphemes = [];
    private int caret;

    /// <summary>The text in the field.</summary>
    public string Text => string.Concat(graphemes);

    /// <summary>The text as a rich field keeps it, one paragraph for each line; null when the field takes no formatting.</summary>
    public string? Html => kind != FieldKind.Rich || graphemes.Count == 0
        ? null
        : string.Concat(Text.Split('\n').Select(line => $"<p>{System.Net.WebUtility.HtmlEncode(line)}</p>"));

    /// <summary>Graphemes before the caret.</summary>
    public int Caret => caret;

    /// <summary>Takes one key that the engine passed on.</summary>
    public void Press(Key key)
    {
        if (key.AddsText)
        {
            var acts = kind is FieldKind.SingleLine or FieldKind.Secret && key.Kind == KeyKind.Named;
            if (!acts) PutIn(key.Text);
            return;
        }
        switch (key.Value)
        {
            case "Backspace" when caret > 0: graphemes.RemoveAt(--caret); break;
            case "Delete" when caret < graphemes.Count: graphemes.RemoveAt(caret); break;
            case "ArrowLeft" when caret > 0: caret--; break;
            case "ArrowRight" when caret < graphemes.Count: caret++; break;
            case "Home": caret = graphemes.FindLastIndex(Math.Max(caret - 1, 0), caret, Is("\n")) + 1; break;
            case "End":
                var end = graphemes.FindIndex(caret, Is("\n"));
                caret = end < 0 ? graphemes.Count : end;
                break;
        }

        static Predicate<string> Is(string wanted) => grapheme => grapheme == wanted;
    }

    /// <summary>Carries one step out.</summary>
    /// <param name="heldBack">Graphemes of the typed ones that never reached this field: the key being decided, or none.</param>
    public void Apply(DeliveryStep step, int heldBack)
    {
        switch (step)
        {
            case DeliveryStep.Delete delete:
                var count = Math.Min(Math.Max(delete.Graphemes - heldBack, 0), caret);
                graphemes.RemoveRange(caret - count, count);
                caret -= count;
                break;
            case DeliveryStep.PutIn putIn:
                PutIn(putIn.Plain);
                break;
            case DeliveryStep.Press press:
                Press(press.Key);
                break;
        }
    }

    /// <summary>Puts text in at the caret, as a firing that is taken back does.</summary>
    public void PutIn(string text)
    {
        // What is put in may join the grapheme before the caret, so the part before it is counted again.
        var before = string.Concat(graphemes.Take(caret)) + text;
        graphemes.RemoveRange(0, caret);
        graphemes.InsertRange(0, Graphemes.Split(before));
        caret = Graphemes.Count(before);
    }
}
