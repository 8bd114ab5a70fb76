using DashSprout.Keyboard.X11.Native;
using static DashSprout.Keyboard.X11.Native.XInput;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// Holds keys back from applications. Single keys are grabbed always, frozen until the link has looked at them; all
/// keys for as long as text goes in, by taking the hardware keyboards from the display while injected keys still reach
/// it.
/// </summary>
internal sealed unsafe class Holding(XConnection connection, Capture capture)
{
    /// <summary>The longest that keys are held, in milliseconds.</summary>
    public const int LongestMs = 2000;

    /// <summary>Caps Lock and Num Lock make no difference to a grab.</summary>
    private static readonly uint[] Locks = [0, Symbols.Lock, Symbols.Num, Symbols.Lock | Symbols.Num];

    private readonly HashSet<Stroke> always = [];
    private readonly List<int> grabbedOn = [];
    private readonly List<int> holding = [];
    private long since;

    /// <summary>Whether all keys are held now.</summary>
    public bool IsOn { get; private set; }

    /// <summary>Whether keys are held for as long as they may be.</summary>
    public bool IsOverdue => IsOn && Environment.TickCount64 - since > LongestMs;

    /// <summary>How long keys may be held yet, in milliseconds.</summary>
    public int LeftMs => IsOn ? (int)Math.Max(0, LongestMs - (Environment.TickCount64 - since)) : LongestMs;

    /// <summary>Whether a key is held back by itself.</summary>
    public bool IsAlways(byte keycode, in LayoutState state) =>
        always.Contains(new Stroke(keycode, state.Modifiers & ~(Symbols.Lock | Symbols.Num)));

    /// <summary>Sets which keys are held back always; says how many another program has taken already.</summary>
    public int SetAlways(IReadOnlyCollection<Stroke> wanted)
    {
        if (!grabbedOn.SequenceEqual(capture.Keyboards))
            Forget();
        foreach (var stroke in always.Except(wanted).ToList())
            Ungrab(stroke);
        var refused = 0;
        foreach (var stroke in wanted.Except(always).ToList())
        {
            if (!Grab(stroke))
                refused++;
            always.Add(stroke);
        }
        return refused;
    }

    /// <summary>Grabs everything anew: the keyboards or what their keys mean have changed.</summary>
    public void Renew()
    {
        var wanted = always.ToList();
        Forget();
        SetAlways(wanted);
    }

    /// <summary>From now on keys come to the link only.</summary>
    public void Begin()
    {
        if (IsOn)
            return;
        (IsOn, since) = (true, Environment.TickCount64);
        var mask = stackalloc byte[4];
        var wanted = Keys(mask);
        foreach (var device in capture.Keyboards)
        {
            // 0: done; anything else: another program has the keyboard, and its keys cannot be held.
            if (XIGrabDevice(connection.Display, device, connection.Root, 0, 0, ModeAsync, ModeAsync, 0, &wanted) == 0)
                holding.Add(device);
        }
    }

    /// <summary>Gives the keyboards back with the next message to the display.</summary>
    public void End()
    {
        if (!IsOn)
            return;
        foreach (var device in holding)
            _ = XIUngrabDevice(connection.Display, device, 0);
        holding.Clear();
        IsOn = false;
    }

    /// <summary>Gives everything back, also single keys.</summary>
    public void Forget()
    {
        End();
        foreach (var stroke in always.ToList())
            Ungrab(stroke);
        grabbedOn.Clear();
        grabbedOn.AddRange(capture.Keyboards);
    }

    private bool Grab(Stroke stroke)
    {
        if (grabbedOn.Count == 0)
            grabbedOn.AddRange(capture.Keyboards);
        var mask = stackalloc byte[4];
        var wanted = Keys(mask);
        var modifiers = stackalloc XiGrabModifiers[Locks.Length];
        var refused = 0;
        foreach (var device in grabbedOn)
        {
            for (var at = 0; at < Locks.Length; at++)
                modifiers[at] = new XiGrabModifiers { Modifiers = (int)(stroke.Modifiers | Locks[at]) };
            refused += XIGrabKeycode(
                connection.Display,
                device,
                stroke.Keycode,
                connection.Root,
                ModeSync,
                ModeAsync,
                0,
                &wanted,
                Locks.Length,
                modifiers
            );
        }
        return refused == 0;
    }

    private void Ungrab(Stroke stroke)
    {
        always.Remove(stroke);
        var modifiers = stackalloc XiGrabModifiers[Locks.Length];
        for (var at = 0; at < Locks.Length; at++)
            modifiers[at] = new XiGrabModifiers { Modifiers = (int)(stroke.Modifiers | Locks[at]) };
        foreach (var device in grabbedOn)
            _ = XIUngrabKeycode(connection.Display, device, stroke.Keycode, connection.Root, Locks.Length, modifiers);
    }

    private static XiEventMask Keys(byte* mask)
    {
        mask[0] = (1 << XiKeyPress) | (1 << XiKeyRelease);
        return new XiEventMask
        {
            Device = AllDevices,
            Length = 4,
            Mask = mask,
        };
    }
}
