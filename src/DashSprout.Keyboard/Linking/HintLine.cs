using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;

namespace DashSprout.Keyboard.Linking;

/// <summary>
/// What is shown near the caret: what a word would become, how the text may go on, or what would have put it in.
/// </summary>
internal sealed class HintLine(LinkProgram program, FocusTracker focus, TypingHost host)
{
    /// <summary>How long a missed chance is shown.</summary>
    private const int PassingMs = 5000;

    private ActiveTrigger? waits;
    private (ActiveTrigger Trigger, long Until)? passing;

    /// <summary>The host has answered.</summary>
    public void Take(HostAnswer answer)
    {
        waits = focus.Listens && answer.Hint is { } waiting && program.Hints() ? waiting : null;
        if (answer.Missed is { } missed && focus.Listens)
            passing = (missed, Environment.TickCount64 + PassingMs);
        else if (answer.Steps.Count > 0 || waits is not null)
            passing = null;
    }

    /// <summary>The line to be shown now; null for none.</summary>
    public string? Text(long now)
    {
        if (waits is { } word)
            return "→ " + word.Placed.Snippet.Preview();
        if (focus.Listens && host.Offers.Chosen is { } offer)
        {
            var key = program.Services.TakeKey();
            // An arrow that would only move the caret is no offer.
            if (!OfferKeys.IsAtLineEndOnly(key))
                return $"… {offer.Rest}  ({key})";
            if (program.Sight?.EndsLine() == true)
                return $"… {offer.Rest}  (→)";
        }
        return passing is { } missed && now < missed.Until ? $"{missed.Trigger.Trigger.Text} puts this in" : null;
    }
}
