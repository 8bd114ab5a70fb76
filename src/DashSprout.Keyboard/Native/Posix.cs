using System.Runtime.InteropServices;

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

    /// <summary>A counter that wakes a waiting <see cref="poll"/>; non-blocking.</summary>
    [LibraryImport(C, SetLastError = true)]
    public static partial int eventfd(uint initial, int flags);

    [LibraryImport(C, SetLastError = true)]
    public static partial nint write(int file, void* data, nuint count);

    [LibraryImport(C, SetLastError = true)]
    public static partial nint read(int file, void* data, nuint count);

    [LibraryImport(C, SetLastError = true)]
    public static partial int close(int file);
}

[StructLayout(LayoutKind.Sequential)]
internal struct PollEntry
{
    public int File;
    public short Events,
        Returned;
}
