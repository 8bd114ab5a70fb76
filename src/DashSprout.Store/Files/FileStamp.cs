namespace DashSprout.Store.Files;

/// <summary>
/// By what a file is known to be the one that was seen before: its length and when it was written, and which file it is.
/// Clocks of files are coarse, so that two files of one length, written at one moment by two programs, differ in their
/// number and their birth alone.
/// </summary>
/// <param name="Number">The file's number on its disk.</param>
/// <param name="Length">In bytes; -1 where there is no file.</param>
/// <param name="Written">When it was written, in seconds and nanoseconds.</param>
/// <param name="Born">When it came to be; zeros where the disk does not say.</param>
public readonly record struct FileStamp(
    ulong Number,
    long Length,
    (long Seconds, uint Nanoseconds) Written,
    (long Seconds, uint Nanoseconds) Born
)
{
    /// <summary>The stamp of what lies under a name now; of a link, the link's own.</summary>
    public static FileStamp Of(string path) =>
        FileStatus.Of(path) is { } status
            ? new FileStamp(status.Number, status.Length, status.Written, status.Born)
            : new FileStamp(0, -1, default, default);
}
