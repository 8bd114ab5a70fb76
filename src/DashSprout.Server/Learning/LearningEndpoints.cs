using System.Globalization;
using DashSprout.Core;
using DashSprout.Core.Engine;
using DashSprout.Core.Learning;
using DashSprout.Core.Libraries;
using DashSprout.Core.Safety;
using DashSprout.Core.Triggers;
using DashSprout.Server.Libraries;
using DashSprout.Server.Safety;

namespace DashSprout.Server.Learning;

/// <summary>What may be done with what is typed, and how much was learned.</summary>
/// <param name="Phrases">How many phrases are remembered.</param>
/// <param name="Most">How many are at most.</param>
/// <param name="Fault">What was wrong with what had been learned; null when nothing was.</param>
public sealed record LearningAnswer(LearningSettings Settings, int Phrases, int Most, string? Fault);

/// <summary>A phrase that is remembered.</summary>
/// <param name="Code">What it is known by.</param>
/// <param name="Texts">How it was typed; several where it is another each time.</param>
/// <param name="LastAt">When it was typed last, as ISO 8601 writes it.</param>
/// <param name="Dismissed">Whether it is not to be proposed again.</param>
public sealed record PhraseAnswer(
    string Code,
    IReadOnlyList<string> Texts,
    int Times,
    string LastAt,
    IReadOnlyList<string> Apps,
    bool Dismissed
);

/// <summary>A part of a sprout: a text that stays the same, or what is another each time.</summary>
/// <param name="Kind">What a gap holds: <c>number</c>, <c>date</c> or <c>name</c>; null for a text.</param>
public sealed record SproutPart(string? Text, string? Kind, IReadOnlyList<string>? Texts);

/// <summary>An abbreviation that a sprout could have.</summary>
public sealed record SproutAbbreviation(string Text, double Per10kWords, string Grade, int Overlaps);

/// <summary>A phrase that is worth a snippet.</summary>
/// <param name="KeysAWeek">Keys that a snippet would have saved in a week.</param>
/// <param name="Abbreviation">A quiet one; null when none was found.</param>
public sealed record SproutAnswer(
    string Code,
    string Name,
    IReadOnlyList<SproutPart> Parts,
    int Times,
    int KeysAWeek,
    string LastAt,
    IReadOnlyList<string> Apps,
    SproutAbbreviation? Abbreviation
);

/// <summary>A sprout to grow into a snippet.</summary>
/// <param name="ParentId">Where it goes; null for the first library.</param>
public sealed record GrowRequest(string Name, string Abbreviation, long? ParentId = null);

internal static class LearningEndpoints
{
    private const int MostSprouts = 15;

    public static void MapLearning(this IEndpointRouteBuilder api)
    {
        api.MapGet("/learning", (Learner learner) => Answer(learner));

        api.MapPut("/learning/settings", (LearningSettings given, Learner learner) =>
        {
            learner.Choose(given);
            return Answer(learner);
        });

        api.MapGet("/learning/phrases", (Learner learner) =>
            learner.With(memory =>
                (IReadOnlyList<PhraseAnswer>)
                    [
                        .. memory
                            .Phrases.OrderByDescending(phrase => phrase.Times)
                            .ThenByDescending(phrase => phrase.Use.LastAt)
                            .Select(phrase => Answer(phrase, dismissed: false)),
                        .. memory.Dismissed.Select(phrase => Answer(phrase, dismissed: true)),
                    ]
            )
        );

        api.MapDelete("/learning/phrases/{code}", (string code, Learner learner) =>
        {
            learner.Change(memory => memory.Forget(Code(code))).OrMissing();
            return TypedResults.NoContent();
        });

        api.MapDelete("/learning", (Learner learner) =>
        {
            learner.Delete();
            return TypedResults.NoContent();
        });

        api.MapPost("/learning/restore", (Learner learner) =>
        {
            learner.Restore();
            return TypedResults.NoContent();
        });

        api.MapGet(
            "/learning/sprouts",
            (Learner learner, LibraryService libraryService, WordLists words, TimeProvider clock) =>
                Sprouts(learner, libraryService.Snapshot.Index, words.Current, clock)
        );

        api.MapPost("/learning/sprouts/{code}/dismiss", (string code, Learner learner, TimeProvider clock) =>
        {
            var sprout = Found(learner, code, clock);
            learner.Change(memory => sprout.Phrases.Count(phrase => memory.Dismiss(phrase.Code) is not null));
            return TypedResults.NoContent();
        });

        api.MapPost("/learning/sprouts/{code}/recall", (string code, Learner learner) =>
        {
            learner.Change(memory => memory.Recall(Code(code))).OrMissing();
            return TypedResults.NoContent();
        });

        api.MapPost(
            "/learning/sprouts/{code}/grow",
            (string code, GrowRequest given, Learner learner, LibraryService libraryService, TimeProvider clock) =>
            {
                var sprout = Found(learner, code, clock);
                var trigger = InvalidInputException.Within("abbreviation", () =>
                    new Trigger.Abbreviation(given.Abbreviation, TypingRules.For(given.Abbreviation), Scope.Everywhere)
                );
                var parent = given.ParentId ?? SnippetEndpoints.FirstLibrary(libraryService);
                var change = libraryService.Do(
                    (now, id) =>
                        Commands.AddSnippet(
                            now,
                            id,
                            parent,
                            new Snippet(
                                Commands.FreeName(now, parent, Names.Check("name", given.Name)),
                                true,
                                "",
                                false,
                                DeliveryWay.Automatic,
                                false,
                                sprout.Body,
                                new([trigger])
                            )
                        )
                );
                // One with fields is known by no text of its own.
                if (sprout.Phrase.Varies)
                    learner.Change(memory => memory.Dismiss(sprout.Phrase.Code));
                return SnippetEndpoints.Answer(
                    libraryService.Tree,
                    libraryService.Tree.Get<SnippetItem>(change.Items[0].Id)
                );
            }
        );
    }

