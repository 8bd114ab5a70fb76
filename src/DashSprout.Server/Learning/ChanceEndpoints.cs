using System.Globalization;
using DashSprout.Core.Bodies;
using DashSprout.Core.Learning;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Server.Engine;
using DashSprout.Server.Libraries;

namespace DashSprout.Server.Learning;

/// <summary>A snippet in a list of what could be better.</summary>
/// <param name="Trigger">Its first trigger; null for none.</param>
public sealed record ChanceSnippet(long Id, string Name, string Library, string? Trigger, string Preview);

/// <summary>A text that was typed in full although a snippet has it.</summary>
/// <param name="Keys">Keys that would have been saved.</param>
public sealed record MissedAnswer(ChanceSnippet Snippet, int Times, long Keys, string LastAt);

/// <summary>A snippet that was not used for long.</summary>
/// <param name="LastAt">When it was used last; null when it never was.</param>
public sealed record UnusedAnswer(ChanceSnippet Snippet, int Fired, string? LastAt);

/// <summary>Two snippets that are nearly the same.</summary>
/// <param name="Percent">How much of their words they share.</param>
public sealed record NearlySameAnswer(ChanceSnippet One, ChanceSnippet Other, int Percent);

/// <summary>Missed chances, snippets that are not used, and those that are nearly the same.</summary>
/// <param name="UnusedDays">For how long those that are listed were not used.</param>
/// <param name="UnusedInAll">How many there are, of which the first are listed.</param>
public sealed record ChancesAnswer(
    IReadOnlyList<MissedAnswer> Missed,
    IReadOnlyList<UnusedAnswer> Unused,
    int UnusedInAll,
    int UnusedDays,
    IReadOnlyList<NearlySameAnswer> NearlySame
);

internal static class ChanceEndpoints
{
    private const int UnusedDays = 90,
        Most = 200;

    public static void MapChances(this IEndpointRouteBuilder api) =>
        api.MapGet(
            "/learning/chances",
            (
                Learner learner,
                LibraryService libraryService,
                ChangeTimes times,
                FiringLog log,
                TimeProvider clock,
                CancellationToken cancellation
            ) =>
            {
                var now = libraryService.Tree;
                var savedAt = times.Of(now);
                var before = clock.GetUtcNow().AddDays(-UnusedDays);
                var unused = now
                    .Snippets.Where(item =>
                        IsUsable(now, item)
                        && !now.LibraryOf(item).Rules.BackspaceTakesBack
                        && (log.Use(item.Id)?.LastAt ?? savedAt.GetValueOrDefault(item.Id, before)) <= before
                    )
                    .ToList();
                return new ChancesAnswer(
                    [
                        .. learner
                            .Missed.Where(chance => now.Find(chance.SnippetId) is SnippetItem)
                            .OrderByDescending(chance => chance.Keys)
                            .Take(Most)
                            .Select(chance => new MissedAnswer(
                                Snippet(now, now.Get<SnippetItem>(chance.SnippetId)),
                                chance.Times,
                                chance.Keys,
                                Text(chance.LastAt)
                            )),
                    ],
                    [
                        .. unused
                            .OrderBy(item => log.Use(item.Id)?.LastAt ?? DateTimeOffset.MinValue)
                            .ThenBy(item => item.Name, StringComparer.CurrentCulture)
                            .Take(Most)
                            .Select(item => new UnusedAnswer(
                                Snippet(now, item),
                                log.Use(item.Id)?.Fired ?? 0,
                                log.Use(item.Id) is { } use ? Text(use.LastAt) : null
                            )),
                    ],
                    unused.Count,
                    UnusedDays,
                    [
                        .. NearlySame
                            .Pairs(
                                now.Snippets.Where(item => IsUsable(now, item))
                                    .Select(item => (item.Id, PreviewText.Of(item.Snippet.Body))),
                                Most,
                                cancellation
                            )
                            .Select(pair => new NearlySameAnswer(
                                Snippet(now, now.Get<SnippetItem>(pair.One)),
                                Snippet(now, now.Get<SnippetItem>(pair.Other)),
                                (int)Math.Round(100 * pair.Alike)
                            )),
                    ]
                );
            }
        );

    private static bool IsUsable(LibraryTree now, SnippetItem item) =>
        item.Snippet is { Enabled: true, Private: false }
        && now.LibraryOf(item).Enabled
        && now.OffFolderOf(item) is null;

    private static ChanceSnippet Snippet(LibraryTree now, SnippetItem item) =>
        new(
            item.Id,
            item.Name,
            now.LibraryOf(item).Name,
            item.Snippet.Triggers.FirstOrDefault(trigger => trigger is Trigger.Abbreviation or Trigger.Hotkey)?.Text,
            SnippetWords.Beginning(now, item)
        );

    private static string Text(DateTimeOffset moment) =>
        moment.ToString("yyyy-MM-dd'T'HH:mm:ssK", CultureInfo.InvariantCulture);
}
