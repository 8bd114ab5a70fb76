using System.Globalization;
using NodaTime;

namespace DashSprout.Core.Dates;

/// <summary>The ends a date can be moved to.</summary>
public enum DateUnit
{
    /// <summary>Monday to Sunday, or as the culture has it.</summary>
    Week,

    /// <summary>The month.</summary>
    Month,

    /// <summary>Three months.</summary>
    Quarter,

    /// <summary>The year.</summary>
    Year,
}

/// <summary>
/// Moves a date to a near one: <c>start-of-week</c>, <c>end-of-month</c>, <c>next-friday</c>, <c>last-monday</c>.
/// </summary>
public abstract record DateSnap
{
    private DateSnap(string source) => Source = source;

    /// <summary>The word.</summary>
    public string Source { get; }

    /// <summary>Every word that is known.</summary>
    public static IEnumerable<string> All =>
        [
            .. Enum.GetValues<DateUnit>()
                .SelectMany(unit => (string[])[$"start-of-{Wording.Of(unit)}", $"end-of-{Wording.Of(unit)}"]),
            .. Weekdays.SelectMany(day => (string[])[$"next-{Wording.Of(day)}", $"last-{Wording.Of(day)}"]),
        ];

    private static IEnumerable<IsoDayOfWeek> Weekdays =>
        Enum.GetValues<IsoDayOfWeek>().Where(day => day != IsoDayOfWeek.None);

    /// <summary>Reads a word.</summary>
    public static DateSnap Parse(string field, string source)
    {
        foreach (var unit in Enum.GetValues<DateUnit>())
        {
            if (source == $"start-of-{Wording.Of(unit)}")
                return new Edge(source, unit, Start: true);
            if (source == $"end-of-{Wording.Of(unit)}")
                return new Edge(source, unit, Start: false);
        }
        foreach (var day in Weekdays)
        {
            if (source == $"next-{Wording.Of(day)}")
                return new Weekday(source, day, Next: true);
            if (source == $"last-{Wording.Of(day)}")
                return new Weekday(source, day, Next: false);
        }
        throw new InvalidInputException(field, $"“{source}” is not known here. Use one of: {string.Join(", ", All)}.");
    }

    /// <summary>Moves a date.</summary>
    public abstract LocalDate Move(LocalDate date, CultureInfo culture);

    private sealed record Edge(string Word, DateUnit Unit, bool Start) : DateSnap(Word)
    {
        public override LocalDate Move(LocalDate date, CultureInfo culture)
        {
            var start = Unit switch
            {
                DateUnit.Week => date.PlusDays(-(((int)date.DayOfWeek - (int)Locales.FirstDayOfWeek(culture) + 7) % 7)),
                DateUnit.Month => new LocalDate(date.Year, date.Month, 1),
                DateUnit.Quarter => new LocalDate(date.Year, (date.Month - 1) / 3 * 3 + 1, 1),
                _ => new LocalDate(date.Year, 1, 1),
            };
            if (Start)
                return start;
            return Unit switch
            {
                DateUnit.Week => start.PlusDays(6),
                DateUnit.Month => start.PlusMonths(1).PlusDays(-1),
                DateUnit.Quarter => start.PlusMonths(3).PlusDays(-1),
                _ => start.PlusYears(1).PlusDays(-1),
            };
        }
    }

    /// <summary>The next or last such day, never the day itself.</summary>
    private sealed record Weekday(string Word, IsoDayOfWeek Day, bool Next) : DateSnap(Word)
    {
        public override LocalDate Move(LocalDate date, CultureInfo culture) =>
            Next ? date.Next(Day) : date.Previous(Day);
    }
}
