using System.Globalization;
using NodaTime;
using NodaTime.Calendars;

namespace DashSprout.Core.Dates;

/// <summary>The fields of date patterns, as Unicode Technical Standard #35 (part 4, Dates) describes them.</summary>
internal static class DateFields
{
    /// <summary>A field of a date pattern, by its letter and how often it stands in a row.</summary>
    public static string Write(char letter, int count, ZonedDateTime moment, CultureInfo culture)
    {
        var date = moment.Date;
        var names = culture.DateTimeFormat;
        switch (letter)
        {
            case 'G':
                return EraName(date, names);
            case 'y':
                return Year(date.YearOfEra, count);
            case 'u':
                return Number(date.Year, count);
            case 'Y':
                return Year(WeekRule(culture).GetWeekYear(date), count);
            case 'Q' or 'q':
                return Quarter((date.Month + 2) / 3, count);
            case 'M':
                return Month(date.Month, count, names, names.MonthGenitiveNames, names.AbbreviatedMonthGenitiveNames);
            case 'L':
                return Month(date.Month, count, names, names.MonthNames, names.AbbreviatedMonthNames);
            case 'w':
                return Number(WeekRule(culture).GetWeekOfWeekYear(date), count);
            case 'W':
                return Number(WeekOfMonth(date, culture), count);
            case 'd':
                return Number(date.Day, count);
            case 'D':
                return Number(date.DayOfYear, count);
            case 'F':
                return Number((date.Day + 6) / 7, count);
            case 'E':
                return Weekday(date.DayOfWeek, Math.Max(count, 3), names);
            case 'e':
                return count <= 2
                    ? Number(LocalWeekday(date.DayOfWeek, culture), count)
                    : Weekday(date.DayOfWeek, count, names);
            case 'c':
                return count <= 2
                    ? Number(LocalWeekday(date.DayOfWeek, culture), 1)
                    : Weekday(date.DayOfWeek, count, names);
            case 'a':
                return moment.Hour < 12 ? names.AMDesignator : names.PMDesignator;
            case 'H':
                return Number(moment.Hour, count);
            case 'k':
                return Number(moment.Hour == 0 ? 24 : moment.Hour, count);
            case 'h':
                return Number(moment.ClockHourOfHalfDay, count);
            case 'K':
                return Number(moment.Hour % 12, count);
            case 'm':
                return Number(moment.Minute, count);
            case 's':
                return Number(moment.Second, count);
            case 'S':
                return moment.NanosecondOfSecond.ToString("D9", CultureInfo.InvariantCulture)[..count];
            case 'A':
                return Number((int)(moment.NanosecondOfDay / 1_000_000), count);
            case 'V':
                return moment.Zone.Id;
            default:
                return Zone(letter, count, moment);
        }
    }

    private static string Number(int value, int width) =>
        value.ToString(CultureInfo.InvariantCulture).PadLeft(width, '0');

    /// <summary>Two letters are the last two digits; otherwise at least as many digits as letters.</summary>
    private static string Year(int year, int count) => Number(count == 2 ? year % 100 : year, count);

    private static string EraName(LocalDate date, DateTimeFormatInfo names) =>
        date.Era == Era.BeforeCommon ? "BC" : names.GetEraName(1);

    private static string Quarter(int quarter, int count) =>
        count switch
        {
            1 or 2 => Number(quarter, count),
            3 => $"Q{quarter}",
            _ => quarter switch
            {
                1 => "1st quarter",
                2 => "2nd quarter",
                3 => "3rd quarter",
                _ => "4th quarter",
            },
        };

    private static string Month(int month, int count, DateTimeFormatInfo names, string[] full, string[] abbreviated) =>
        count switch
        {
            1 or 2 => Number(month, count),
            3 => abbreviated[month - 1],
            4 => full[month - 1],
            _ => FirstLetter(names.MonthNames[month - 1]),
        };

    private static string Weekday(IsoDayOfWeek day, int count, DateTimeFormatInfo names)
    {
        var at = (int)day % 7;
        return count switch
        {
            3 => names.AbbreviatedDayNames[at],
            4 => names.DayNames[at],
            5 => FirstLetter(names.DayNames[at]),
            _ => names.ShortestDayNames[at],
        };
    }

    private static string FirstLetter(string name) =>
        name.Length == 0 ? "" : name[..StringInfo.GetNextTextElementLength(name)].ToUpperInvariant();

    /// <summary>The day's number in the culture's week, 1 for the first.</summary>
    private static int LocalWeekday(IsoDayOfWeek day, CultureInfo culture) =>
        ((int)day - (int)Locales.FirstDayOfWeek(culture) + 7) % 7 + 1;

    private static int MinimalDays(CultureInfo culture) =>
        culture.Equals(CultureInfo.InvariantCulture)
            ? 4
            : culture.DateTimeFormat.CalendarWeekRule switch
            {
                CalendarWeekRule.FirstDay => 1,
                CalendarWeekRule.FirstFourDayWeek => 4,
                _ => 7,
            };

    private static IWeekYearRule WeekRule(CultureInfo culture) =>
        WeekYearRules.ForMinDaysInFirstWeek(MinimalDays(culture), Locales.FirstDayOfWeek(culture));

    private static int WeekOfMonth(LocalDate date, CultureInfo culture)
    {
        var first = date.PlusDays(1 - date.Day);
        var daysInFirstWeek = 8 - LocalWeekday(first.DayOfWeek, culture);
        var week = (date.Day - daysInFirstWeek - 1 + 7) / 7;
        return daysInFirstWeek >= MinimalDays(culture) ? week + 1 : week;
    }

    private static string Zone(char letter, int count, ZonedDateTime moment)
    {
        var offset = moment.Offset;
        if (letter == 'z')
        {
            var name = moment.GetZoneInterval().Name;
            return name.All(char.IsAsciiLetter) ? name : Gmt(offset, full: false);
        }
        if (letter == 'O')
            return Gmt(offset, full: count == 4);
        if (letter == 'Z')
            return count switch
            {
                <= 3 => Offset(offset, "", true),
                4 => Gmt(offset, full: true),
                _ => offset == NodaTime.Offset.Zero ? "Z" : Offset(offset, ":", true),
            };
        if (letter == 'X' && offset == NodaTime.Offset.Zero)
            return "Z";
        return count switch
        {
            1 => Offset(offset, "", minutes: offset.Seconds % 3600 != 0),
            2 or 4 => Offset(offset, "", minutes: true),
            _ => Offset(offset, ":", minutes: true),
        };
    }

    private static string Gmt(Offset offset, bool full)
    {
        if (offset == NodaTime.Offset.Zero)
            return "GMT";
        var text = Offset(offset, ":", minutes: full || offset.Seconds % 3600 != 0);
        return "GMT" + (full || text[1] != '0' ? text : text[0] + text[2..]);
    }

    private static string Offset(Offset offset, string separator, bool minutes)
    {
        var seconds = Math.Abs(offset.Seconds);
        var text = (offset.Seconds < 0 ? "-" : "+") + Number(seconds / 3600, 2);
        return minutes ? text + separator + Number(seconds / 60 % 60, 2) : text;
    }
}
