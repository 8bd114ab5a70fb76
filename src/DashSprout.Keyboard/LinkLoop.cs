using System.Collections.Concurrent;
using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Native;

namespace DashSprout.Keyboard;

/// <summary>
/// The link at work, on one thread: what happens at the display goes to the host, and what the host says is carried
/// out. It has no rules of its own.
/// </summary>
internal sealed unsafe partial class LinkLoop : IDisposable
{
    private const int LookMs = 500,
        CaretMs = 40,
        MostGathered = 100_000,
        PassingMs = 5000;

    private readonly XConnection connection;
    private readonly LinkProgram program;
    private readonly Applications applications;
    private readonly Capture capture;
    private readonly Holding holding;
    private readonly Injection injection;
    private readonly DesktopClipboard clipboard;
    private readonly DesktopWindows windows;
    private readonly StepCarrier carrier;
    private readonly KeyReader reader;
    private readonly SelectedText selected;
    private readonly TypingHost host;
    private readonly CompanionWindow? companion;
    private readonly HintWindow hint;
    private readonly LinkWatch watch;
    private readonly string? displayName;
    private readonly ConcurrentQueue<Action> posted = new();
    private readonly EventDescriptor wake = new();
    private readonly HashSet<string> plainApps = [];
    private DesktopWindow active = DesktopWindow.None;
    private DesktopApplication application = new("", "", "", false);
    private (TriggerIndex Index, string App, bool Rests, uint Group, OwnChords Own, bool Mute, int Offers)? alwaysFor;
    private Dictionary<Stroke, Action> ownChords = [];
    private long? askAt;
    private long lookAt,
        caretAt;
    private byte swallowed;
    private ActiveTrigger? hinted;
    private (ActiveTrigger Trigger, long Until)? passing;
    private bool mute,
        blank,
        ended,
        secret;
    private KeyRecorder? recorder;

    public LinkLoop(LinkProgram program, Applications applications, string? displayName, ICompanionBrowser? browser)
    {
        (this.program, this.applications, this.displayName) = (program, applications, displayName);
        connection = XConnection.Open(displayName);
        try
        {
            LinkPlace.Take(connection);
            capture = new Capture(connection);
            reader = new KeyReader(connection, capture, displayName);
            holding = new Holding(connection, capture);
            injection = new Injection(connection, capture, () => reader.Layout, () => watch!.Working());
            clipboard = new DesktopClipboard(displayName);
            windows = new DesktopWindows(connection);
            carrier = new StepCarrier(injection, clipboard, windows, () => program, StillAtWork);
            clipboard.Waiting = StillAtWork;
            carrier.Window = () => active.Id;
            carrier.Goes = window => Focus(window);
            selected = new SelectedText(clipboard, windows, injection, StillAtWork);
            companion =
                browser is null || program.Companion is null
                    ? null
                    : new CompanionWindow(connection, windows, browser, program.Companion);
            hint = new HintWindow(connection);
            host = new TypingHost(program.Surroundings)
            {
                ReadClipboard = () => clipboard.Text(RenderContext.MostUnits),
                ReadSelection = () => selected.Read(blank && !application.IsTerminal),
            };
            watch = new LinkWatch(connection);
            capture.Released = Released;
            capture.IsAlwaysHeld = (keycode, state) => holding.IsAlways(keycode, state);
            capture.Other = told => companion?.Take(told);
        }
        catch
        {
            reader?.Dispose();
            clipboard?.Dispose();
            connection.Dispose();
            wake.Dispose();
            throw;
        }
    }

    /// <summary>
    /// Whether keys are told to the host: not in the program's own page, and never in a field for pass-phrases.
    /// </summary>
    private bool Listens => !mute && !secret;

    /// <summary>The layouts of the display's keyboard, and the one in use.</summary>
    public (IReadOnlyList<string> Names, int At) Layouts => (reader.Layout.Names, (int)reader.Group);

    /// <summary>Whether the companion window can be shown at once.</summary>
    public bool IsCompanionReady => companion?.IsReady == true;

    /// <summary>Has something done on the link's thread, between keys.</summary>
    public void Post(Action what)
    {
        posted.Enqueue(what);
        wake.Signal();
    }

