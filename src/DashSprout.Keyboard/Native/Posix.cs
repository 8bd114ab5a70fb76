using System.Runtime.InteropServices;
using Microsoft.Win32.SafeHandles;

namespace DashSprout.Keyboard.Native;

/// <summary>The few calls of the C library for waiting on connections and ending them.</summary>
internal static unsafe partial class Posix
{
    private const string C = "libc";

    public const short PollIn = 1;
    public const int ShutBoth = 2;

    [LibraryImport(C, SetLastError = true)]
    public static partial int poll(PollEntry* entries, nuint count, int timeoutMs);

    [LibraryImport(C, SetLastError = true)]
    public static partial int shutdown(int socket, int how);

    [LibraryImport(C, SetLastError = true)]
    public static partial int eventfd(uint initial, int flags);

    [LibraryImport(C, SetLastError = true)]
    public static partial nint write(SafeHandle file, void* data, nuint count);

    [LibraryImport(C, SetLastError = true)]
    public static partial nint read(SafeHandle file, void* data, nuint count);
}

/// <summary>
/// Wakes a thread that waits in <see cref="Posix.poll"/> for <see cref="File"/>. Its number is given back only when nobody
/// writes to it: it may be another file's by then.
/// </summary>
internal sealed unsafe class EventDescriptor : IDisposable
{
    private const int NonBlocking = 0x800;

    private readonly SafeFileHandle counter = new(Posix.eventfd(0, NonBlocking), ownsHandle: true);

    /// <summary>What the waiting thread polls; it is the one that disposes.</summary>
    public int File => (int)counter.DangerousGetHandle();

    /// <summary>Wakes the thread; nothing happens once it has ended.</summary>
    public void Signal()
    {
        ulong one = 1;
        try
        {
            _ = Posix.write(counter, &one, sizeof(ulong));
        }
        catch (ObjectDisposedException)
        {
            // It has ended, so there is nobody to wake.
        }
    }

    /// <summary>The thread is awake.</summary>
    public void Clear()
    {
        ulong count;
        _ = Posix.read(counter, &count, sizeof(ulong));
    }

    public void Dispose() => counter.Dispose();
}

[StructLayout(LayoutKind.Sequential)]
internal struct PollEntry
{
    public int File;
    public short Events,
        Returned;
}
