using NodaTime;

namespace DashSprout.Core.Dates;

/// <summary>Which days are worked: all but the weekend and the holidays.</summary>
public sealed class WorkingDays(IEnumerable<IsoDayOfWeek> weekend, IEnumerable<LocalDate> holidays)
{
    private readonly HashSet<IsoDayOfWeek> weekend = Checked(weekend);
    private readonly HashSet<LocalDate> holidays = [.. holidays];

    /// <summary>Monday to Friday, without holidays.</summary>
    public static WorkingDays MondayToFriday { get; } = new([IsoDayOfWeek.Saturday, IsoDayOfWeek.Sunday], []);

    /// <summary>Whether a day is worked.</summary>
    public bool IsWorked(LocalDate date) => !weekend.Contains(date.DayOfWeek) && !holidays.Contains(date);

    /// <summary>
    /// The day that is a number of working days away; days that are not worked do not count. No days away is the day
    /// itself, whether it is worked or not.
    /// </summary>
    public LocalDate Add(LocalDate date, int days)
    {
        var step = Math.Sign(days);
        while (days != 0)
        {
            date = date.PlusDays(step);
            if (IsWorked(date)) days -= step;
        }
        return date;
    }

    private static HashSet<IsoDayOfWeek> Checked(IEnumerable<IsoDayOfWeek> weekend)
    {
        HashSet<IsoDayOfWeek> days = [.. weekend];
        return days.Count < 7 ? days : throw new InvalidInputException("weekend", "At least one day of the week must be worked.");
    }
}
