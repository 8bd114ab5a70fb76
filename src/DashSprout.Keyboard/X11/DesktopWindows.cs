using System.Text;
using DashSprout.Keyboard.Linking;
using static DashSprout.Keyboard.X11.Native.Xlib;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// The windows of the desktop, by the window manager's hints (EWMH) or, without a window manager, by the server's own.
/// </summary>
internal sealed class DesktopWindows(XConnection connection)
{
    private nint followed;

    /// <summary>The window in which somebody types.</summary>
    public DesktopWindow Active()
    {
        var id =
            connection.Words(connection.Root, "_NET_ACTIVE_WINDOW") is [var active, ..] && active != 0
                ? active
                : Focused();
        return id <= 1 ? DesktopWindow.None : Of(id);
    }

    /// <summary>The id of the window in which somebody types.</summary>
    public nint ActiveId() =>
        connection.Words(connection.Root, "_NET_ACTIVE_WINDOW") is [var active, ..] && active != 0
            ? active
            : Of(Focused()).Id;

    /// <summary>The window that has the keyboard's focus, which may be one inside an application's window.</summary>
    public nint Focused()
    {
        _ = XGetInputFocus(connection.Display, out var window, out _);
        return window;
    }

    /// <summary>
    /// Whether keys go to a window: the manager says so before the keyboard's focus is there.
    /// </summary>
    public bool HasKeys(nint window) => ActiveId() == window && Of(Focused()).Id == window;

    /// <summary>
    /// What a window says of itself; one inside an application's window is asked through its parents.
    /// </summary>
    public DesktopWindow Of(nint id)
    {
        for (var window = id; window > 1 && window != connection.Root; window = Parent(window))
        {
            var names = connection.Text(window, "WM_CLASS").Split('\0');
            if (names is not [var instance, var app, ..])
                continue;
            var title = connection.Text(window, "_NET_WM_NAME");
            if (title.Length == 0)
                title = connection.Text(window, "WM_NAME");
            var pid = connection.Words(window, "_NET_WM_PID") is [var number, ..] ? (int)number : 0;
            return new DesktopWindow(window, app.Length > 0 ? app : instance, instance, title, pid);
        }
        connection.ForgetFaults();
        return DesktopWindow.None with { Id = id };
    }

    /// <summary>All windows of applications, the topmost last.</summary>
    public IReadOnlyList<DesktopWindow> All()
    {
        var managed = connection.Words(connection.Root, "_NET_CLIENT_LIST_STACKING");
        return
        [
            .. (managed.Length > 0 ? managed : Children(connection.Root))
                .Select(Of)
                .Where(window => window.App.Length > 0),
        ];
    }

    /// <summary>Asks for the focus for a window, as a pager does.</summary>
    public void Activate(nint window)
    {
        const nint toManagers = SubstructureNotifyMask | SubstructureRedirectMask;
        connection.Send(connection.Root, window, "_NET_ACTIVE_WINDOW", toManagers, 2, 0, 0);
        connection.Flush();
    }

    /// <summary>
    /// Gives the keyboard's focus to a window past the window manager; nothing happens when it is not shown.
    /// </summary>
    public void Focus(nint window)
    {
        _ = XSetInputFocus(connection.Display, window, RevertToParent, 0);
        connection.Sync();
        connection.ForgetFaults();
    }

    /// <summary>Where a window is on the screen; null when it is gone.</summary>
    public (int X, int Y, int Width, int Height)? Place(nint window)
    {
        connection.ForgetFaults();
        if (
            XGetGeometry(
                connection.Display,
                window,
                out var root,
                out _,
                out _,
                out var width,
                out var height,
                out _,
                out _
            ) == 0
        )
            return null;
        _ = XTranslateCoordinates(connection.Display, window, root, 0, 0, out var x, out var y, out _);
        return connection.HadFault() ? null : (x, y, (int)width, (int)height);
    }

    /// <summary>
    /// Hears from now on when a window takes another class: an office suite's window turns into another application's
    /// once its document is loaded.
    /// </summary>
    public void Follow(nint window)
    {
        if (followed > 1)
            _ = XSelectInput(connection.Display, followed, 0);
        followed = window;
        if (window > 1 && window != connection.Root)
            _ = XSelectInput(connection.Display, window, PropertyChangeMask);
        // Either may be gone by now.
        connection.Sync();
        connection.ForgetFaults();
    }

    /// <summary>Where the pointer is on the screen.</summary>
    public unsafe (int X, int Y) Pointer()
    {
        _ = XQueryPointer(connection.Display, connection.Root, out _, out _, out var x, out var y, out _, out _, out _);
        return (x, y);
    }

    /// <summary>The windows right inside another one.</summary>
    public IReadOnlyList<nint> Children(nint window)
    {
        if (XQueryTree(connection.Display, window, out _, out _, out var children, out var count) == 0)
            return [];
        var found = new nint[count];
        unsafe
        {
            for (var at = 0; at < count; at++)
                found[at] = ((nint*)children)[at];
        }
        if (children != 0)
            _ = XFree(children);
        return found;
    }

    private nint Parent(nint window)
    {
        if (XQueryTree(connection.Display, window, out _, out var parent, out var children, out _) == 0)
            return 0;
        if (children != 0)
            _ = XFree(children);
        return parent;
    }

    /// <summary>Sets a window's title.</summary>
    public unsafe void Name(nint window, string title)
    {
        var bytes = Encoding.UTF8.GetBytes(title + "\0");
        fixed (byte* start = bytes)
            _ = XStoreName(connection.Display, window, start);
        connection.SetBytes(
            window,
            connection.Atom("_NET_WM_NAME"),
            connection.Atom("UTF8_STRING"),
            Encoding.UTF8.GetBytes(title)
        );
    }
}
