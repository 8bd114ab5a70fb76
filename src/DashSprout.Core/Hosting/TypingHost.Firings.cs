using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Slips;

namespace DashSprout.Core.Hosting;

/// <content>What becomes of a firing.</content>
public sealed partial class TypingHost
{
    /// <summary>A firing: asks first when there is something to ask.</summary>
    private void Go(Decision.Fires fires, Keystroke? key, bool held, IReadOnlyList<Keystroke>? later = null)
    {
        var inField = fires.Firing.Typed.Count - (held ? fires.KeyGraphemes : 0);
        var firing = new OpenFiring(fires, inField, key, held);
        state = new HostState.Delivering(firing);
        var placed = firing.Placed with { Snippet = firing.Placed.Snippet.For(Field) };
        if (Slip.Of(placed.Snippet.Body, services.Context().FindSnippet) is { } slip)
            Ask(firing, new HostQuestion.FillIn(placed, slip), null, later);
        else
            Deliver(firing, later);
    }

    private void Ask(
        OpenFiring firing,
        HostQuestion question,
        ComposedDelivery? composed,
        IReadOnlyList<Keystroke>? later
    )
    {
        // What is still to be typed is typed now, in its order, so that it is not lost whatever becomes of the question.
        if (behind.Count > 0 && firing.KeptBack is { } kept)
        {
            answer.Add(new DeliveryStep.Press(kept.Key));
            var more = firing.Fires.KeyGraphemes;
            firing = firing with { Held = false, InField = firing.InField + more };
            if (composed is not null)
                composed = composed with { Steps = [new DeliveryStep.Delete(more), .. composed.Steps] };
        }
        later = [.. later ?? [], .. behind];
        while (behind.TryDequeue(out var keystroke))
            answer.Add(new DeliveryStep.Press(keystroke.Key));
        state = new HostState.Asking(firing, question with { Number = ++questions }, composed, later);
    }

    private void Deliver(OpenFiring firing, IReadOnlyList<Keystroke>? later)
    {
        state = new HostState.Delivering(firing);
        ComposedDelivery composed;
        try
        {
            composed = Composer.Compose(firing.Fires.Firing, firing.InField, Field, Context(firing));
        }
        catch (RenderingException exception)
        {
            LeaveAsTyped(firing);
            answer.Problem = NotPutIn(firing, exception.Message);
            answer.Because(exception.Message, firing.Fires.Firing.Trigger);
            if (later is not null)
                TakeComposed(later);
            return;
        }
        var unasked = composed.Opened.Where(opening => !services.MayOpen(opening)).ToList();
        if (unasked.Count == 0)
            PutIn(firing, composed, later);
        else
            Ask(firing, new HostQuestion.MayOpen(firing.Placed, unasked), composed, later);
    }

    /// <param name="later">What stands in the field behind it: it is taken out first, and typed after it.</param>
    private void PutIn(OpenFiring firing, ComposedDelivery composed, IReadOnlyList<Keystroke>? later)
    {
        state = new HostState.Delivering(firing);
        if (later is { Count: > 0 })
            answer.Add(new DeliveryStep.Delete(later.Count));
        foreach (var step in composed.Steps)
            answer.Add(step);
        engine.PutIn(composed.Neighbour, composed.KeysBehind, composed.TakeBackSteps);
        offers.PutIn(firing.Fires.Firing.Typed.Count);
        recall.PutIn(composed.Neighbour, composed.KeysBehind, composed.TakeBackSteps);
        var done = new Ended(
            firing.Fires.Firing,
            composed.OpensOnly ? Outcome.Opened : Outcome.Inserted,
            firing.Fires.Firing.Typed.Count,
            composed.Inserted
        )
        {
            Rotations = composed.Rotations,
            App = App,
            Answers = [.. firing.Answers.Values],
        };
        answer.Add(done);
        if (composed.Steps.OfType<DeliveryStep.GoTo>().LastOrDefault() is { } goTo)
        {
            App = goTo.App;
            engine.Focus(goTo.App);
            offers.Focus(goTo.App, Field, runsCommands: false);
            recall.Focus(goTo.App, isSecret: false);
        }
        state = composed.TakeBackSteps is null ? HostState.Idle.Still : new HostState.Idle(done);
        LookForRest();
        foreach (var keystroke in later ?? [])
            behind.Enqueue(keystroke);
        answer.Keep();
        if (firing is { Fires.PressAgain: true, Key: { } again })
            Take(again, firing.Held);
    }

    private void LeaveAsTyped(OpenFiring firing)
    {
        state = HostState.Idle.Still;
        engine.LeaveAsTyped();
        recall.LeaveAsTyped();
        answer.Add(new Ended(firing.Fires.Firing, Outcome.Cancelled, 0, ""));
        LookForRest();
        if (firing is { Fires.PressAgain: true, Key: { } again })
            Take(again, firing.Held);
        else if (firing.KeptBack is { } kept)
            answer.Add(new DeliveryStep.Press(kept.Key));
    }

    /// <summary>Something else happened while a question was open: it is left, and nothing more comes of it.</summary>
    private void Abandon()
    {
        if (state is not HostState.Asking { Firing: var firing })
            return;
        state = HostState.Idle.Still;
        engine.LeaveAsTyped();
        recall.LeaveAsTyped();
        answer.Add(new Ended(firing.Fires.Firing, Outcome.Cancelled, 0, ""));
    }

    private Func<string?> SelectionAsTold()
    {
        var told = selection;
        return () => told;
    }

    private RenderContext Context(OpenFiring firing) =>
        services.Context() with
        {
            ReadClipboard = ReadClipboard,
            ReadSelection = ReadSelection ?? SelectionAsTold(),
            Answers = firing.Answers,
            Groups = firing.Fires.Firing.Groups,
            Self = References.To(firing.Placed.Id),
        };

    private void Forget()
    {
        engine.Click();
        offers.Moved();
        recall.Forget();
        state = HostState.Idle.Still;
    }
}
