using System.Runtime.InteropServices;

namespace DashSprout.Keyboard.X11.Native;

/// <summary>Monitors, as <c>X11/extensions/Xrandr.h</c> declares them.</summary>
internal static unsafe partial class XRandR
{
    public const string Library = "libXrandr.so.2";

    [LibraryImport(Library)]
    public static partial XMonitor* XRRGetMonitors(nint display, nint window, int active, out int count);

    [LibraryImport(Library)]
    public static partial void XRRFreeMonitors(XMonitor* monitors);
}

[StructLayout(LayoutKind.Sequential)]
internal struct XMonitor
{
    public nint Name;
    public int IsPrimary,
        IsAutomatic,
        OutputCount,
        X,
        Y,
        Width,
        Height,
        MillimetreWidth,
        MillimetreHeight;
    public nint Outputs;
}
