using System.Reflection;
using Dapper;
using DbUp;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store;

/// <summary>
/// One SQLite file: write-ahead log, foreign keys on, and every commit on disk before it returns. Connections are cheap
/// and pooled; each piece of work opens one.
/// </summary>
public sealed class Database
{
    /// <summary>Which migrations a file has seen; kept in its header as <c>user_version</c>.</summary>
    public const int CurrentVersion = 6;

    private readonly string connectionString;

    /// <summary>A file that is there and up to date; <see cref="DataFolder"/> sees to that.</summary>
    internal Database(string path, Vault vault)
    {
        Path = path;
        Vault = vault;
        connectionString = ConnectionString(path);
    }

    /// <summary>Where the file is.</summary>
    public string Path { get; }

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

    /// <summary>The version in a file's header.</summary>
    internal static int VersionOf(string path)
    {
        using var connection = new SqliteConnection(ConnectionString(path));
        connection.Open();
        return connection.QuerySingle<int>("PRAGMA user_version");
    }

    /// <summary>Brings a file's tables up to date, making them when there are none.</summary>
    internal static void Migrate(string path, Vault vault)
    {
        var connectionString = ConnectionString(path);
        var result = DeployChanges
            .To.SqliteDatabase(connectionString)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly())
            .WithVariablesDisabled()
            .WithTransactionPerScript()
            .LogToNowhere()
            .Build()
            .PerformUpgrade();
        if (!result.Successful)
            throw result.Error;
        using var connection = new SqliteConnection(connectionString);
        connection.Open();
        PrivateRows.SealAll(connection, vault);
        connection.Execute($"PRAGMA user_version = {CurrentVersion}");
    }

    /// <summary>Lets go of the pooled connections to a file, so that it can be moved.</summary>
    internal static void Close(string path)
    {
        using var connection = new SqliteConnection(ConnectionString(path));
        SqliteConnection.ClearPool(connection);
    }

    private static string ConnectionString(string path) =>
        new SqliteConnectionStringBuilder
        {
            DataSource = path,
            ForeignKeys = true,
            DefaultTimeout = 10,
        }.ToString();
}
