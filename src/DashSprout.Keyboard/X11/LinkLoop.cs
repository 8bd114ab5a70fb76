using System.Collections.Concurrent;
using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Native;
using DashSprout.Keyboard.Services;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// The link at work, on one thread: it joins the parts, and tells the host what happens at the display. It has no rules
/// of its own.
/// </summary>
internal sealed unsafe class LinkLoop : IDisposable
{
    private const int LookMs = 500,
        CaretMs = 40;

    private readonly XConnection connection;
    private readonly LinkProgram program;
    private readonly string? displayName;
    private readonly DesktopWindows windows;
    private readonly FocusTracker focus;
    private readonly Capture capture;
    private readonly Holding holding;
    private readonly KeyReader reader;
    private readonly Injection injection;
    private readonly HeldModifiers modifiers;
    private readonly DesktopClipboard clipboard;
    private readonly TypingHost host;
    private readonly KeyPump pump;
    private readonly HostDriver driver;
    private readonly ActingKeys acting;
    private readonly CompanionWindow? companion;
    private readonly HintWindow hint;
    private readonly LinkWatch watch;
    private readonly ConcurrentQueue<Action> posted = new();
    private readonly EventDescriptor wake = new();
    private long lookAt,
        caretAt;
    private bool ended;

    public LinkLoop(LinkProgram program, Applications applications, string? displayName, ICompanionBrowser? browser)
    {
        (this.program, this.displayName) = (program, displayName);
        connection = XConnection.Open(displayName);
        try
        {
            LinkPlace.Take(connection);
            windows = new DesktopWindows(connection);
            focus = new FocusTracker(program, applications);
            capture = new Capture(connection);
            reader = new KeyReader(connection, capture, displayName);
            holding = new Holding(connection, capture);
            clipboard = new DesktopClipboard(displayName) { Waiting = () => pump!.StillAtWork() };
            injection = new Injection(connection, capture, () => reader.Layout, () => watch!.Working());
            var selected = new SelectedText(clipboard, windows, injection, () => pump!.StillAtWork());
            host = new TypingHost(program.Services)
            {
                ReadClipboard = () => clipboard.Text(RenderContext.MostUnits),
                ReadSelection = () => selected.Read(pump!.IsBlank && !focus.Application.IsTerminal),
            };
            modifiers = new HeldModifiers(connection);
            watch = new LinkWatch(connection);
            pump = new KeyPump(connection, capture, holding, reader, injection, modifiers, watch)
            {
                Passed = Passed,
                Held = Held,
                IsStillThere = () => windows.ActiveId() == focus.Window.Id,
            };
            var input = new InjectedInput(injection, clipboard, windows, pump.StillAtWork);
            var pasting = new Pasting(injection, clipboard, pump.StillAtWork);
            var runner = new DeliveryRunner(input, pasting, program)
            {
                Goes = window =>
                {
                    Focus(window);
                    return focus.Place;
                },
            };
            driver = new HostDriver(host, focus, runner, input, pump, program)
            {
                Asks = question => Dialogue!.Ask(question),
                KeysChanged = () => acting!.Renew(),
            };
            companion =
                browser is null || program.Companion is null
                    ? null
                    : new CompanionWindow(connection, windows, browser, program.Companion);
            Dialogue = new CompanionDialogue(companion, host, focus, pump, program, selected, clipboard)
            {
                Driver = driver,
                Back = () => FocusActive(keepTail: true),
            };
            acting = new ActingKeys(connection, reader, injection, holding, focus, host, program)
            {
                Acts = own =>
                    [
                        (own.Finder, Dialogue.Find),
                        (own.Gather, Dialogue.Gather),
                        (own.Rest, program.Rest),
                        (own.Record, Dialogue.Record),
                    ],
            };
            hint = new HintWindow(connection);
            capture.Released = pump.Released;
            capture.IsOwn = modifiers.Takes;
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

    /// <summary>What is asked over the user's application; to be called on the link's thread.</summary>
    public CompanionDialogue Dialogue { get; }

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
            acting.Renew();
            WarmEverythingUp();
            companion?.Start();
            ready();
            while (!ended)
                Step();
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
        if (!connection.IsBroken)
            modifiers.Dispose();
        connection.Dispose();
        wake.Dispose();
    }

    /// <summary>The page shows what it was told to, and its first field has the focus. On any thread.</summary>
    public void PageIsReady(int number, bool focused) => companion?.PageIsReady(number, focused);

    /// <summary>The program's settings, snippets or rest have changed.</summary>
    public void ProgramChanged()
    {
        reader.Lend(program.Characters());
        acting.Renew();
    }

    /// <summary>The field with the focus has told something of itself.</summary>
    public void SightChanged() => driver.FieldTold();

    /// <summary>Types into a window of its own and tells how it went.</summary>
    public void Check(TaskCompletionSource<LinkCheckAnswer> told) =>
        pump.WhileHeld(() =>
            told.SetResult(
                new LinkCheck(displayName, windows, injection, reader, pump.StillAtWork).Run(
                    program.Characters(),
                    capture.Keyboards.Count,
                    watch.HasOutside,
                    companion,
                    focus.Sight is not null
                )
            )
        );

    private void Step()
    {
        watch.Working();
        while (posted.TryDequeue(out var what))
            what();
        pump.Handle();
        if (companion is { IsInTheWay: true })
            pump.WhileHeld(() => companion.PutAway(focus.Window.Id, pump.StillAtWork));
        var now = Environment.TickCount64;
        if (driver.AskAt is { } at && now >= at)
            driver.Take(host.Pause(now));
        KeepUp(now);
        if (ended || pump.HasMore)
            return;
        // Only when nobody is typing on: what is gone in a moment is not worth showing.
        hint.Show(driver.Hint.Text(now), HintPlace);
        watch.Waiting();
        Wait((int)Math.Clamp((driver.AskAt ?? now + LinkWatch.BeatMs) - now, 1, LinkWatch.BeatMs));
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
            acting.LayoutChanged();
        if (capture.DevicesChanged)
        {
            capture.DevicesChanged = false;
            holding.Renew();
        }
        if (caretAt != 0 && now >= caretAt)
        {
            caretAt = 0;
            LookAtCaret();
        }
        if (now < lookAt)
            return;
        lookAt = now + LookMs;
        acting.Renew();
        companion?.Watch();
    }

    /// <summary>Something that the application has already.</summary>
    private void Passed(Captured happened)
    {
        if (happened is CapturedChange { Change: DisplayChange.Reclassed })
        {
            // No window has come to the front by it: what is asked over one, or is about to be, stays.
            if (companion?.IsShown != true)
                FocusActive();
            return;
        }
        // What is typed into a window of the link's own is nobody's business here.
        if (companion?.IsShown == true && happened is not CapturedChange { Change: DisplayChange.ActiveWindow })
        {
            if (
                !companion.IsElsewhere
                || happened is CapturedKey { IsPress: false }
                || windows.ActiveId() != companion.UserWindow
            )
                return;
            Dialogue.Drop();
        }
        switch (happened)
        {
            case CapturedChange { Change: DisplayChange.ActiveWindow }:
                FocusActive();
                return;
            case CapturedChange:
                driver.Recorder?.Clicked();
                driver.Take(host.Click());
                reader.ForgetComposition();
                caretAt = Environment.TickCount64 + CaretMs;
                return;
            case CapturedKey { IsPress: false } up:
                // The keyboard has repeated it, and nobody has told how often.
                if (reader.HasRepeated(up))
                    driver.Take(host.Click());
                return;
            case CapturedKey key:
                PassedKey(key);
                return;
        }
    }

    private void PassedKey(CapturedKey key)
    {
        if (reader.HasRepeated(key))
            driver.Take(host.Click());
        var typed = reader.Typed(key);
        if (!typed.IsModifier)
        {
            reader.WentDown(key);
            // A caret key takes the caret somewhere; whatever is typed instead makes looking there needless.
            caretAt = typed.Key is { Kind: KeyKind.Named, AddsText: false } ? key.AtMs + CaretMs : 0;
        }
        if (!focus.Listens)
            return;
        var answer = Tell(key, typed, held: false);
        // What the keyboard repeats of it while the text goes in is no letter behind the text.
        if (answer.Steps.Count > 0 || answer.Question is not null)
            pump.Swallow(key);
        driver.Take(answer);
    }

    /// <summary>A key that was held back: it sets something off, or goes to the application.</summary>
    private void Held(CapturedKey key, TypedKey typed)
    {
        // What the held keys would do while the program hangs is done as it is typed.
        if (pump.IsOverdue || !focus.Listens)
        {
            pump.GiveOn(key, typed);
            return;
        }
        if (acting.Own(new Stroke(key.Keycode, key.State.Modifiers & ~(Symbols.Lock | Symbols.Num))) is { } own)
        {
            own();
            return;
        }
        if (typed.IsModifier)
        {
            if (reader.Layout.PlainSymbol(key.Keycode, injection.Group) == Symbols.CapsLock)
                injection.CapsLockPressed();
            return;
        }
        if (companion?.IsShown == true)
        {
            pump.GiveOn(key, typed);
            return;
        }
        if (typed.Key is not { } pressed || pressed.Kind == KeyKind.Silent)
        {
            pump.GiveOn(key, typed);
            if (typed.Composed is not null)
                driver.Take(Tell(key, typed, held: false));
            return;
        }
        var answer = Tell(key, typed, held: true);
        if (answer.Ended.Count > 0 || answer.Question is not null)
            pump.Swallow(key);
        // A key that only goes on is given back as it came.
        if (answer.Steps is [DeliveryStep.Press { Key: var only }] && only == pressed)
        {
            pump.GiveOn(key, typed);
            driver.Recorder?.Decided([pressed], []);
            answer = answer with { Steps = [] };
        }
        driver.Take(answer);
    }

    private HostAnswer Tell(CapturedKey key, TypedKey typed, bool held)
    {
        var caps = key.State.CapsLock;
        if (typed.Composed is { } text)
        {
            IReadOnlyList<Key> composed = [.. Key.ForText(text)];
            driver.Recorder?.Decided(composed, []);
            return host.Compose([.. composed.Select(one => new Keystroke(one, caps, key.AtMs))]);
        }
        if (typed.Key is not { } pressed)
            return host.Press(new Keystroke(Key.Parse("key", "Unidentified"), caps, key.AtMs), held: false);
        if (!held)
            driver.Recorder?.Decided([pressed], []);
        // Where the application does not tell what stands behind the caret, an arrow is an arrow.
        var endsLine =
            host.Offers.Chosen is null || !OfferKeys.IsAtLineEndOnly(pressed) || program.Sight?.EndsLine() == true;
        return host.Press(new Keystroke(pressed, caps, key.AtMs), held, endsLine: endsLine);
    }

    private void FocusActive(bool keepTail = false)
    {
        var window = windows.Active();
        if (companion?.IsOwn(window) == true)
            return;
        if (companion?.IsShown == true)
        {
            // The page stands in for the window, where no browser could be started for it.
            if (
                window.Id == 0
                || focus.ShowsOwnPage(window)
                || (companion.IsElsewhere && window.Id != companion.UserWindow)
            )
                return;
            Dialogue.Drop();
        }
        if (focus.IsElsewhere(window))
            Focus(window);
        else if (!keepTail)
            focus.Take(window);
    }

    private void Focus(DesktopWindow window)
    {
        focus.Take(window);
        windows.Follow(window.Id);
        injection.Manners = focus.Manners;
        if (!focus.IsOwnPage)
            driver.Recorder?.Focused(window.App, focus.Title);
        reader.ForgetComposition();
        driver.Focus();
        if (window.App.Length > 0 && !focus.IsOwnPage)
            program.Seen(focus.Application);
    }

    /// <summary>After a click or a caret key the application may tell what stands before the caret.</summary>
    private void LookAtCaret()
    {
        if (!focus.Listens || focus.Sight is null || program.Sight?.TextBeforeCaret() is not { Length: > 0 } before)
            return;
        driver.Take(host.StandsBefore(before));
    }

    /// <summary>
    /// Below the caret where the application tells it, else at the window's lower edge, else at the pointer.
    /// </summary>
    private (int X, int Y) HintPlace()
    {
        if (focus.Sight is not null && program.Sight?.Caret() is { } caret)
            return (caret.X + 2, caret.Y + caret.Height + 4);
        if (windows.Place(focus.Window.Id) is { } place)
            return (place.X + 12, place.Y + place.Height - 34);
        var (x, y) = windows.Pointer();
        return (x + 12, y + 16);
    }

    /// <summary>The first expansion should not pay for what every first call costs.</summary>
    private void WarmEverythingUp()
    {
        WarmUp.Hosts(program.Services);
        const byte letter = 38;
        var key = new CapturedKey
        {
            Keycode = letter,
            IsPress = true,
            State = capture.State,
        };
        _ = reader.Typed(key);
        reader.ForgetComposition();
        _ = injection.CanType("warm");
        _ = clipboard.Text(1000);
        pump.WhileHeld(() => { });
        capture.Fence();
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
