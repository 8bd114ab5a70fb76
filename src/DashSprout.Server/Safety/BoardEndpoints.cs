using DashSprout.Core;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Safety;
using DashSprout.Core.Triggers;
using DashSprout.Documents;
using DashSprout.Server.Libraries;
using DashSprout.Server.Settings;
using DashSprout.Store.Features;

namespace DashSprout.Server.Safety;

internal static class BoardEndpoints
{
    private const int MostWords = 8;
    private const int MostTyped = 200;

    public static void MapBoard(this IEndpointRouteBuilder api)
    {
        api.MapGet("/safety", Board);
        api.MapPost(
            "/safety/work",
            (SafetyBoard board, SafetyStore store, LibraryService libraryService, WordLists lists) =>
            {
                board.Look(again: true);
                return Board(board, store, libraryService, lists);
            }
        );
        api.MapDelete(
            "/safety/work",
            (SafetyBoard board, SafetyStore store, LibraryService libraryService, WordLists lists) =>
            {
                board.Stop();
                return Board(board, store, libraryService, lists);
            }
        );
        api.MapPut("/safety/ignored", (OverlapChoice choice, SafetyStore store) =>
        {
            Wording.Parse<OverlapKind>("kind", choice.Kind);
            store.Ignore(
                new IgnoredOverlap(
                    choice.Kind,
                    choice.WinnerSnippetId ?? 0,
                    choice.WinnerTrigger,
                    choice.LoserSnippetId,
                    choice.LoserTrigger
                ),
                choice.Ignored
            );
        });
        api.MapDelete("/safety/record", (long snippetId, string trigger, SafetyStore store) =>
            store.Forget(snippetId, trigger)
        );
        api.MapPost(
            "/safety/draft",
            (DraftRequest request, LibraryService libraryService, WordLists lists, RenderContextSource contexts) =>
                Draft(request, libraryService.Snapshot, lists.Current, contexts)
        );
        api.MapPost(
            "/safety/suggestions",
            (SuggestionRequest request, LibraryService libraryService, WordLists lists) =>
                Suggest(request, libraryService.Snapshot, lists.Current)
        );
        api.MapPost("/safety/replay", ReplayAnswers.Of);
        api.MapGet("/word-lists", (WordLists lists) => lists.All());
        api.MapPost("/word-lists", (NewWordList given, WordLists lists) => lists.Add(given));
        api.MapPut("/word-lists/chosen", (WordListChoice choice, WordLists lists) => lists.Choose(choice.Id));
        api.MapDelete("/word-lists/{id:long}", (long id, WordLists lists) => lists.Remove(id));
    }

    private static BoardAnswer Board(
        SafetyBoard board,
        SafetyStore store,
        LibraryService libraryService,
        WordLists lists
    )
    {
        var (state, progress, result) = board.Look();
        var ignored = store.Ignored();
        var snapshot = libraryService.Snapshot;
        var all = lists.All();
        return new BoardAnswer(
            Wording.Of(state),
            Math.Round(progress, 3),
            snapshot.Index.All.Count(trigger => trigger.Placed.Active),
            [
                .. result
                    .Overlaps.All.Select(SafetyEndpoints.Answer)
                    .Select(overlap => new StoredOverlap(
                        overlap,
                        ignored.Contains(
                            new IgnoredOverlap(
                                overlap.Kind,
                                overlap.Winner.SnippetId ?? 0,
                                overlap.Winner.Trigger,
                                overlap.Loser.SnippetId!.Value,
                                overlap.Loser.Trigger
                            )
                        )
                    )),
            ],
            [
                .. result
                    .Forecasts.Where(forecast => forecast.Grade != MisfireGrade.Quiet)
                    .Select(forecast => SafetyEndpoints.Answer(forecast, MostWords)),
            ],
            [
                .. store
                    .TakenBack()
                    .Where(record => libraryService.Tree.Find(record.SnippetId) is SnippetItem)
                    .Select(record =>
                    {
                        var snippet = libraryService.Tree.Get<SnippetItem>(record.SnippetId);
                        var atOnce = snippet.Snippet.Triggers.Any(trigger =>
                            trigger.Text == record.TriggerText
                            && trigger
                                is Trigger.Abbreviation { Rules.Timing: Timing.AtOnce }
                                    or Trigger.Pattern { Rules.Timing: Timing.AtOnce }
                        );
                        return new TakenBackAnswer(
                            record.SnippetId,
                            libraryService.Tree.LibraryOf(snippet).Name,
                            snippet.Snippet.Name,
                            record.TriggerText,
                            record.Fired,
                            record.TakenBack,
                            atOnce
                        );
                    }),
            ],
            all.Lists.First(list => list.Id == all.Chosen).Name
        );
    }

