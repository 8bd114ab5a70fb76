using System.Collections.Concurrent;
using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Native;

namespace DashSprout.Keyboard;

/// <summary>
/// The link at work, on one thread: what happens at the display goes to the host, and what the host says is carried out. It has no rules
/// of its own.
/// </summary>
internal sealed unsafe class LinkLoop : IDisposable
{
    private const int LookMs = 500, CaretMs = 40, MostGathered = 100_000;

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
    private readonly int wake = Posix.eventfd(0, 0x800);
    private readonly HashSet<string> plainApps = [];
    private DesktopWindow active = DesktopWindow.None;
    private DesktopApplication application = new("", "", "", false);
    private (TriggerIndex Index, string App, bool Rests, uint Group, OwnChords Own, bool Mute)? alwaysFor;
    private Dictionary<Stroke, Action> ownChords = [];
    private long? askAt;
    private long lookAt, caretAt;
    private byte swallowed;
    private ActiveTrigger? hinted;
    private bool mute, blank, ended, secret;
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
            injection = new Injection(connection, capture, () => reader.Layout);
            clipboard = new DesktopClipboard(displayName);
            windows = new DesktopWindows(connection);
            carrier = new StepCarrier(injection, clipboard, windows, () => program, StillAtWork);
            clipboard.Waiting = StillAtWork;
            carrier.Window = () => active.Id;
            carrier.Goes = window => Focus(window);
            selected = new SelectedText(clipboard, windows, injection, StillAtWork);
            companion = browser is null || program.Companion is null ? null : new CompanionWindow(connection, windows, browser, program.Companion);
            hint = new HintWindow(connection);
            host = new TypingHost(program.Surroundings) { ReadClipboard = () => clipboard.Text(RenderContext.MostUnits), ReadSelection = () => selected.Read(blank && !application.IsTerminal) };
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
            _ = Posix.close(wake);
            throw;
        }
    }

    /// <summary>Whether keys are told to the host: not in the program's own page, and never in a field for pass-phrases.</summary>
    private bool Listens => !mute && !secret;

    /// <summary>The layouts of the display's keyboard, and the one in use.</summary>
    public (IReadOnlyList<string> Names, int At) Layouts => (reader.Layout.Names, (int)reader.Group);

    /// <summary>Whether the companion window can be shown at once.</summary>
    public bool IsCompanionReady => companion?.IsReady == true;

    /// <summary>Has something done on the link's thread, between keys.</summary>
    public void Post(Action what)
    {
        posted.Enqueue(what);
        ulong one = 1;
        _ = Posix.write(wake, &one, sizeof(ulong));
    }

    /// <summary>Asks the loop to end.</summary>
    public void End() => Post(() => ended = true);

    /// <summary>Works until it is told to end; throws <see cref="LinkException"/> when the display ends the connection.</summary>
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
            while (!ended) Turn();
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
        _ = Posix.close(wake);
    }

    // ---- answers from the companion window ------------------------------------------------------------------------

    /// <summary>Puts a snippet in that was chosen in the finder.</summary>
    public void Choose(PlacedSnippet snippet) => Answered(() => host.Choose(snippet, null));

    /// <summary>Answers the open slip.</summary>
    public void Fill(IReadOnlyDictionary<string, string> answers) => Answered(() => host.Fill(answers));

    /// <summary>What waits to be opened may be opened.</summary>
    public void Confirm() => Answered(host.Confirm);

    /// <summary>Leaves whatever the companion window shows.</summary>
    public void Leave() => Answered(host.Leave);

    /// <summary>The page shows what it was told to, and its first field has the focus.</summary>
    public void PageIsReady(int number, bool focused) => companion?.PageIsReady(number, focused);

    /// <summary>The program's settings, snippets or rest have changed.</summary>
    public void ProgramChanged()
    {
        reader.Lend(program.Characters());
        SetAlways();
    }

    private void Answered(Func<HostAnswer> answer) => UnderHold(() =>
    {
        companion?.Hide(StillAtWork);
        FocusActive(keepTail: true);
        Act(answer(), 0);
    });

    // ---- one turn -------------------------------------------------------------------------------------------------

    private void Turn()
    {
        watch.Working();
        while (posted.TryDequeue(out var what)) what();
        capture.Read();
        Handle();
        if (companion is { IsInTheWay: true }) UnderHold(() => companion.PutAway(active.Id, StillAtWork));
        var now = Environment.TickCount64;
        if (askAt is { } at && now >= at)
        {
            askAt = null;
            Take(host.Pause(now), held: false);
        }
        KeepUp(now);
        if (ended || connection.HasEvent() || capture.Happened.Count > 0) return;
        // Only when nobody is typing on: what is gone in a moment is not worth showing.
        hint.Show(hinted is { } waits ? Sketch.Of(waits.Placed.Snippet.Body) : null, HintPlace);
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
        entries[2] = new PollEntry { File = wake, Events = Posix.PollIn };
        if (Posix.poll(entries, 3, ms) <= 0 || entries[2].Returned == 0) return;
        ulong count;
        _ = Posix.read(wake, &count, sizeof(ulong));
    }

    /// <summary>Follows what changes slowly: the keymap, the keyboards, the triggers, a window manager's missing word.</summary>
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
        if (now < lookAt) return;
        lookAt = now + LookMs;
        SetAlways();
        companion?.Watch();
    }

    private void Handle()
    {
        while (capture.Happened.Count > 0)
        {
            var next = capture.Happened[0];
            if (next is CapturedKey { IsPress: true, IsInjected: false, Held: false } maybe && holding.IsAlways(maybe.Keycode, maybe.State)) capture.Fence();
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
            // Whoever goes on where the question was asked leaves it: what is answered later would go in at a wrong place.
            if (!companion.IsElsewhere || happened is CapturedKey { IsPress: false } || windows.ActiveId() != companion.UserWindow) return;
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
                if (reader.HasRepeated(up.AtMs, up.Keycode)) Take(host.Click(), held: false);
                return;
            case CapturedKey key:
                if (reader.HasRepeated(key.AtMs)) Take(host.Click(), held: false);
                var typed = reader.Typed(key);
                if (!typed.IsModifier) reader.WentDown(key);
                // A caret key takes the caret somewhere; whatever is typed instead makes looking there needless.
                if (!typed.IsModifier) caretAt = typed.Key is { Kind: KeyKind.Named, AddsText: false } ? key.AtMs + CaretMs : 0;
                if (Listens) Take(Tell(key, typed, held: false), held: false);
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
        if (typed.Key is not { } pressed) return host.Press(new Keystroke(Key.Parse("key", "Unidentified"), caps, key.AtMs), held: false);
        if (!held) recorder?.Decided([pressed], []);
        return host.Press(new Keystroke(pressed, caps, key.AtMs), held);
    }

    // ---- under hold -----------------------------------------------------------------------------------------------

    /// <summary>Holds all keys while something is done, then handles those that came meanwhile until none are left.</summary>
    private void UnderHold(Action? first)
    {
        holding.Begin();
        try
        {
            capture.Fence();
            // A key that the user lets go while the keyboards are held would stay down for the display.
            MakeBlank();
            PutInOrder();
            first?.Invoke();
            while (holding.IsOn)
            {
                if (capture.Happened.Count == 0) capture.Fence();
                if (capture.Happened.Count == 0) break;
                var next = capture.Happened[0];
                capture.Happened.RemoveAt(0);
                StillAtWork();
                if (next is CapturedKey { IsPress: true, Held: true } key) HeldKey(key);
                else Free(next);
            }
        }
        finally
        {
            MakeUnblank();
            holding.End();
            capture.ExpectNothing();
        }
    }

    /// <summary>
    /// What was typed after the keyboards were given back has reached the application before what was still held then: it goes out, and
    /// all comes in the order in which it was typed.
    /// </summary>
    private void PutInOrder()
    {
        var firstHeld = capture.Happened.FindIndex(one => one is CapturedKey { IsPress: true, Held: true });
        if (firstHeld < 0) return;
        var early = capture.Happened.Skip(firstHeld).OfType<CapturedKey>().Where(key => key is { IsPress: true, Held: false, IsInjected: false }).ToList();
        // A key that acts cannot be taken out again.
        if (early.Count == 0 || early.Exists(key => reader.Typed(key) is { IsModifier: false } and not { Key.Kind: KeyKind.Typed })) return;
        injection.Press(Key.Backspace, early.Count(key => reader.Typed(key).Key is { Kind: KeyKind.Typed }));
        foreach (var key in early) key.Held = true;
    }

    private void HeldKey(CapturedKey key)
    {
        var typed = reader.Typed(key);
        // What the held keys would do while the program hangs is done as it is typed.
        if (holding.IsOverdue || !Listens)
        {
            Replay(key, typed);
            return;
        }
        if (key.Repeats && key.Keycode == swallowed) return;
        var stroke = new Stroke(key.Keycode, key.State.Modifiers & ~(Symbols.Lock | Symbols.Num));
        if (ownChords.TryGetValue(stroke, out var own))
        {
            own();
            return;
        }
        if (typed.IsModifier)
        {
            if (reader.Layout.PlainSymbol(key.Keycode, injection.Group) == Symbols.CapsLock) injection.CapsLockPressed();
            return;
        }
        if (companion?.IsShown == true)
        {
            Replay(key, typed);
            return;
        }
        if (typed.Key is not { } pressed || pressed.Kind == KeyKind.Silent)
        {
            Replay(key, typed);
            if (typed.Composed is not null) Take(Tell(key, typed, held: false), held: true);
            return;
        }
        var answer = Tell(key, typed, held: true);
        if (answer.Ended.Count > 0 || answer.Question is not null) swallowed = key.Keycode;
        // A key that only goes on is given back as it came.
        if (answer.Steps is [DeliveryStep.Press { Key: var only }] && only == pressed)
        {
            Replay(key, typed);
            recorder?.Decided([pressed], []);
            answer = answer with { Steps = [] };
        }
        Take(answer, held: true);
    }

    private void Replay(CapturedKey key, TypedKey typed)
    {
        MakeBlank();
        // Caps Lock is off for as long as keys are injected.
        if (key.State.CapsLock && typed.Key is { Kind: KeyKind.Typed } letter && injection.CanType(letter.Value)) injection.Type(letter.Value, 0);
        else injection.Replay(key, key.State.Modifiers & ~(Symbols.Lock | Symbols.Num));
        connection.Flush();
    }

    private void MakeBlank()
    {
        if (blank) return;
        injection.Begin();
        blank = true;
    }

    private void MakeUnblank()
    {
        if (!blank) return;
        blank = false;
        injection.End();
        // What was typed here comes back before the keyboards do.
        connection.Sync();
        capture.Read();
    }

    // ---- what the host says -----------------------------------------------------------------------------------------

    private void Take(HostAnswer answer, bool held)
    {
        askAt = answer.AskAt;
        if (answer.Steps.Count > 0 || answer.Question is not null)
        {
            if (held) Act(answer, 0);
            else UnderHold(() => ActAfterSlipped(answer));
        }
        else
        {
            Report(answer);
        }
        hinted = Listens && answer.Hint is { } waiting && program.Hints() ? waiting : null;
    }

    /// <summary>What was typed while the keyboards were taken has reached the application: it goes out with the abbreviation and comes again behind the text.</summary>
    private void ActAfterSlipped(HostAnswer answer)
    {
        var slipped = capture.Happened.OfType<CapturedKey>().Where(key => key is { IsPress: true, Held: false }).ToList();
        var kinds = slipped.ConvertAll(reader.Typed);
        var moved = capture.Happened.OfType<CapturedChange>().Any()
            || kinds.Exists(typed => typed is { IsModifier: false } and not { Key.Kind: KeyKind.Typed or KeyKind.Silent });
        if (moved && answer.Steps.Count > 0)
        {
            // It cannot be made undone, so nothing goes in.
            Report(answer with { Ended = [] });
            askAt = host.Stopped().AskAt;
            return;
        }
        foreach (var key in slipped) key.Held = true;
        Act(answer, kinds.Count(typed => typed.Key is { Kind: KeyKind.Typed }));
    }

    private void Act(HostAnswer answer, int alsoDelete)
    {
        try
        {
            if (answer.Steps.Count > 0)
            {
                MakeBlank();
                if (!secret) recorder?.Decided([], answer.Steps);
                carrier.Carry(answer.Steps, alsoDelete, new CarryPlace(active.Id, Delivery(), secret, application.IsTerminal));
                if (carrier.TookPlainOnly && plainApps.Add(application.Id)) FocusHost(keepTail: true);
                connection.Flush();
            }
            Report(answer);
            askAt = answer.AskAt;
            if (answer.Question is { } question) Show(new Shown.Question(question, ContextOf(question)));
        }
        catch (DeliveryStopped stopped)
        {
            Report(answer with { Ended = [] });
            askAt = host.Stopped().AskAt;
            if (stopped.Reason is { } reason) program.Say(reason);
        }
    }

    /// <summary>What an open question is worked out from, wherever that is done; selection and clipboard are read for those that may use them.</summary>
    private RenderContext ContextOf(HostQuestion question)
    {
        var context = host.QuestionContext!;
        var body = (question as HostQuestion.FillIn)?.Snippet.Snippet.Body.Source ?? "";
        bool MayUse(string part) => body.Contains($"name=\"{part}\"", StringComparison.Ordinal) || body.Contains("name=\"snippet\"", StringComparison.Ordinal);
        return context with { Clipboard = MayUse("clipboard") ? context.Clipboard : "", Selection = MayUse("selection") ? context.Selection : "" };
    }

    private void Report(HostAnswer answer)
    {
        foreach (var one in answer.Ended) program.Ended(one);
        if (answer.Problem is { } problem) program.Say(problem);
    }

    private void Show(Shown shown)
    {
        if (companion is null)
        {
            program.Say("This snippet asks something first, and no window can be shown for it. Install a Chromium-family browser, or put it in from the page.");
            Take(host.Leave(), held: true);
            return;
        }
        MakeUnblank();
        if (companion.Show(shown, active, this, StillAtWork) is not { } problem) return;
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
            if (key is not { IsPress: true, Held: true }) continue;
            var typed = reader.Typed(key);
            if (!typed.IsModifier && !(key.Repeats && key.Keycode == swallowed)) Replay(key, typed);
        }
    }

    private void ShowOwn(Shown shown)
    {
        if (companion is null) program.Say("No Chromium-family browser is installed, so nothing can be shown over other applications. Use the page instead.");
        else if (!companion.IsShown) Show(shown);
    }

    // ---- where somebody types ---------------------------------------------------------------------------------------

    private void FocusActive(bool keepTail = false)
    {
        var window = windows.Active();
        if (companion?.IsOwn(window) == true) return;
        if (companion?.IsShown == true)
        {
            // The page stands in for the window, where no browser could be started for it.
            if (window.Id == 0 || IsOwnPage(window) || (companion.IsElsewhere && window.Id != companion.UserWindow)) return;
            companion.Drop();
            Take(host.Leave(), holding.IsOn);
        }
        if (window.Id != active.Id || window.Title != active.Title && IsOwnPage(window) != mute) Focus(window);
        else if (!keepTail) active = window;
    }

    private void Focus(DesktopWindow window)
    {
        active = window;
        application = applications.Of(window.App, window.Instance);
        mute = IsOwnPage(window);
        if (!mute) recorder?.Focused(window.App, NameOf(window));
        reader.ForgetComposition();
        FocusHost(keepTail: false);
        if (window.App.Length > 0 && !mute) program.Seen(application);
    }

    /// <summary>A window's title without the sign before it that something in it is not saved.</summary>
    private static string NameOf(DesktopWindow window) => window.Title.TrimStart('*', '•', '●', ' ');

    /// <summary>The program's own page has a keyboard of its own.</summary>
    private static bool IsOwnPage(DesktopWindow window) => window.Title.StartsWith("Dash Sprout", StringComparison.Ordinal);

    /// <summary>What is known of the field with the focus; what an application told that one has left counts no more.</summary>
    private FieldSight? SightHere => program.Sight?.Now is { } sight && (sight.Pid == active.Pid || active.Pid == 0) ? sight : null;

    private void FocusHost(bool keepTail)
    {
        secret = SightHere is { IsSecret: true };
        var kind = secret ? FieldKind.Secret : application.IsTerminal ? FieldKind.SingleLine : plainApps.Contains(application.Id) ? FieldKind.Plain : FieldKind.Rich;
        if (keepTail && kind == host.Field) return;
        Take(host.Focus(application.Id, kind), held: holding.IsOn);
        SetAlways();
    }

    /// <summary>The field with the focus has told something of itself.</summary>
    public void SightChanged()
    {
        if (secret != (SightHere is { IsSecret: true })) FocusHost(keepTail: false);
    }

    /// <summary>After a click or a caret key the application may tell what stands before the caret.</summary>
    private void Look()
    {
        if (!Listens || SightHere is null || program.Sight?.TextBeforeCaret() is not { Length: > 0 } before) return;
        Take(host.StandsBefore(before), held: false);
    }

    private AppDelivery Delivery() => program.DeliveryIn(application.Id) ?? (application.IsTerminal ? AppDelivery.Terminal : AppDelivery.Usual);

    private void SetAlways()
    {
        var own = program.Chords();
        var now = (program.Surroundings.Index(), application.Id, program.Surroundings.RestsIn(application.Id), injection.Group, own, !Listens);
        if (alwaysFor == now) return;
        alwaysFor = now;
        var strokes = new HashSet<Stroke>();
        ownChords = [];
        if (Listens)
        {
            foreach (var (chord, act) in new (string, Action)[] { (own.Finder, () => ShowOwn(new Shown.Finder())), (own.Gather, Gather), (own.Rest, program.Rest), (own.Record, Record) })
                if (StrokeOf(chord) is { } stroke) ownChords[stroke] = act;
            strokes.UnionWith(ownChords.Keys);
            if (!now.Item3)
            {
                foreach (var name in (ReadOnlySpan<string>)["Enter", "Tab", "Escape", "Backspace", "Shift+Enter"])
                    if (StrokeOf(name) is { } stroke) strokes.Add(stroke);
                if (reader.Layout.KeycodeFor(injection.Group, Symbols.KeypadEnter) is var keypad and not 0) strokes.Add(new Stroke(keypad, 0));
                string[] chords = [.. host.Chords(), .. program.Surroundings.TakeBackChord() is { } takesBack ? (string[])[takesBack] : []];
                foreach (var chord in chords) if (StrokeOf(chord) is { } stroke) strokes.Add(stroke);
            }
        }
        _ = holding.SetAlways(strokes);
        connection.Flush();
    }

    private Stroke? StrokeOf(string chord) => reader.Layout.StrokeFor(injection.Group, Key.Parse("chord", chord));

    /// <summary>The first expansion should not pay for what every first call costs.</summary>
    private void WarmEverythingUp()
    {
        WarmUp.Hosts(program.Surroundings);
        _ = reader.Typed(new CapturedKey { Keycode = 38, IsPress = true, State = capture.State });
        reader.ForgetComposition();
        _ = injection.CanType("warm");
        _ = clipboard.Text(1000);
        UnderHold(null);
        capture.Fence();
    }

    /// <summary>Below the caret where the application tells it, else at the window's lower edge, else at the pointer.</summary>
    private (int X, int Y) HintPlace()
    {
        if (SightHere is not null && program.Sight?.Caret() is { } caret) return (caret.X + 2, caret.Y + caret.Height + 4);
        if (windows.Place(active.Id) is { } place) return (place.X + 12, place.Y + place.Height - 34);
        _ = Xlib.XQueryPointer(connection.Display, connection.Root, out _, out _, out var x, out var y, out _, out _, out _);
        return (x + 12, y + 16);
    }

    /// <summary>Types into a window of its own and tells how it went.</summary>
    public void Check(TaskCompletionSource<LinkCheckAnswer> told)
    {
        var lines = new List<LinkCheckLine>();
        double? median = null;
        UnderHold(() =>
        {
            var answer = LinkCheck.Typing(displayName, windows, injection, reader.Layout, program.Characters(), StillAtWork);
            median = answer.MedianMs;
            lines.AddRange(answer.Lines);
        });
        lines.Add(capture.Keyboards.Count > 0
            ? new LinkCheckLine("Keyboards", true, $"{capture.Keyboards.Count} heard, layout {string.Join(", ", reader.Layout.Names)}.")
            : new LinkCheckLine("Keyboards", false, "The display has no keyboard of its own, so keys cannot be held back while text goes in."));
        lines.Add(watch.HasOutside
            ? new LinkCheckLine("Watch", true, "Keys are given back even if the program is stopped from outside.")
            : new LinkCheckLine("Watch", false, "A program that is stopped from outside could keep Enter and Tab. Install xkill (package x11-utils) and start Dash Sprout again."));
        lines.Add(companion switch
        {
            null or { HasWindow: false } => new LinkCheckLine("Window for slips", false, "No Chromium-family browser was found, so slips and the finder open in your usual browser and not over the application. Install one, such as the package chromium."),
            { IsReady: true } => new LinkCheckLine("Window for slips", true, "It is ready."),
            _ => new LinkCheckLine("Window for slips", false, "It has not come up yet. Wait a moment, then check again."),
        });
        lines.Add(SightHere is null
            ? new LinkCheckLine("Fields", true, "This application tells nothing of its fields: pass-phrase fields are not recognised there, and after a click what is typed begins anew.")
            : new LinkCheckLine("Fields", true, "This application tells of its fields: pass-phrase fields are left alone."));
        told.SetResult(new LinkCheckAnswer(lines.TrueForAll(line => line.IsGood), median, lines));
    }

    // ---- selection and clipboard ------------------------------------------------------------------------------------

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
            program.Say($"Your keys are recorded, those in pass-phrase fields excepted. Press {program.Chords().Record} again to make a snippet of them.");
            return;
        }
        recorder = null;
        if (ended.IsEmpty) program.Say("Nothing was typed, so nothing was recorded.");
        else ShowOwn(new Shown.Recorded(ended.ToBody().Source));
        if (ended.IsFull) program.Say($"More was typed than one snippet does again: what came behind {KeyRecorder.MostParts} keys and texts is left out.");
    }

    // ---- giving back --------------------------------------------------------------------------------------------------

    private void Released(byte keycode)
    {
        if (keycode == swallowed) swallowed = 0;
        injection.Released(keycode);
    }

    /// <summary>Called all along while something takes time: it goes on, and keys are held no longer than they may be.</summary>
    private void StillAtWork()
    {
        watch.Working();
        if (!holding.IsOverdue) return;
        MakeUnblank();
        holding.End();
    }

    private void GiveEverythingBack()
    {
        if (connection.IsBroken) return;
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
