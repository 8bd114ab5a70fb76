using DashSprout.Core;
using DashSprout.Server.Behind;
using DashSprout.Server.Learning;
using DashSprout.Server.Libraries;
using DashSprout.Server.Mirrors;
using DashSprout.Server.Settings;
using DashSprout.Store.Data;

namespace DashSprout.Server.Notices;

/// <summary>Something the user should know of their data.</summary>
/// <param name="LookAt">Where there is more of it: <c>history</c>, <c>backups</c>, where the last good one may mend it,
/// <c>mirrors</c>, <c>sprouts</c> or
/// <c>behind</c>, what runs behind.</param>
public sealed record DataNotice(string Text, string LookAt);

/// <summary>Something in the data file that cannot be used.</summary>
public sealed record SetAsideAnswer(long Id, string Kind, string Document, string Why);

/// <summary>What the user should know of their data; both lists are empty when all is well.</summary>
public sealed record DataNotices(IReadOnlyList<DataNotice> Notices, IReadOnlyList<SetAsideAnswer> SetAside);

internal static class NoticeEndpoints
{
    public static void MapNotices(this IEndpointRouteBuilder api) =>
        api.MapGet(
            "/notices",
            (
                DataFolder folder,
                LibraryService libraryService,
                RenderContextSource contexts,
                Supervisor supervisor,
                MirroredLibraries mirrors,
                Learner learner
            ) =>
            {
                var notices = new List<DataNotice>();
                if (folder.SetAside is { } damaged)
                    notices.Add(new DataNotice($"{damaged} You can bring back the last good backup.", "backups"));
                if (libraryService.SetAside.Count > 0)
                    notices.Add(
                        new DataNotice(
                            $"{libraryService.SetAside.Count} {(libraryService.SetAside.Count == 1 ? "item" : "items")} in "
                                + "the data file cannot be used and stay aside as they are.",
                            "history"
                        )
                    );
                if (contexts.Fault is { } dates)
                    notices.Add(new DataNotice(dates, "history"));
                notices.AddRange(supervisor.Notices.Select(fault => new DataNotice(fault, "behind")));
                if (mirrors.Notice() is { } mirrored)
                    notices.Add(new DataNotice(mirrored, "mirrors"));
                if (learner.Fault is { } lost)
                    notices.Add(new DataNotice(lost, "sprouts"));
                return new DataNotices(
                    notices,
                    [
                        .. libraryService.SetAside.Select(item => new SetAsideAnswer(
                            item.Id,
                            Wording.Of(item.Kind),
                            item.Document,
                            item.Why
                        )),
                    ]
                );
            }
        );
}
