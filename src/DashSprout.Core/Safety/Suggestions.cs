using System.Globalization;
using System.Text;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Safety;

/// <summary>How a suggested abbreviation is made.</summary>
public enum SuggestionKind
{
    /// <summary>The initials of the name behind the sign that is used most.</summary>
    LeadingSign,

    /// <summary>The initials of the name.</summary>
    Initials,

    /// <summary>The consonants of the name's first word.</summary>
    Consonants,

    /// <summary>The initials before a sign.</summary>
    TrailingSign,

    /// <summary>The first word with its first letter doubled.</summary>
    DoubledLetter,

    /// <summary>The initials behind a short word.</summary>
    PrefixWord,

    /// <summary>The first letters of each word.</summary>
    Beginnings,
}

/// <summary>An abbreviation that could be taken, with what is to be expected of it.</summary>
/// <param name="Overlaps">How many triggers it would get in the way of, or they in its.</param>
public sealed record Suggestion(
    string Text,
    SuggestionKind Kind,
    double Per10kWords,
    MisfireGrade Grade,
    int Overlaps,
    int Length
);

/// <summary>
/// Makes abbreviations from a snippet's name and the user's habits: quiet ones first, then short ones.
/// </summary>
public static class Suggestions
{
    private const string DefaultSign = ";";
    private const string PrefixWord = "my";

    /// <summary>Words that say nothing about a snippet.</summary>
    private static readonly string[] Fillers =
    [
        "a",
        "an",
        "and",
        "at",
        "by",
        "for",
        "in",
        "is",
        "of",
        "on",
        "or",
        "the",
        "to",
        "with",
    ];

    /// <summary>The sign that begins most abbreviations of an index; a semicolon when none does.</summary>
    public static string UsualSign(TriggerIndex index) =>
        index
            .All.Where(trigger =>
                trigger.Trigger is Trigger.Abbreviation
                && !Rune.IsLetterOrDigit(Rune.GetRuneAt(trigger.Trigger.Text, 0))
            )
            .GroupBy(trigger => Rune.GetRuneAt(trigger.Trigger.Text, 0).ToString())
            .OrderByDescending(sign => sign.Count())
            .ThenBy(sign => sign.Key, StringComparer.Ordinal)
            .FirstOrDefault()
            ?.Key
        ?? DefaultSign;

    /// <summary>Judges candidates for a snippet.</summary>
    /// <param name="index">All triggers but the one that is to be replaced.</param>
    /// <param name="placed">Where the snippet stands; its triggers are of no account.</param>
    /// <param name="rules">The rules the abbreviation will have; the left edge follows each text.</param>
    public static IReadOnlyList<Suggestion> For(
        TriggerIndex index,
        PlacedSnippet placed,
        TypingRules rules,
        Scope scope,
        WordList words
    )
    {
        var sign = UsualSign(index);
        var candidates = Candidates(placed.Snippet.Name, sign)
            .DistinctBy(candidate => candidate.Text)
            .Select(
                (candidate, at) =>
                    (
                        candidate.Kind,
                        Snippet: placed.SwitchedOn with
                        {
                            Id = index.FreeId + at,
                            Snippet = placed.Snippet with
                            {
                                Enabled = true,
                                Triggers = new([
                                    new Trigger.Abbreviation(
                                        candidate.Text,
                                        rules with
                                        {
                                            LeftEdge = TypingRules.DefaultLeftEdge(candidate.Text),
                                        },
                                        scope
                                    ),
                                ]),
                            },
                        }
                    )
            )
            .ToList();
        var forecasts = Forecast
            .Of(TriggerIndex.Of(candidates.Select(candidate => candidate.Snippet)), words)
            .ToDictionary(forecast => forecast.Trigger.Placed.Id);
        return
        [
            .. candidates
                .Select(candidate =>
                {
                    var with = index.Change([], [candidate.Snippet]);
                    var trigger = with.TriggersOf(candidate.Snippet.Id)[0];
                    var forecast = forecasts[candidate.Snippet.Id];
                    return new Suggestion(
                        trigger.Trigger.Text,
                        candidate.Kind,
                        forecast.Per10kWords,
                        forecast.Grade,
                        new OverlapSearch(with).Of(trigger).Count,
                        Graphemes.Count(trigger.Trigger.Text)
                    );
                })
                .OrderBy(suggestion => suggestion.Grade)
                .ThenBy(suggestion => suggestion.Overlaps)
                .ThenBy(suggestion => suggestion.Length),
        ];
    }

    private static IEnumerable<(string Text, SuggestionKind Kind)> Candidates(string name, string sign)
    {
        var words = name.Normalize(NormalizationForm.FormC)
            .ToLowerInvariant()
            .Split(
                [.. name.ToLowerInvariant().Where(letter => !char.IsLetterOrDigit(letter))],
                StringSplitOptions.RemoveEmptyEntries
            );
        if (Array.FindAll(words, word => !Fillers.Contains(word)) is { Length: > 0 } telling)
            words = telling;
        if (words.Length == 0)
            words = ["snippet"];
        var first = words[0];
        var consonants = string.Concat(first.Where(letter => !IsVowel(letter)));
        // A single word has no initials worth the name; its consonants stand in for them.
        var initials =
            words.Length > 1
                ? string.Concat(words.Take(4).Select(word => word[0]))
                : Start(consonants.Length > 1 ? consonants : first, 3);
        yield return (sign + initials, SuggestionKind.LeadingSign);
        yield return (sign + first, SuggestionKind.LeadingSign);
        yield return (initials, SuggestionKind.Initials);
        if (consonants.Length > 1)
            yield return (Start(consonants, 4), SuggestionKind.Consonants);
        yield return (initials + sign, SuggestionKind.TrailingSign);
        yield return (first[0] + first, SuggestionKind.DoubledLetter);
        yield return (first[0] + initials, SuggestionKind.DoubledLetter);
        yield return (PrefixWord + initials, SuggestionKind.PrefixWord);
        if (words.Length > 1)
            yield return (string.Concat(words.Take(3).Select(word => Start(word, 2))), SuggestionKind.Beginnings);
    }

    private static string Start(string word, int length) => word.Length <= length ? word : word[..length];

    private static bool IsVowel(char letter) =>
        "aeiou".Contains(letter.ToString().Normalize(NormalizationForm.FormD)[0], StringComparison.Ordinal)
        || CharUnicodeInfo.GetUnicodeCategory(letter) == UnicodeCategory.DecimalDigitNumber;
}
