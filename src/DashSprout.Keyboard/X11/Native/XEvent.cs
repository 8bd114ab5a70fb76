using System.Runtime.CompilerServices;

namespace DashSprout.Keyboard.X11.Native;

/// <summary>
/// An event of Xlib: 24 words, read by byte offset as <c>X11/Xlib.h</c> lays its structures out on 64-bit machines.
/// </summary>
[InlineArray(24)]
internal struct XEvent
{
    private long word;

    public int Type => At<int>(0);

    public unsafe T At<T>(int offset)
        where T : unmanaged
    {
        fixed (long* start = &word)
            return *(T*)((byte*)start + offset);
    }

    public unsafe void Set<T>(int offset, T value)
        where T : unmanaged
    {
        fixed (long* start = &word)
            *(T*)((byte*)start + offset) = value;
    }
}
