using System.Runtime.InteropServices;
using DashSprout.Keyboard.X11;
using DashSprout.Keyboard.X11.Native;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>
/// Somebody who types at the display's hardware keyboard: events of the slave device, not of XTEST's own, so that a
/// link cannot tell them from real ones.
/// </summary>
internal sealed unsafe partial class HardwareKeyboard : IDisposable
{
    private readonly XConnection connection;
    private readonly nint device;
    private readonly string display;
    private Layout layout;

    public HardwareKeyboard(string display)
    {
        this.display = display;
        connection = XConnection.Open(display);
        layout = Layout.Read(display);
        var infos = XInput.XIQueryDevice(connection.Display, XInput.AllDevices, out var count);
        for (var at = 0; at < count; at++)
        {
            var name = Marshal.PtrToStringUTF8(infos[at].Name);
            if (infos[at].Use == XInput.SlaveKeyboard && name == "Xvfb keyboard")
                device = XInput.XOpenDevice(connection.Display, infos[at].Device);
        }
        XInput.XIFreeDeviceInfo(infos);
        if (device == 0)
            throw new InvalidOperationException("The display has no hardware keyboard.");
    }

    /// <summary>The group it types in.</summary>
    public uint Group { get; set; }

    /// <summary>How long a key is held down, in milliseconds.</summary>
    public int HoldMs { get; set; } = 2;

    /// <summary>Milliseconds from one key to the next; with less than <see cref="HoldMs"/> they roll over.</summary>
    public int EveryMs { get; set; } = 4;

    /// <summary>When the last key went down, in <see cref="System.Diagnostics.Stopwatch"/> ticks.</summary>
    public long LastPress { get; private set; }

    public void ReadLayout()
    {
        layout.Dispose();
        layout = Layout.Read(display);
    }

    public void Press(byte keycode, bool press)
    {
        _ = XInput.XTestFakeDeviceKeyEvent(connection.Display, device, keycode, press ? 1 : 0, null, 0, 0);
        connection.Flush();
        if (press)
            LastPress = System.Diagnostics.Stopwatch.GetTimestamp();
    }

    /// <summary>How long before a letter Shift goes down, and how long after it up.</summary>
    public int ShiftMs { get; set; }

    /// <summary>The keycode of a symbol by its X name.</summary>
    public byte Keycode(string name)
    {
        var symbol = XStringToKeysym(name);
        var keycode = layout.KeycodeFor(Group, (uint)symbol);
        return keycode != 0 ? keycode : throw new ArgumentException($"The layout has no key {name}.");
    }

    /// <summary>A text, a key after the other; \n is Enter, \t Tab, \b Backspace.</summary>
    public void Type(string text)
    {
        var up = new Queue<(long AtMs, byte Keycode)>();
        var next = Environment.TickCount64;
        foreach (var rune in text.EnumerateRunes())
        {
            Until(next, up);
            var stroke = rune.Value switch
            {
                '\n' => new Stroke(Keycode("Return"), 0),
                '\t' => new Stroke(Keycode("Tab"), 0),
                '\b' => new Stroke(Keycode("BackSpace"), 0),
                var point => layout.StrokeFor(Group, point)
                    ?? throw new ArgumentException($"The layout does not type U+{point:X4}."),
            };
            // A key that is down still goes up before it can go down again.
            foreach (var late in up.Where(one => one.Keycode == stroke.Keycode || stroke.Modifiers != 0).ToList())
                Press(late.Keycode, false);
            up = new(up.Where(one => one.Keycode != stroke.Keycode && stroke.Modifiers == 0));
            var modifiers = Modifiers(stroke.Modifiers);
            foreach (var modifier in modifiers)
                Press(modifier, true);
            if (modifiers.Count > 0)
                Thread.Sleep(ShiftMs);
            Press(stroke.Keycode, true);
            if (modifiers.Count > 0)
            {
                Thread.Sleep(ShiftMs);
                Press(stroke.Keycode, false);
                foreach (var modifier in modifiers)
                    Press(modifier, false);
            }
            else
            {
                up.Enqueue((Environment.TickCount64 + HoldMs, stroke.Keycode));
            }
            next += EveryMs;
        }
        Until(Environment.TickCount64 + HoldMs + 1, up);
    }

    /// <summary>One key, pressed and released.</summary>
    public void Tap(string name)
    {
        var keycode = Keycode(name);
        Press(keycode, true);
        Thread.Sleep(HoldMs);
        Press(keycode, false);
    }

    /// <summary>Keys held together, released in the opposite order.</summary>
    public void Chord(params string[] names)
    {
        var keycodes = names.Select(Keycode).ToList();
        foreach (var keycode in keycodes)
        {
            Press(keycode, true);
            Thread.Sleep(1);
        }
        foreach (var keycode in Enumerable.Reverse(keycodes))
            Press(keycode, false);
    }

    /// <summary>A click of the first mouse button.</summary>
    public void Click(int x, int y)
    {
        _ = XInput.XTestFakeMotionEvent(connection.Display, -1, x, y, 0);
        _ = XInput.XTestFakeButtonEvent(connection.Display, 1, 1, 0);
        _ = XInput.XTestFakeButtonEvent(connection.Display, 1, 0, 0);
        connection.Sync();
    }

    /// <summary>Waits until the display has everything that was typed.</summary>
    public void Sync() => connection.Sync();

    public void Dispose()
    {
        layout.Dispose();
        connection.Dispose();
    }

    private List<byte> Modifiers(uint mask)
    {
        var found = new List<byte>();
        if ((mask & Symbols.Shift) != 0)
            found.Add(Keycode("Shift_L"));
        if ((mask & Symbols.AltGr) != 0)
            found.Add(layout.KeycodeFor(Group, Symbols.Level3));
        return found;
    }

    private void Until(long atMs, Queue<(long AtMs, byte Keycode)> up)
    {
        while (true)
        {
            while (up.TryPeek(out var first) && first.AtMs <= Environment.TickCount64)
                Press(up.Dequeue().Keycode, false);
            if (Environment.TickCount64 >= atMs)
                return;
            Thread.Sleep(1);
        }
    }

    [LibraryImport("libX11.so.6", StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint XStringToKeysym(string name);
}
