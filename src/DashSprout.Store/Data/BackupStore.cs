using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;
using Dapper;
using DashSprout.Core;
using DashSprout.Store.Files;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Data;

/// <summary>
/// Backups beside the data file. They are made while the program goes on, one at a time, and each is there whole and
/// sound or not at all. Whoever asks while one is being made waits, and gets the next one together with all who wait.
/// </summary>
public sealed class BackupStore(DataFolder folder)
{
    /// <summary>
    /// How many days, weeks and months keep their last backup, and how many that were made for each other reason are
    /// kept whatever their age.
    /// </summary>
    public const int Days = 7,
        Weeks = 4,
        Months = 12,
        Others = 5;

    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(30);

    private const string Stamp = "yyyyMMdd'T'HHmmssfff'Z'";

    private readonly ConcurrentDictionary<(string, long), (int Libraries, int Snippets)> counted = new();
    private readonly Lock gate = new();
    private readonly Dictionary<BackupReason, (long Begun, Backup Backup)> made = [];
    private long moment;

    /// <summary>
    /// Makes a backup of everything as it is now; one that was begun since it was asked for is as good. Throws what
    /// the disk throws, and <see cref="IOException"/> when the copy turns out not to be sound.
    /// </summary>
    public Backup Make(BackupReason reason, DateTimeOffset now)
    {
        var asked = Interlocked.Increment(ref moment);
        lock (gate)
        {
            if (made.TryGetValue(reason, out var last) && last.Begun > asked && IsThere(last.Backup))
                return last.Backup;
            var begun = Interlocked.Increment(ref moment);
            using var source = folder.Database.Open();
            var backup = Keep(reason, now, making =>
            {
                using var target = new SqliteConnection($"Data Source={making};Pooling=False");
                target.Open();
                source.BackupDatabase(target);
                // One file alone, without a log beside it.
                target.Execute("PRAGMA journal_mode = DELETE");
                if (target.QuerySingle<string>("PRAGMA quick_check(1)") is var found && found != "ok")
                    throw new IOException($"the copy is not sound: {found}");
            });
            made[reason] = (begun, backup);
            return backup;
        }
    }

    /// <summary>Keeps a file that the user brought, when it is a sound backup that this program can read.</summary>
    public async Task<Backup> BringIn(Stream file, DateTimeOffset now, CancellationToken cancellation)
    {
        Directory.CreateDirectory(folder.Backups, OwnFiles.FolderMode);
        var brought = Path.Combine(folder.Backups, $"brought-in-{Guid.NewGuid():N}{OwnFiles.HalfMade}");
        try
        {
            await using (var to = File.Create(brought))
                await file.CopyToAsync(to, cancellation);
            OwnFiles.Protect(brought);
            Check(brought);
            lock (gate)
                return Keep(BackupReason.BroughtIn, now, making => File.Copy(brought, making, overwrite: true));
        }
        finally
        {
            Database.Close(brought);
            File.Delete(brought);
        }
    }

    /// <summary>The backups, the newest first.</summary>
    public IReadOnlyList<Backup> List() =>
        !Directory.Exists(folder.Backups)
            ? []
            :
            [
                .. Directory
                    .EnumerateFiles(folder.Backups, "*.sqlite")
                    .Select(Read)
                    .OfType<Backup>()
                    .OrderByDescending(backup => backup.At),
            ];

    /// <summary>
    /// The file of a backup; throws <see cref="InvalidInputException"/> when there is none of that name.
    /// </summary>
    public string PathOf(string name) =>
        List().Any(backup => backup.Name == name)
            ? Path.Combine(folder.Backups, name)
            : throw new InvalidInputException("name", $"There is no backup “{name}”. Choose one of the list.");

    /// <summary>
    /// Puts everything in a backup in the place of everything there is. It happens whole or not at all.
    /// </summary>
    /// <param name="nextId">The first id that may be given afterwards: none is given twice.</param>
    /// <param name="remember">Writes into the file what is to be known of this afterwards.</param>
    public void Restore(string name, long nextId, Action<SqliteConnection>? remember = null)
    {
        var restoring = Path.Combine(folder.Path, $"restoring-{Guid.NewGuid():N}{OwnFiles.HalfMade}");
        try
        {
            lock (gate)
                File.Copy(PathOf(name), restoring);
            OwnFiles.Protect(restoring);
            Check(restoring);
            if (Migrations.StateOf(restoring) is MigrationState.Behind)
                Migrations.Run(restoring, folder.Database.Vault);
            using var source = new SqliteConnection($"Data Source={restoring};Pooling=False");
            source.Open();
            IdMark.BeginAt(source, nextId);
            // Written before it is put in place: afterwards nothing may go wrong.
            remember?.Invoke(source);
            using var target = folder.Database.Open();
            Patiently(() => source.BackupDatabase(target));
        }
        finally
        {
            Database.Close(restoring);
            foreach (var rest in (string[])["", "-wal", "-shm", "-journal"])
                File.Delete(restoring + rest);
        }
    }

    /// <summary>Waits until nobody reads or writes just now, which is soon over.</summary>
    private static void Patiently(Action copy)
    {
        for (var began = Stopwatch.StartNew(); ; Thread.Sleep(10))
            try
            {
                copy();
                return;
            }
            catch (SqliteException exception) when (StorageFault.IsBusy(exception) && began.Elapsed < LongestWait)
            {
                // Nothing was copied; it is tried again.
            }
    }