    /// <summary>Asks the loop to end.</summary>
    public void End() => Post(() => ended = true);

    /// <summary>
    /// Works until it is told to end; throws <see cref="LinkException"/> when the display ends the connection.
    /// </summary>
    public void Run(Action ready)
    {
        try
        {
            capture.Begin();
            reader.Lend(program.Characters());
            FocusActive();
            SetAlways();
            WarmEverythingUp();
            companion?.Start();
            ready();
            while (!ended)
                Turn();
        }
        finally
        {
            GiveEverythingBack();
        }
    }

    public void Dispose()
    {
        companion?.Dispose();
        watch.Dispose();
        clipboard.Dispose();
        reader.Dispose();
        connection.Dispose();
        wake.Dispose();
    }

    /// <summary>Puts a snippet in that was chosen in the finder.</summary>
    /// <param name="shown">What the companion window showed by its number, here and below: an answer that comes late is
    /// none to what it shows now.</param>
    public void Choose(int shown, PlacedSnippet snippet) => Answered(shown, () => host.Choose(snippet, null));

    /// <summary>Answers the open slip.</summary>
    public void Fill(int shown, IReadOnlyDictionary<string, string> answers) =>
        Answered(shown, () => host.Fill(host.Question?.Number ?? 0, answers));

    /// <summary>What waits to be opened may be opened.</summary>
    public void Confirm(int shown) => Answered(shown, () => host.Confirm(host.Question?.Number ?? 0));

    /// <summary>Leaves what the companion window shows.</summary>
    public void Leave(int shown) => Answered(shown, () => host.Leave());

    /// <summary>Leaves whatever is asked: its window could not be shown.</summary>
    internal void LeaveUnseen() => Act(host.Leave(), 0);

    /// <summary>The page shows what it was told to, and its first field has the focus.</summary>
    public void PageIsReady(int number, bool focused) => companion?.PageIsReady(number, focused);

    /// <summary>The program's settings, snippets or rest have changed.</summary>
    public void ProgramChanged()
    {
        reader.Lend(program.Characters());
        SetAlways();
    }

    private void Answered(int shown, Func<HostAnswer> answer)
    {
        if (companion?.Shows(shown) != true)
            return;
        UnderHold(() =>
        {
            companion.Hide(StillAtWork);
            FocusActive(keepTail: true);
            Act(answer(), 0);
        });
    }

    private void Turn()
    {
        watch.Working();
        while (posted.TryDequeue(out var what))
            what();
        capture.Read();
        Handle();
        if (companion is { IsInTheWay: true })
            UnderHold(() => companion.PutAway(active.Id, StillAtWork));
        var now = Environment.TickCount64;
        if (askAt is { } at && now >= at)
        {
            askAt = null;
            Take(host.Pause(now), held: false);
        }
        KeepUp(now);
        if (ended || connection.HasEvent() || capture.Happened.Count > 0)
            return;
        // Only when nobody is typing on: what is gone in a moment is not worth showing.
        hint.Show(HintText(now), HintPlace);
        watch.Waiting();
        Wait((int)Math.Clamp((askAt ?? now + LinkWatch.BeatMs) - now, 1, LinkWatch.BeatMs));
        clipboard.Serve();
    }

    private void Wait(int ms)
    {
        connection.Flush();
        var entries = stackalloc PollEntry[3];
        entries[0] = new PollEntry { File = connection.Socket, Events = Posix.PollIn };
        entries[1] = new PollEntry { File = clipboard.Socket, Events = Posix.PollIn };
        entries[2] = new PollEntry { File = wake.File, Events = Posix.PollIn };
        if (Posix.poll(entries, 3, ms) <= 0 || entries[2].Returned == 0)
            return;
        wake.Clear();
    }

    /// <summary>
    /// Follows what changes slowly: the keymap, the keyboards, the triggers, a window manager's missing word.
    /// </summary>
    private void KeepUp(long now)
    {
        if (reader.KeepUp(now, program.Characters))
        {
            alwaysFor = null;
            SetAlways();
        }
        if (capture.DevicesChanged)
        {
            capture.DevicesChanged = false;
            holding.Renew();
        }
        if (caretAt != 0 && now >= caretAt)
        {
            caretAt = 0;
            Look();
        }
        if (now < lookAt)
            return;
        lookAt = now + LookMs;
        SetAlways();
        companion?.Watch();
    }

