namespace DashSprout.Store.Files;

/// <summary>Files and folders that nobody but their owner on the machine can read.</summary>
internal static class OwnFiles
{
    public const UnixFileMode FolderMode = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
    public const UnixFileMode FileMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    /// <summary>What half-made files end in; those that a killed program left go at the next start.</summary>
    public const string HalfMade = ".partial";

    /// <summary>Writes a small file; it is there whole, and on disk, or as it was.</summary>
    public static void WriteWhole(string path, ReadOnlySpan<byte> bytes)
    {
        var making = $"{path}-{Guid.NewGuid():N}{HalfMade}";
        try
        {
            using (
                var stream = new FileStream(
                    making,
                    new FileStreamOptions
                    {
                        Mode = System.IO.FileMode.CreateNew,
                        Access = FileAccess.Write,
                        UnixCreateMode = FileMode,
                    }
                )
            )
            {
                stream.Write(bytes);
                stream.Flush(flushToDisk: true);
            }
            File.Move(making, path, overwrite: true);
        }
        finally
        {
            File.Delete(making);
        }
    }

    /// <summary>Makes a file that is there readable for its owner alone.</summary>
    public static void Protect(string file) => File.SetUnixFileMode(file, FileMode);

    /// <summary>Makes a folder, and all that lies in it, readable for its owner alone.</summary>
    public static void ProtectAll(string folder)
    {
        File.SetUnixFileMode(folder, FolderMode);
        foreach (var inner in Directory.EnumerateDirectories(folder))
            ProtectAll(inner);
        foreach (var file in Directory.EnumerateFiles(folder))
            Protect(file);
    }
}
