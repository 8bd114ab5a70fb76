using System.Net;
using DashSprout.Core.Bodies;

namespace DashSprout.Core.Learning;

/// <summary>A phrase that is worth a snippet.</summary>
/// <param name="Phrases">What was typed: one phrase, or several that go on in one another where a text is longer than
/// phrases are.</param>
/// <param name="Parts">What stays the same in it, and what is another each time.</param>
/// <param name="KeysAWeek">Keys that a snippet would have saved in a week.</param>
public sealed record Sprout(IReadOnlyList<Phrase> Phrases, IReadOnlyList<SharedPart> Parts, int KeysAWeek)
{
    /// <summary>How long an abbreviation is taken to be.</summary>
    public const int AbbreviationKeys = 4;

    /// <summary>How often a phrase must have been typed.</summary>
    public const int FewestTimes = 3;

    private const int NameWords = 5,
        MostFields = 5;

    /// <summary>The phrase that it is known by.</summary>
    public Phrase Phrase => Phrases[0];

    /// <summary>The text, as it was typed last.</summary>
    public string Text => TextOf(Phrases);

    /// <summary>A name for the snippet: its first words.</summary>
    public string Name
    {
        get
        {
            var words = string.Concat(Parts.Select(part => part is SharedPart.Same(var text) ? text : "…"))
                .Split(' ', StringSplitOptions.RemoveEmptyEntries);
            return string.Join(' ', words.Take(NameWords)).TrimEnd(',', '.', ';', ':', '!', '?', '…', ' ');
        }
    }

    /// <summary>What the snippet would put in: a field for each part that is another each time.</summary>
    public Body Body
    {
        get
        {
            if (Parts is [SharedPart.Same(var all)])
                return new Body.Plain(all);
            var named = new Dictionary<GapKind, int>();
            return Body.Html.Parse(
                "<p>"
                    + string.Concat(
                        Parts.Select(part =>
                            part switch
                            {
                                SharedPart.Same(var text) => WebUtility.HtmlEncode(text),
                                SharedPart.Gap gap => FieldOf(
                                    gap.Kind,
                                    named[gap.Kind] = named.GetValueOrDefault(gap.Kind) + 1
                                ),
                                _ => "",
                            }
                        )
                    )
                    + "</p>"
            );
        }
    }

    private static string FieldOf(GapKind kind, int number)
    {
        var name = Wording.Of(kind) + (number > 1 ? $"{number}" : "");
        var title = kind + (number > 1 ? $" {number}" : "");
        return kind == GapKind.Number
            ? $"<input name=\"{name}\" title=\"{title}\" type=\"number\">"
            : $"<input name=\"{name}\" title=\"{title}\">";
    }

    /// <summary>
    /// The phrases that are worth a snippet, by the keys it would save. What is only a part of a longer one is worth
    /// what it is typed beside that; what a snippet has already is not among them.
    /// </summary>
    /// <param name="isKnown">Whether a snippet puts a text in.</param>
    public static IReadOnlyList<Sprout> Of(
        PhraseMemory memory,
        DateTimeOffset now,
        Func<string, bool> isKnown,
        int most
    )
    {
        var chains = new PhraseChains(memory.Phrases.Where(phrase => phrase.Times >= FewestTimes));
        var sprouts = new List<(Sprout Sprout, ulong[] Words)>();
        var dismissed = memory.Dismissed.Select(phrase => WordsOf(phrase.Text)).ToList();
        foreach (
            var phrase in memory
                .Phrases.Where(phrase => phrase.Times >= FewestTimes)
                .OrderByDescending(phrase => phrase.TimesAWeek(now) * Saved(phrase.Text))
        )
        {
            if (sprouts.Count >= most)
                break;
            if (sprouts.Exists(known => known.Sprout.Phrases.Contains(phrase)))
                continue;
            var chain = chains.Around(phrase);
            var text = TextOf(chain);
            var words = WordsOf(text);
            if (dismissed.Exists(other => Overlap(words, other)))
                continue;
            // A longer one that was chosen before is typed in full each time; what is left are the times that this was
            // typed without it.
            var beside =
                phrase.Times
                - sprouts
                    .Where(known => Overlap(words, known.Words))
                    .Sum(known => IsWithin(words, known.Words) ? known.Sprout.Phrase.Times : phrase.Times);
            if (beside < FewestTimes)
                continue;
            var parts = phrase.Varies ? SharedWords.Of(phrase.Texts, memory.DateNames) : [new SharedPart.Same(text)];
            if (
                phrase.Varies
                && (phrase.Texts.Count < 2 || parts.Count(part => part is SharedPart.Gap) is 0 or > MostFields)
            )
                continue;
            var keys = (int)Math.Round(phrase.TimesAWeek(now) * Saved(text) * beside / phrase.Times);
            if (keys <= 0 || isKnown(text))
                continue;
            sprouts.Add((new Sprout(chain, parts, keys), words));
        }
        return [.. sprouts.Select(found => found.Sprout).OrderByDescending(sprout => sprout.KeysAWeek)];
    }

    /// <summary>A text of phrases each of which begins at the second word of the one before.</summary>
    private static string TextOf(IReadOnlyList<Phrase> chain) =>
        string.Concat(chain.SkipLast(1).Select(phrase => phrase.Text[..TypedLine.WordsOf(phrase.Text)[1].Start.Value]))
        + chain[^1].Text;

    /// <summary>What one use would save: the characters, less the abbreviation.</summary>
    private static int Saved(string text) => Math.Max(0, text.Length - AbbreviationKeys);

    private static ulong[] WordsOf(string text) =>
        [.. TypedLine.WordsOf(text).Select(word => WordCode.Of(text.AsSpan()[word]))];

    /// <summary>Whether two texts share at least half the words of the shorter one in a row.</summary>
    private static bool Overlap(ulong[] one, ulong[] other)
    {
        var half = (Math.Min(one.Length, other.Length) + 1) / 2;
        for (var at = 0; at + half <= one.Length; at++)
            if (other.AsSpan().IndexOf(one.AsSpan(at, half)) >= 0)
                return true;
        return false;
    }

    private static bool IsWithin(ulong[] part, ulong[] whole) => whole.AsSpan().IndexOf(part) >= 0;
}
