using System.Runtime.InteropServices;

namespace DashSprout.Keyboard.X11.Native;

/// <summary>The calls of <c>libX11</c> that the link makes, as <c>X11/Xlib.h</c> declares them.</summary>
internal static unsafe partial class Xlib
{
    private const string X11 = "libX11.so.6";

    public const int KeyPress = 2,
        PropertyNotify = 28,
        SelectionClear = 29,
        SelectionRequest = 30,
        SelectionNotify = 31,
        ClientMessage = 33,
        MappingNotify = 34,
        GenericEvent = 35,
        UnmapNotify = 18,
        MapNotify = 19,
        DestroyNotify = 17,
        FocusIn = 9,
        FocusOut = 10,
        Expose = 12;

    public const nint PropertyChangeMask = 1 << 22,
        StructureNotifyMask = 1 << 17,
        SubstructureNotifyMask = 1 << 19,
        SubstructureRedirectMask = 1 << 20,
        FocusChangeMask = 1 << 21,
        ExposureMask = 1 << 15,
        KeyPressMask = 1;

    public const int PropModeReplace = 0,
        RevertToParent = 2,
        Success = 0;

    [LibraryImport(X11)]
    public static partial int XInitThreads();

    [LibraryImport(X11, StringMarshalling = StringMarshalling.Utf8)]
    public static partial nint XOpenDisplay(string? name);

    [LibraryImport(X11)]
    public static partial int XCloseDisplay(nint display);

    [LibraryImport(X11)]
    public static partial int XConnectionNumber(nint display);

    [LibraryImport(X11)]
    public static partial nint XDefaultRootWindow(nint display);

    [LibraryImport(X11)]
    public static partial nint XSetErrorHandler(delegate* unmanaged<nint, XEvent*, int> handler);

    [LibraryImport(X11)]
    public static partial nint XSetIOErrorHandler(delegate* unmanaged<nint, int> handler);

    [LibraryImport(X11)]
    public static partial void XSetIOErrorExitHandler(
        nint display,
        delegate* unmanaged<nint, nint, void> handler,
        nint data
    );

    [LibraryImport(X11)]
    public static partial int XSync(nint display, int discard);

    [LibraryImport(X11)]
    public static partial int XFlush(nint display);

    [LibraryImport(X11)]
    public static partial int XPending(nint display);

    [LibraryImport(X11)]
    public static partial int XNextEvent(nint display, XEvent* into);

    [LibraryImport(X11)]
    public static partial int XSendEvent(nint display, nint window, int propagate, nint mask, XEvent* what);

    [LibraryImport(X11)]
    public static partial int XGetEventData(nint display, XEvent* cookie);

    [LibraryImport(X11)]
    public static partial void XFreeEventData(nint display, XEvent* cookie);

    [LibraryImport(X11, StringMarshalling = StringMarshalling.Utf8)]
    public static partial int XQueryExtension(
        nint display,
        string name,
        out int major,
        out int firstEvent,
        out int firstError
    );

    [LibraryImport(X11, StringMarshalling = StringMarshalling.Utf8)]
    public static partial nint XInternAtom(nint display, string name, int onlyIfExists);

    [LibraryImport(X11)]
    public static partial nint XGetAtomName(nint display, nint atom);

    [LibraryImport(X11)]
    public static partial int XFree(nint data);

    [LibraryImport(X11)]
    public static partial int XSelectInput(nint display, nint window, nint mask);

    [LibraryImport(X11)]
    public static partial int XGetWindowProperty(
        nint display,
        nint window,
        nint property,
        nint offset,
        nint length,
        int delete,
        nint wanted,
        out nint type,
        out int format,
        out nint items,
        out nint left,
        out nint data
    );

    [LibraryImport(X11)]
    public static partial int XChangeProperty(
        nint display,
        nint window,
        nint property,
        nint type,
        int format,
        int mode,
        void* data,
        int items
    );

    [LibraryImport(X11)]
    public static partial int XDeleteProperty(nint display, nint window, nint property);

    [LibraryImport(X11)]
    public static partial nint XCreateSimpleWindow(
        nint display,
        nint parent,
        int x,
        int y,
        uint width,
        uint height,
        uint border,
        nint borderColour,
        nint background
    );

