using DashSprout.Core.Text;
using DashSprout.Keyboard.Linking;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// What was pressed, in order: keys that applications have already, keys that are held back, and what changes what they
/// mean. While text goes in all keys are held; those that come meanwhile are handled behind it, as if typed then.
/// </summary>
internal sealed class KeyPump(
    XConnection connection,
    Capture capture,
    Holding holding,
    KeyReader reader,
    Injection injection,
    HeldModifiers modifiers,
    LinkWatch watch
) : IKeyHold
{
    private bool blank;

    /// <summary>The key that set something off: what the keyboard repeats of it until it comes up is dropped.</summary>
    private byte swallowed;

    /// <summary>Told what applications have already.</summary>
    public required Action<Captured> Passed { get; init; }

    /// <summary>Told a key that was held back; whoever is told gives it on or not.</summary>
    public required Action<CapturedKey, TypedKey> Held { get; init; }

    /// <summary>Tells whether the window in front is the one in which somebody types.</summary>
    public required Func<bool> IsStillThere { get; init; }

    /// <inheritdoc/>
    public bool IsOn => holding.IsOn;

    /// <summary>Whether keys are held and the link may type.</summary>
    public bool IsBlank => blank;

    /// <summary>Whether keys are held for as long as they may be.</summary>
    public bool IsOverdue => holding.IsOverdue;

    /// <summary>Whether something waits to be handled.</summary>
    public bool HasMore => connection.HasEvent() || capture.Happened.Count > 0;

    /// <summary>Reads and handles what has happened.</summary>
    public void Handle()
    {
        capture.Read();
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
                WhileHeld(() => { });
                continue;
            }
            capture.Happened.RemoveAt(0);
            Passed(next);
        }
    }

    /// <summary>
    /// Called all along while something takes time: it goes on, and keys are held no longer than they may be.
    /// </summary>
    public void StillAtWork()
    {
        watch.Working();
        if (holding.IsOverdue)
            GiveBack();
    }

    /// <summary>The keyboards are the user's again, with the modifiers down that they hold.</summary>
    private void GiveBack()
    {
        EndBlank();
        if (!holding.IsOn)
            return;
        // Nothing is read between the last look at the keys and this: what is known to be down would be old.
        modifiers.Forget();
        var down = capture.Down.Where(reader.IsHeldModifier).ToList();
        foreach (var keyboard in capture.Keyboards)
            modifiers.Open(keyboard);
        // At once, in one message to the display: a letter that comes between would miss its Shift.
        holding.End();
        foreach (var keycode in down)
            modifiers.PressAgain(capture.KeyboardOf(keycode), keycode);
        if (
            injection.Manners.LooksAtModifiersLate
            && capture.LastKeyboard is var last and not 0
            && reader.Layout.SilentKeycode() is var silent and not 0
        )
            modifiers.Remind(last, silent);
        connection.Flush();
    }

    /// <summary>
    /// Holds all keys while something is done, then handles those that came meanwhile until none are left.
    /// </summary>
    public void WhileHeld(Action first)
    {
        holding.Begin();
        try
        {
            capture.Fence();
            // A key that the user lets go while the keyboards are held would stay down for the display.
            Blank();
            PutInOrder();
            first();
            while (holding.IsOn)
            {
                if (capture.Happened.Count == 0)
                    capture.Fence();
                if (capture.Happened.Count == 0)
                    break;
                var next = capture.Happened[0];
                capture.Happened.RemoveAt(0);
                StillAtWork();
                if (next is CapturedKey { IsPress: true, Held: true } key)
                    Take(key);
                else
                    Passed(next);
            }
        }
        finally
        {
            GiveBack();
            // Where it broke off, what was typed here is still to come back.
            if (capture.Expects)
                capture.Fence();
            capture.ExpectNothing();
            // What came until the keyboards were given back is handled at once, before more is typed.
            capture.Read();
        }
    }

    /// <inheritdoc/>
    public void WhileHeld(Func<Slipped, bool> act) =>
        WhileHeld(() =>
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
                    .Any(change => change.Change == DisplayChange.Button || !IsStillThere())
                || kinds.Exists(typed =>
                    typed is { IsModifier: false } and not { Key.Kind: KeyKind.Typed or KeyKind.Silent }
                );
            foreach (var key in slipped)
                key.Held = true;
            if (act(new Slipped(kinds.Count(typed => typed.Key is { Kind: KeyKind.Typed }), moved)))
                return;
            // They are still where they were typed.
            foreach (var key in slipped)
                key.Held = false;
        });

    /// <summary>Gives a key that was held back to the application that has the focus.</summary>
    public void GiveOn(CapturedKey key, TypedKey typed)
    {
        Blank();
        // Caps Lock is off for as long as keys are injected.
        if (key.State.CapsLock && typed.Key is { Kind: KeyKind.Typed } letter && injection.CanType(letter.Value))
            injection.Type(letter.Value, 0);
        else
            injection.Replay(key, key.State.Modifiers & ~(Symbols.Lock | Symbols.Num));
        connection.Flush();
    }

    /// <summary>Gives on what was typed while a window of the link's own was coming: it goes in there.</summary>
    public void GiveAllOn()
    {
        capture.Fence();
        foreach (var key in capture.Happened.OfType<CapturedKey>().ToList())
        {
            capture.Happened.Remove(key);
            if (key is not { IsPress: true, Held: true })
                continue;
            var typed = reader.Typed(key);
            if (!typed.IsModifier && !IsSwallowed(key))
                GiveOn(key, typed);
        }
    }

    /// <summary>A key has set something off.</summary>
    public void Swallow(CapturedKey key) => swallowed = key.Keycode;

    /// <summary>A key has come up.</summary>
    public void Released(byte keycode)
    {
        if (keycode == swallowed)
            swallowed = 0;
    }

    /// <inheritdoc/>
    public void Blank()
    {
        if (blank)
            return;
        injection.Begin();
        blank = true;
    }

    /// <summary>The next keys are the user's again.</summary>
    public void Unblank()
    {
        if (!blank)
            return;
        EndBlank();
        capture.Fence();
    }

    private void EndBlank()
    {
        if (blank)
            injection.End();
        blank = false;
    }

    /// <summary>
    /// A Caps Lock that was held back counts for what was typed behind it, whoever got that: the display has not heard
    /// of it yet.
    /// </summary>
    private void TurnCapsAround(int from)
    {
        var turned = false;
        foreach (var key in capture.Happened.Skip(from).OfType<CapturedKey>().Where(key => key.IsPress))
            if (key.Held && !key.Repeats && reader.Layout.PlainSymbol(key.Keycode, 0) == Symbols.CapsLock)
                turned = !turned;
            else if (turned && key is { Held: false, IsInjected: false })
                key.State = key.State with { Locked = key.State.Locked ^ Symbols.Lock };
    }

    private bool IsSwallowed(CapturedKey key) => key.Repeats && key.Keycode == swallowed;

    private void Take(CapturedKey key)
    {
        var typed = reader.Typed(key);
        if (!IsSwallowed(key))
            Held(key, typed);
    }

    /// <summary>
    /// What was typed after the keyboards were given back has reached the application before what was still held then:
    /// it goes out, and all comes in the order in which it was typed.
    /// </summary>
    private void PutInOrder()
    {
        var firstHeld = capture.Happened.FindIndex(one => one is CapturedKey { IsPress: true, Held: true });
        if (firstHeld < 0)
            return;
        TurnCapsAround(firstHeld);
        var early = capture
            .Happened.Skip(firstHeld)
            .OfType<CapturedKey>()
            .Where(key => key is { IsPress: true, Held: false, IsInjected: false })
            .ToList();
        // A key that acts cannot be taken out again.
        if (
            early.Count == 0
            || early.Exists(key => reader.Typed(key) is { IsModifier: false } and not { Key.Kind: KeyKind.Typed })
        )
            return;
        injection.Press(Key.Backspace, early.Count(key => reader.Typed(key).Key is { Kind: KeyKind.Typed }));
        foreach (var key in early)
            key.Held = true;
    }
}
