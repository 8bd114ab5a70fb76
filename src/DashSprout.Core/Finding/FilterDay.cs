using System.Globalization;
using NodaTime;
using NodaTime.Text;

namespace DashSprout.Core.Finding;

/// <summary>
/// A day as one writes it behind <c>since</c>: <c>2026-03-02</c>, <c>today</c>, <c>yesterday</c>, a day of the week
/// (the last such day), or how long ago, as <c>3 days</c>, <c>2 weeks</c>, <c>6 months</c>.
/// </summary>
internal static class FilterDay
{
    public const string Examples = "a day such as 2026-03-02, today, monday, or a time such as 2 weeks";

    /// <summary>
    /// Reads a day from the beginning of some words, and says how many of them it took; null when they are no day.
    /// </summary>
    public static (LocalDate Day, int Words)? Read(IReadOnlyList<string> words, LocalDate today)
    {
        if (words.Count == 0)
            return null;
        var word = words[0].ToLowerInvariant();
        if (word == "today")
            return (today, 1);
        if (word == "yesterday")
            return (today.PlusDays(-1), 1);
        if (
            Enum.TryParse<IsoDayOfWeek>(word, ignoreCase: true, out var weekday)
            && weekday != IsoDayOfWeek.None
            && !char.IsAsciiDigit(word[0])
        )
            return (today.DayOfWeek == weekday ? today : today.Previous(weekday), 1);
        if (LocalDatePattern.Iso.Parse(word) is { Success: true } iso)
            return (iso.Value, 1);
        if (
            words.Count < 2
            || !int.TryParse(word, NumberStyles.None, CultureInfo.InvariantCulture, out var count)
            || count > 10_000
        )
            return null;
        return words[1].ToLowerInvariant().TrimEnd('s') switch
        {
            "day" => (today.PlusDays(-count), 2),
            "week" => (today.PlusWeeks(-count), 2),
            "month" => (today.PlusMonths(-count), 2),
            _ => null,
        };
    }
}
