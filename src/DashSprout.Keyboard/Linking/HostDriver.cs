using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Hosting;

namespace DashSprout.Keyboard.Linking;

/// <summary>
/// Carries out what the host says: whole, or not at all with what was typed back again. The same for every desktop; it
/// has no rules of its own.
/// </summary>
internal sealed class HostDriver(
    TypingHost host,
    FocusTracker focus,
    DeliveryRunner runner,
    IApplicationInput input,
    IKeyHold keys,
    LinkProgram program
)
{
    /// <summary>When the host wants to be asked again if no key comes; null for not at all.</summary>
    public long? AskAt { get; private set; }

    /// <summary>What is shown near the caret.</summary>
    public HintLine Hint { get; } = new(program, focus, host);

    /// <summary>Records what is decided; null while nothing is recorded.</summary>
    public KeyRecorder? Recorder { get; set; }

    /// <summary>Told what the host asks of the user. Keys are held.</summary>
    public required Action<HostQuestion> Asks { get; init; }

    /// <summary>Told when other keys are to be held back than before.</summary>
    public required Action KeysChanged { get; init; }

    private int offers;

    /// <summary>Carries an answer out, holding keys for it where they are not held yet.</summary>
    public void Take(HostAnswer answer)
    {
        AskAt = answer.AskAt;
        if (answer.Steps.Count == 0 && answer.Question is null)
            Report(answer);
        else if (keys.IsOn)
            Act(answer, 0);
        else
            keys.WhileHeld(slipped => ActAfter(slipped, answer));
        Hint.Take(answer);
        if (offers == OffersHeld)
            return;
        offers = OffersHeld;
        KeysChanged();
    }

    /// <summary>
    /// Whether keys are held back for offers: none, the one that takes it, or those too that walk through several.
    /// </summary>
    public int OffersHeld => Math.Min(2, host.Offers.All.Count);

    /// <summary>Where somebody types has changed, or what is known of it.</summary>
    public void Focus()
    {
        focus.LookForSecret();
        Take(host.Focus(focus.Application.Id, focus.Kind, focus.Application.IsTerminal));
        KeysChanged();
    }

    /// <summary>
    /// The field with the focus has told something of itself. As long as it may be one for pass-phrases, nothing of it is
    /// learned; when it is none, what was typed there counts.
    /// </summary>
    public void FieldTold()
    {
        if (focus.LookForSecret())
            Focus();
        else if ((focus.Kind == FieldKind.Secret) != (host.Field == FieldKind.Secret))
            Take(host.FieldTold(focus.Kind, focus.Application.IsTerminal));
    }

    /// <summary>
    /// What was typed while the keys were about to be held goes out with the abbreviation and comes again behind the
    /// text; what cannot be made undone leaves all as it is.
    /// </summary>
    private bool ActAfter(Slipped slipped, HostAnswer answer)
    {
        if (!slipped.HasMoved || answer.Steps.Count == 0)
            return Act(answer, slipped.Characters);
        Report(answer with { Ended = [] });
        AskAt = host.Stopped().AskAt;
        return false;
    }

    /// <summary>Carries an answer out; false when it was stopped at its first step.</summary>
    private bool Act(HostAnswer answer, int alsoDelete)
    {
        try
        {
            // A question puts nothing in yet, but what slipped past it is meant for the slip and not for the field.
            IReadOnlyList<DeliveryStep> steps =
                answer.Steps.Count == 0 && alsoDelete > 0 ? [new DeliveryStep.Delete(0)] : answer.Steps;
            if (steps.Count > 0)
                Deliver(steps, answer.Steps, alsoDelete);
        }
        catch (DeliveryStopped stopped)
        {
            Undo(answer, stopped.Reason);
            return runner.HasBegun;
        }
        catch (Exception exception) when (exception is not LinkException)
        {
            Undo(answer, FaultWords.Of(exception));
            return runner.HasBegun;
        }
        Report(answer);
        AskAt = answer.AskAt;
        if (answer.Question is { } question)
            Asks(question);
        return true;
    }

    private void Deliver(IReadOnlyList<DeliveryStep> steps, IReadOnlyList<DeliveryStep> recorded, int alsoDelete)
    {
        keys.Blank();
        if (!focus.MayBeSecret)
            Recorder?.Decided([], recorded);
        runner.Run(steps, alsoDelete, focus.Place);
        if (runner.TookPlainOnly && focus.TakesPlainOnly() && focus.Kind != host.Field)
            Focus();
    }

    private void Undo(HostAnswer answer, string? reason)
    {
        var typedAgain = TypeAgain(answer);
        Report(answer with { Ended = [] });
        AskAt = host.Stopped().AskAt;
        if (reason is not null)
            program.Say(typedAgain ? $"{reason} What you typed is there again." : reason);
    }

    /// <summary>
    /// An abbreviation that was deleted is typed again when nothing went in for it; false when it cannot be.
    /// </summary>
    private bool TypeAgain(HostAnswer answer)
    {
        if (!runner.OnlyDeleted || answer.Ended is not [{ Outcome: Outcome.Inserted } only])
            return false;
        var typed = string.Concat(only.Firing.Typed.Select(key => key.Text));
        if (typed.Length == 0 || !input.HasFocus(focus.Window.Id) || !input.CanType(typed))
            return false;
        // Keys may have been given back meanwhile; these are the link's own all the same.
        keys.Blank();
        input.Type(typed, focus.Place.Delivery.DelayMs);
        return true;
    }

    private void Report(HostAnswer answer)
    {
        foreach (var one in answer.Ended)
            program.Ended(one);
        if (answer.Problem is { } problem)
            program.Say(problem);
    }

    /// <summary>
    /// What an open question is worked out from, wherever that is done; selection and clipboard are read for those that
    /// may use them.
    /// </summary>
    public RenderContext ContextOf(HostQuestion question)
    {
        var context = host.QuestionContext!;
        var body = (question as HostQuestion.FillIn)?.Snippet.Snippet.Body.Source ?? "";
        bool MayUse(string part) =>
            body.Contains($"name=\"{part}\"", StringComparison.Ordinal)
            || body.Contains("name=\"snippet\"", StringComparison.Ordinal);
        return context with
        {
            Clipboard = MayUse("clipboard") ? context.Clipboard : "",
            Selection = MayUse("selection") ? context.Selection : "",
        };
    }
}
