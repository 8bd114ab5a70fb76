using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Hosting;

/// <content>What is decided about a key or a composed text.</content>
public sealed partial class TypingHost
{
    private void Take(in Keystroke keystroke, bool held)
    {
        answer.Keep();
        deciding = held ? keystroke : null;
        Look(keystroke, held);
        deciding = null;
        answer.Keep();
    }

    private void Look(in Keystroke keystroke, bool held)
    {
        var key = keystroke.Key;
        if (state is HostState.Resting)
        {
            if (held)
                answer.Add(new DeliveryStep.Press(key));
            return;
        }
        if (!held && engine.ActingKeysMatter && ActedAlready(key))
        {
            Forget();
            answer.Trace = engine.LastTrace;
            return;
        }
        if (held && ((offers.TakenBy(key) is { } offer && TakeOffer(offer, keystroke)) || offers.Walk(key)))
            return;
        switch (Decide(keystroke))
        {
            case Decision.Fires fires:
                Go(fires, keystroke, held);
                return;
            case Decision.TakesBack back:
                TakeBack(back);
                return;
            case Decision.KeepsQuiet:
                return;
        }
        if (held)
            answer.Add(new DeliveryStep.Press(key));
        if (!SendsLine(key))
            return;
        engine.Click();
        offers.Moved();
        recall.Forget();
    }

    /// <summary>
    /// What was composed is in the field. Once one of its graphemes sets something off, those behind it are taken out
    /// and typed after it; where something is asked first, they stay until the answer is there.
    /// </summary>
    private void TakeComposed(IReadOnlyList<Keystroke> keystrokes)
    {
        if (state is HostState.Resting)
            return;
        for (var at = 0; at < keystrokes.Count; at++)
        {
            if (Decide(keystrokes[at]) is not Decision.Fires fires)
                continue;
            Go(fires, keystrokes[at], held: false, [.. keystrokes.Skip(at + 1)]);
            return;
        }
    }

    /// <summary>Puts in what is offered; false when it cannot be any more.</summary>
    private bool TakeOffer(Offer offer, in Keystroke keystroke)
    {
        if (engine.Take(offer.Snippet, offer.Begun) is not { } fires)
            return false;
        answer.Trace ??= engine.LastTrace;
        recall.Forget();
        state = HostState.Idle.Still;
        offers.Taken(offer);
        Go(fires, keystroke, held: false);
        return true;
    }

    /// <summary>
    /// Whether a key takes what was typed away in this field: it sends the line, or goes on to another field.
    /// </summary>
    private bool SendsLine(Key key) =>
        key.AddsText && key.Kind != KeyKind.Typed && (Field is FieldKind.SingleLine or FieldKind.Secret);

    /// <summary>
    /// Whether a key that was not held back has done something that cannot be made undone: it moved the caret away from
    /// what gives way, deleted what could be taken back, or sent a line off.
    /// </summary>
    private bool ActedAlready(Key key) =>
        key.Kind is KeyKind.Named or KeyKind.Chord
        && (
            key.AddsText ? SendsLine(key)
            : key == Key.Backspace
                ? state is HostState.Idle { Takeable.Firing.Trigger.Placed.Rules.BackspaceTakesBack: true }
            : key != Key.Escape && engine.GivesWay
        );

    /// <summary>What the engine decides.</summary>
    private Decision Decide(in Keystroke keystroke)
    {
        engine.TakeBackChord = services.TakeBackChord();
        engine.HintsShown = Field != FieldKind.Secret && services.Hints();
        recall.Press(keystroke, engine.TakeBackChord, engine.HintsShown);
        if (keystroke.Key.Kind == KeyKind.Typed && Field != FieldKind.Secret)
            services.Typed(keystroke.AtMs);
        var decision = engine.Press(keystroke);
        answer.Trace ??= engine.LastTrace;
        if (decision is Decision.PassesOn or Decision.Fires { KeyGraphemes: > 0 })
            offers.Pressed(keystroke.Key);
        if (keystroke.Key.Kind != KeyKind.Silent && decision is not Decision.TakesBack)
            state = HostState.Idle.Still;
        return decision;
    }

    private void TakeBack(Decision.TakesBack back)
    {
        foreach (var step in TakeBackSteps.Of(back.Firing, back.Delete, Field))
            answer.Add(step);
        offers.TakenBack();
        var undone = (state as HostState.Idle)?.Takeable;
        answer.Add(new Ended(back.Firing, Outcome.TakenBack, 0, "") { App = App, Undone = undone });
        state = HostState.Idle.Still;
    }

    /// <summary>What was composed behind a firing is typed after it.</summary>
    private void TypeBehind()
    {
        while (state is not HostState.Asking && behind.TryDequeue(out var keystroke))
            Take(keystroke, held: true);
    }
}