    /// <summary>Judges a draft as if it and its library were on, in the place of the stored snippet.</summary>
    private static DraftAnswer Draft(
        DraftRequest request,
        LibrarySnapshot snapshot,
        WordList words,
        RenderContextSource contexts
    )
    {
        var placed = Placed(snapshot, request.SnippetId, request.Snippet.Name ?? "");
        var parsed = (request.Snippet.Triggers ?? []).Select(document => Parse(document)).ToList();
        var valid = parsed.Where(trigger => trigger.Trigger is not null).Select(trigger => trigger.Trigger!).ToList();
        placed = placed with
        {
            Snippet = placed.Snippet with
            {
                Triggers = new(valid),
                Body = BodyOf(request.Snippet) ?? placed.Snippet.Body,
            },
        };
        var index = snapshot.Index.Change([placed.Id], [placed]);
        var triggers = index.TriggersOf(placed.Id);
        var search = new OverlapSearch(index);
        var forecasts = Forecast.Of(TriggerIndex.Of([placed]), words).ToLookup(forecast => forecast.Trigger.Trigger);
        var context = contexts.Now();
        var at = 0;
        return new DraftAnswer([
            .. parsed.Select(
                (found, place) =>
                {
                    if (found.Error is { } error)
                        return new DraftTrigger(error, null, [], []);
                    var trigger = triggers[at++];
                    return new DraftTrigger(
                        null,
                        forecasts[trigger.Trigger].FirstOrDefault() is { } forecast
                            ? SafetyEndpoints.Answer(forecast, MostWords)
                            : null,
                        [.. search.Of(trigger).Select(SafetyEndpoints.Answer)],
                        [
                            .. TryOut
                                .Of(index, trigger, context)
                                .Concat(OwnTry(trigger, place))
                                .Select(tried => new TryAnswer(
                                    [.. tried.Keys.Select(key => key.Value)],
                                    tried.WentOff,
                                    tried.Text,
                                    tried.Why
                                )),
                        ]
                    );
                }
            ),
        ]);

        IEnumerable<TriedKeys> OwnTry(ActiveTrigger trigger, int place) =>
            request.Typed?.ElementAtOrDefault(place) is not { Length: > 0 } typed ? []
            : typed.Length <= MostTyped ? [TryOut.Typing(index, trigger, typed, context)]
            : throw new InvalidInputException($"typed[{place}]", $"At most {MostTyped} characters can be tried.");
    }

    /// <summary>The body on the page; null while it cannot be read, which the page says beside it.</summary>
    private static Core.Bodies.Body? BodyOf(SnippetDocument document)
    {
        try
        {
            return (document with { Name = "draft", Triggers = null }).ToSnippet().Body;
        }
        catch (InvalidInputException)
        {
            return null;
        }
    }

    private static (Trigger? Trigger, string? Error) Parse(TriggerDocument document)
    {
        try
        {
            return (document.ToTrigger(), null);
        }
        catch (InvalidInputException exception)
        {
            return (null, exception.Message);
        }
    }

    private static List<SuggestionAnswer> Suggest(SuggestionRequest request, LibrarySnapshot snapshot, WordList words)
    {
        var rules = TypingRules.For("x");
        var scope = Scope.Everywhere;
        if (
            request.Trigger is { } document
            && (document with { Kind = "abbreviation", Text = "x" }).ToTrigger() is Trigger.Abbreviation wanted
        )
            (rules, scope) = (wanted.Rules, wanted.Scope);
        var placed = Placed(snapshot, request.SnippetId, request.Name);
        // The snippet's other triggers stay; the one that is replaced goes.
        var others = placed.Snippet.Triggers.Where((_, at) => at != request.At);
        var index = snapshot.Index.Change(
            [placed.Id],
            [placed with { Snippet = placed.Snippet with { Triggers = new(others) } }]
        );
        return
        [
            .. Suggestions
                .For(index, placed with { Snippet = placed.Snippet with { Name = request.Name } }, rules, scope, words)
                .Select(suggestion => new SuggestionAnswer(
                    suggestion.Text,
                    Wording.Of(suggestion.Kind),
                    Math.Round(suggestion.Per10kWords, 4),
                    Wording.Of(suggestion.Grade),
                    suggestion.Overlaps,
                    suggestion.Length
                )),
        ];
    }

    private static PlacedSnippet Placed(LibrarySnapshot snapshot, long? snippetId, string name)
    {
        if (snippetId is not { } id)
            return PlacedSnippet.Unplaced(name);
        var stored = snapshot.Placed(id);
        return stored.SwitchedOn;
    }
}
