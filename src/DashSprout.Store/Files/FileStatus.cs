using System.Runtime.InteropServices;
using System.Text;
using Microsoft.Win32.SafeHandles;

namespace DashSprout.Store.Files;

/// <summary>What Linux says of a file itself, without reading it and without following a link.</summary>
/// <param name="Number">Its number on its disk.</param>
/// <param name="Written">When it was written last, in seconds and nanoseconds.</param>
/// <param name="Born">When it came to be, in seconds and nanoseconds; zeros where the disk does not say.</param>
internal readonly record struct FileStatus(
    FileKind Kind,
    ulong Number,
    long Length,
    (long Seconds, uint Nanoseconds) Written,
    (long Seconds, uint Nanoseconds) Born
)
{
    private const int RelativeToHere = -100,
        NoFollowing = 0x100,
        OfTheHandle = 0x1000;
    private const uint Basic = 0x7ff,
        Birth = 0x800;

    /// <summary>That of a path; null when nothing is there or it cannot be looked at.</summary>
    public static FileStatus? Of(string path) => Ask(RelativeToHere, Encoding.UTF8.GetBytes(path + '\0'), NoFollowing);

    /// <summary>That of an open file.</summary>
    public static FileStatus? Of(SafeFileHandle handle) => Ask((int)handle.DangerousGetHandle(), [0], OfTheHandle);

    private static FileStatus? Ask(int folder, byte[] path, int flags)
    {
        var answer = new byte[256];
        if (StatusOf(folder, path, flags, Basic | Birth, answer) != 0)
            return null;
        return new(
            (BitConverter.ToUInt16(answer, 28) & 0xF000) switch
            {
                0x8000 => FileKind.Plain,
                0x4000 => FileKind.Folder,
                0xA000 => FileKind.Link,
                0x1000 => FileKind.Pipe,
                0xC000 => FileKind.Socket,
                _ => FileKind.Device,
            },
            BitConverter.ToUInt64(answer, 32),
            BitConverter.ToInt64(answer, 40),
            (BitConverter.ToInt64(answer, 112), BitConverter.ToUInt32(answer, 120)),
            (BitConverter.ToInt64(answer, 80), BitConverter.ToUInt32(answer, 88))
        );
    }

    /// <summary><c>statx</c> of Linux; the places in its answer are the same on all processors.</summary>
    [DllImport("libc", EntryPoint = "statx", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.SafeDirectories)]
    private static extern int StatusOf(int folder, byte[] path, int flags, uint mask, [Out] byte[] answer);
}

/// <summary>What lies under a name.</summary>
internal enum FileKind
{
    Plain,
    Folder,
    Link,
    Pipe,
    Socket,
    Device,
}
