using DashSprout.Core;
using Ical.Net;
using Ical.Net.DataTypes;
using NodaTime;

namespace DashSprout.Exchange.Lists;

/// <summary>Holidays from an iCalendar file (RFC 5545): every day of every event in it, repetitions included.</summary>
public static class HolidayFile
{
    /// <summary>The largest file, in UTF-16 units.</summary>
    public const int MaxLength = 1024 * 1024;

    private const int MostDays = 5000,
        MostRepeats = 300_000;

    /// <summary>The days from one year to another, both included.</summary>
    public static IReadOnlyList<LocalDate> Read(string field, string text, int fromYear, int toYear)
    {
        if (text.Length > MaxLength)
            throw new InvalidInputException(field, "The calendar is larger than 1 MiB. Leave out what is no holiday.");
        if (!text.Contains("BEGIN:VCALENDAR", StringComparison.OrdinalIgnoreCase))
            throw new InvalidInputException(field, "This is no iCalendar file: BEGIN:VCALENDAR is missing.");
        try
        {
            var calendar = Calendar.Load(text) ?? throw new InvalidInputException(field, "The calendar is empty.");
            CheckRules(field, calendar, toYear);
            var end = new CalDateTime(toYear, 12, 31);
            return
            [
                .. calendar
                    .GetOccurrences(new CalDateTime(fromYear, 1, 1))
                    .TakeWhile(occurrence => occurrence.Period.StartTime.Date <= end.Date)
                    .Take(MostDays)
                    .SelectMany(Days)
                    .Distinct()
                    .Order(),
            ];
        }
        catch (Exception exception) when (exception is not InvalidInputException)
        {
            throw new InvalidInputException(field, $"The calendar cannot be read: {exception.Message}");
        }
    }

    /// <summary>
    /// Holidays come by days: rules that repeat more often, or that have been at it for very long, are not worked out.
    /// </summary>
    private static void CheckRules(string field, Calendar calendar, int toYear)
    {
        var repeats = 0.0;
        foreach (var one in calendar.Events)
        {
            if (one.RecurrenceRule is not { } rule)
                continue;
            var perYear = rule.Frequency switch
            {
                FrequencyType.Yearly => 1,
                FrequencyType.Monthly => 12,
                FrequencyType.Weekly => 53,
                FrequencyType.Daily => 366,
                _ => throw new InvalidInputException(
                    field,
                    $"“{one.Summary}” repeats every {Word(rule.Frequency)}. Holidays repeat daily at most: "
                        + "change its RRULE, or leave the event out."
                ),
            };
            // A rule by days tries each of them.
            repeats +=
                Math.Max(1, toYear - (one.DtStart?.Year ?? toYear))
                * (double)
                    Math.Max(perYear, rule.ByDay.Count + rule.ByYearDay.Count + rule.ByMonthDay.Count > 0 ? 366 : 0)
                / Math.Max(1, rule.Interval);
        }
        if (repeats > MostRepeats)
            throw new InvalidInputException(
                field,
                $"The repetitions in this calendar come to some {repeats:N0} days; {MostRepeats:N0} are "
                    + "allowed. Let them begin later, or leave events out."
            );
    }

    private static string Word(FrequencyType frequency) =>
        frequency switch
        {
            FrequencyType.Hourly => "hour",
            FrequencyType.Minutely => "minute",
            _ => "second",
        };

    private static IEnumerable<LocalDate> Days(Occurrence occurrence)
    {
        var first = LocalDate.FromDateOnly(occurrence.Period.StartTime.Date);
        // The end of an all-day event is the day after its last one.
        var last =
            occurrence.Period.EffectiveEndTime is { } end && LocalDate.FromDateOnly(end.Date) > first
                ? end.HasTime
                    ? LocalDate.FromDateOnly(end.Date)
                    : LocalDate.FromDateOnly(end.Date).PlusDays(-1)
                : first;
        for (var day = first; day <= last && day < first.PlusDays(366); day = day.PlusDays(1))
            yield return day;
    }
}
