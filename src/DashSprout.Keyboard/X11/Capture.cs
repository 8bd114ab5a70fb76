using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.X11.Native;
using static DashSprout.Keyboard.X11.Native.XInput;
using static DashSprout.Keyboard.X11.Native.Xlib;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// Hears every key of the display's hardware keyboards. Raw events of XInput 2 tell each key in order, whoever has it;
/// an event from a grab tells that the link alone has it. The link's own keys come back too and are recognised by what
/// is expected.
/// </summary>
internal sealed unsafe class Capture
{
    private readonly XConnection connection;
    private readonly int inputOpcode,
        xkbEvent;
    private readonly nint activeWindow,
        windowClass;
    private readonly List<(byte Keycode, bool IsPress)> expected = [];
    private readonly List<Captured> happened = [];

    /// <summary>The keyboard on which each key is down; 0 when it is up.</summary>
    private readonly int[] down = new int[256];

    public Capture(XConnection connection)
    {
        this.connection = connection;
        var display = connection.Display;
        if (XQueryExtension(display, "XInputExtension", out inputOpcode, out _, out _) == 0)
            throw new LinkException("The display has no XInput extension, so keys cannot be heard.");
        int major = 2,
            minor = 2;
        if (XIQueryVersion(display, ref major, ref minor) != Success)
            throw new LinkException("The display's XInput is older than version 2.2, which the link needs.");
        if (XTestQueryExtension(display, out _, out _, out _, out _) == 0)
            throw new LinkException("The display has no XTEST extension, so keys cannot be typed.");
        int xkbMajor = 1,
            xkbMinor = 0;
        if (Xkb.XkbQueryExtension(display, out _, out xkbEvent, out _, ref xkbMajor, ref xkbMinor) == 0)
            throw new LinkException("The display has no keyboard extension (XKB).");
        activeWindow = connection.Atom("_NET_ACTIVE_WINDOW");
        windowClass = connection.Atom("WM_CLASS");
        ReadDevices();
    }

    /// <summary>The hardware keyboards: slaves that are not the server's own for injected keys.</summary>
    public IReadOnlyList<int> Keyboards { get; private set; } = [];

    /// <summary>The modifiers and group of the keyboard that applications see.</summary>
    public LayoutState State { get; private set; }

    /// <summary>Keycodes that are physically down now.</summary>
    public IEnumerable<byte> Down => Enumerable.Range(0, 256).Where(code => down[code] != 0).Select(code => (byte)code);

    /// <summary>The keyboard on which a key is down; 0 when it is up.</summary>
    public int KeyboardOf(byte keycode) => down[keycode];

    /// <summary>The keyboard that was typed on last; 0 as long as none was.</summary>
    public int LastKeyboard { get; private set; }

    /// <summary>Whether what a keyboard tells is the link's own doing.</summary>
    public Func<int, byte, bool, bool> IsOwn { get; set; } = (_, _, _) => false;

    /// <summary>Whether what the keys type has changed, or may have, since somebody last said it is known.</summary>
    public bool KeymapChanged { get; set; }

    /// <summary>Whether a keyboard was plugged in or out.</summary>
    public bool DevicesChanged { get; set; }

    /// <summary>Told of events for windows that others look after.</summary>
    public Action<XEvent>? Other { get; set; }

    /// <summary>Whether a key is held back by itself, with some modifiers.</summary>
    public Func<byte, LayoutState, bool> IsAlwaysHeld { get; set; } = (_, _) => false;

    /// <summary>Keys that only came up, as soon as they are read.</summary>
    public Action<byte>? Released { get; set; }

    private int InjectedKeyboard { get; set; }

    /// <summary>Begins to hear.</summary>
    public void Begin()
    {
        Select(RawKeyPress, RawKeyRelease, RawButtonPress, HierarchyChanged);
        _ = XSelectInput(connection.Display, connection.Root, PropertyChangeMask | SubstructureNotifyMask);
        const uint wanted = (1 << Xkb.NewKeyboardNotify) | (1 << Xkb.MapNotify) | (1 << Xkb.StateNotify);
        _ = Xkb.XkbSelectEvents(connection.Display, Xkb.CoreKeyboard, wanted, wanted);
        connection.Sync();
        ReadState();
    }

