using System.Globalization;
using System.Text;
using DashSprout.Core;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Savings;
using DashSprout.Exchange.Files;
using DashSprout.Server.Libraries;
using DashSprout.Server.Settings;

namespace DashSprout.Server.Savings;

/// <summary>Counts together.</summary>
public sealed record SavingsFigures(
    long Expansions,
    long TakenBack,
    double TakenBackPercent,
    long Keys,
    double Minutes,
    long Characters,
    long Fields
);

/// <summary>The counts of a day.</summary>
/// <param name="Day">As ISO 8601 writes it.</param>
public sealed record SavingsDay(string Day, SavingsFigures Figures);

/// <summary>The counts of a snippet, a library or an application.</summary>
public sealed record SavingsShare(string Name, SavingsFigures Figures);

/// <summary>What was saved in a time.</summary>
/// <param name="WordsPerMinute">The pace by which minutes are worked out.</param>
/// <param name="Measured">Whether it is the user's own pace; otherwise it is the usual one.</param>
/// <param name="First">The first day with counts; null when there are none.</param>
public sealed record SavingsAnswer(
    string From,
    string To,
    SavingsFigures Total,
    IReadOnlyList<SavingsDay> Days,
    IReadOnlyList<SavingsShare> Snippets,
    IReadOnlyList<SavingsShare> Libraries,
    IReadOnlyList<SavingsShare> Apps,
    double WordsPerMinute,
    bool Measured,
    string? First
);

internal static class SavingsEndpoints
{
    private const int MostDays = 3660,
        MostShares = 50,
        Week = 7;

    public static void MapSavings(this IEndpointRouteBuilder api)
    {
        api.MapGet(
            "/savings",
            (int days, SavingsLog log, LibraryService libraryService, RenderContextSource contexts) =>
            {
                if (days is < 1 or > MostDays)
                    throw new InvalidInputException("days", $"Give a number of days from 1 to {MostDays}.");
                var (counts, pace) = log.All();
                var report = Report(counts, pace, days, libraryService, contexts);
                SavingsFigures Figures(SavingsSum sum) =>
                    new(
                        sum.Expansions,
                        sum.TakenBack,
                        Math.Round(100 * sum.TakenBackRate, 1),
                        sum.Keys,
                        Math.Round(report.Pace.MinutesFor(sum.Keys), 1),
                        sum.Characters,
                        sum.Fields
                    );
                IReadOnlyList<SavingsShare> Shares(IReadOnlyList<SavingsPart> parts) =>
                    [.. parts.Take(MostShares).Select(part => new SavingsShare(part.Name, Figures(part.Sum)))];
                return new SavingsAnswer(
                    Text(report.Days[0].Day),
                    Text(report.Days[^1].Day),
                    Figures(report.Total),
                    [.. report.Days.Select(day => new SavingsDay(Text(day.Day), Figures(day.Sum)))],
                    Shares(report.Snippets),
                    Shares(report.Libraries),
                    Shares(report.Apps),
                    Math.Round(report.Pace.WordsPerMinute, 1),
                    pace.IsMeasured,
                    counts.Count == 0 ? null : Text(counts[0].Day)
                );
            }
        );

        api.MapGet("/savings/summary", (SavingsLog log, LibraryService libraryService, RenderContextSource contexts) =>
        {
            var (counts, pace) = log.All();
            return TypedResults.Text(
                Report(counts, pace, Week, libraryService, contexts).Summary(),
                "text/plain; charset=utf-8"
            );
        });

        api.MapGet("/savings.csv", (SavingsLog log, LibraryService libraryService) =>
        {
            var names = Names(libraryService);
            var records = log.All()
                .Counts.Select(count =>
                    (IReadOnlyList<string>)
                        [
                            Text(count.Day),
                            names(count.SnippetId).Library,
                            names(count.SnippetId).Snippet,
                            count.App,
                            .. (
                                (long[])[count.Expansions, count.TakenBack, count.Keys, count.Characters, count.Fields]
                            ).Select(number => number.ToString(CultureInfo.InvariantCulture)),
                        ]
                );
            var text = DelimitedText.Write([
                [
                    "day",
                    "library",
                    "snippet",
                    "application",
                    "expansions",
                    "taken back",
                    "keystrokes saved",
                    "characters",
                    "fields filled",
                ],
                .. records,
            ]);
            return TypedResults.File(
                Encoding.UTF8.GetBytes($"\uFEFF{text}"),
                "text/csv; charset=utf-8",
                "dash-sprout-savings.csv"
            );
        });

        api.MapDelete("/savings", (SavingsLog log) =>
        {
            log.Delete();
            return TypedResults.NoContent();
        });

        api.MapPost("/savings/restore", (SavingsLog log) =>
        {
            log.Restore();
            return TypedResults.NoContent();
        });
    }

    private static SavingsReport Report(
        IReadOnlyList<SavingsCount> counts,
        TypingPace pace,
        int days,
        LibraryService libraryService,
        RenderContextSource contexts
    )
    {
        var today = contexts.Now().Now.Date.ToDateOnly();
        return SavingsReport.Of(counts, pace, today.AddDays(1 - days), today, Names(libraryService), app =>
            app.Length == 0 ? "elsewhere" : app
        );
    }

    /// <summary>The names of snippets; none of private ones, which are counted together.</summary>
    private static Func<long, (string Snippet, string Library)> Names(LibraryService libraryService)
    {
        var now = libraryService.Tree;
        return id =>
            id == PlacedSnippet.Unkept ? ("phrases taken", "phrases taken")
            : now.Find(id) is not SnippetItem item ? ("deleted since", "deleted since")
            : (item.Snippet.Private ? "private snippets" : item.Name, now.LibraryOf(item).Name);
    }

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
