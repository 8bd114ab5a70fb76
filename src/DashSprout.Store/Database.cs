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
    private readonly string connectionString;

    /// <summary>Opens the file, making it and its folder when missing, and brings its tables up to date.</summary>
    public Database(string path)
    {
        Path = path;
        Directory.CreateDirectory(System.IO.Path.GetDirectoryName(System.IO.Path.GetFullPath(path))!);
        connectionString = new SqliteConnectionStringBuilder { DataSource = path, ForeignKeys = true, DefaultTimeout = 10 }.ToString();
        using (var connection = Open()) connection.Execute("PRAGMA journal_mode = WAL");
        Migrate();
    }

    /// <summary>Where the file is.</summary>
    public string Path { get; }

    /// <summary>An open connection; dispose it.</summary>
    public SqliteConnection Open()
    {
        var connection = new SqliteConnection(connectionString);
        connection.Open();
        connection.Execute("PRAGMA synchronous = FULL");
        return connection;
    }

    /// <summary>Runs a piece of work in a transaction that is committed when it returns and undone when it throws.</summary>
    public T InTransaction<T>(Func<SqliteConnection, T> work)
    {
        using var connection = Open();
        using var transaction = connection.BeginTransaction();
        var result = work(connection);
        transaction.Commit();
        return result;
    }

    private void Migrate()
    {
        var result = DeployChanges.To.SqliteDatabase(connectionString)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly())
            .WithVariablesDisabled()
            .WithTransactionPerScript()
            .LogToNowhere()
            .Build()
            .PerformUpgrade();
        if (!result.Successful)
            throw new InvalidOperationException($"The data file {Path} could not be brought up to date: {result.Error.Message}", result.Error);
    }
}
