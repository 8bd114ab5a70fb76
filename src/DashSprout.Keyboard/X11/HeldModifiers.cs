using DashSprout.Keyboard.X11.Native;
using static DashSprout.Keyboard.X11.Native.XInput;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// Modifiers that the user still holds when the keyboards are given back are pressed again, at their own keyboard: the
/// display has missed them or they were let up for the text. Were they pressed as the text is typed, the user's next
/// letter would come from another keyboard than its Shift, and toolkits that look at the keyboard anew whenever it
/// changes (Qt 5 does, when it gets round to it) would find Shift up again and take a small letter.
/// </summary>
internal sealed class HeldModifiers(XConnection connection) : IDisposable
{
    private readonly Dictionary<int, nint> opened = [];

    /// <summary>Keys whose press and release are on their way back.</summary>
    private readonly HashSet<byte> taps = [];

    /// <summary>Keys whose release and press are on their way back, with the releases that have come.</summary>
    private readonly Dictionary<byte, int> onTheirWay = [];

    /// <summary>Makes a keyboard ready, so that nothing is waited for while keys are given back.</summary>
    public void Open(int keyboard)
    {
        if (!opened.ContainsKey(keyboard))
            opened[keyboard] = XOpenDevice(connection.Display, keyboard);
    }

    /// <summary>Lets a key go and presses it, at the keyboard that has it down.</summary>
    public void PressAgain(int keyboard, byte keycode)
    {
        onTheirWay[keycode] = 0;
        Fake(keyboard, keycode, press: false);
        Fake(keyboard, keycode, press: true);
    }

    /// <summary>
    /// Has applications hear of the modifiers anew, with keys coming from a keyboard again: a key that types nothing is
    /// tapped there, and a modifier that nobody uses (Mod3) is locked for a moment.
    /// </summary>
    public void Remind(int keyboard, byte keycode)
    {
        taps.Add(keycode);
        Fake(keyboard, keycode, press: true);
        Fake(keyboard, keycode, press: false);
        const uint mod3 = 0x20;
        _ = Xkb.XkbLockModifiers(connection.Display, Xkb.CoreKeyboard, mod3, mod3);
        _ = Xkb.XkbLockModifiers(connection.Display, Xkb.CoreKeyboard, mod3, 0);
    }

    /// <summary>
    /// Whether what a keyboard tells is one of these. Who lets the key go meanwhile is found out: two releases come
    /// before the press then, and it is let go for them.
    /// </summary>
    public bool Takes(int keyboard, byte keycode, bool isPress)
    {
        if (isPress ? taps.Contains(keycode) : taps.Remove(keycode))
            return true;
        if (!onTheirWay.TryGetValue(keycode, out var releases))
            return false;
        if (!isPress)
        {
            onTheirWay[keycode] = releases + 1;
            return true;
        }
        onTheirWay.Remove(keycode);
        if (releases > 1)
        {
            Fake(keyboard, keycode, press: false);
            connection.Flush();
        }
        return true;
    }

    /// <summary>Nothing is on its way any more.</summary>
    public void Forget()
    {
        onTheirWay.Clear();
        taps.Clear();
    }

    public void Dispose()
    {
        foreach (var device in opened.Values)
            _ = XCloseDevice(connection.Display, device);
        opened.Clear();
    }

    private unsafe void Fake(int keyboard, byte keycode, bool press)
    {
        // A keyboard that was unplugged holds nothing.
        if (opened.GetValueOrDefault(keyboard) is not (var device and not 0))
            return;
        _ = XTestFakeDeviceKeyEvent(connection.Display, device, keycode, press ? 1 : 0, null, 0, 0);
    }
}
