using Dapper;
using DashSprout.Store.Files;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Data;

/// <summary>
/// One SQLite file: write-ahead log, foreign keys on, and every commit on disk before it returns. Connections are cheap
/// and pooled; each piece of work opens one.
/// </summary>
public sealed class Database
{
    private readonly string connectionString;

    /// <summary>A file that is there and up to date; <see cref="DataFolder"/> sees to that.</summary>
    internal Database(string path, Vault vault, IdMark ids)
    {
        Ids = ids;
        Path = path;
        Vault = vault;
        connectionString = ConnectionString(path);
    }

    /// <summary>Where the file is.</summary>
    public string Path { get; }

    /// <summary>How far ids have been given.</summary>
    internal IdMark Ids { get; }

    /// <summary>What seals private snippets.</summary>
    internal Vault Vault { get; }

    /// <summary>An open connection; dispose it.</summary>
    public SqliteConnection Open()
    {
        var connection = new SqliteConnection(connectionString);
        connection.Open();
        connection.Execute("PRAGMA synchronous = FULL");
        return connection;
    }

    /// <summary>
    /// Runs a piece of work in a transaction that is committed when it returns and undone when it throws.
    /// </summary>
    public T InTransaction<T>(Func<SqliteConnection, T> work)
    {
        using var connection = Open();
        using var transaction = connection.BeginTransaction();
        var result = work(connection);
        transaction.Commit();
        return result;
    }

    /// <summary>
    /// Writes what the write-ahead log holds into the file and empties it, as far as nobody is reading it just now.
    /// </summary>
    internal void EmptyLog()
    {
        using var connection = Open();
        connection.Execute("PRAGMA wal_checkpoint(TRUNCATE)");
    }

    /// <summary>The first thing that is wrong with a file; null when it is sound.</summary>
    internal static string? Damage(string path)
    {
        try
        {
            using var connection = new SqliteConnection(ConnectionString(path));
            connection.Open();
            return connection.QuerySingle<string>("PRAGMA quick_check(1)") is var found && found == "ok" ? null : found;
        }
        catch (SqliteException exception) when (StorageFault.IsDamage(exception))
        {
            return exception.Message;
        }
    }

    /// <summary>Lets go of the pooled connections to a file, so that it can be moved.</summary>
    internal static void Close(string path)
    {
        using var connection = new SqliteConnection(ConnectionString(path));
        SqliteConnection.ClearPool(connection);
    }

    internal static string ConnectionString(string path) =>
        new SqliteConnectionStringBuilder
        {
            DataSource = path,
            ForeignKeys = true,
            DefaultTimeout = 10,
        }.ToString();
}
