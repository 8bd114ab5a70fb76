using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Keyboard.Linking;

namespace DashSprout.Keyboard.X11;

/// <summary>What is asked and shown over the user's application, and what comes of it.</summary>
internal sealed class CompanionDialogue(
    CompanionWindow? window,
    TypingHost host,
    FocusTracker focus,
    KeyPump pump,
    LinkProgram program,
    SelectedText selected,
    DesktopClipboard clipboard
)
{
    private const int MostGathered = 100_000;

    /// <summary>Carries answers out.</summary>
    public required HostDriver Driver { get; init; }

    /// <summary>Told when the user's window is in front again.</summary>
    public required Action Back { get; init; }

    /// <summary>Puts a snippet in that was chosen in the finder.</summary>
    /// <param name="shown">What the window showed by its number, here and below: an answer that comes late is none to
    /// what it shows now.</param>
    public void Choose(int shown, PlacedSnippet snippet) => Answered(shown, () => host.Choose(snippet, null));

    /// <summary>Answers the open slip.</summary>
    public void Fill(int shown, IReadOnlyDictionary<string, string> answers) =>
        Answered(shown, () => host.Fill(host.Question?.Number ?? 0, answers));

    /// <summary>What waits to be opened may be opened.</summary>
    public void Confirm(int shown) => Answered(shown, () => host.Confirm(host.Question?.Number ?? 0));

    /// <summary>Leaves what the window shows.</summary>
    public void Leave(int shown) => Answered(shown, () => host.Leave());

    /// <summary>The host asks something; keys are held.</summary>
    public void Ask(HostQuestion question)
    {
        if (window is not null)
        {
            Show(new Shown.Question(question, Driver.ContextOf(question)));
            return;
        }
        program.Say(
            "This snippet asks something first, and no window can be shown for it. Install a "
                + "Chromium-family browser, or put it in from the page."
        );
        Driver.Take(host.Leave());
    }

    /// <summary>Shows the finder.</summary>
    public void Find() => ShowOwn(new Shown.Finder());

    /// <summary>Makes a snippet of what is selected or copied.</summary>
    public void Gather()
    {
        var text = selected.Read(mayCopy: !focus.Application.IsTerminal);
        ShowOwn(new Shown.Gather(string.IsNullOrEmpty(text) ? clipboard.Text(MostGathered) ?? "" : text));
    }

    /// <summary>Begins to record keys, or ends it and makes a snippet of them.</summary>
    public void Record()
    {
        if (Driver.Recorder is not { } ended)
        {
            Driver.Recorder = new KeyRecorder(focus.Application.Id, focus.Title);
            program.Say(
                "Your keys are recorded, those in pass-phrase fields excepted. Press "
                    + $"{program.Chords().Record} again to make a snippet of them."
            );
            return;
        }
        Driver.Recorder = null;
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

    /// <summary>The user has gone elsewhere by themselves: what is answered later would go in at a wrong place.</summary>
    public void Drop()
    {
        window?.Drop();
        Driver.Take(host.Leave());
    }

    private void ShowOwn(Shown shown)
    {
        if (window is null)
            program.Say(
                "No Chromium-family browser is installed, so nothing can be shown over other applications. "
                    + "Use the page instead."
            );
        else if (!window.IsShown)
            Show(shown);
    }

    private void Show(Shown shown)
    {
        pump.Unblank();
        switch (window!.Show(shown, focus.Window, Caret, pump.StillAtWork))
        {
            case Showing.HasFocus:
                pump.GiveAllOn();
                return;
            case Showing.NotSeen unseen:
                if (unseen.Problem is { } problem)
                    program.Say(problem);
                Driver.Take(host.Leave());
                return;
        }
    }

    private (int X, int Y)? Caret() =>
        focus.Sight is not null && program.Sight?.Caret() is { } caret ? (caret.X, caret.Y) : null;

    private void Answered(int shown, Func<HostAnswer> answer)
    {
        if (window?.Shows(shown) != true)
            return;
        pump.WhileHeld(() =>
        {
            if (!window.Hide(pump.StillAtWork))
                program.Say("The window you typed in did not come back to the front, so nothing more went in there.");
            Back();
            Driver.Take(answer());
        });
    }
}
