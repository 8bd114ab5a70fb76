using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Services;
using DashSprout.Keyboard.X11.Native;
using static DashSprout.Keyboard.X11.Native.Xlib;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// The window of the companion page over the user's application: started once, withdrawn between uses, and shown with
/// the focus before the keys that were typed meanwhile go into it.
/// </summary>
internal sealed unsafe class CompanionWindow(
    XConnection connection,
    DesktopWindows windows,
    ICompanionBrowser browser,
    ICompanion page
) : IDisposable
{
    private const int Width = 780,
        Height = 500,
        ReadyMs = 150,
        FocusMs = 5000,
        BackMs = 400,
        LateMs = 5000,
        StartAgainMs = 60_000,
        SettleMs = 500;
    private const nint Paper = 0xfbf8f1;

    private readonly Monitors monitors = new(connection);
    private nint window,
        userWindow,
        userFocus;
    private int number;
    private volatile int readyNumber,
        focusedNumber;
    private long startedAt;
    private long loadedAt;
    private bool wanted,
        settled;

    /// <summary>Whether it is over the user's application now.</summary>
    public bool IsShown { get; private set; }

    /// <summary>Whether it shows something, by its number.</summary>
    public bool Shows(int something) => IsShown && number == something;

    /// <summary>Whether it is not over the application but in a window of the user's browser.</summary>
    public bool IsElsewhere => IsShown && window == 0;

    /// <summary>Whether it has a browser of its own, so that it comes over the application.</summary>
    public bool HasWindow => browser is not UsualBrowser;

    /// <summary>The window in which the question was asked.</summary>
    public nint UserWindow => userWindow;

    /// <summary>Whether it has come to the screen without being asked.</summary>
    public bool IsInTheWay { get; private set; }

    /// <summary>Whether it is there and can be shown.</summary>
    public bool IsReady => window != 0 && settled && page.IsLoaded;

    /// <summary>Starts it, hidden.</summary>
    public void Start()
    {
        wanted = true;
        startedAt = Environment.TickCount64;
        browser.Start(page.Address);
    }

    /// <summary>Whether a window is the companion's.</summary>
    public bool IsOwn(DesktopWindow other) => other.App == browser.WindowClass;

    /// <summary>Looks after it: finds it once it has come, and starts it again when it has gone.</summary>
    public void Watch()
    {
        if (!wanted)
            return;
        if (window == 0)
        {
            if (Find() is { } found)
                Adopt(found);
            else if (Environment.TickCount64 - startedAt > StartAgainMs)
                Start();
            return;
        }
        if (settled || IsShown || !page.IsLoaded)
            return;
        if (loadedAt == 0)
            loadedAt = Environment.TickCount64;
        if (Environment.TickCount64 - loadedAt < SettleMs)
            return;
        settled = true;
        _ = XWithdrawWindow(connection.Display, window, 0);
        connection.Flush();
    }

    /// <summary>An event that is no key.</summary>
    public void Take(XEvent told)
    {
        if (window == 0)
        {
            if (wanted && told.Type == MapNotify && Find() is { } found)
                Adopt(found);
            return;
        }
        if (told.Type == MapNotify && told.At<nint>(40) == window && !IsShown)
            IsInTheWay = true;
        if (told.Type != DestroyNotify || told.At<nint>(40) != window)
            return;
        // Closed, or crashed: it is started again.
        (window, IsShown, settled, loadedAt) = (0, false, false, 0);
        Start();
    }

    /// <summary>
    /// The page shows what it was told to, and with <paramref name="focused"/> its field has the focus.
    /// </summary>
    public void PageIsReady(int shown, bool focused)
    {
        readyNumber = shown;
        if (focused)
            focusedNumber = shown;
    }

    /// <summary>
    /// Shows something; returns when it has the focus, so that the keys typed meanwhile go into it.
    /// </summary>
    /// <param name="caret">Where the caret is, as far as the application tells.</param>
    public Showing Show(Shown shown, DesktopWindow active, Func<(int X, int Y)?> caret, Action waiting)
    {
        (userWindow, userFocus) = (active.Id, windows.Focused());
        page.Show(++number, shown);
        IsShown = true;
        if (window == 0)
        {
            // No window of its own: the page opens in the user's browser, and takes the keys from there.
            if (DesktopOpening.Open(page.Address) is not { } problem)
                return new Showing.Comes();
            Drop();
            return new Showing.NotSeen(problem);
        }
        if (page.IsLoaded)
            Await(ReadyMs, waiting, () => readyNumber == number);
        var area = Prepare(active.Id, caret);
        _ = XMapRaised(connection.Display, window);
        windows.Activate(window);
        // A page that is still loading shows what is asked once it is there; keys are not held for so long.
        if (!page.IsLoaded)
            return new Showing.Comes();
        if (
            !Await(FocusMs, waiting, () =>
                focusedNumber == number && windows.Of(windows.Focused()).App == browser.WindowClass
            )
        )
        {
            windows.Focus(window);
            // A page that is slow to say so has the keys all the same once its window has the focus; one that does not
            // get it is put away.
            if (
                !Await(BackMs, waiting, () => focusedNumber == number)
                && windows.Of(windows.Focused()).App != browser.WindowClass
            )
            {
                Hide(waiting);
                return new Showing.NotSeen(null);
            }
        }
        // Some window managers put it elsewhere when it comes.
        if (windows.Place(window) is { } stands && stands != (area.X, area.Y, area.Width, area.Height))
            _ = XMoveResizeWindow(connection.Display, window, area.X, area.Y, (uint)area.Width, (uint)area.Height);
        return new Showing.HasFocus();
    }

    /// <summary>Hides it and gives the focus back to where it was; false when that window does not get it.</summary>
    public bool Hide(Action waiting)
    {
        if (!IsShown)
            return true;
        IsShown = false;
        page.Clear();
        if (userWindow != 0)
            windows.Activate(userWindow);
        if (window != 0)
            _ = XWithdrawWindow(connection.Display, window, 0);
        connection.Flush();
        if (Await(BackMs, waiting, IsBack))
            return true;
        // A window manager may have refused, or is just slow; the window may be gone.
        windows.Focus(userFocus);
        if (userWindow == 0)
            return true;
        return Await(LateMs, waiting, () => IsBack() || windows.Place(userWindow) is null) && IsBack();
    }

    private bool IsBack() =>
        (windows.Focused() == userFocus || windows.Of(windows.Focused()).Id == userWindow)
        && windows.ActiveId() == userWindow;

    /// <summary>Hides it where the user has gone elsewhere by themselves.</summary>
    public void Drop()
    {
        if (!IsShown)
            return;
        IsShown = false;
        page.Clear();
        if (window != 0)
            _ = XWithdrawWindow(connection.Display, window, 0);
        connection.Flush();
    }

    public void Dispose() => browser.Stop();

    private nint? Find() =>
        windows
            .All()
            .Concat(windows.Children(connection.Root).Select(windows.Of))
            .Where(one => one.App == browser.WindowClass && windows.Place(one.Id) is { Width: > 100 })
            .Select(one => (nint?)one.Id)
            .FirstOrDefault();

    private void Adopt(nint found)
    {
        window = found;
        _ = XSelectInput(connection.Display, window, StructureNotifyMask | PropertyChangeMask);
        IsInTheWay = !IsShown;
    }

    /// <summary>
    /// It has come by itself: away with it at once, and back to where the user was. Keys must be held.
    /// </summary>
    public void PutAway(nint back, Action waiting)
    {
        IsInTheWay = false;
        if (!settled)
        {
            // It must have been on the screen with its page for a moment, or it would not take the focus the first
            // time.
            windows.Activate(back);
            connection.Flush();
            Await(BackMs, waiting, () => windows.Of(windows.Focused()).App != browser.WindowClass);
            return;
        }
        _ = XWithdrawWindow(connection.Display, window, 0);
        if (back != 0 && back != window)
            windows.Activate(back);
        connection.Flush();
        Await(BackMs, waiting, () => windows.Of(windows.Focused()).App != browser.WindowClass);
    }

    /// <summary>
    /// What a window forgets when it is withdrawn: no frame, above others, not in lists, and where it stands.
    /// </summary>
    private ScreenArea Prepare(nint over, Func<(int X, int Y)?> caret)
    {
        nint Atom(string name) => connection.Atom(name);
        var below = windows.Place(over) is { } place
            ? new ScreenArea(place.X, place.Y, place.Width, place.Height)
            : default;
        var area = monitors.Of(below, caret).Over(below, Width, Height);
        const nint userPosition = 1,
            userSize = 2;
        var hints = new nint[18];
        connection.Words(window, "WM_NORMAL_HINTS").AsSpan().CopyTo(hints);
        hints[0] |= userPosition | userSize;
        connection.SetWords(window, Atom("WM_NORMAL_HINTS"), Atom("WM_SIZE_HINTS"), hints);
        connection.SetWords(
            window,
            Atom("_NET_WM_STATE"),
            Atom("ATOM"),
            Atom("_NET_WM_STATE_ABOVE"),
            Atom("_NET_WM_STATE_SKIP_TASKBAR"),
            Atom("_NET_WM_STATE_SKIP_PAGER")
        );
        connection.SetWords(window, Atom("_MOTIF_WM_HINTS"), Atom("_MOTIF_WM_HINTS"), 2, 0, 0, 0, 0);
        connection.SetWords(window, Atom("_NET_WM_WINDOW_TYPE"), Atom("ATOM"), Atom("_NET_WM_WINDOW_TYPE_DIALOG"));
        _ = XDeleteProperty(connection.Display, window, Atom("_NET_WM_DESKTOP"));
        _ = XSetWindowBackground(connection.Display, window, Paper);
        _ = XMoveResizeWindow(connection.Display, window, area.X, area.Y, (uint)area.Width, (uint)area.Height);
        return area;
    }

    private static bool Await(int mostMs, Action waiting, Func<bool> done)
    {
        var until = Environment.TickCount64 + mostMs;
        while (!done())
        {
            if (Environment.TickCount64 > until)
                return false;
            waiting();
            Thread.Sleep(1);
        }
        return true;
    }
}