    private static LearningAnswer Answer(Learner learner) =>
        new(learner.Chosen, learner.Phrases, PhraseMemory.MostPhrases, learner.Fault);

    private static PhraseAnswer Answer(Phrase phrase, bool dismissed) =>
        new(Text(phrase.Code), phrase.Texts, phrase.Times, Text(phrase.Use.LastAt), phrase.Apps, dismissed);

    private static IReadOnlyList<SproutAnswer> Sprouts(
        Learner learner,
        TriggerIndex index,
        WordList words,
        TimeProvider clock
    )
    {
        var answers = new List<SproutAnswer>();
        foreach (var sprout in Proposed(learner, clock))
        {
            var placed = PlacedSnippet.Unplaced(sprout.Name);
            var best = Suggestions.For(index, placed, TypingRules.For("x"), Scope.Everywhere, words) is [var first, ..]
                ? first
                : null;
            // No two sprouts are proposed the same abbreviation.
            if (best is not null)
                index = index.Change(
                    [],
                    [
                        placed with
                        {
                            Id = index.FreeId,
                            Snippet = placed.Snippet with
                            {
                                Triggers = new([
                                    new Trigger.Abbreviation(best.Text, TypingRules.For(best.Text), Scope.Everywhere),
                                ]),
                            },
                        },
                    ]
                );
            answers.Add(
                new SproutAnswer(
                    Text(sprout.Phrase.Code),
                    sprout.Name,
                    [
                        .. sprout.Parts.Select(part =>
                            part is SharedPart.Gap gap
                                ? new SproutPart(null, Wording.Of(gap.Kind), gap.Texts)
                                : new SproutPart(((SharedPart.Same)part).Text, null, null)
                        ),
                    ],
                    sprout.Phrase.Times,
                    sprout.KeysAWeek,
                    Text(sprout.Phrase.Use.LastAt),
                    sprout.Phrase.Apps,
                    best is null
                        ? null
                        : new SproutAbbreviation(
                            best.Text,
                            Math.Round(best.Per10kWords, 4),
                            Wording.Of(best.Grade),
                            best.Overlaps
                        )
                )
            );
        }
        return answers;
    }

    private static IReadOnlyList<Sprout> Proposed(Learner learner, TimeProvider clock) =>
        learner.With(memory => Sprout.Of(memory, clock.GetUtcNow(), learner.Following.Snippets.Has, MostSprouts));

    private static Sprout Found(Learner learner, string code, TimeProvider clock) =>
        Proposed(learner, clock).FirstOrDefault(sprout => Text(sprout.Phrase.Code) == code).OrMissing();

    private static T OrMissing<T>(this T? found)
        where T : class =>
        found
        ?? throw new InvalidInputException("code", "This phrase is not remembered any more. Look at the list again.");

    private static ulong Code(string text) =>
        ulong.TryParse(text, NumberStyles.HexNumber, CultureInfo.InvariantCulture, out var code)
            ? code
            : throw new InvalidInputException("code", "This is no phrase’s code. Look at the list again.");

    private static string Text(ulong code) => code.ToString("x16", CultureInfo.InvariantCulture);

    private static string Text(DateTimeOffset moment) =>
        moment.ToString("yyyy-MM-dd'T'HH:mm:ssK", CultureInfo.InvariantCulture);
}
