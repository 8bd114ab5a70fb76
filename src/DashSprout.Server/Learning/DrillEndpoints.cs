using System.Globalization;
using DashSprout.Core;
using DashSprout.Core.Learning;
using DashSprout.Core.Libraries;
using DashSprout.Core.Slips;
using DashSprout.Core.Triggers;
using DashSprout.Server.Engine;
using DashSprout.Server.Libraries;
using DashSprout.Server.Settings;
using DashSprout.Store.Features;

namespace DashSprout.Server.Learning;

/// <summary>An abbreviation to be typed.</summary>
/// <param name="Name">The snippet's name.</param>
/// <param name="GoesIn">How its text begins.</param>
/// <param name="Trigger">What is to be typed.</param>
/// <param name="Closes">Whether a closing key is typed behind it.</param>
/// <param name="Box">How far it has come, from 0 for one that was never known.</param>
public sealed record DrillQuestion(long SnippetId, string Name, string GoesIn, string Trigger, bool Closes, int Box);

/// <summary>How many were known on a day.</summary>
public sealed record DrillDayAnswer(string Day, int Known, int Unknown);

/// <summary>A drill, and how far one has come.</summary>
/// <param name="Known">Abbreviations that are known by now.</param>
/// <param name="Learning">Those that were asked and are not known yet.</param>
/// <param name="New">Those that were never asked.</param>
public sealed record DrillAnswer(
    IReadOnlyList<DrillQuestion> Questions,
    int Known,
    int Learning,
    int New,
    IReadOnlyList<DrillDayAnswer> Days
);

/// <summary>How one abbreviation was answered.</summary>
public sealed record DrillResult(long SnippetId, string Trigger, bool Right);

internal static class DrillEndpoints
{
    /// <summary>
    /// What the fields of a drill are called where applications are named: nothing that is typed there counts as work.
    /// </summary>
    public const string App = "drill";

    private const int Most = 25,
        MostNew = 8,
        MostDays = 30;

    public static void MapDrill(this IEndpointRouteBuilder api)
    {
        api.MapGet(
            "/drill",
            (LibraryService libraryService, DrillStore store, FiringLog log, RenderContextSource contexts) =>
                Drill(libraryService.Tree, store, log, Today(contexts))
        );

        api.MapPost(
            "/drill/answers",
            (
                DrillResult result,
                LibraryService libraryService,
                DrillStore store,
                FiringLog log,
                RenderContextSource contexts
            ) =>
            {
                var item = libraryService.Tree.Get<SnippetItem>(result.SnippetId);
                if (item.Snippet.Triggers.All(trigger => trigger.Text != result.Trigger))
                    throw new InvalidInputException(
                        "trigger",
                        $"“{item.Name}” has no abbreviation “{result.Trigger}” any more."
                    );
                var today = Today(contexts);
                var card = store.Cards().GetValueOrDefault((result.SnippetId, result.Trigger))
                    ?? DrillCard.New(result.SnippetId, result.Trigger);
                store.Answered(card.Answered(result.Right, today), result.Right, today);
                return Drill(libraryService.Tree, store, log, today);
            }
        );
    }

    private static DrillAnswer Drill(LibraryTree now, DrillStore store, FiringLog log, DateOnly today)
    {
        var kept = store.Cards();
        var cards = now
            .Snippets.SelectMany(item => Asked(now, item))
            .Select(asked =>
                kept.GetValueOrDefault((asked.Id, asked.Trigger)) ?? DrillCard.New(asked.Id, asked.Trigger)
            )
            .ToList();
        var questions = DrillCard
            .Chosen(cards, today, id => log.Use(id)?.Fired ?? 0, Most, MostNew)
            .Select(card =>
            {
                var item = now.Get<SnippetItem>(card.SnippetId);
                return new DrillQuestion(
                    item.Id,
                    item.Name,
                    SnippetWords.Beginning(now, item),
                    card.Trigger,
                    item.Snippet.Triggers.First(trigger => trigger.Text == card.Trigger).Typing?.Timing
                        != Timing.AtOnce,
                    card.Box
                );
            });
        return new DrillAnswer(
            [.. questions],
            cards.Count(card => card.Box >= DrillCard.KnownFrom),
            cards.Count(card => !card.IsNew && card.Box < DrillCard.KnownFrom),
            cards.Count(card => card.IsNew),
            [
                .. store
                    .Days(MostDays)
                    .Select(day => new DrillDayAnswer(
                        day.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                        day.Known,
                        day.Unknown
                    )),
            ]
        );
    }

    /// <summary>
    /// The first abbreviation of a snippet that can be practised: one that works everywhere, whose text goes in without
    /// asking. Words that are corrected are nobody's to learn, and what is private is not shown.
    /// </summary>
    private static IEnumerable<(long Id, string Trigger)> Asked(LibraryTree now, SnippetItem item)
    {
        var library = now.LibraryOf(item);
        if (
            !item.Snippet.Enabled
            || item.Snippet.Private
            || !library.Enabled
            || library.Rules.BackspaceTakesBack
            || now.OffFolderOf(item) is not null
        )
            yield break;
        if (
            item
                .Snippet.Triggers.OfType<Trigger.Abbreviation>()
                .FirstOrDefault(trigger => trigger.Scope == Scope.Everywhere)
            is not { } abbreviation
        )
            yield break;
        if (item.Snippet.Body is Core.Bodies.Body.Html && Slip.Of(item.Snippet.Body, now.FindBody) is not null)
            yield break;
        yield return (item.Id, abbreviation.Text);
    }

    private static DateOnly Today(RenderContextSource contexts) => contexts.Now().Now.Date.ToDateOnly();
}
