using DashSprout.Core.Delivery;

namespace DashSprout.Core.Hosting;

/// <content>The one way in, and the way out of a fault.</content>
public sealed partial class TypingHost
{
    /// <summary>
    /// The one way in for everything that happens. An open question is left unless the event goes on with it; whether
    /// the engine rests is looked at; and a fault, whatever it is, answers the firing it came from: what was typed
    /// stays, a key that was held back is given on, and the host is idle.
    /// </summary>
    private HostAnswer Hear<T>(T happened, Action<TypingHost, T> handle, bool leaves = true)
    {
        answer = default;
        var list = OfferList.None;
        try
        {
            offers.Begin();
            if (leaves)
                Abandon();
            LookForRest();
            answer.Trace = state is HostState.Resting ? RestingTrace : null;
            handle(this, happened);
            TypeBehind();
            if (state is HostState.Idle)
                list = offers.Look();
            saidFault = null;
        }
        catch (Exception fault)
        {
            Recover(fault);
        }
        deciding = null;
        if (offers.TakeFault() is { } broken)
            answer.Problem ??= $"Learning and offers rest here until you go to another field. {FaultWords.Of(broken)}";
        return new HostAnswer(
            answer.Steps,
            state switch
            {
                HostState.Asking => Hold.Everything,
                HostState.Idle when engine.ActingKeysMatter => Hold.ActingKeys,
                _ => Hold.Nothing,
            },
            state is HostState.Idle ? engine.SettlesAt : null,
            Question,
            state is HostState.Idle ? engine.Hint : null,
            list,
            offers.Missed,
            answer.Ended,
            answer.Problem,
            Tracing ? answer.Trace : null
        );
    }

    /// <summary>
    /// Once the engine rests, what was typed is forgotten: nothing that waited goes off, and nothing can be taken back.
    /// </summary>
    private void LookForRest()
    {
        if (state is HostState.Asking)
            return;
        if (!services.RestsIn(App))
        {
            if (state is HostState.Resting)
                state = HostState.Idle.Still;
            return;
        }
        if (state is HostState.Resting)
            return;
        Forget();
        state = HostState.Resting.Here;
    }

    private void Recover(Exception fault)
    {
        answer.GoBack();
        var firing = (state as HostState.Delivering)?.Firing ?? (state as HostState.Asking)?.Firing;
        state = HostState.Idle.Still;
        engine.GiveUp();
        recall.Forget();
        offers.Drop();
        if (firing is not null)
        {
            answer.Add(new Ended(firing.Fires.Firing, Outcome.Cancelled, 0, ""));
            answer.Problem = NotPutIn(firing, FaultWords.Of(fault));
            answer.Because(FaultWords.Of(fault), firing.Fires.Firing.Trigger);
        }
        else if (saidFault != fault.Message)
        {
            answer.Problem = $"What you type is not looked at here for the moment. {FaultWords.Of(fault)}";
        }
        saidFault = fault.Message;
        if ((deciding ?? firing?.KeptBack) is { } kept)
            answer.Add(new DeliveryStep.Press(kept.Key));
        while (behind.TryDequeue(out var keystroke))
            answer.Add(new DeliveryStep.Press(keystroke.Key));
    }

    private static string NotPutIn(OpenFiring firing, string why) =>
        $"“{firing.Placed.Snippet.Name}” was not put in. {why}";

    /// <summary>The open question, if its number is this one; null as number is whichever is open.</summary>
    private HostState.Asking? Asked(int? number) =>
        state is HostState.Asking asking && (number ?? asking.Question.Number) == asking.Question.Number
            ? asking
            : null;
}
