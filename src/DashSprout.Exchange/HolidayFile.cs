using DashSprout.Core;
using Ical.Net;
using Ical.Net.DataTypes;
using NodaTime;

namespace DashSprout.Exchange;

/// <summary>Holidays from an iCalendar file (RFC 5545): every day of every event in it, repetitions included.</summary>
public static class HolidayFile
{
    /// <summary>The largest file, in UTF-16 units.</summary>
    public const int MaxLength = 1024 * 1024;

    private const int MostDays = 5000;

    /// <summary>The days from one year to another, both included.</summary>
    public static IReadOnlyList<LocalDate> Read(string field, string text, int fromYear, int toYear)
    {
        if (text.Length > MaxLength) throw new InvalidInputException(field, "The calendar is larger than 1 MiB. Leave out what is no holiday.");
        if (!text.Contains("BEGIN:VCALENDAR", StringComparison.OrdinalIgnoreCase)) throw new InvalidInputException(field, "This is no iCalendar file: BEGIN:VCALENDAR is missing.");
        try
        {
            var calendar = Calendar.Load(text) ?? throw new InvalidInputException(field, "The calendar is empty.");
            var end = new CalDateTime(toYear, 12, 31);
            return
            [
                .. calendar.GetOccurrences(new CalDateTime(fromYear, 1, 1)).TakeWhile(occurrence => occurrence.Period.StartTime.Date <= end.Date)
                    .Take(MostDays).SelectMany(Days).Distinct().Order(),
            ];
        }
        catch (Exception exception) when (exception is not InvalidInputException)
        {
            throw new InvalidInputException(field, $"The calendar cannot be read: {exception.Message}");
        }
    }

    private static IEnumerable<LocalDate> Days(Occurrence occurrence)
    {
        var first = LocalDate.FromDateOnly(occurrence.Period.StartTime.Date);
        // The end of an all-day event is the day after its last one.
        var last = occurrence.Period.EffectiveEndTime is { } end && LocalDate.FromDateOnly(end.Date) > first
            ? end.HasTime ? LocalDate.FromDateOnly(end.Date) : LocalDate.FromDateOnly(end.Date).PlusDays(-1)
            : first;
        for (var day = first; day <= last && day < first.PlusDays(366); day = day.PlusDays(1)) yield return day;
    }
}
