using System.Globalization;
using DashSprout.Store.Files;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Data;

/// <summary>
/// The folder in which everything lies. One program has it at a time; nobody else on the machine can read it. What is
/// damaged is set aside untouched and said, what is newer than this program is refused unchanged.
/// </summary>
public sealed class DataFolder : IDisposable
{
    private const string FileName = "dash-sprout.sqlite";

    private readonly FileStream held;
    private readonly Vault vault;
    private Task<string?>? checking;

    private DataFolder(string path, FileStream held, Vault vault)
    {
        Path = path;
        this.held = held;
        this.vault = vault;
        Ids = new IdMark(path);
        Machine = new MachineIdentity(path);
    }

    /// <summary>Where it is.</summary>
    public string Path { get; }

    /// <summary>Where the backups are.</summary>
    public string Backups => System.IO.Path.Combine(Path, "backups");

    /// <summary>How far ids have been given.</summary>
    public IdMark Ids { get; }

    /// <summary>What this folder is called in mirror files.</summary>
    public MachineIdentity Machine { get; }

    /// <summary>The data file.</summary>
    public Database Database { get; private set; } = null!;

    /// <summary>Whether nothing was there before.</summary>
    public bool IsNew { get; private set; }

    /// <summary>
    /// What was wrong with the data file at the start, and where it was set aside; null when it was sound.
    /// </summary>
    public string? SetAside { get; private set; }

    /// <summary>
    /// Opens a folder, making it when it is missing; throws <see cref="UnusableDataException"/> when that cannot be.
    /// </summary>
    /// <param name="holder">Who has the folder from now on, for another program that wants it:
    /// <c>http://localhost:5270</c>.</param>
    /// <param name="vaultIn">Makes what seals private snippets, with its keys in a folder.</param>
    /// <param name="checkBeside">Whether the file is looked through while it is read already;
    /// <see cref="TurnedOutDamaged"/> waits for that.</param>
    public static DataFolder Open(
        string path,
        string holder,
        DateTimeOffset now,
        Func<string, Vault> vaultIn,
        bool checkBeside = false
    )
    {
        path = System.IO.Path.GetFullPath(path);
        DataFolder? folder = null;
        try
        {
            if (Directory.Exists(path))
                OwnFiles.ProtectAll(path);
            else
                Directory.CreateDirectory(path, OwnFiles.FolderMode);
            var held = Hold(path, holder);
            try
            {
                folder = new DataFolder(path, held, vaultIn(KeysIn(path)));
            }
            catch
            {
                held.Dispose();
                throw;
            }
            folder.Sweep();
            folder.Prepare(now, checkBeside);
            return folder;
        }
        catch (Exception exception) when (exception is not UnusableDataException)
        {
            folder?.Dispose();
            throw new UnusableDataException(
                StorageFault.IsFull(exception)
                        ? $"The disk is full, so the data in {path} cannot be opened. Free some space and start again."
                    : exception is UnauthorizedAccessException or SqliteException or IOException
                        ? $"The data folder {path} cannot be used: {exception.Message.TrimEnd('.')}. Give this "
                            + "account the right to write there, or choose another folder with --data."
                    : $"The data file in {path} could not be brought up to date: "
                        + $"{exception.Message.TrimEnd('.')}. A backup from before is in "
                        + $"{System.IO.Path.Combine(path, "backups")}.",
                exception
            );
        }
        catch (UnusableDataException)
        {
            folder?.Dispose();
            throw;
        }
    }

    /// <summary>
    /// Waits until the file has been looked through. When it was damaged it is set aside and an empty one is in its
    /// place: what was read is to be read anew.
    /// </summary>
    public bool TurnedOutDamaged(DateTimeOffset now)
    {
        if (checking?.GetAwaiter().GetResult() is not { } damage)
            return false;
        checking = null;
        SetFileAside(Database.Path, damage, now);
        DatabaseFile.Create(Database.Path, vault);
        return true;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        checking?.GetAwaiter().GetResult();
        if (Database is not null)
            Database.Close(Database.Path);
        held.Dispose();
    }

    /// <summary>Where a file of somewhere else is kept that cannot be read; the folder is there then.</summary>
    public string AsidePath(string name, DateTimeOffset now)
    {
        var stamp = now.UtcDateTime.ToString("yyyyMMdd'T'HHmmssfff'Z'", CultureInfo.InvariantCulture);
        var folder = Enumerable
            .Range(0, 1000)
            .Select(number => System.IO.Path.Combine(Path, "set-aside", number == 0 ? stamp : $"{stamp}-{number}"))
            .First(free => !Directory.Exists(free));
        Directory.CreateDirectory(folder, OwnFiles.FolderMode);
        return System.IO.Path.Combine(folder, name);
    }

