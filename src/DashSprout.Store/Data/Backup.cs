namespace DashSprout.Store.Data;

/// <summary>Why a backup was made.</summary>
public enum BackupReason
{
    /// <summary>Once a day.</summary>
    Daily,

    /// <summary>Before libraries were brought in.</summary>
    BeforeImport,

    /// <summary>Before another backup was restored.</summary>
    BeforeRestore,

    /// <summary>Before a newer program brought the data up to date.</summary>
    BeforeUpdate,

    /// <summary>The user asked for it.</summary>
    Asked,

    /// <summary>The user brought the file.</summary>
    BroughtIn,
}

/// <summary>A backup: one file that holds everything.</summary>
/// <param name="Name">Its file name, which identifies it.</param>
public sealed record Backup(
    string Name,
    BackupReason Reason,
    DateTimeOffset At,
    long Bytes,
    int Libraries,
    int Snippets
);