    /// <summary>
    /// Lets go of backups: the last of each of the newest days, weeks and months stay, and the newest that were made
    /// for each other reason besides. Only backups count each other's days, so that a clock gone wrong makes none of
    /// them old.
    /// </summary>
    public void Thin()
    {
        lock (gate)
            ThinNow();
    }

    private void ThinNow()
    {
        var all = List();
        var kept = all.Where(backup => backup.Reason != BackupReason.Daily)
            .GroupBy(backup => backup.Reason)
            .SelectMany(group => group.Take(Others))
            .Concat(
                LastOfEach(all, Days, backup => backup.At.UtcDateTime.Date.ToString("O", CultureInfo.InvariantCulture))
            )
            .Concat(
                LastOfEach(all, Weeks, backup =>
                    $"{ISOWeek.GetYear(backup.At.UtcDateTime)}-{ISOWeek.GetWeekOfYear(backup.At.UtcDateTime)}"
                )
            )
            .Concat(LastOfEach(all, Months, backup => $"{backup.At.UtcDateTime:yyyy-MM}"))
            .Select(backup => backup.Name)
            .ToHashSet();
        foreach (var backup in all)
            if (!kept.Contains(backup.Name))
                File.Delete(Path.Combine(folder.Backups, backup.Name));
    }

    private static IEnumerable<Backup> LastOfEach(
        IReadOnlyList<Backup> newestFirst,
        int most,
        Func<Backup, string> period
    ) => newestFirst.GroupBy(period).Take(most).Select(group => group.First());

    private Backup Keep(BackupReason reason, DateTimeOffset now, Action<string> make)
    {
        Directory.CreateDirectory(folder.Backups, OwnFiles.FolderMode);
        var making = Path.Combine(folder.Backups, $"making-{Guid.NewGuid():N}{OwnFiles.HalfMade}");
        try
        {
            make(making);
            OwnFiles.Protect(making);
            // Two in one moment would have one name.
            var name = Enumerable
                .Range(0, 1000)
                .Select(more => now.UtcDateTime.AddMilliseconds(more).ToString(Stamp, CultureInfo.InvariantCulture))
                .Select(stamp => $"{stamp}-{Wording.Of(reason)}.sqlite")
                .First(name => !File.Exists(Path.Combine(folder.Backups, name)));
            File.Move(making, Path.Combine(folder.Backups, name));
            return Read(Path.Combine(folder.Backups, name))!;
        }
        finally
        {
            File.Delete(making);
        }
    }

    private bool IsThere(Backup backup) => File.Exists(Path.Combine(folder.Backups, backup.Name));

    private Backup? Read(string path)
    {
        var name = Path.GetFileNameWithoutExtension(path);
        var dash = name.IndexOf('-', StringComparison.Ordinal);
        if (
            dash < 0
            || !DateTimeOffset.TryParseExact(
                name[..dash],
                Stamp,
                CultureInfo.InvariantCulture,
                DateTimeStyles.AssumeUniversal,
                out var at
            )
        )
            return null;
        if (
            Enum.GetValues<BackupReason>()
                .Cast<BackupReason?>()
                .FirstOrDefault(reason => Wording.Of(reason!.Value) == name[(dash + 1)..])
            is not { } known
        )
            return null;
        if (new FileInfo(path) is not { Exists: true, Length: var bytes })
            return null;
        var (libraries, snippets) = counted.GetOrAdd((name, bytes), _ => Count(path));
        return new Backup(Path.GetFileName(path), known, at, bytes, libraries, snippets);
    }

    private static (int Libraries, int Snippets) Count(string path)
    {
        try
        {
            using var connection = new SqliteConnection($"Data Source={path};Mode=ReadOnly;Pooling=False");
            connection.Open();
            return connection.ExecuteScalar<bool>("SELECT count(*) FROM sqlite_master WHERE name = 'item'")
                ? connection.QuerySingle<(int, int)>(
                    "SELECT count(*) FILTER (WHERE kind = 'library'), count(*) FILTER (WHERE kind = "
                        + "'snippet') FROM item WHERE deleted_at IS NULL"
                )
                : connection.QuerySingle<(int, int)>(
                    "SELECT (SELECT count(*) FROM library WHERE deleted_at IS NULL), (SELECT count(*) FROM "
                        + "snippet WHERE deleted_at IS NULL)"
                );
        }
        catch (SqliteException)
        {
            // Damaged since it was made: listed all the same, and restoring it says so.
            return (0, 0);
        }
    }

    private static void Check(string path)
    {
        if (Database.Damage(path) is { } damage)
            throw new InvalidInputException(
                "",
                $"This is no sound backup of Dash Sprout ({damage}). Choose another one."
            );
        if (Migrations.StateOf(path) is MigrationState.Newer { Unknown: var unknown })
            throw new InvalidInputException(
                "",
                $"The backup was made by a newer program: it has seen the migration {unknown}, which this one does "
                    + "not know. Restore it with the newer program."
            );
        using var connection = new SqliteConnection($"Data Source={path};Mode=ReadOnly;Pooling=False");
        connection.Open();
        if (connection.ExecuteScalar<int>("SELECT count(*) FROM sqlite_master WHERE name IN ('item', 'snippet')") == 0)
            throw new InvalidInputException(
                "",
                "This is a database, but no backup of Dash Sprout. Choose another one."
            );
    }
}
