using DashSprout.Store;

namespace DashSprout.Server.Backups;

/// <summary>
/// Once a day: a backup, and letting go of what is old. What fails is said to the user and tried again an hour later.
/// </summary>
internal sealed class Housekeeping(
    DataFolder folder,
    BackupStore backups,
    HistoryStore history,
    TimeProvider clock,
    ILogger<Housekeeping> log
) : BackgroundService
{
    private static readonly TimeSpan Round = TimeSpan.FromHours(1);

    /// <summary>Why the last round failed; null when all is well.</summary>
    public string? Fault { get; private set; }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Round, clock);
        try
        {
            do
            {
                // Starting comes first.
                await Task.Run(DoRound, stoppingToken);
            } while (await timer.WaitForNextTickAsync(stoppingToken));
        }
        catch (OperationCanceledException)
        {
            // The program ends.
        }
    }

    private void DoRound()
    {
        try
        {
            var now = clock.GetUtcNow();
            if (
                !backups
                    .List()
                    .Any(backup =>
                        backup.Reason == BackupReason.Daily && backup.At.UtcDateTime.Date == now.UtcDateTime.Date
                    )
            )
                backups.Make(BackupReason.Daily, now);
            backups.Thin();
            history.Tidy(now);
            Fault = null;
        }
        catch (Exception exception) when (StorageFault.Words(exception, folder.Path) is not null)
        {
            Fault = $"The daily backup could not be made. {StorageFault.Words(exception, folder.Path)}";
            log.LogError(exception, "The daily backup could not be made");
        }
    }
}