    /// <summary>Hears nothing any more.</summary>
    public void End() => Select();

    /// <summary>Asks for the modifiers and the group anew.</summary>
    public void ReadState()
    {
        var state = stackalloc byte[32];
        _ = Xkb.XkbGetState(connection.Display, Xkb.CoreKeyboard, state);
        State = new LayoutState(state[7], state[8], state[9], *(ushort*)(state + 2), *(ushort*)(state + 4), state[1]);
    }

    /// <summary>A key that the link itself is about to type.</summary>
    public void Expect(byte keycode, bool isPress) => expected.Add((keycode, isPress));

    /// <summary>Whether one of the link's own keys has not come back yet.</summary>
    public bool Expects => expected.Count > 0;

    /// <summary>Nothing that was typed by the link is on its way any more.</summary>
    public void ExpectNothing() => expected.Clear();

    /// <summary>Reads everything that has arrived.</summary>
    public void Read()
    {
        while (connection.HasEvent())
            Take(connection.Next());
    }

    /// <summary>Waits for the server, then reads everything that has arrived.</summary>
    public void Fence()
    {
        connection.Sync();
        Read();
    }

    /// <summary>What was read, oldest first; whoever handles something takes it out.</summary>
    public List<Captured> Happened => happened;

    private void Take(XEvent told)
    {
        if (told.Type == GenericEvent && told.At<int>(32) == inputOpcode)
        {
            if (XGetEventData(connection.Display, &told) == 0)
                return;
            try
            {
                TakeInput(told.At<int>(36), (byte*)told.At<nint>(48));
            }
            finally
            {
                XFreeEventData(connection.Display, &told);
            }
            return;
        }
        if (told.Type == xkbEvent)
        {
            var kind = told.At<int>(40);
            if (kind == Xkb.StateNotify)
                State = new LayoutState(
                    told.At<uint>(72),
                    told.At<uint>(76),
                    told.At<uint>(80),
                    told.At<uint>(56),
                    told.At<uint>(60),
                    told.At<uint>(64)
                );
            else
                KeymapChanged = true;
            return;
        }
        switch (told.Type)
        {
            case MappingNotify:
                _ = XRefreshKeyboardMapping(&told);
                KeymapChanged = true;
                return;
            case PropertyNotify when told.At<nint>(32) == connection.Root:
                if (told.At<nint>(40) == activeWindow)
                    happened.Add(new CapturedChange(DisplayChange.ActiveWindow));
                return;
            case PropertyNotify when told.At<nint>(40) == windowClass:
                happened.Add(new CapturedChange(DisplayChange.Reclassed));
                return;
            default:
                Other?.Invoke(told);
                return;
        }
    }

    private void TakeInput(int kind, byte* data)
    {
        var displayMs = (uint)*(nuint*)(data + 40);
        var device = *(int*)(data + 48);
        var detail = *(int*)(data + 56);
        switch (kind)
        {
            case RawKeyPress or RawKeyRelease:
                Raw(device, (byte)detail, kind == RawKeyPress, displayMs);
                return;
            case XiKeyPress or XiKeyRelease:
                var flags = *(int*)(data + 120);
                var mods = (uint*)(data + 168);
                var state = new LayoutState(mods[0], mods[1], mods[2], mods[4], mods[5], mods[6]);
                Grabbed(device, (byte)detail, kind == XiKeyPress, state, (flags & KeyRepeat) != 0, displayMs);
                return;
            case RawButtonPress:
                happened.Add(new CapturedChange(DisplayChange.Button));
                return;
            case HierarchyChanged:
                // Holding keys takes a keyboard out of the hierarchy for a moment; only the set matters.
                var before = Keyboards;
                ReadDevices();
                if (!before.SequenceEqual(Keyboards))
                    DevicesChanged = true;
                return;
        }
    }

