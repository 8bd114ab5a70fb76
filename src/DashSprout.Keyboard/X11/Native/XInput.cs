using System.Runtime.InteropServices;

namespace DashSprout.Keyboard.X11.Native;

/// <summary>XInput 2 and XTest, as <c>X11/extensions/XInput2.h</c> and <c>XTest.h</c> declare them.</summary>
internal static unsafe partial class XInput
{
    private const string Xi = "libXi.so.6",
        Tst = "libXtst.so.6",
        Fixes = "libXfixes.so.3";

    public const int AllDevices = 0,
        SlaveKeyboard = 4,
        FloatingSlave = 5;
    public const int XiKeyPress = 2,
        XiKeyRelease = 3,
        HierarchyChanged = 11,
        RawKeyPress = 13,
        RawKeyRelease = 14,
        RawButtonPress = 15;
    public const int KeyRepeat = 1 << 16;
    public const int ModeSync = 0,
        ModeAsync = 1;

    [LibraryImport(Xi)]
    public static partial int XIQueryVersion(nint display, ref int major, ref int minor);

    [LibraryImport(Xi)]
    public static partial int XISelectEvents(nint display, nint window, XiEventMask* masks, int count);

    [LibraryImport(Xi)]
    public static partial XiDeviceInfo* XIQueryDevice(nint display, int device, out int count);

    [LibraryImport(Xi)]
    public static partial void XIFreeDeviceInfo(XiDeviceInfo* info);

    [LibraryImport(Xi)]
    public static partial int XIGrabDevice(
        nint display,
        int device,
        nint window,
        nint time,
        nint cursor,
        int mode,
        int pairedMode,
        int ownerEvents,
        XiEventMask* mask
    );

    [LibraryImport(Xi)]
    public static partial int XIUngrabDevice(nint display, int device, nint time);

    [LibraryImport(Xi)]
    public static partial int XIGrabKeycode(
        nint display,
        int device,
        int keycode,
        nint window,
        int mode,
        int pairedMode,
        int ownerEvents,
        XiEventMask* mask,
        int count,
        XiGrabModifiers* modifiers
    );

    [LibraryImport(Xi)]
    public static partial int XIUngrabKeycode(
        nint display,
        int device,
        int keycode,
        nint window,
        int count,
        XiGrabModifiers* modifiers
    );

    [LibraryImport(Xi)]
    public static partial nint XOpenDevice(nint display, nint device);

    [LibraryImport(Xi)]
    public static partial int XCloseDevice(nint display, nint device);

    [LibraryImport(Tst)]
    public static partial int XTestQueryExtension(nint display, out int a, out int b, out int major, out int minor);

    [LibraryImport(Tst)]
    public static partial int XTestFakeKeyEvent(nint display, uint keycode, int press, nuint delay);

    [LibraryImport(Tst)]
    public static partial int XTestFakeDeviceKeyEvent(
        nint display,
        nint device,
        uint keycode,
        int press,
        int* axes,
        int count,
        nuint delay
    );

    [LibraryImport(Tst)]
    public static partial int XTestFakeButtonEvent(nint display, uint button, int press, nuint delay);

    [LibraryImport(Tst)]
    public static partial int XTestFakeMotionEvent(nint display, int screen, int x, int y, nuint delay);

    [LibraryImport(Fixes)]
    public static partial int XFixesQueryExtension(nint display, out int firstEvent, out int firstError);

    [LibraryImport(Fixes)]
    public static partial void XFixesSelectSelectionInput(nint display, nint window, nint selection, nint mask);
}

[StructLayout(LayoutKind.Sequential)]
internal unsafe struct XiEventMask
{
    public int Device,
        Length;
    public byte* Mask;
}

[StructLayout(LayoutKind.Sequential)]
internal struct XiGrabModifiers
{
    public int Modifiers,
        Status;
}

[StructLayout(LayoutKind.Sequential)]
internal struct XiDeviceInfo
{
    public int Device;
    public nint Name;
    public int Use,
        Attachment,
        Enabled,
        Classes;
    public nint ClassList;
}
