using System.Collections.Concurrent;
using System.Runtime.InteropServices;
using System.Text;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.X11.Native;
using static DashSprout.Keyboard.X11.Native.Xlib;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// One connection to an X display, used by one thread. Xlib's own answer to a fault is to end the program; here a fault
/// of one request is noted (windows die while they are asked), and the end of the connection throws
/// <see cref="LinkException"/>.
/// </summary>
internal sealed unsafe class XConnection : IDisposable
{
    private static readonly ConcurrentDictionary<nint, bool> Broken = new();
    private static readonly ConcurrentDictionary<nint, byte> Faults = new();
    private readonly Dictionary<string, nint> atoms = [];
    private readonly Dictionary<nint, string> atomNames = [];
    private bool closed;

    static XConnection()
    {
        _ = XInitThreads();
        XSetErrorHandler(&OnFault);
        XSetIOErrorHandler(&OnBroken);
    }

    private XConnection(nint display)
    {
        Display = display;
        Root = XDefaultRootWindow(display);
        Socket = XConnectionNumber(display);
        XSetIOErrorExitHandler(display, &OnEnd, 0);
    }

    /// <summary>Xlib's <c>Display*</c>.</summary>
    public nint Display { get; }

    public nint Root { get; }

    /// <summary>The connection's socket, to wait on.</summary>
    public int Socket { get; }

    /// <summary>Whether the display has ended the connection.</summary>
    public bool IsBroken => Broken.ContainsKey(Display);

    /// <summary>Opens a display by name (<c>:0</c>); throws <see cref="LinkException"/> when there is none.</summary>
    public static XConnection Open(string? name)
    {
        var display = XOpenDisplay(name);
        if (display == 0)
            throw new LinkException(
                $"No X display answers at “{name ?? Environment.GetEnvironmentVariable("DISPLAY")}”. Start "
                    + "Dash Sprout from a terminal of the desktop."
            );
        return new XConnection(display);
    }

    /// <summary>Whether an event waits or arrives at once.</summary>
    public bool HasEvent()
    {
        var waiting = XPending(Display) > 0;
        Check();
        return waiting;
    }

    public XEvent Next()
    {
        XEvent next;
        _ = XNextEvent(Display, &next);
        Check();
        return next;
    }

    /// <summary>Waits until the server has done everything it was asked.</summary>
    public void Sync()
    {
        _ = XSync(Display, 0);
        Check();
    }

    public void Flush()
    {
        _ = XFlush(Display);
        Check();
    }

    /// <summary>Whether a request since the last question was refused; the server is waited for first.</summary>
    public bool HadFault()
    {
        Sync();
        return Faults.TryRemove(Display, out _);
    }

    public void ForgetFaults() => Faults.TryRemove(Display, out _);

    public nint Atom(string name)
    {
        if (atoms.TryGetValue(name, out var known))
            return known;
        var made = XInternAtom(Display, name, 0);
        Check();
        atomNames[made] = name;
        return atoms[name] = made;
    }

    public string AtomName(nint atom)
    {
        if (atomNames.TryGetValue(atom, out var known))
            return known;
        var text = XGetAtomName(Display, atom);
        Check();
        var name = Marshal.PtrToStringUTF8(text) ?? "";
        if (text != 0)
            _ = XFree(text);
        return atomNames[atom] = name;
    }

    /// <summary>
    /// A property's bytes, with its type and format; null when it is not there. Words of 32 bits come as C longs.
    /// </summary>
    public (nint Type, int Format, byte[] Bytes)? Property(
        nint window,
        nint property,
        bool delete = false,
        nint wanted = 0
    )
    {
        const int most = 64 * 1024 * 1024 / 4;
        var status = XGetWindowProperty(
            Display,
            window,
            property,
            0,
            most,
            delete ? 1 : 0,
            wanted,
            out var type,
            out var format,
            out var items,
            out _,
            out var data
        );
        Check();
        if (status != Success || type == 0)
        {
            if (data != 0)
                _ = XFree(data);
            return null;
        }
        var size = (int)items * (format == 32 ? sizeof(nint) : format / 8);
        var bytes = new Span<byte>((void*)data, size).ToArray();
        _ = XFree(data);
        return (type, format, bytes);
    }

    /// <summary>A property of 32-bit words: windows, atoms, numbers.</summary>
    public nint[] Words(nint window, string property) =>
        Property(window, Atom(property)) is { Format: 32, Bytes: var bytes }
            ? MemoryMarshal.Cast<byte, nint>(bytes).ToArray()
            : [];

    public string Text(nint window, string property) =>
        Property(window, Atom(property)) is { Format: 8, Bytes: var bytes } ? Encoding.UTF8.GetString(bytes) : "";

    public void SetWords(nint window, nint property, nint type, params ReadOnlySpan<nint> words)
    {
        fixed (nint* start = words)
            _ = XChangeProperty(Display, window, property, type, 32, PropModeReplace, start, words.Length);
    }

    public void SetBytes(nint window, nint property, nint type, ReadOnlySpan<byte> bytes)
    {
        fixed (byte* start = bytes)
            _ = XChangeProperty(Display, window, property, type, 8, PropModeReplace, start, bytes.Length);
    }

    /// <summary>
    /// Sends a client message, to the root window's listeners (the window manager) or to a window itself.
    /// </summary>
    public void Send(nint to, nint about, string message, nint mask, params ReadOnlySpan<nint> words)
    {
        var what = default(XEvent);
        what.Set(0, ClientMessage);
        what.Set(32, about);
        what.Set(40, Atom(message));
        what.Set(48, 32);
        for (var at = 0; at < words.Length; at++)
            what.Set(56 + at * sizeof(nint), words[at]);
        _ = XSendEvent(Display, to, 0, mask, &what);
    }

    /// <summary>A small window of the link's own that is never shown.</summary>
    public nint HiddenWindow() => XCreateSimpleWindow(Display, Root, -10, -10, 1, 1, 0, 0, 0);

    public void Dispose()
    {
        if (closed)
            return;
        closed = true;
        _ = XCloseDisplay(Display);
        Broken.TryRemove(Display, out _);
        Faults.TryRemove(Display, out _);
    }

    private void Check()
    {
        if (IsBroken)
            throw new LinkException("The display has ended the connection.");
    }

    [UnmanagedCallersOnly]
    private static int OnFault(nint display, XEvent* fault)
    {
        Faults[display] = 1;
        return 0;
    }

    [UnmanagedCallersOnly]
    private static int OnBroken(nint display) => 0;

    [UnmanagedCallersOnly]
    private static void OnEnd(nint display, nint data) => Broken[display] = true;
}