    /// <summary>The folder of the keys, for its owner alone.</summary>
    private static string KeysIn(string path)
    {
        var keys = System.IO.Path.Combine(path, "keys");
        Directory.CreateDirectory(keys, OwnFiles.FolderMode);
        return keys;
    }

    /// <summary>Takes the folder for this program until it ends, however it ends.</summary>
    private static FileStream Hold(string path, string holder)
    {
        var name = System.IO.Path.Combine(path, "in-use-by");
        try
        {
            var held = new FileStream(
                System.IO.Path.Combine(path, "in-use"),
                new FileStreamOptions
                {
                    Mode = FileMode.OpenOrCreate,
                    Access = FileAccess.ReadWrite,
                    Share = FileShare.None,
                    UnixCreateMode = OwnFiles.FileMode,
                }
            );
            try
            {
                File.WriteAllText(name, $"{holder} (process {Environment.ProcessId})");
                OwnFiles.Protect(name);
            }
            catch
            {
                held.Dispose();
                throw;
            }
            return held;
        }
        catch (IOException exception) when (StorageFault.IsHeld(exception))
        {
            var other = File.Exists(name) ? File.ReadAllText(name) : "another program";
            throw new UnusableDataException(
                $"The data folder {path} is in use by {other}. Stop that one first, or choose another folder "
                    + "with --data."
            );
        }
    }

    /// <summary>Takes away what a program that was killed left half made.</summary>
    private void Sweep()
    {
        foreach (var place in (string[])[Path, Backups])
            if (Directory.Exists(place))
                foreach (var rest in Directory.EnumerateFiles(place, $"*{OwnFiles.HalfMade}*"))
                    File.Delete(rest);
    }

    private void Prepare(DateTimeOffset now, bool checkBeside)
    {
        var file = System.IO.Path.Combine(Path, FileName);
        IsNew = !File.Exists(file);
        var state = IsNew ? null : StateOf(file, checkBeside, now);
        if (!File.Exists(file))
            DatabaseFile.Create(file, vault);
        Database = new Database(file, vault, Ids);
        if (state is not MigrationState.Behind)
            return;
        new BackupStore(this).Make(BackupReason.BeforeUpdate, now);
        Migrations.Run(file, vault);
    }

    /// <summary>
    /// How a file that is there stands; null when it was damaged, and then it is set aside. Throws
    /// <see cref="UnusableDataException"/> for one of a newer program, which stays as it is.
    /// </summary>
    private MigrationState? StateOf(string file, bool checkBeside, DateTimeOffset now)
    {
        MigrationState? state = null;
        var damage = DatabaseFile.Fault(file);
        try
        {
            if (damage is null)
                state = Migrations.StateOf(file);
        }
        catch (SqliteException exception) when (StorageFault.IsDamage(exception))
        {
            damage = exception.Message;
        }
        if (state is MigrationState.Newer { Unknown: var unknown })
            throw new UnusableDataException(
                $"The data file {file} was made by a newer program: it has seen the migration {unknown}, which this "
                    + "one does not know. It was left as it is. Start the newer program, or choose another folder "
                    + "with --data."
            );
        // What is to be brought up to date must be sound before.
        if (damage is null && checkBeside && state is MigrationState.UpToDate)
            checking = Task.Run(() => Database.Damage(file));
        else
            damage ??= Database.Damage(file);
        if (damage is null)
            return state;
        SetFileAside(file, damage, now);
        return null;
    }

    private void SetFileAside(string file, string damage, DateTimeOffset now)
    {
        Database.Close(file);
        var aside = System.IO.Path.Combine(
            Path,
            "set-aside",
            now.UtcDateTime.ToString("yyyyMMdd'T'HHmmss'Z'", CultureInfo.InvariantCulture)
        );
        Directory.CreateDirectory(aside, OwnFiles.FolderMode);
        foreach (var part in (string[])["", "-wal", "-shm", "-journal"])
            if (File.Exists(file + part))
                File.Move(file + part, System.IO.Path.Combine(aside, System.IO.Path.GetFileName(file) + part));
        SetAside = $"The data file was damaged ({damage}). It is kept as it was in {aside}.";
    }
}
