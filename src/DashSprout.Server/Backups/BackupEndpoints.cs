using System.Globalization;
using DashSprout.Core;
using DashSprout.Server.Data;
using DashSprout.Server.Hosting;
using DashSprout.Store.Data;
using DashSprout.Store.Items;

namespace DashSprout.Server.Backups;

/// <summary>A backup in the list.</summary>
/// <param name="Reason"><c>daily</c>, <c>before-import</c>, <c>before-restore</c>, <c>before-update</c>, <c>asked</c>
/// or <c>brought-in</c>.</param>
public sealed record BackupAnswer(
    string Name,
    string Reason,
    DateTimeOffset At,
    long Bytes,
    int Libraries,
    int Snippets
);

/// <summary>How long things are kept.</summary>
public sealed record KeepingRules(
    int BackupDays,
    int BackupWeeks,
    int BackupMonths,
    int BackupOthers,
    int BinDays,
    int EveryVersionDays,
    int DailyVersionDays
);

internal static class BackupEndpoints
{
    private const long LargestFile = 4L * 1024 * 1024 * 1024;

    public static void MapBackups(this IEndpointRouteBuilder api)
    {
        api.MapGet("/backups", (BackupStore backups) => backups.List().Select(Answer).ToArray());

        api.MapPost("/backups", (BackupStore backups, TimeProvider clock) =>
            Answer(backups.Make(BackupReason.Asked, clock.GetUtcNow()))
        );

        api.MapPost(
                "/backups/file",
                async Task<BackupAnswer> (HttpRequest request, BackupStore backups, TimeProvider clock) =>
                    Answer(await backups.BringIn(request.Body, clock.GetUtcNow(), request.HttpContext.RequestAborted))
            )
            .Accepts<IFormFile>("application/octet-stream")
            .WithMetadata(new SizeLimit(LargestFile));

        api.MapGet("/backups/{name}/file", (string name, BackupStore backups) =>
                Results.File(backups.PathOf(name), "application/vnd.sqlite3", $"dash-sprout-{name}")
            )
            .ExcludeFromDescription();

        api.MapPost("/backups/{name}/restore", (string name, BackupStore backups, DataSession session) =>
        {
            var backup = backups.List().FirstOrDefault(backup => backup.Name == name);
            return Answer(
                session.Restore(
                    name,
                    "Restored the backup of "
                        + $"{backup?.At.ToLocalTime().ToString("d MMMM yyyy, HH:mm", CultureInfo.InvariantCulture)}"
                )
            );
        });

        api.MapGet("/backups/rules", () =>
            new KeepingRules(
                BackupStore.Days,
                BackupStore.Weeks,
                BackupStore.Months,
                BackupStore.Others,
                HistoryStore.DaysInBin,
                HistoryStore.DaysOfEveryVersion,
                HistoryStore.DaysOfDailyVersions
            )
        );
    }

    private static BackupAnswer Answer(Backup backup) =>
        new(backup.Name, Wording.Of(backup.Reason), backup.At, backup.Bytes, backup.Libraries, backup.Snippets);
}
