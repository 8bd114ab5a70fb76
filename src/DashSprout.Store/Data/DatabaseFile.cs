using Dapper;
using DashSprout.Store.Files;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Data;

/// <summary>The data file as a file: how the first one is made, and what can be told of one before it is opened.</summary>
internal static class DatabaseFile
{
    /// <summary>Makes the first file under another name, so that it is there whole or not at all.</summary>
    public static void Create(string file, Vault vault)
    {
        var making = file + ".new";
        foreach (var rest in (string[])[making, making + "-wal", making + "-shm", making + "-journal"])
            File.Delete(rest);
        using (
            new FileStream(
                making,
                new FileStreamOptions
                {
                    Mode = FileMode.CreateNew,
                    Access = FileAccess.Write,
                    UnixCreateMode = OwnFiles.FileMode,
                }
            )
        ) { }
        Migrations.Run(making, vault);
        using (var connection = new SqliteConnection($"Data Source={making};Pooling=False"))
        {
            connection.Open();
            connection.Execute("PRAGMA journal_mode = WAL");
        }
        Database.Close(making);
        File.Move(making, file);
    }

    /// <summary>Why a file cannot be a database at all; null when it may be one.</summary>
    public static string? Fault(string file)
    {
        Span<byte> header = stackalloc byte[16];
        using (var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite))
        {
            if (stream.Length == 0)
                return "it holds nothing";
            if (
                stream.ReadAtLeast(header, 16, throwOnEndOfStream: false) < 16
                || !header.StartsWith("SQLite format 3\0"u8)
            )
                return "it is no database";
        }
        return null;
    }
}
