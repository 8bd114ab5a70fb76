using DashSprout.Core.Text;
using NodaTime;

namespace DashSprout.Core.Finding;

/// <summary>
/// What is typed to find snippets among all: words that stand in the name, an abbreviation, the text, the note or a tag
/// (<c>"two words"</c> in quotation marks are one), rules such as <c>never used</c>, <c>changed since monday</c> or
/// <c>case:exact</c>, each of them turned round by <c>not</c>. A snippet is left when everything holds for it.
/// </summary>
public sealed class SnippetFilter
{
    /// <summary>The longest filter, in UTF-16 units.</summary>
    public const int MaxLength = 400;

    private readonly IReadOnlyList<Func<FilterSubject, bool>> tests;

    private SnippetFilter(IReadOnlyList<Func<FilterSubject, bool>> tests, string? problem)
    {
        this.tests = tests;
        Problem = problem;
    }

    /// <summary>What could not be read and is left out, for the user; null when all could.</summary>
    public string? Problem { get; }

    /// <summary>Whether it leaves everything.</summary>
    public bool IsEmpty => tests.Count == 0;

    /// <summary>Whether it leaves a snippet.</summary>
    public bool Keeps(in FilterSubject subject)
    {
        foreach (var test in tests)
            if (!test(subject))
                return false;
        return true;
    }

    /// <summary>Reads a filter. What is not finished yet is left out and told.</summary>
    /// <param name="now">For days that are told from today, and where days begin.</param>
    public static SnippetFilter Parse(string text, ZonedDateTime now)
    {
        if (text.Length > MaxLength)
            return new([], $"The filter has {text.Length} characters; {MaxLength} are read. Shorten it.");
        var words = FilterText.Words(text);
        var tests = new List<Func<FilterSubject, bool>>();
        string? problem = null;
        for (var at = 0; at < words.Count; )
        {
            var not = words[at].Is("not");
            if (not && ++at == words.Count)
                break;
            var (test, taken, wrong) = Term(words, at, now);
            at += taken;
            problem ??= wrong;
            if (test is not null)
                tests.Add(not ? subject => !test(subject) : test);
        }
        return new(tests, problem);
    }

    private static (Func<FilterSubject, bool>? Test, int Words, string? Problem) Term(
        IReadOnlyList<FilterWord> words,
        int at,
        ZonedDateTime now
    )
    {
        var word = words[at];
        if (word.Quoted)
            return (Holds(word.Text), 1, null);
        if (
            FilterKey.All.FirstOrDefault(key =>
                word.Text.StartsWith(key.Key + ":", StringComparison.OrdinalIgnoreCase)
            ) is
            { } known
        )
        {
            var value = word.Text[(known.Key.Length + 1)..];
            if (value.Length == 0)
                return (null, 1, $"“{known.Key}:” wants a value behind it.");
            return known.Of(value) is { } test
                ? (test, 1, null)
                : (
                    null,
                    1,
                    $"“{value}” is not known behind “{known.Key}:”. Use one of: "
                        + $"{string.Join(", ", known.Values(Libraries.LibraryTree.Empty))}."
                );
        }
        foreach (var rule in FilterRule.All)
        {
            var parts = rule.Text.Split(' ');
            if (
                at + parts.Length <= words.Count
                && parts.Select((part, place) => words[at + place].Is(part)).All(same => same)
            )
                return (rule.Keeps, parts.Length, null);
        }
        foreach (
            var (name, of) in (IReadOnlyList<(string, Func<FilterSubject, DateTimeOffset?>)>)
                [("changed", subject => subject.ChangedAt), ("used", subject => subject.LastUsed)]
        )
        {
            if (!word.Is(name) || at + 1 >= words.Count || !words[at + 1].Is("since"))
                continue;
            var rest = words.Skip(at + 2).Select(other => other.Text).ToList();
            if (FilterDay.Read(rest, now.Date) is not var (day, taken))
                return (null, words.Count - at, $"“{name} since” wants {FilterDay.Examples} behind it.");
            var from = now.Zone.AtStartOfDay(day).ToDateTimeOffset();
            return (subject => of(subject) >= from, taken + 2, null);
        }
        return (Holds(word.Text), 1, null);
    }

    private static Func<FilterSubject, bool> Holds(string text)
    {
        var folded = CaseFolding.Fold(text);
        return subject => subject.Words.Contains(folded, StringComparison.Ordinal);
    }
}
