using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Safety;

/// <summary>A place in a text where a trigger would have gone off.</summary>
/// <param name="Offset">Graphemes before the place where the trigger's text begins.</param>
/// <param name="Length">Graphemes that it would have removed.</param>
public sealed record ReplayedPlace(ActiveTrigger Trigger, int Offset, int Length);

/// <summary>Types a text into the engine and notes every place where something would have gone off.</summary>
public static class Replay
{
    /// <summary>Replays a text; after each place the text goes on as it was typed.</summary>
    public static IReadOnlyList<ReplayedPlace> Of(
        TriggerIndex index,
        string text,
        string app,
        CancellationToken cancellation = default
    )
    {
        var engine = new TypingEngine(() => index);
        engine.Focus(app);
        var places = new List<ReplayedPlace>();
        var typed = 0;
        foreach (var key in Key.ForText(text))
        {
            if (typed % 4096 == 0)
                cancellation.ThrowIfCancellationRequested();
            typed++;
            if (engine.Press(new Keystroke(key)) is not Decision.Fires { Firing: var firing })
                continue;
            places.Add(new ReplayedPlace(firing.Trigger, typed - firing.Typed.Count, firing.Typed.Count));
            engine.LeaveAsTyped();
        }
        return places;
    }

    /// <summary>How many words a text has, as they are counted for rates: runs of letters and digits.</summary>
    public static int CountWords(string text)
    {
        var words = 0;
        var inWord = false;
        foreach (var rune in text.EnumerateRunes())
        {
            var isWord = System.Text.Rune.IsLetterOrDigit(rune) || (inWord && rune.Value is '\'' or '’');
            if (isWord && !inWord)
                words++;
            inWord = isWord;
        }
        return words;
    }
}
