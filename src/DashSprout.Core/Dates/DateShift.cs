using System.Globalization;
using System.Text.RegularExpressions;
using NodaTime;

namespace DashSprout.Core.Dates;

/// <summary>
/// A signed ISO 8601 duration by which a date is moved: <c>P3D</c>, <c>-P1M</c>, <c>PT2H</c>. Years, months, weeks and
/// days move the date as Noda Time does (31 January and a month is the last of February); hours, minutes and seconds
/// move the moment, so that they are real ones when the clocks change. At most <see cref="MostYears"/> years.
/// </summary>
public sealed partial record DateShift(string Source, Period Dates, Duration Time)
{
    /// <summary>The furthest a date is moved, in years; the calendar ends with the year 9999.</summary>
    public const int MostYears = 1000;

    /// <summary>Reads a duration.</summary>
    public static DateShift Parse(string field, string source)
    {
        var match = Iso().Match(source);
        if (!match.Success || source[^1] is 'P' or 'T')
            throw new InvalidInputException(
                field,
                $"“{source}” is no ISO 8601 duration. Write for example P3D for three days, -P1M for a month "
                    + "back, PT2H for two hours."
            );
        var sign = source[0] == '-' ? -1 : 1;
        int Part(string name, int perYear) =>
            match.Groups[name] is { Success: true } group
                ? int.TryParse(group.Value, NumberStyles.None, CultureInfo.InvariantCulture, out var value)
                && value <= (long)MostYears * perYear
                    ? sign * value
                    : throw new InvalidInputException(
                        field,
                        $"“{source}” moves the date too far: at most {MostYears} years, {MostYears * 12:N0} "
                            + $"months or {MostYears * 366:N0} days."
                    )
                : 0;
        var dates = new PeriodBuilder
        {
            Years = Part("y", 1),
            Months = Part("mo", 12),
            Weeks = Part("w", 53),
            Days = Part("d", 366),
        }.Build();
        var time =
            Duration.FromHours(Part("h", 366 * 24))
            + Duration.FromMinutes(Part("mi", 366 * 24 * 60))
            + Duration.FromSeconds(Part("s", 366 * 24 * 60));
        return new DateShift(source, dates, time);
    }

    /// <summary>Moves a date and time, its days counted as working days when a calendar is given.</summary>
    public ZonedDateTime Move(ZonedDateTime moment, WorkingDays? working)
    {
        var local = moment.LocalDateTime;
        if (working is null)
        {
            local = local.Plus(Dates);
        }
        else
        {
            var longer = Dates.ToBuilder();
            longer.Days = 0;
            local = local.Plus(longer.Build());
            local = working.Add(local.Date, Dates.Days) + local.TimeOfDay;
        }
        // What stays on its day keeps its offset too: of two times that look alike it is still the same one.
        var moved = local == moment.LocalDateTime ? moment : local.InZoneLeniently(moment.Zone);
        return moved.Plus(Time);
    }

    [GeneratedRegex(
        @"\A[+-]?P(?:(?<y>\d+)Y)?(?:(?<mo>\d+)M)?(?:(?<w>\d+)W)?(?:(?<d>\d+)D)?(?:T(?:(?<h>\d+)H)?(?:(?<mi>\d+)M)?(?:(?<s>\d+)S)?)?\z",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Iso();
}
