using DashSprout.Server.Behind;
using DashSprout.Store.Data;
using DashSprout.Store.Items;

namespace DashSprout.Server.Backups;

/// <summary>Once a day: a backup, and letting go of what is old.</summary>
internal sealed class Housekeeping : IWorksBehind
{
    private static readonly TimeSpan Round = TimeSpan.FromHours(1);

    public Housekeeping(BackupStore backups, HistoryStore history, MediaStore media, TimeProvider clock) =>
        Works = [
            new WorkBehind(
                "The daily backup",
                "Makes a backup on each day of use, thins out old ones, and lets go of what is old in the bin and in "
                    + "earlier versions.",
                Round,
                _ =>
                {
                    var now = clock.GetUtcNow();
                    if (!backups.List().Any(backup => IsOf(backup, now)))
                        backups.Make(BackupReason.Daily, now);
                    backups.Thin();
                    history.Tidy(now);
                    media.Tidy();
                    return Task.CompletedTask;
                }
            ),
        ];

    public IEnumerable<WorkBehind> Works { get; }

    private static bool IsOf(Backup backup, DateTimeOffset now) =>
        backup.Reason == BackupReason.Daily && backup.At.UtcDateTime.Date == now.UtcDateTime.Date;
}
