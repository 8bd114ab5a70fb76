namespace DashSprout.Core.Learning;

/// <summary>
/// How well somebody knows one of their abbreviations. The schedule is Leitner's (Sebastian Leitner, “So lernt man
/// lernen”, 1972): what was known moves on to a box that is asked later, what was not goes back to the first.
/// </summary>
/// <param name="Trigger">The abbreviation.</param>
/// <param name="Box">The box it lies in, from 0.</param>
/// <param name="Due">The day from which it is asked again.</param>
public sealed record DrillCard(long SnippetId, string Trigger, int Box, DateOnly Due, int Right, int Wrong)
{
    /// <summary>
    /// The days until what lies in each box is asked again (common practice for Leitner's five boxes and the first).
    /// </summary>
    public static IReadOnlyList<int> Days { get; } = [0, 1, 3, 7, 14, 30];

    /// <summary>From this box on it counts as known.</summary>
    public const int KnownFrom = 4;

    /// <summary>One that was never asked.</summary>
    public static DrillCard New(long snippetId, string trigger) => new(snippetId, trigger, 0, DateOnly.MinValue, 0, 0);

    /// <summary>Whether it was never asked.</summary>
    public bool IsNew => Right + Wrong == 0;

    /// <summary>
    /// Whether it is to be asked; a clock that was far ahead once keeps nothing away for longer than its box.
    /// </summary>
    public bool IsDue(DateOnly today) => Due <= today || Due > today.AddDays(Days[Box]);

    /// <summary>The share of times it was not known, from 0 to 1.</summary>
    public double Forgotten => IsNew ? 0 : (double)Wrong / (Right + Wrong);

    /// <summary>The card once it was answered.</summary>
    public DrillCard Answered(bool right, DateOnly today)
    {
        var box = right ? Math.Min(Box + 1, Days.Count - 1) : 0;
        return this with
        {
            Box = box,
            Due = today.AddDays(Days[box]),
            Right = Right + (right ? 1 : 0),
            Wrong = Wrong + (right ? 0 : 1),
        };
    }

    /// <summary>
    /// What is asked in one drill: what is due, the most forgotten first, and some that are new, the least used first.
    /// </summary>
    /// <param name="uses">How often a snippet went off.</param>
    public static IReadOnlyList<DrillCard> Chosen(
        IEnumerable<DrillCard> cards,
        DateOnly today,
        Func<long, int> uses,
        int most,
        int mostNew
    )
    {
        var all = cards.ToList();
        var due = all.Where(card => !card.IsNew && card.IsDue(today))
            .OrderByDescending(card => card.Forgotten)
            .ThenBy(card => card.Box)
            .ThenBy(card => card.Due)
            .ThenBy(card => card.Trigger, StringComparer.Ordinal)
            .Take(most)
            .ToList();
        var fresh = all.Where(card => card.IsNew)
            .OrderBy(card => uses(card.SnippetId))
            .ThenBy(card => card.Trigger, StringComparer.Ordinal)
            .Take(Math.Min(mostNew, most - due.Count));
        return [.. due, .. fresh];
    }
}
