using System.Globalization;

namespace DashSprout.Core.Savings;

/// <summary>What a snippet saved on one day in one application.</summary>
public sealed record SavingsCount(
    DateOnly Day,
    long SnippetId,
    string App,
    int Expansions,
    int TakenBack,
    long Keys,
    long Characters,
    long Fields
);

/// <summary>Some counts together.</summary>
public sealed record SavingsSum(long Expansions, long TakenBack, long Keys, long Characters, long Fields)
{
    /// <summary>Nothing.</summary>
    public static SavingsSum None { get; } = new(0, 0, 0, 0, 0);

    /// <summary>The share of expansions that were taken back, from 0 to 1.</summary>
    public double TakenBackRate => Expansions == 0 ? 0 : (double)TakenBack / Expansions;

    /// <summary>The sum of some counts.</summary>
    public static SavingsSum Of(IEnumerable<SavingsCount> counts) =>
        counts.Aggregate(None, (sum, count) =>
            new SavingsSum(
                sum.Expansions + count.Expansions,
                sum.TakenBack + count.TakenBack,
                sum.Keys + count.Keys,
                sum.Characters + count.Characters,
                sum.Fields + count.Fields
            )
        );
}

/// <summary>Counts of one thing: a snippet, a library, an application.</summary>
public sealed record SavingsPart(string Name, SavingsSum Sum);

/// <summary>What was saved in a time, as sums of counts that can be checked by hand.</summary>
/// <param name="Days">Every day of the time, those without anything too.</param>
/// <param name="Pace">The user's own typing pace, or the usual one as long as it is not known.</param>
public sealed record SavingsReport(
    SavingsSum Total,
    IReadOnlyList<(DateOnly Day, SavingsSum Sum)> Days,
    IReadOnlyList<SavingsPart> Snippets,
    IReadOnlyList<SavingsPart> Libraries,
    IReadOnlyList<SavingsPart> Apps,
    TypingPace Pace
)
{
    /// <summary>The minutes that the saved keys would have taken.</summary>
    public double Minutes => Pace.MinutesFor(Total.Keys);

    /// <summary>Adds counts up.</summary>
    /// <param name="measured">What was measured of the user's typing.</param>
    /// <param name="nameOf">A snippet's name and its library's.</param>
    public static SavingsReport Of(
        IReadOnlyCollection<SavingsCount> counts,
        TypingPace measured,
        DateOnly from,
        DateOnly to,
        Func<long, (string Snippet, string Library)> nameOf,
        Func<string, string> appName
    )
    {
        var within = counts.Where(count => count.Day >= from && count.Day <= to).ToList();
        var byDay = within.ToLookup(count => count.Day);
        var days = Enumerable
            .Range(0, Math.Max(0, to.DayNumber - from.DayNumber + 1))
            .Select(at => from.AddDays(at))
            .Select(day => (day, SavingsSum.Of(byDay[day])));
        IReadOnlyList<SavingsPart> Parts(Func<SavingsCount, string> name) =>
            [
                .. within
                    .GroupBy(name)
                    .Select(group => new SavingsPart(group.Key, SavingsSum.Of(group)))
                    .OrderByDescending(part => part.Sum.Keys)
                    .ThenByDescending(part => part.Sum.Expansions)
                    .ThenBy(part => part.Name, StringComparer.Ordinal),
            ];
        return new SavingsReport(
            SavingsSum.Of(within),
            [.. days],
            Parts(count => nameOf(count.SnippetId).Snippet),
            Parts(count => nameOf(count.SnippetId).Library),
            Parts(count => appName(count.App)),
            measured.IsMeasured ? measured : TypingPace.Usual
        );
    }

    /// <summary>A summary in plain words, to be copied.</summary>
    public string Summary()
    {
        if (Days.Count == 0 || Total.Expansions == 0)
            return "Nothing was put in in this time.\n";
        var culture = CultureInfo.InvariantCulture;
        string Count(long number) => number.ToString("#,0", culture).Replace(',', '\u00A0');
        var lines = new List<string>
        {
            $"{Days[0].Day.ToString("d MMMM yyyy", culture)} to {Days[^1].Day.ToString("d MMMM yyyy", culture)}",
            $"{Count(Total.Expansions)} expansions, {Count(Total.TakenBack)} of them taken back "
                + $"({(100 * Total.TakenBackRate).ToString("0.#", culture)} %)",
            $"{Count(Total.Keys)} keystrokes saved: about {Count((long)Math.Round(Minutes))} minutes at "
                + $"{Math.Round(Pace.WordsPerMinute).ToString(culture)} words a minute",
        };
        if (Total.Fields > 0)
            lines.Add($"{Count(Total.Fields)} fields filled");
        lines.AddRange(
            Snippets
                .Where(part => part.Sum.Keys > 0)
                .Take(5)
                .Select(part => $"- {part.Name}: {Count(part.Sum.Keys)} keystrokes, {Count(part.Sum.Expansions)} times")
        );
        return string.Join('\n', lines) + "\n";
    }
}
