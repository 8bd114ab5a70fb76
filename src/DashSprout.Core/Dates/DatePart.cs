using System.Globalization;
using NodaTime;
using NodaTime.TimeZones;

namespace DashSprout.Core.Dates;

/// <summary>A date or time in a body, worked out when the snippet goes off.</summary>
/// <param name="Working">Whether the days of the shift count working days only.</param>
/// <param name="From">The name of a date field that it starts from; null for now.</param>
/// <param name="Zone">A time zone id; null for the user's.</param>
/// <param name="Locale">A locale; null for the user's.</param>
public sealed record DatePart(
    DatePattern Pattern,
    DateShift? Shift = null,
    bool Working = false,
    DateSnap? Snap = null,
    string? From = null,
    string? Zone = null,
    string? Locale = null
)
{
    /// <summary>Writes the date.</summary>
    /// <param name="start">Now, or the answer it starts from at the start of its day.</param>
    /// <exception cref="DateException">It would lie outside the calendar.</exception>
    public string Format(ZonedDateTime start, CultureInfo culture, WorkingDays working)
    {
        try
        {
            return Moved(start, culture, working);
        }
        catch (Exception exception) when (exception is OverflowException or ArgumentOutOfRangeException)
        {
            throw new DateException(
                $"The date moved by {Shift?.Source ?? Snap?.Source ?? "its zone"} would lie outside the "
                    + "calendar, which ends with the year 9999. Begin from an earlier date."
            );
        }
    }

    private string Moved(ZonedDateTime start, CultureInfo culture, WorkingDays working)
    {
        if (Locale is not null)
            culture = Locales.Find("data-locale", Locale);
        if (Zone is not null)
            start = From is null
                ? start.WithZone(Zones.Find("data-zone", Zone))
                : start.LocalDateTime.InZoneLeniently(Zones.Find("data-zone", Zone));
        if (Shift is not null)
            start = Shift.Move(start, Working ? working : null);
        if (Snap is not null)
            start = (Snap.Move(start.Date, culture) + start.TimeOfDay).InZoneLeniently(start.Zone);
        return Pattern.Format(start, culture);
    }
}

/// <summary>Thrown when a date cannot be worked out; the message is for the user.</summary>
public sealed class DateException(string message) : Exception(message);

/// <summary>Time zones of the IANA database that comes with Noda Time.</summary>
public static class Zones
{
    /// <summary>The zone with an id such as <c>Europe/London</c>.</summary>
    public static DateTimeZone Find(string field, string id) =>
        DateTimeZoneProviders.Tzdb.GetZoneOrNull(id)
        ?? throw new InvalidInputException(
            field,
            $"“{id}” is no time zone. Use an IANA name such as Europe/London or UTC."
        );

    /// <summary>All ids, in order.</summary>
    public static IReadOnlyList<string> All { get; } =
    [
        .. TzdbDateTimeZoneSource
            .Default.ZoneLocations!.Select(location => location.ZoneId)
            .Append("UTC")
            .Distinct()
            .Order(StringComparer.Ordinal),
    ];
}

/// <summary>Locales with data in .NET.</summary>
public static class Locales
{
    private static readonly Dictionary<string, CultureInfo> Known = CultureInfo
        .GetCultures(CultureTypes.AllCultures)
        .Where(culture => culture.Name.Length > 0)
        .GroupBy(culture => culture.Name, StringComparer.OrdinalIgnoreCase)
        .ToDictionary(
            group => group.Key,
            group => CultureInfo.ReadOnly(new CultureInfo(group.Key, useUserOverride: false)),
            StringComparer.OrdinalIgnoreCase
        );

    /// <summary>
    /// The culture of a locale such as <c>en-GB</c>; <c>und</c> is the one without a language, with ISO weeks.
    /// </summary>
    public static CultureInfo Find(string field, string name)
    {
        if (name is "und" or "root")
            return CultureInfo.InvariantCulture;
        return Known.TryGetValue(name, out var culture)
            ? culture
            : throw new InvalidInputException(
                field,
                $"“{name}” is no locale with data here. Use a name such as en-GB, de or fr-CA."
            );
    }

    /// <summary>The day a week begins with; Monday without a language, as in ISO 8601.</summary>
    public static IsoDayOfWeek FirstDayOfWeek(CultureInfo culture) =>
        culture.Equals(CultureInfo.InvariantCulture) ? IsoDayOfWeek.Monday
        : culture.DateTimeFormat.FirstDayOfWeek == DayOfWeek.Sunday ? IsoDayOfWeek.Sunday
        : (IsoDayOfWeek)(int)culture.DateTimeFormat.FirstDayOfWeek;

    /// <summary>All names, in order.</summary>
    public static IEnumerable<string> All => Known.Keys.Order(StringComparer.Ordinal);
}
