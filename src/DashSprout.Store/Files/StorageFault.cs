using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Files;

/// <summary>
/// Thrown when the program cannot start with a data folder as it is; the message says why and how to mend it.
/// </summary>
public sealed class UnusableDataException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>What the disk refuses, in words.</summary>
public static class StorageFault
{
    private const int Busy = 5,
        Locked = 6,
        ReadOnly = 8,
        InputOutput = 10,
        Corrupt = 11,
        Full = 13,
        CannotOpen = 14,
        NoDatabase = 26;

    /// <summary>Whether another program holds the file: <c>EAGAIN</c>, what a lock that is taken answers.</summary>
    public static bool IsHeld(IOException exception) => (exception.HResult & 0xFFFF) == 11;

    /// <summary>Whether others are reading or writing the file just now.</summary>
    public static bool IsBusy(SqliteException exception) => exception.SqliteErrorCode is Busy or Locked;

    /// <summary>Whether the disk is full.</summary>
    public static bool IsFull(Exception exception) =>
        exception is SqliteException { SqliteErrorCode: Full }
        || exception is IOException io && (io.HResult & 0xFFFF) is 28 or 122;

    /// <summary>Whether the file itself is damaged, or is no database.</summary>
    public static bool IsDamage(Exception exception) =>
        exception is SqliteException { SqliteErrorCode: Corrupt or NoDatabase };

    /// <summary>What happened and what to do, for the user; null for what is no matter of the disk.</summary>
    /// <param name="folder">The data folder.</param>
    public static string? Words(Exception exception, string folder) =>
        exception switch
        {
            _ when IsFull(exception) =>
                $"The disk is full: nothing was changed. Free some space for {folder}, then do it again.",
            SqliteException { SqliteErrorCode: ReadOnly or CannotOpen } or UnauthorizedAccessException =>
                $"The data folder {folder} cannot be written: nothing was changed. Give this account the "
                    + "right to write there, then do it again.",
            SqliteException { SqliteErrorCode: Busy or Locked } =>
                "Another program is working on the data file: nothing was changed. Do it again in a moment.",
            _ when IsDamage(exception) =>
                "The data file is damaged: nothing was changed. Restart the program; it sets the file aside "
                    + "and offers the last good backup.",
            SqliteException { SqliteErrorCode: InputOutput } or IOException =>
                $"The disk does not work as it should ({exception.Message}): nothing was changed. Look after "
                    + $"the disk that holds {folder}.",
            _ => null,
        };
}
