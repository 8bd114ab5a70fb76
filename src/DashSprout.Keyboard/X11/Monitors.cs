using System.Runtime.InteropServices;
using DashSprout.Keyboard.X11.Native;

namespace DashSprout.Keyboard.X11;

/// <summary>A part of the screen, in pixels from its upper left corner.</summary>
internal readonly record struct ScreenArea(int X, int Y, int Width, int Height)
{
    /// <summary>Whether all of another area is inside.</summary>
    public bool Holds(ScreenArea other) =>
        other.X >= X && other.Y >= Y && other.X + other.Width <= X + Width && other.Y + other.Height <= Y + Height;

    /// <summary>Whether a point is inside.</summary>
    public bool Holds(int x, int y) => x >= X && y >= Y && x < X + Width && y < Y + Height;

    /// <summary>
    /// Where something of a size stands over another area: in its middle and a third of the way down, all of it inside
    /// this area, and no larger than it.
    /// </summary>
    public ScreenArea Over(ScreenArea below, int width, int height)
    {
        (width, height) = (Math.Min(width, Width), Math.Min(height, Height));
        return new ScreenArea(
            Math.Clamp(below.X + (below.Width - width) / 2, X, X + Width - width),
            Math.Clamp(below.Y + (below.Height - height) / 3, Y, Y + Height - height),
            width,
            height
        );
    }
}

/// <summary>The monitors of the display (RandR 1.5); one for all of it where the server tells of none.</summary>
internal sealed unsafe class Monitors(XConnection connection)
{
    /// <summary>
    /// The monitor on which somebody types: the one that holds their window, else that of the caret, else that of the
    /// window's middle.
    /// </summary>
    /// <param name="caret">Where the caret is, as far as the application tells; asked only when it counts.</param>
    public ScreenArea Of(ScreenArea window, Func<(int X, int Y)?> caret)
    {
        var all = All();
        foreach (var one in all)
            if (one.Holds(window))
                return one;
        var (x, y) = all.Count > 1 && caret() is { } told ? told : Middle(window);
        foreach (var one in all)
            if (one.Holds(x, y))
                return one;
        return all[0];
    }

    private static (int X, int Y) Middle(ScreenArea window) =>
        (window.X + window.Width / 2, window.Y + window.Height / 2);

    private List<ScreenArea> All()
    {
        var screen = new ScreenArea(
            0,
            0,
            Xlib.XDisplayWidth(connection.Display, 0),
            Xlib.XDisplayHeight(connection.Display, 0)
        );
        if (!NativeLibrary.TryLoad(XRandR.Library, out _))
            return [screen];
        var found = XRandR.XRRGetMonitors(connection.Display, connection.Root, 1, out var count);
        if (found is null)
            return [screen];
        var all = new List<ScreenArea>();
        for (var at = 0; at < count; at++)
            all.Add(new ScreenArea(found[at].X, found[at].Y, found[at].Width, found[at].Height));
        XRandR.XRRFreeMonitors(found);
        return all.Count == 0 ? [screen] : all;
    }
}