    [LibraryImport(X11)]
    public static partial nint XCreateWindow(
        nint display,
        nint parent,
        int x,
        int y,
        uint width,
        uint height,
        uint border,
        int depth,
        uint windowClass,
        nint visual,
        nint mask,
        XSetWindowAttributes* attributes
    );

    [LibraryImport(X11)]
    public static partial int XDestroyWindow(nint display, nint window);

    [LibraryImport(X11)]
    public static partial int XMapRaised(nint display, nint window);

    [LibraryImport(X11)]
    public static partial int XUnmapWindow(nint display, nint window);

    [LibraryImport(X11)]
    public static partial int XWithdrawWindow(nint display, nint window, int screen);

    [LibraryImport(X11)]
    public static partial int XMoveResizeWindow(nint display, nint window, int x, int y, uint width, uint height);

    [LibraryImport(X11)]
    public static partial int XSetWindowBackground(nint display, nint window, nint pixel);

    [LibraryImport(X11)]
    public static partial int XSetWindowBackgroundPixmap(nint display, nint window, nint pixmap);

    [LibraryImport(X11)]
    public static partial int XClearWindow(nint display, nint window);

    [LibraryImport(X11)]
    public static partial int XStoreName(nint display, nint window, byte* name);

    [LibraryImport(X11)]
    public static partial int XGetInputFocus(nint display, out nint window, out int revertTo);

    [LibraryImport(X11)]
    public static partial int XSetInputFocus(nint display, nint window, int revertTo, nint time);

    [LibraryImport(X11)]
    public static partial int XQueryTree(
        nint display,
        nint window,
        out nint root,
        out nint parent,
        out nint children,
        out uint count
    );

    [LibraryImport(X11)]
    public static partial int XTranslateCoordinates(
        nint display,
        nint from,
        nint to,
        int x,
        int y,
        out int toX,
        out int toY,
        out nint child
    );

    [LibraryImport(X11)]
    public static partial int XGetGeometry(
        nint display,
        nint drawable,
        out nint root,
        out int x,
        out int y,
        out uint width,
        out uint height,
        out uint border,
        out uint depth
    );

    [LibraryImport(X11)]
    public static partial int XQueryPointer(
        nint display,
        nint window,
        out nint root,
        out nint child,
        out int rootX,
        out int rootY,
        out int x,
        out int y,
        out uint mask
    );

    [LibraryImport(X11)]
    public static partial nint XGetSelectionOwner(nint display, nint selection);

    [LibraryImport(X11)]
    public static partial int XSetSelectionOwner(nint display, nint selection, nint window, nint time);

    [LibraryImport(X11)]
    public static partial int XConvertSelection(
        nint display,
        nint selection,
        nint target,
        nint property,
        nint requestor,
        nint time
    );

    [LibraryImport(X11)]
    public static partial nint XMaxRequestSize(nint display);

    [LibraryImport(X11)]
    public static partial int XQueryKeymap(nint display, byte* down);

    [LibraryImport(X11)]
    public static partial int XChangeKeyboardMapping(nint display, int first, int symsPerCode, nint* syms, int count);

    [LibraryImport(X11)]
    public static partial nint XGetKeyboardMapping(nint display, byte first, int count, out int symsPerCode);

    [LibraryImport(X11)]
    public static partial int XDisplayKeycodes(nint display, out int lowest, out int highest);

    [LibraryImport(X11)]
    public static partial int XRefreshKeyboardMapping(XEvent* mapping);

    [LibraryImport(X11)]
    public static partial nint XDefaultVisual(nint display, int screen);

    [LibraryImport(X11)]
    public static partial int XDefaultDepth(nint display, int screen);

    [LibraryImport(X11)]
    public static partial int XDisplayWidth(nint display, int screen);

    [LibraryImport(X11)]
    public static partial int XDisplayHeight(nint display, int screen);

    [LibraryImport(X11)]
    public static partial nint XCreatePixmap(nint display, nint drawable, uint width, uint height, uint depth);

    [LibraryImport(X11)]
    public static partial int XFreePixmap(nint display, nint pixmap);

    [LibraryImport(X11)]
    public static partial nint XDisplayString(nint display);
}
