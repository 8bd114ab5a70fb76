using System.Text.Json.Nodes;
using DashSprout.Core;
using DashSprout.Core.Engine;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Safety;
using DashSprout.Documents;
using DashSprout.Exchange.Lists;
using DashSprout.Server.Libraries;

namespace DashSprout.Server.Safety;

/// <summary>What to judge.</summary>
/// <param name="Libraries">Used instead of the stored ones when given; nothing is stored.</param>
/// <param name="Text">A text to replay; of no account for overlaps.</param>
/// <param name="App">The application the text is typed in.</param>
public sealed record SafetyRequest(
    IReadOnlyList<LibraryDocument>? Libraries = null,
    string? Text = null,
    string? App = null
);

/// <summary>A trigger by name; for a chord that something outside owns, the owner stands in <c>snippet</c>.</summary>
public sealed record TriggerName(string Library, string Snippet, string Trigger, long? SnippetId)
{
    internal static TriggerName Of(ActiveTrigger trigger) =>
        new(trigger.Placed.Library, trigger.Placed.Snippet.Name, trigger.Trigger.Text, trigger.Placed.Id);
}

/// <summary>The keys to type, the application to type them in, and what comes of it.</summary>
public sealed record WitnessAnswer(IReadOnlyList<JsonNode> Keys, string App, string Text)
{
    internal static WitnessAnswer Of(Witness witness) =>
        new([.. witness.Steps.Select(Written)], witness.App, witness.Text);

    private static JsonNode Written(RehearsalStep step) =>
        step switch
        {
            RehearsalStep.Press press => JsonValue.Create(press.Key.Value),
            RehearsalStep.Pause pause => new JsonObject { ["pause"] = pause.Milliseconds },
            _ => throw new ArgumentOutOfRangeException(nameof(step)),
        };
}

/// <summary>Two triggers that get in each other's way.</summary>
public sealed record OverlapAnswer(string Kind, TriggerName Winner, TriggerName Loser, WitnessAnswer Witness);

/// <summary>All overlaps.</summary>
public sealed record OverlapsAnswer(IReadOnlyList<OverlapAnswer> Overlaps);

/// <summary>A word that sets a trigger off by accident.</summary>
public sealed record MisfireWordAnswer(string Word, double Per10kWords);

/// <summary>The forecast of one trigger.</summary>
public sealed record MisfireAnswer(
    string Library,
    string Snippet,
    string Trigger,
    long SnippetId,
    double Per10kWords,
    string Grade,
    IReadOnlyList<MisfireWordAnswer> Words
);

/// <summary>A place in the replayed text; the offset counts graphemes.</summary>
public sealed record PlaceAnswer(int Offset, int Length, string Trigger, string Snippet, string Library);

/// <summary>Forecasts, and the places of a replayed text when one was given.</summary>
public sealed record MisfiresAnswer(
    IReadOnlyList<MisfireAnswer> Triggers,
    IReadOnlyList<PlaceAnswer>? Places,
    int? TextWords
);

internal static class SafetyEndpoints
{
    private const int LongestText = 5 * 1024 * 1024;

    public static void MapSafety(this IEndpointRouteBuilder api)
    {
        api.MapPost(
            "/overlaps",
            (SafetyRequest request, LibraryService libraryService, CancellationToken cancellation) =>
                new OverlapsAnswer([
                    .. new OverlapSearch(Index(request, libraryService)).All(cancellation: cancellation).Select(Answer),
                ])
        );

        api.MapPost(
            "/misfires",
            (SafetyRequest request, LibraryService libraryService, CancellationToken cancellation) =>
            {
                var index = Index(request, libraryService);
                var forecasts = Forecast.Of(index, WordListFile.English, cancellation: cancellation);
                IReadOnlyList<PlaceAnswer>? places = null;
                if (request.Text is { } text)
                {
                    CheckText(text);
                    places =
                    [
                        .. Replay
                            .Of(index, text.ReplaceLineEndings("\n"), request.App ?? "", cancellation)
                            .Select(place => new PlaceAnswer(
                                place.Offset,
                                place.Length,
                                place.Trigger.Trigger.Text,
                                place.Trigger.Placed.Snippet.Name,
                                place.Trigger.Placed.Library
                            )),
                    ];
                }
                return new MisfiresAnswer(
                    [.. forecasts.Select(forecast => Answer(forecast, Forecast.MostWords))],
                    places,
                    request.Text is null ? null : Replay.CountWords(request.Text)
                );
            }
        );
    }

    private static TriggerIndex Index(SafetyRequest request, LibraryService libraryService) =>
        request.Libraries is null
            ? libraryService.Snapshot.Index
            : TriggerIndex.Of(PlacedSnippet.All(LibraryFile.ToLibraries(request.Libraries)));

    /// <summary>Refuses what is too long or no text.</summary>
    internal static void CheckText(string text)
    {
        if (text.Length > LongestText)
            throw new InvalidInputException("text", "The text is longer than 5 MB. Replay a part of it.");
        var strange = text.Count(letter =>
            letter is '\uFFFD' || (char.IsControl(letter) && letter is not ('\n' or '\r' or '\t' or '\f'))
        );
        if (text.Contains('\0', StringComparison.Ordinal) || strange > 10 + text.Length / 1000)
            throw new InvalidInputException(
                "text",
                "This is no text: it holds characters that nobody types. Choose a plain text file in UTF-8."
            );
    }

    internal static OverlapAnswer Answer(Overlap overlap) =>
        new(
            Wording.Of(overlap.Kind),
            overlap.Winner is { } winner
                ? TriggerName.Of(winner)
                : new TriggerName("", overlap.Owner ?? "", overlap.Loser.Trigger.Text, null),
            TriggerName.Of(overlap.Loser),
            WitnessAnswer.Of(overlap.Witness)
        );

    internal static MisfireAnswer Answer(MisfireForecast forecast, int words)
    {
        var placed = forecast.Trigger.Placed;
        return new MisfireAnswer(
            placed.Library,
            placed.Snippet.Name,
            forecast.Trigger.Trigger.Text,
            placed.Id,
            Math.Round(forecast.Per10kWords, 4),
            Wording.Of(forecast.Grade),
            [
                .. forecast
                    .Words.Take(words)
                    .Select(word => new MisfireWordAnswer(word.Word, Math.Round(word.Per10kWords, 4))),
            ]
        );
    }
}
