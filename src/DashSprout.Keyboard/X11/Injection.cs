using System.Text;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.X11.Native;

namespace DashSprout.Keyboard.X11;

/// <summary>Types into the application that has the focus, through XTest.</summary>
internal sealed unsafe class Injection(XConnection connection, Capture capture, Func<Layout> layout, Action gotOn)
{
    private bool capsWasOn;
    private byte tapped;

    /// <summary>How the application takes keys that has the focus.</summary>
    public Manners Manners { get; set; } = Manners.Usual;

    /// <summary>The layout group that injected keys are typed in.</summary>
    public uint Group => capture.State.Group(layout().Names.Count);

    /// <summary>
    /// Makes the keyboard blank: what is down comes up, since the server drops a press of a key that is down already,
    /// and Caps Lock, which would turn letters around, is off.
    /// </summary>
    public void Begin()
    {
        var bits = stackalloc byte[32];
        _ = Xlib.XQueryKeymap(connection.Display, bits);
        for (var code = 8; code < 256; code++)
            if ((bits[code >> 3] & (1 << (code & 7))) != 0)
                Fake((byte)code, false);
        // Sticky modifiers wait for the next key, which is the user's and not one of these.
        _ = Xkb.XkbLatchModifiers(connection.Display, Xkb.CoreKeyboard, 0xff, 0);
        capture.ReadState();
        if (Manners.LooksAtModifiersLate)
            TapShift();
        if (!capture.State.CapsLock)
            return;
        capsWasOn = true;
        _ = Xkb.XkbLockModifiers(connection.Display, Xkb.CoreKeyboard, Symbols.Lock, 0);
    }

    /// <summary>Makes the keyboard again what it was: Caps Lock is as it was.</summary>
    public void End()
    {
        if (capsWasOn)
            _ = Xkb.XkbLockModifiers(connection.Display, Xkb.CoreKeyboard, Symbols.Lock, Symbols.Lock);
        capsWasOn = false;
        connection.Flush();
    }

    /// <summary>
    /// The user has pressed Caps Lock while their keys were held: it is the other way round for them now.
    /// </summary>
    public void CapsLockPressed() => capsWasOn = !capsWasOn;

    /// <summary>Whether the layout types every character of a text.</summary>
    public bool CanType(string text) =>
        text.EnumerateRunes()
            .All(rune => rune.Value is '\n' or '\t' || layout().StrokeFor(Group, rune.Value) is not null);

    /// <summary>Whether the layout has a key or chord.</summary>
    public bool Has(Key key) => layout().StrokeFor(Group, key) is not null;

    /// <summary>
    /// Types a text that the layout reaches; throws <see cref="DeliveryStopped"/> before the first key when it does not.
    /// </summary>
    public void Type(string text, int delayMs)
    {
        var strokes = text.EnumerateRunes().Select(StrokeFor).ToList();
        uint held = 0;
        foreach (var stroke in strokes)
        {
            held = Hold(held, stroke.Modifiers);
            Tap(stroke.Keycode);
            if (delayMs > 0)
                Pause(delayMs);
        }
        Hold(held, 0);
        connection.Flush();
    }

    private Stroke StrokeFor(Rune rune) =>
        rune.Value switch
        {
            '\n' => new Stroke(layout().KeycodeFor(Group, Symbols.Return), 0),
            '\t' => new Stroke(layout().KeycodeFor(Group, Symbols.Tab), 0),
            var point => layout().StrokeFor(Group, point)
                ?? throw new DeliveryStopped("The keyboard layout has changed and does not type every character now."),
        };

    /// <summary>Presses a key or chord completely, several times; false when the layout does not have it.</summary>
    public bool Press(Key key, int times = 1, int delayMs = 0)
    {
        if (layout().StrokeFor(Group, key) is not { } stroke)
            return false;
        Press(stroke, times, delayMs);
        return true;
    }

    /// <summary>Presses a stroke completely, several times.</summary>
    public void Press(Stroke stroke, int times = 1, int delayMs = 0)
    {
        if (times == 0)
            return;
        var held = Hold(0, stroke.Modifiers);
        for (var count = 0; count < times; count++)
        {
            Tap(stroke.Keycode);
            if (delayMs > 0)
                Pause(delayMs);
        }
        Hold(held, 0);
        connection.Flush();
    }

    /// <summary>Gives a key that was held back to the application as it came.</summary>
    public void Replay(CapturedKey key, uint modifiers)
    {
        var held = Hold(0, modifiers);
        Tap(key.Keycode);
        Hold(held, 0);
    }

    private void Pause(int ms)
    {
        connection.Flush();
        Thread.Sleep(ms);
        gotOn();
    }

    private void Tap(byte keycode)
    {
        // Shift by itself does nothing, and is no key that would count with those beside it.
        if (Manners.CountsEqualKeysOnce && keycode == tapped)
            TapShift();
        Fake(keycode, true);
        Fake(keycode, false);
        tapped = keycode;
    }

    private void TapShift() => Hold(Hold(0, Symbols.Shift), 0);

    /// <summary>Presses and releases modifiers so that just the wanted ones are down.</summary>
    private uint Hold(uint held, uint wanted)
    {
        foreach (
            var (bit, symbol) in new[]
            {
                (Symbols.Control, Symbols.ControlL),
                (Symbols.Alt, Symbols.AltL),
                (Symbols.Shift, Symbols.ShiftL),
                (Symbols.Meta, Symbols.SuperL),
                (Symbols.AltGr, Symbols.Level3),
            }
        )
        {
            if ((held & bit) == (wanted & bit))
                continue;
            if (layout().KeycodeFor(Group, symbol) is var keycode and not 0)
                Fake(keycode, (wanted & bit) != 0);
        }
        return wanted;
    }

    private void Fake(byte keycode, bool press)
    {
        capture.Expect(keycode, press);
        _ = XInput.XTestFakeKeyEvent(connection.Display, keycode, press ? 1 : 0, 0);
    }
}
