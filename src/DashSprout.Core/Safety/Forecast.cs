using System.Globalization;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Safety;

/// <summary>How much a trigger goes off by accident.</summary>
public enum MisfireGrade
{
    /// <summary>Less than 0.1 times in 10 000 words.</summary>
    Quiet,

    /// <summary>Less than once.</summary>
    Rare,

    /// <summary>Less than ten times.</summary>
    Nagging,

    /// <summary>Ten times or more.</summary>
    Unusable,
}

/// <summary>A word that sets a trigger off, and how often it comes in 10 000 words.</summary>
public sealed record MisfireWord(string Word, double Per10kWords);

/// <summary>The accidental firings of a trigger that are to be expected in 10 000 words of ordinary text.</summary>
/// <param name="Words">The words that cause them, most frequent first; at most
/// <see cref="Forecast.MostWords"/>.</param>
public sealed record MisfireForecast(ActiveTrigger Trigger, double Per10kWords, IReadOnlyList<MisfireWord> Words)
{
    /// <summary>The grade.</summary>
    public MisfireGrade Grade =>
        Per10kWords switch
        {
            < 0.1 => MisfireGrade.Quiet,
            < 1 => MisfireGrade.Rare,
            < 10 => MisfireGrade.Nagging,
            _ => MisfireGrade.Unusable,
        };
}

/// <summary>
/// Runs the engine's own rules over a word list: each word followed by a closing key, as it is written and with a
/// capital as at a sentence's start. Each trigger is judged by itself, in the applications of its scope, whatever other
/// triggers would do. Nobody presses a closing key twice by accident.
/// </summary>
public static class Forecast
{
    /// <summary>How many causing words are kept for a trigger.</summary>
    public const int MostWords = 50;

    private const int FewTriggers = 32;

    /// <summary>One word in fifteen begins a sentence (common practice: fifteen words to a sentence).</summary>
    public const double SentenceStarts = 1.0 / 15;

    /// <summary>The forecasts of all typed triggers of an index, the worst first.</summary>
    /// <param name="progress">Told the part that is done, from 0 to 1.</param>
    public static IReadOnlyList<MisfireForecast> Of(
        TriggerIndex index,
        WordList list,
        IProgress<double>? progress = null,
        CancellationToken cancellation = default
    )
    {
        var triggers = index.All.Where(trigger => trigger.Rules is not null && trigger.Placed.Active).ToList();
        var causes = triggers.ToDictionary(trigger => trigger, _ => new List<MisfireWord>());
        // Most sets hold Space; a trigger whose set does not is tried with its own first key.
        var closings = triggers
            .Where(trigger => trigger.Rules!.Timing != Timing.AtOnce)
            .Select(Closing)
            .OfType<Key>()
            .Append(Key.Typed(" "))
            .Distinct()
            .ToList();
        var heedsCase = triggers.Exists(HeedsCase);

        var needed = Needed(triggers, closings);
        var typing = new EveryMatch(index);
        var lower = new HashSet<ActiveTrigger>();
        var capital = new HashSet<ActiveTrigger>();
        for (var at = 0; at < list.Words.Count; at++)
        {
            if (at % 4096 == 0)
            {
                cancellation.ThrowIfCancellationRequested();
                progress?.Report((double)at / list.Words.Count);
            }
            if (
                needed is not null
                && !Array.Exists(needed, text => list.Folded[at].Contains(text, StringComparison.Ordinal))
            )
                continue;
            var (word, count) = list.Words[at];
            Type(typing, word, closings, lower);
            if (!heedsCase)
            {
                foreach (var trigger in lower)
                    Add(trigger, word, count);
                continue;
            }
            Type(typing, Capitalised(word), closings, capital);
            foreach (var trigger in lower)
                Add(
                    trigger,
                    word,
                    !HeedsCase(trigger) || capital.Contains(trigger) ? count : count * (1 - SentenceStarts)
                );
            foreach (var trigger in capital)
                if (HeedsCase(trigger) && !lower.Contains(trigger))
                    Add(trigger, word, count * SentenceStarts);
        }
        progress?.Report(1);

        return
        [
            .. triggers
                .Select(trigger => new MisfireForecast(
                    trigger,
                    causes[trigger].Sum(cause => cause.Per10kWords),
                    [.. causes[trigger].OrderByDescending(cause => cause.Per10kWords).Take(MostWords)]
                ))
                .OrderByDescending(forecast => forecast.Per10kWords)
                .ThenBy(forecast => forecast.Trigger.Placed.Rank),
        ];

        void Add(ActiveTrigger trigger, string word, double count) =>
            causes[trigger].Add(new MisfireWord(word, list.Per10kWords(count)));
    }

    /// <summary>
    /// What a word must hold to set any of a few triggers off, so that the others need not be typed; null when there
    /// are too many triggers or patterns among them. An abbreviation's last characters may come from the closing key.
    /// </summary>
    private static string[]? Needed(List<ActiveTrigger> triggers, List<Key> closings)
    {
        if (triggers.Count > FewTriggers || triggers.Exists(trigger => trigger.Trigger is not Trigger.Abbreviation))
            return null;
        return
        [
            .. triggers.Select(trigger =>
                closings.Aggregate(trigger.Folded, (text, closing) => text.TrimEnd(CaseFolding.Fold(closing.Text)[^1]))
            ),
        ];
    }

    private static bool HeedsCase(ActiveTrigger trigger) => trigger.Rules!.Case == LetterCase.Exact;

    private static Key? Closing(ActiveTrigger trigger) =>
        trigger.ClosingKeys.Contains(Key.Typed(" ")) ? Key.Typed(" ")
        : trigger.ClosingKeys.Keys is [var first, ..] ? first
        : null;

    private static string Capitalised(string word)
    {
        var length = StringInfo.GetNextTextElementLength(word);
        return string.Concat(word[..length].ToUpperInvariant(), word.AsSpan(length));
    }

    private static void Type(EveryMatch typing, string word, List<Key> closings, HashSet<ActiveTrigger> found)
    {
        found.Clear();
        for (var at = 0; at < closings.Count; at++)
        {
            var closing = closings[at];
            typing.Begin();
            foreach (var key in Key.ForText(word))
                typing.Type(key, at == 0 ? trigger => found.Add(trigger) : null);
            typing.Type(closing, trigger =>
            {
                if (Closing(trigger) == closing)
                    found.Add(trigger);
            });
        }
    }
}
