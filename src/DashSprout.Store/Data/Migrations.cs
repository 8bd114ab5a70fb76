using System.Reflection;
using Dapper;
using DbUp;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Data;

/// <summary>How a data file stands to the migrations that this program knows.</summary>
internal abstract record MigrationState
{
    /// <summary>It has seen all of them, and no others.</summary>
    public sealed record UpToDate : MigrationState;

    /// <summary>Some are still to be done.</summary>
    public sealed record Behind : MigrationState;

    /// <summary>It has seen one that this program does not know.</summary>
    /// <param name="Unknown">Its name.</param>
    public sealed record Newer(string Unknown) : MigrationState;
}

/// <summary>
/// The migrations of data files, in order. Which of them a file has seen is written in the journal of the library that
/// runs them, in the file itself, and nowhere else. One that has shipped is never edited.
/// </summary>
internal static class Migrations
{
    private static readonly Assembly Scripts = Assembly.GetExecutingAssembly();

    /// <summary>Their names, in the order in which they run.</summary>
    public static IReadOnlyList<string> All { get; } =
    [
        .. Scripts
            .GetManifestResourceNames()
            .Where(name => name.EndsWith(".sql", StringComparison.Ordinal))
            .Order(StringComparer.Ordinal),
    ];

    /// <summary>The text of one.</summary>
    public static string Text(string name)
    {
        using var reader = new StreamReader(
            Scripts.GetManifestResourceStream(name) ?? throw new ArgumentException($"There is no migration {name}.")
        );
        return reader.ReadToEnd();
    }

    /// <summary>
    /// Looks at a file's journal and changes nothing; throws <see cref="SqliteException"/> for what cannot be read.
    /// </summary>
    public static MigrationState StateOf(string path)
    {
        using var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = path,
                Mode = SqliteOpenMode.ReadOnly,
                Pooling = false,
                DefaultTimeout = 10,
            }.ToString()
        );
        connection.Open();
        var hasJournal = connection.ExecuteScalar<bool>(
            "SELECT count(*) FROM sqlite_master WHERE type = 'table' AND name = 'SchemaVersions'"
        );
        var seen = hasJournal ? connection.Query<string>("SELECT ScriptName FROM SchemaVersions").ToHashSet() : [];
        return seen.Except(All).Order(StringComparer.Ordinal).FirstOrDefault() is { } unknown
                ? new MigrationState.Newer(ShortName(unknown))
            : All.All(seen.Contains) ? new MigrationState.UpToDate()
            : new MigrationState.Behind();
    }

    /// <summary>Brings a file's tables up to date, making them when there are none; each migration whole or not.</summary>
    public static void Run(string path, Vault vault)
    {
        var connectionString = Database.ConnectionString(path);
        var result = DeployChanges
            .To.SqliteDatabase(connectionString)
            .WithScriptsEmbeddedInAssembly(Scripts)
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
        PictureSeals.SealAll(connection, vault);
    }

    /// <summary>A migration as people call it: <c>0005_items</c>.</summary>
    private static string ShortName(string name)
    {
        var stem = name.EndsWith(".sql", StringComparison.Ordinal) ? name[..^4] : name;
        return stem[(stem.LastIndexOf('.') + 1)..];
    }
}