    private void Raw(int device, byte keycode, bool isPress, uint displayMs)
    {
        if (device == InjectedKeyboard)
        {
            var at = expected.IndexOf((keycode, isPress));
            if (at >= 0)
            {
                // The server drops what changes nothing, so some that are expected never come.
                expected.RemoveRange(0, at + 1);
                return;
            }
        }
        else if (!Keyboards.Contains(device))
        {
            // A master tells once more what its slaves have told.
            return;
        }
        else if (IsOwn(device, keycode, isPress))
        {
            return;
        }
        else
        {
            Moved(device, keycode, isPress);
        }
        happened.Add(
            new CapturedKey
            {
                Keycode = keycode,
                IsPress = isPress,
                State = State,
                IsInjected = device == InjectedKeyboard,
                DisplayMs = displayMs,
            }
        );
    }

    /// <summary>
    /// An event of a grab. A key that is grabbed by itself has been told raw just before; while a whole keyboard is
    /// grabbed there are no raw events of it.
    /// </summary>
    private void Grabbed(int device, byte keycode, bool isPress, LayoutState state, bool repeats, uint displayMs)
    {
        // One that came up before the keyboards were given back, and is read after: it counts for what was pressed again.
        if (!repeats && !isPress)
            IsOwn(device, keycode, false);
        if (!repeats)
            Moved(device, keycode, isPress);
        if (!repeats && isPress && TwinOf(keycode, state) is { } twin)
            (twin.Held, twin.State) = (true, state);
        else
            happened.Add(
                new CapturedKey
                {
                    Keycode = keycode,
                    IsPress = isPress,
                    State = state,
                    Held = true,
                    Repeats = repeats,
                    DisplayMs = displayMs,
                }
            );
    }

    private CapturedKey? TwinOf(byte keycode, LayoutState state) =>
        IsAlwaysHeld(keycode, state)
            ? happened.Find(one =>
                one is CapturedKey { Held: false, IsInjected: false, IsPress: true } key && key.Keycode == keycode
            ) as CapturedKey
            : null;

    private void Moved(int device, byte keycode, bool isPress)
    {
        down[keycode] = isPress ? device : 0;
        LastKeyboard = device;
        if (!isPress)
            Released?.Invoke(keycode);
    }

    private void ReadDevices()
    {
        var infos = XIQueryDevice(connection.Display, AllDevices, out var count);
        var hardware = new List<int>();
        var injected = 0;
        for (var at = 0; at < count; at++)
        {
            var name = System.Runtime.InteropServices.Marshal.PtrToStringUTF8(infos[at].Name) ?? "";
            if (infos[at].Use is not (SlaveKeyboard or FloatingSlave) || infos[at].Enabled == 0 || !HasKeys(infos[at]))
                continue;
            // A second seat has one of its own; what is injected comes from the first.
            if (name.Contains("XTEST", StringComparison.Ordinal))
                injected = injected == 0 ? infos[at].Device : injected;
            else
                hardware.Add(infos[at].Device);
        }
        XIFreeDeviceInfo(infos);
        (Keyboards, InjectedKeyboard) = (hardware, injected);
    }

    /// <summary>Whether a device has a class of keys (<c>XIKeyClass</c>, 0); a floating pointer has none.</summary>
    private static bool HasKeys(XiDeviceInfo info)
    {
        for (var at = 0; at < info.Classes; at++)
            if (*((int**)info.ClassList)[at] == 0)
                return true;
        return false;
    }

    private void Select(params ReadOnlySpan<int> events)
    {
        var mask = stackalloc byte[4];
        foreach (var one in events)
            mask[one >> 3] |= (byte)(1 << (one & 7));
        var wanted = new XiEventMask
        {
            Device = AllDevices,
            Length = 4,
            Mask = mask,
        };
        _ = XISelectEvents(connection.Display, connection.Root, &wanted, 1);
    }
}
