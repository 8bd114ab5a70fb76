using DashSprout.Core.Delivery;
using DashSprout.Core.Text;

namespace DashSprout.Keyboard;

/// <summary>What is done while keys are held, and what becomes of those that come meanwhile.</summary>
internal sealed unsafe partial class LinkLoop
{
    /// <summary>
    /// Holds all keys while something is done, then handles those that came meanwhile until none are left.
    /// </summary>
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
                if (capture.Happened.Count == 0)
                    capture.Fence();
                if (capture.Happened.Count == 0)
                    break;
                var next = capture.Happened[0];
                capture.Happened.RemoveAt(0);
                StillAtWork();
                if (next is CapturedKey { IsPress: true, Held: true } key)
                    HeldKey(key);
                else
                    Free(next);
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
    /// What was typed after the keyboards were given back has reached the application before what was still held then:
    /// it goes out, and all comes in the order in which it was typed.
    /// </summary>
    private void PutInOrder()
    {
        var firstHeld = capture.Happened.FindIndex(one => one is CapturedKey { IsPress: true, Held: true });
        if (firstHeld < 0)
            return;
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

    private void HeldKey(CapturedKey key)
    {
        var typed = reader.Typed(key);
        // What the held keys would do while the program hangs is done as it is typed.
        if (holding.IsOverdue || !Listens)
        {
            Replay(key, typed);
            return;
        }
        if (key.Repeats && key.Keycode == swallowed)
            return;
        var stroke = new Stroke(key.Keycode, key.State.Modifiers & ~(Symbols.Lock | Symbols.Num));
        if (ownChords.TryGetValue(stroke, out var own))
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
            Replay(key, typed);
            return;
        }
        if (typed.Key is not { } pressed || pressed.Kind == KeyKind.Silent)
        {
            Replay(key, typed);
            if (typed.Composed is not null)
                Take(Tell(key, typed, held: false), held: true);
            return;
        }
        var answer = Tell(key, typed, held: true);
        if (answer.Ended.Count > 0 || answer.Question is not null)
            swallowed = key.Keycode;
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
        if (key.State.CapsLock && typed.Key is { Kind: KeyKind.Typed } letter && injection.CanType(letter.Value))
            injection.Type(letter.Value, 0);
        else
            injection.Replay(key, key.State.Modifiers & ~(Symbols.Lock | Symbols.Num));
        connection.Flush();
    }

    private void MakeBlank()
    {
        if (blank)
            return;
        injection.Begin();
        blank = true;
    }

    private void MakeUnblank()
    {
        if (!blank)
            return;
        blank = false;
        injection.End();
        // What was typed here comes back before the keyboards do.
        connection.Sync();
        capture.Read();
    }
}