    private void Handle()
    {
        while (capture.Happened.Count > 0)
        {
            var next = capture.Happened[0];
            if (
                next is CapturedKey { IsPress: true, IsInjected: false, Held: false } maybe
                && holding.IsAlways(maybe.Keycode, maybe.State)
            )
                capture.Fence();
            if (next is CapturedKey { IsPress: true, Held: true })
            {
                UnderHold(null);
                continue;
            }
            capture.Happened.RemoveAt(0);
            Free(next);
        }
    }

    /// <summary>Something that the application has already.</summary>
    private void Free(Captured happened)
    {
        // What is typed into a window of the link's own is nobody's business here.
        if (companion?.IsShown == true && happened is not CapturedChange { Change: DisplayChange.ActiveWindow })
        {
            // Whoever goes on where the question was asked leaves it: what is answered later would go in at a wrong
            // place.
            if (
                !companion.IsElsewhere
                || happened is CapturedKey { IsPress: false }
                || windows.ActiveId() != companion.UserWindow
            )
                return;
            companion.Drop();
            Take(host.Leave(), held: false);
        }
        switch (happened)
        {
            case CapturedChange { Change: DisplayChange.ActiveWindow }:
                FocusActive();
                return;
            case CapturedChange:
                recorder?.Clicked();
                Take(host.Click(), held: false);
                reader.ForgetComposition();
                caretAt = Environment.TickCount64 + CaretMs;
                return;
            case CapturedKey { IsPress: false } up:
                // The keyboard has repeated it, and nobody has told how often.
                if (reader.HasRepeated(up.AtMs, up.Keycode))
                    Take(host.Click(), held: false);
                return;
            case CapturedKey key:
                if (reader.HasRepeated(key.AtMs))
                    Take(host.Click(), held: false);
                var typed = reader.Typed(key);
                if (!typed.IsModifier)
                    reader.WentDown(key);
                // A caret key takes the caret somewhere; whatever is typed instead makes looking there needless.
                if (!typed.IsModifier)
                    caretAt = typed.Key is { Kind: KeyKind.Named, AddsText: false } ? key.AtMs + CaretMs : 0;
                if (Listens)
                    Take(Tell(key, typed, held: false), held: false);
                return;
        }
    }

    private HostAnswer Tell(CapturedKey key, TypedKey typed, bool held)
    {
        var caps = key.State.CapsLock;
        if (typed.Composed is { } text)
        {
            IReadOnlyList<Key> composed = [.. Key.ForText(text)];
            recorder?.Decided(composed, []);
            return host.Compose([.. composed.Select(one => new Keystroke(one, caps, key.AtMs))]);
        }
        if (typed.Key is not { } pressed)
            return host.Press(new Keystroke(Key.Parse("key", "Unidentified"), caps, key.AtMs), held: false);
        if (!held)
            recorder?.Decided([pressed], []);
        // Where the application does not tell what stands behind the caret, an arrow is an arrow.
        var endsLine =
            host.Offers.Chosen is null || !OfferKeys.IsAtLineEndOnly(pressed) || program.Sight?.EndsLine() == true;
        return host.Press(new Keystroke(pressed, caps, key.AtMs), held, endsLine: endsLine);
    }

    private void Released(byte keycode)
    {
        if (keycode == swallowed)
            swallowed = 0;
        injection.Released(keycode);
    }

    /// <summary>
    /// Called all along while something takes time: it goes on, and keys are held no longer than they may be.
    /// </summary>
    private void StillAtWork()
    {
        watch.Working();
        if (!holding.IsOverdue)
            return;
        MakeUnblank();
        holding.End();
    }

    private void GiveEverythingBack()
    {
        if (connection.IsBroken)
            return;
        try
        {
            holding.Forget();
            reader.TakeBack();
            capture.End();
            connection.Sync();
        }
        catch (LinkException)
        {
            // The display has gone, and with it everything that was taken.
        }
    }
}
