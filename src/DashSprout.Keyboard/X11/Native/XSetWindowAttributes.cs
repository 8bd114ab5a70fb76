using System.Runtime.InteropServices;

namespace DashSprout.Keyboard.X11.Native;

/// <summary><c>XSetWindowAttributes</c> of <c>X11/Xlib.h</c>.</summary>
[StructLayout(LayoutKind.Sequential)]
internal struct XSetWindowAttributes
{
    public nint BackgroundPixmap,
        BackgroundPixel,
        BorderPixmap,
        BorderPixel;
    public int BitGravity,
        WinGravity,
        BackingStore;
    public nint BackingPlanes,
        BackingPixel;
    public int SaveUnder;
    public nint EventMask,
        DoNotPropagateMask;
    public int OverrideRedirect;
    public nint Colormap,
        Cursor;

    /// <summary><c>CWOverrideRedirect</c>.</summary>
    public const nint WithOverrideRedirect = 1 << 9;
}
