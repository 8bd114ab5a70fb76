using System.Globalization;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Dates;
using DashSprout.Exchange.Lists;
using DashSprout.Server.Data;
using DashSprout.Server.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Features;
using NodaTime;

namespace DashSprout.Server.Settings;

/// <summary>
/// What bodies use from outside: the clock, the user's zone, locale and working days, chance, and rotations.
/// </summary>
internal sealed class RenderContextSource(
    SettingStore settings,
    RotationStore rotations,
    Engine.EngineSwitch engineSwitch,
    Live.LiveValues live,
    TimeProvider clock,
    LibraryService libraryService
) : IHeldData
{
    private const string Setting = "dates";
    private readonly Lock gate = new();
    private volatile ChosenDates chosen = new(Dates: DefaultDates(), WorkingDays: WorkingDays.MondayToFriday);

    private sealed record ChosenDates(DateSettings Dates, WorkingDays WorkingDays);

    public DateSettings Dates => chosen.Dates;

    /// <summary>Why the settings that were kept could not be used; null when they are.</summary>
    public string? Fault { get; private set; }

    public void Open()
    {
        Fault = null;
        try
        {
            var kept = settings.Get<DateSettings>(Setting);
            if (kept is null && settings.Get(Setting) is not null)
                throw new InvalidInputException("dates", "They cannot be read, or something of them is missing.");
            Use(kept ?? DefaultDates());
        }
        catch (InvalidInputException exception)
        {
            Use(DefaultDates());
            Fault =
                "The settings of dates could not be used, so dates are worked out as in a new program: "
                + $"{exception.Message} Look at them in the settings.";
        }
    }

    public void Replace(Action replace)
    {
        lock (gate)
        {
            replace();
            Open();
        }
    }

    /// <summary>Checks the settings, keeps them and uses them from now on.</summary>
    public void Save(DateSettings dates)
    {
        Check(dates);
        lock (gate)
        {
            settings.Set(Setting, dates);
            Use(dates);
            Fault = null;
        }
    }

    /// <summary>The context of a body that goes off now.</summary>
    public RenderContext Now() =>
        new()
        {
            Now = Instant.FromDateTimeOffset(clock.GetUtcNow()).InZone(Zones.Find("zone", chosen.Dates.Zone)),
            Locale = Locales.Find("locale", chosen.Dates.Locale),
            WorkingDays = chosen.WorkingDays,
            FindSnippet = target => libraryService.Tree.FindBody(target),
            IsPrivate = target => libraryService.Tree.Referred(target)?.Snippet.Private == true,
            NameSnippet = target => libraryService.Tree.NameOf(target),
            Random = System.Security.Cryptography.RandomNumberGenerator.GetInt32,
            RotationsTaken = rotations.Taken,
            ShowsLinkTargets = engineSwitch.Typing.LinkTargets,
            ReadLive = (source, path) => live.Read(source, path, Live.LiveValues.Patience),
            NewId = Guid.NewGuid,
        };

    private void Use(DateSettings dates) => chosen = Check(dates);

    private ChosenDates Check(DateSettings dates)
    {
        if (dates.Weekend.Any(day => day is null))
            throw new InvalidInputException("weekend", "A day is missing. Name it, or take it out.");
        Zones.Find("zone", dates.Zone);
        Locales.Find("locale", dates.Locale);
        var weekend = dates.Weekend.Select(day => Wording.Parse<IsoDayOfWeek>("weekend", day));
        var year = clock.GetUtcNow().Year;
        var holidays =
            dates.Holidays.Length == 0 ? [] : HolidayFile.Read("holidays", dates.Holidays, year - 2, year + 10);
        return new ChosenDates(dates, new WorkingDays(weekend, holidays));
    }

    private static DateSettings DefaultDates()
    {
        var zone =
            DateTimeZoneProviders.Tzdb.GetZoneOrNull(TimeZoneInfo.Local.Id) is { } local && local.Id != "Etc/UTC"
                ? local.Id
                : "UTC";
        var locale = CultureInfo.CurrentCulture.Name;
        return new DateSettings(
            zone,
            locale.Contains('-', StringComparison.Ordinal) ? locale : "en-GB",
            ["saturday", "sunday"],
            ""
        );
    }
}

/// <summary>How dates are worked out.</summary>
/// <param name="Zone">An IANA time zone.</param>
/// <param name="Locale">A locale such as <c>en-GB</c>.</param>
/// <param name="Weekend">Days of the week that are not worked.</param>
/// <param name="Holidays">An iCalendar file's text; empty for none.</param>
public sealed record DateSettings(string Zone, string Locale, IReadOnlyList<string> Weekend, string Holidays);
