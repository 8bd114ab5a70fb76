using System.Globalization;
using System.Text.RegularExpressions;
using NodaTime;

namespace DashSprout.Core.Dates;

/// <summary>
/// A signed ISO 8601 duration by which a date is moved: <c>P3D</c>, <c>-P1M</c>, <c>PT2H</c>. Years, months, weeks and days move the
/// date as Noda Time does (31 January and a month is the last of February); hours, minutes and seconds move the moment.
/// </summary>
public sealed partial record DateShift(string Source, Period Dates, Duration Time)
{
    /// <summary>Reads a duration.</summary>
    public static DateShift Parse(string field, string source)
    {
        var match = Iso().Match(source);
        if (!match.Success || source[^1] is 'P' or 'T')
            throw new InvalidInputException(field, $"“{source}” is no ISO 8601 duration. Write for example P3D for three days, -P1M for a month back, PT2H for two hours.");
        var sign = source[0] == '-' ? -1 : 1;
        int Part(string name) => match.Groups[name] is { Success: true } group
            ? int.TryParse(group.Value, NumberStyles.None, CultureInfo.InvariantCulture, out var value) && value <= 100_000
                ? sign * value
                : throw new InvalidInputException(field, $"“{source}” moves the date too far.")
            : 0;
        var dates = new PeriodBuilder { Years = Part("y"), Months = Part("mo"), Weeks = Part("w"), Days = Part("d") }.Build();
        var time = Duration.FromHours(Part("h")) + Duration.FromMinutes(Part("mi")) + Duration.FromSeconds(Part("s"));
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
        return local.InZoneLeniently(moment.Zone).Plus(Time);
    }

    [GeneratedRegex(@"\A[+-]?P(?:(?<y>\d+)Y)?(?:(?<mo>\d+)M)?(?:(?<w>\d+)W)?(?:(?<d>\d+)D)?(?:T(?:(?<h>\d+)H)?(?:(?<mi>\d+)M)?(?:(?<s>\d+)S)?)?\z", RegexOptions.CultureInvariant)]
    private static partial Regex Iso();
}
