using NodaTime;

namespace DashSprout.Core.Dates;

/// <summary>Which days are worked: all but the weekend and the holidays.</summary>
public sealed class WorkingDays
{
    private readonly bool[] worked = new bool[7];
    private readonly int perWeek;

    /// <summary>Holidays on days that would be worked, in order.</summary>
    private readonly LocalDate[] holidays;

    /// <summary>The days that are worked when some days of the week and some dates are not.</summary>
    public WorkingDays(IEnumerable<IsoDayOfWeek> weekend, IEnumerable<LocalDate> holidays)
    {
        Array.Fill(worked, true);
        foreach (var day in weekend.Where(day => day != IsoDayOfWeek.None))
            worked[(int)day - 1] = false;
        perWeek = worked.Count(day => day);
        if (perWeek == 0)
            throw new InvalidInputException("weekend", "At least one day of the week must be worked.");
        this.holidays = [.. holidays.Where(date => worked[(int)date.DayOfWeek - 1]).Distinct().Order()];
    }

    /// <summary>Monday to Friday, without holidays.</summary>
    public static WorkingDays MondayToFriday { get; } = new([IsoDayOfWeek.Saturday, IsoDayOfWeek.Sunday], []);

    /// <summary>Whether a day is worked.</summary>
    public bool IsWorked(LocalDate date) => worked[(int)date.DayOfWeek - 1] && Array.BinarySearch(holidays, date) < 0;

    /// <summary>
    /// The day that is a number of working days away; days that are not worked do not count. No days away is the day
    /// itself, whether it is worked or not.
    /// </summary>
    public LocalDate Add(LocalDate date, int days)
    {
        if (days == 0)
            return date;
        // Whole weeks are jumped over, and then as many days again as there were holidays among them, until none is
        // missing.
        while (days != 0)
        {
            var far = Far(date, days);
            var (first, last) = days > 0 ? (date.PlusDays(1), far) : (far, date.PlusDays(-1));
            days = Math.Sign(days) * (Before(last.PlusDays(1)) - Before(first));
            date = far;
        }
        return date;
    }

    /// <summary>
    /// The day that is a number of days of the week away that are worked, whatever holidays there are.
    /// </summary>
    private LocalDate Far(LocalDate date, int days)
    {
        var step = Math.Sign(days);
        date = date.PlusWeeks(days / perWeek);
        var left = days % perWeek;
        if (left == 0)
        {
            // A whole number of weeks ends on the last worked day, not on one that is free.
            while (!worked[(int)date.DayOfWeek - 1])
                date = date.PlusDays(-step);
            return date;
        }
        while (left != 0)
        {
            date = date.PlusDays(step);
            if (worked[(int)date.DayOfWeek - 1])
                left -= step;
        }
        return date;
    }

    /// <summary>How many holidays lie before a day.</summary>
    private int Before(LocalDate date)
    {
        var at = Array.BinarySearch(holidays, date);
        return at < 0 ? ~at : at;
    }
}
