using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;

namespace DashSprout.Keyboard;

/// <summary>What the host says, carried out.</summary>
internal sealed unsafe partial class LinkLoop
{
    private void Take(HostAnswer answer, bool held)
    {
        askAt = answer.AskAt;
        if (answer.Steps.Count > 0 || answer.Question is not null)
        {
            if (held)
                Act(answer, 0);
            else
                UnderHold(() => ActAfterSlipped(answer));
        }
        else
        {
            Report(answer);
        }
        hinted = Listens && answer.Hint is { } waiting && program.Hints() ? waiting : null;
        if (answer.Missed is { } missed && Listens)
            passing = (missed, Environment.TickCount64 + PassingMs);
        else if (answer.Steps.Count > 0 || hinted is not null)
            passing = null;
        if (alwaysFor?.Offers != OffersHeld)
            SetAlways();
    }

    /// <summary>
    /// What was typed while the keyboards were taken has reached the application: it goes out with the abbreviation and
    /// comes again behind the text.
    /// </summary>
    private void ActAfterSlipped(HostAnswer answer)
    {
        var slipped = capture
            .Happened.OfType<CapturedKey>()
            .Where(key => key is { IsPress: true, Held: false })
            .ToList();
        var kinds = slipped.ConvertAll(reader.Typed);
        // Told that the window one types in has the focus, as it has had all along, is no move.
        var moved =
            capture
                .Happened.OfType<CapturedChange>()
                .Any(change => change.Change != DisplayChange.ActiveWindow || windows.ActiveId() != active.Id)
            || kinds.Exists(typed =>
                typed is { IsModifier: false } and not { Key.Kind: KeyKind.Typed or KeyKind.Silent }
            );
        if (moved && answer.Steps.Count > 0)
        {
            // It cannot be made undone, so nothing goes in.
            Report(answer with { Ended = [] });
            askAt = host.Stopped().AskAt;
            return;
        }
        foreach (var key in slipped)
            key.Held = true;
        if (Act(answer, kinds.Count(typed => typed.Key is { Kind: KeyKind.Typed })))
            return;
        // They are still where they were typed.
        foreach (var key in slipped)
            key.Held = false;
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
            {
                MakeBlank();
                if (!MayBeSecret)
                    recorder?.Decided([], answer.Steps);
                carrier.Carry(
                    steps,
                    alsoDelete,
                    new CarryPlace(active.Id, Delivery(), MayBeSecret, application.IsTerminal)
                );
                if (carrier.TookPlainOnly && plainApps.Add(application.Id))
                    FocusHost(keepTail: true);
                connection.Flush();
            }
            Report(answer);
            askAt = answer.AskAt;
            if (answer.Question is { } question)
                Show(new Shown.Question(question, ContextOf(question)));
            return true;
        }
        catch (DeliveryStopped stopped)
        {
            var typedAgain = TypeAgain(answer);
            Report(answer with { Ended = [] });
            askAt = host.Stopped().AskAt;
            if (stopped.Reason is { } reason)
                program.Say(typedAgain ? $"{reason} What you typed is there again." : reason);
            return carrier.HasBegun;
        }
    }

    /// <summary>
    /// An abbreviation that was deleted is typed again when nothing went in for it; false when it cannot be.
    /// </summary>
    private bool TypeAgain(HostAnswer answer)
    {
        if (!carrier.OnlyDeleted || answer.Ended is not [{ Outcome: Outcome.Inserted } only])
            return false;
        var typed = string.Concat(only.Firing.Typed.Select(key => key.Text));
        if (typed.Length == 0 || windows.ActiveId() != active.Id || !injection.CanType(typed))
            return false;
        // Keys may have been given back meanwhile; these are the link's own all the same.
        MakeBlank();
        injection.Type(typed, Delivery().DelayMs);
        connection.Flush();
        return true;
    }

    /// <summary>
    /// What an open question is worked out from, wherever that is done; selection and clipboard are read for those that
    /// may use them.
    /// </summary>
    private RenderContext ContextOf(HostQuestion question)
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

    private void Report(HostAnswer answer)
    {
        foreach (var one in answer.Ended)
            program.Ended(one);
        if (answer.Problem is { } problem)
            program.Say(problem);
    }

    private void Show(Shown shown)
    {
        if (companion is null)
        {
            program.Say(
                "This snippet asks something first, and no window can be shown for it. Install a "
                    + "Chromium-family browser, or put it in from the page."
            );
            Take(host.Leave(), held: true);
            return;
        }
        MakeUnblank();
        if (companion.Show(shown, active, this, StillAtWork) is not { } problem)
            return;
        program.Say(problem);
        Take(host.Leave(), held: true);
    }

    /// <summary>Handles what was typed while a window of the link's own was coming: it goes in there.</summary>
    internal void ReplayHeld()
    {
        capture.Fence();
        foreach (var key in capture.Happened.OfType<CapturedKey>().ToList())
        {
            capture.Happened.Remove(key);
            if (key is not { IsPress: true, Held: true })
                continue;
            var typed = reader.Typed(key);
            if (!typed.IsModifier && !(key.Repeats && key.Keycode == swallowed))
                Replay(key, typed);
        }
    }

    private void ShowOwn(Shown shown)
    {
        if (companion is null)
            program.Say(
                "No Chromium-family browser is installed, so nothing can be shown over other applications. "
                    + "Use the page instead."
            );
        else if (!companion.IsShown)
            Show(shown);
    }

    private void Gather()
    {
        var text = selected.Read(mayCopy: !application.IsTerminal);
        ShowOwn(new Shown.Gather(string.IsNullOrEmpty(text) ? clipboard.Text(MostGathered) ?? "" : text));
    }

    /// <summary>Begins to record keys, or ends it and makes a snippet of them.</summary>
    private void Record()
    {
        if (recorder is not { } ended)
        {
            recorder = new KeyRecorder(application.Id, NameOf(active));
            program.Say(
                "Your keys are recorded, those in pass-phrase fields excepted. Press "
                    + $"{program.Chords().Record} again to make a snippet of them."
            );
            return;
        }
        recorder = null;
        if (ended.IsEmpty)
            program.Say("Nothing was typed, so nothing was recorded.");
        else
            ShowOwn(new Shown.Recorded(ended.ToBody().Source));
        if (ended.IsFull)
            program.Say(
                $"More was typed than one snippet does again: what came behind {KeyRecorder.MostParts} keys "
                    + "and texts is left out."
            );
    }
}
