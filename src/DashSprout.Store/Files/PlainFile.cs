using System.ComponentModel;
using System.Runtime.InteropServices;
using System.Text;
using Microsoft.Win32.SafeHandles;

namespace DashSprout.Store.Files;

/// <summary>
/// Files in folders that others write in too. Only plain files are opened: a pipe would wait for ever, a device never
/// ends, a link may lead anywhere. What is written goes beside, under a name that no other machine or process uses, and
/// is moved into place whole.
/// </summary>
public static class PlainFile
{
    /// <summary>How old something half-written of nobody known must be to be a leftover.</summary>
    private static readonly TimeSpan Abandoned = TimeSpan.FromDays(2);

    private const string Mark = ".dash-sprout-",
        HalfMade = ".part";

    /// <summary>Reads a file whole; throws <see cref="IOException"/> that says what is wrong in words.</summary>
    /// <param name="most">How many bytes it may have.</param>
    public static byte[] Read(string path, long most)
    {
        var before = FileStatus.Of(path)
            ?? throw new FileNotFoundException($"“{Path.GetFileName(path)}” is not there.");
        Check(path, before);
        using var handle = Open(path);
        // Looked at again: something else may have come in its place meanwhile.
        var status = FileStatus.Of(handle) ?? throw Gone(path);
        Check(path, status);
        if (status.Number != before.Number)
            throw Gone(path);
        if (status.Length > most)
            throw new IOException(
                $"“{Path.GetFileName(path)}” is larger than {(most < 1 << 20 ? $"{most >> 10} KiB" : $"{most >> 20} MiB")}. Divide it, or take it away."
            );
        var bytes = new byte[status.Length];
        var length = 0;
        // One that is made shorter while it is read ends earlier; what is put behind is seen the next time.
        while (length < bytes.Length && RandomAccess.Read(handle, bytes.AsSpan(length), length) is > 0 and var more)
            length += more;
        return length == bytes.Length ? bytes : bytes[..length];
    }

    /// <summary>The same as text, in the encoding that its first bytes tell; UTF-8 without any.</summary>
    public static string ReadText(string path, long most)
    {
        using var reader = new StreamReader(new MemoryStream(Read(path, most)), Encoding.UTF8);
        return reader.ReadToEnd();
    }

    /// <summary>
    /// Writes a file that is there whole, and on disk, or as it was; gives by what it is known again. Throws
    /// <see cref="IOException"/> or <see cref="UnauthorizedAccessException"/>.
    /// </summary>
    /// <param name="writer">Who writes, among all that write there: its leftovers are known by it.</param>
    public static FileStamp Write(string path, string writer, ReadOnlySpan<byte> bytes)
    {
        var folder = Path.GetDirectoryName(path)!;
        if (FileStatus.Of(path) is { Kind: not FileKind.Plain and not FileKind.Link } there)
            throw new IOException($"“{Path.GetFileName(path)}” is no file but {Name(there.Kind)}. Take it away.");
        Tidy(folder, writer);
        var part = Path.Combine(folder, $"{Mark}{writer}-{Guid.NewGuid():N}{HalfMade}");
        try
        {
            using (var stream = new FileStream(part, FileMode.CreateNew, FileAccess.Write))
            {
                stream.Write(bytes);
                stream.Flush(flushToDisk: true);
            }
            // Looked at before it is moved: what somebody puts in its place afterwards has another one.
            var stamp = FileStamp.Of(part);
            File.Move(part, path, overwrite: true);
            return stamp;
        }
        finally
        {
            File.Delete(part);
        }
    }

    /// <summary>
    /// Refuses a folder that leads elsewhere: what is written in it would lie outside. Throws
    /// <see cref="IOException"/>; one that is not there is none of its business.
    /// </summary>
    public static void CheckFolder(string path)
    {
        if (FileStatus.Of(path) is { Kind: not FileKind.Folder } other)
            throw new IOException($"“{path}” is {Name(other.Kind)}. Put a folder there, or take it away.");
    }

    /// <summary>Takes away what this writer left half written when it was killed, and what lies long half written.</summary>
    private static void Tidy(string folder, string writer)
    {
        foreach (var file in new DirectoryInfo(folder).EnumerateFiles($"{Mark}*{HalfMade}"))
            if (
                file.Name.StartsWith($"{Mark}{writer}-", StringComparison.Ordinal)
                || file.LastWriteTimeUtc < DateTime.UtcNow - Abandoned
            )
                file.Delete();
    }

    private static void Check(string path, FileStatus status)
    {
        if (status.Kind != FileKind.Plain)
            throw new IOException(
                $"“{Path.GetFileName(path)}” is {Name(status.Kind)}. Put the file itself there, or take it away."
            );
    }

    private static IOException Gone(string path) =>
        new($"“{Path.GetFileName(path)}” became another file while it was opened. It is looked at again.");

    private static string Name(FileKind kind) =>
        kind switch
        {
            FileKind.Folder => "a folder",
            FileKind.Link => "a link",
            FileKind.Pipe => "a pipe",
            FileKind.Socket => "a socket",
            FileKind.Device => "a device",
            _ => "a file",
        };

    private static SafeFileHandle Open(string path)
    {
        // Never waiting for the other end of a pipe that has come in the file's place.
        const int ReadingWithoutWaiting = 0x800 | 0x80000;
        var number = OpenFile(Encoding.UTF8.GetBytes(path + '\0'), ReadingWithoutWaiting);
        return number >= 0
            ? new SafeFileHandle(number, ownsHandle: true)
            : throw new IOException(
                $"“{Path.GetFileName(path)}” cannot be opened: {new Win32Exception(Marshal.GetLastPInvokeError()).Message}."
            );
    }

    /// <summary><c>open</c> of POSIX.</summary>
    [DllImport("libc", EntryPoint = "open", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.SafeDirectories)]
    private static extern int OpenFile(byte[] path, int flags);
}
