using System.Text.Json;
using DashSprout.Core.Dates;
using NodaTime;
using NodaTime.Text;

namespace DashSprout.Core.Tests.Dates;

/// <summary>Date patterns, shifts, snaps and working days against other libraries and published examples.</summary>
public sealed class DateTests
{
    private static readonly JsonElement Fixtures = Load();

    /// <summary>
    /// Node's Intl (ICU, CLDR) is the other implementation of UTS #35; scripts/make-date-fixtures.mjs wrote what it
    /// says.
    /// </summary>
    [Fact]
    public void Patterns_agree_with_Intl()
    {
        var wrong = new List<string>();
        var all = Fixtures.GetProperty("dates").EnumerateArray().ToList();
        Assert.True(all.Count >= 500);
        foreach (var fixture in all)
        {
            var moment = Local(fixture, "local").InZoneStrictly(Zones.Find("", Text(fixture, "zone")));
            var shown = DatePattern
                .Parse("", Text(fixture, "pattern"))
                .Format(moment, Locales.Find("", Text(fixture, "locale")));
            if (shown != Text(fixture, "expected"))
                wrong.Add(
                    $"{Text(fixture, "locale")} {Text(fixture, "pattern")}: {shown} and not {Text(fixture, "expected")}"
                );
        }
        Assert.True(wrong.Count == 0, $"{wrong.Count} of {all.Count}:\n{string.Join('\n', wrong.Distinct().Take(40))}");
    }

    /// <summary>date-fns, addBusinessDays.</summary>
    [Fact]
    public void Working_days_agree_with_date_fns()
    {
        var all = Fixtures.GetProperty("workingDays").EnumerateArray().ToList();
        Assert.True(all.Count > 200);
        foreach (var fixture in all)
            Assert.Equal(
                Text(fixture, "to"),
                LocalDatePattern.Iso.Format(
                    WorkingDays.MondayToFriday.Add(
                        LocalDatePattern.Iso.Parse(Text(fixture, "from")).Value,
                        fixture.GetProperty("days").GetInt32()
                    )
                )
            );
    }

    [Fact]
    public void Working_days_skip_holidays_and_another_weekend()
    {
        var easter = new WorkingDays([IsoDayOfWeek.Friday, IsoDayOfWeek.Saturday], [new LocalDate(2026, 4, 5)]);
        Assert.Equal(new LocalDate(2026, 4, 6), easter.Add(new LocalDate(2026, 4, 2), 1));
        Assert.Throws<InvalidInputException>(() =>
            new WorkingDays(Enum.GetValues<IsoDayOfWeek>().Where(day => day != IsoDayOfWeek.None), [])
        );
    }

    /// <summary>Week dates around the turn of years, examples of ISO 8601 (from memory).</summary>
    [Theory]
    [InlineData("2005-01-01", "2004-W53-6")]
    [InlineData("2005-01-02", "2004-W53-7")]
    [InlineData("2005-12-31", "2005-W52-6")]
    [InlineData("2007-01-01", "2007-W01-1")]
    [InlineData("2008-12-28", "2008-W52-7")]
    [InlineData("2008-12-29", "2009-W01-1")]
    [InlineData("2009-12-31", "2009-W53-4")]
    [InlineData("2010-01-03", "2009-W53-7")]
    public void Iso_week_dates(string date, string week) =>
        Assert.Equal(week, Format("YYYY-'W'ww-e", date + "T00:00:00", "und"));

    [Theory]
    // Weeks of a culture: the United States begin on Sunday with the week of 1 January, Britain as in ISO 8601.
    [InlineData("w", "2027-01-01T00:00:00", "en-US", "1")]
    [InlineData("w", "2027-01-01T00:00:00", "en-GB", "53")]
    [InlineData("W", "2026-03-02T00:00:00", "en-GB", "1")]
    [InlineData("W", "2026-03-01T00:00:00", "en-GB", "0")]
    [InlineData("e", "2026-03-02T00:00:00", "en-US", "2")]
    [InlineData("e", "2026-03-02T00:00:00", "en-GB", "1")]
    [InlineData("D F Q QQQ", "2026-03-02T00:00:00", "en-GB", "61 1 1 Q1")]
    [InlineData("QQQQ", "2026-11-02T00:00:00", "en-GB", "4th quarter")]
    [InlineData("h a", "2026-03-02T00:30:00", "en-US", "12 AM")]
    [InlineData("K k H", "2026-03-02T00:30:00", "en-US", "0 24 0")]
    [InlineData("SSS S A", "2026-03-02T00:00:01.25", "en-GB", "250 2 1250")]
    [InlineData("MMMMM EEEEE EEEEEE", "2026-03-02T00:00:00", "de", "M M Mo.")]
    [InlineData("LLLL d MMMM", "2026-03-02T00:00:00", "pl", "marzec 2 marca")]
    [InlineData("'it''s' d ''", "2026-03-02T00:00:00", "en-GB", "it's 2 '")]
    [InlineData("y yy yyyyy u", "2026-03-02T00:00:00", "en-GB", "2026 26 02026 2026")]
    [InlineData(
        "z Z ZZZZ ZZZZZ X XX XXX x xxx O VV",
        "2026-07-02T00:00:00",
        "en-GB",
        "BST +0100 GMT+01:00 +01:00 +01 +0100 +01:00 +01 +01:00 GMT+1 Europe/London"
    )]
    [InlineData("ZZZZZ X xxx O", "2026-01-02T00:00:00", "en-GB", "Z Z +00:00 GMT")]
    public void Fields(string pattern, string local, string locale, string shown) =>
        Assert.Equal(shown, Format(pattern, local, locale));

    [Theory]
    [InlineData("d MMMM bb", "“bb” at position 8")]
    [InlineData("today", "“t” at position 1")]
    [InlineData("yyyy-MM-dd HHH", "“HHH” at position 12 has 3 letters")]
    [InlineData("d 'of MMMM", "position 3 has no closing apostrophe")]
    [InlineData("", "empty")]
    public void Letters_that_are_no_date_fields_are_refused_with_their_position(string pattern, string why) =>
        Assert.Contains(
            why,
            Assert.Throws<InvalidInputException>(() => DatePattern.Parse("body", pattern)).Message,
            StringComparison.Ordinal
        );

    /// <summary>Noda Time's documented arithmetic: a month on from 31 January is the last of February.</summary>
    [Theory]
    [InlineData("2026-01-31T10:00:00", "P1M", "2026-02-28T10:00:00")]
    [InlineData("2024-01-31T10:00:00", "P1M", "2024-02-29T10:00:00")]
    [InlineData("2024-02-29T10:00:00", "P1Y", "2025-02-28T10:00:00")]
    [InlineData("2026-03-31T10:00:00", "-P1M", "2026-02-28T10:00:00")]
    [InlineData("2026-03-02T10:00:00", "P1Y2M3W4DT5H6M7S", "2027-05-27T15:06:07")]
    [InlineData("2026-03-02T23:30:00", "PT2H", "2026-03-03T01:30:00")]
    // Summer time begins at 01:00 on 29 March 2026 in London: two hours on is three on the clock; a day is a day.
    [InlineData("2026-03-29T00:30:00", "PT2H", "2026-03-29T03:30:00")]
    [InlineData("2026-03-28T12:00:00", "P1D", "2026-03-29T12:00:00")]
    public void Shifts(string from, string shift, string to)
    {
        var moved = DateShift.Parse("", shift).Move(Moment(from), null);
        Assert.Equal(to, LocalDateTimePattern.ExtendedIso.Format(moved.LocalDateTime));
    }

    [Theory]
    [InlineData("3 days")]
    [InlineData("P")]
    [InlineData("P3")]
    [InlineData("PT")]
    [InlineData("P1DT")]
    [InlineData("P1H")]
    public void What_is_no_duration_is_refused(string shift) =>
        Assert.Throws<InvalidInputException>(() => DateShift.Parse("", shift));

    [Theory]
    [InlineData("start-of-week", "en-GB", "2026-03-02")]
    [InlineData("start-of-week", "en-US", "2026-03-01")]
    [InlineData("end-of-week", "en-GB", "2026-03-08")]
    [InlineData("end-of-month", "en-GB", "2026-03-31")]
    [InlineData("start-of-quarter", "en-GB", "2026-01-01")]
    [InlineData("end-of-year", "en-GB", "2026-12-31")]
    [InlineData("next-friday", "en-GB", "2026-03-06")]
    [InlineData("next-thursday", "en-GB", "2026-03-12")]
    [InlineData("last-thursday", "en-GB", "2026-02-26")]
    public void Snaps(string snap, string locale, string to) =>
        Assert.Equal(
            to,
            LocalDatePattern.Iso.Format(
                DateSnap.Parse("", snap).Move(new LocalDate(2026, 3, 5), Locales.Find("", locale))
            )
        );

    [Fact]
    public void Every_preset_of_every_locale_can_be_read()
    {
        foreach (var locale in Locales.All)
        foreach (var (_, pattern) in DatePresets.For(Locales.Find("", locale)))
            Assert.NotEmpty(DatePattern.Parse(locale, pattern).Source);
    }

    [Fact]
    public void Unknown_zones_locales_and_snaps_are_refused()
    {
        Assert.Contains(
            "no time zone",
            Assert.Throws<InvalidInputException>(() => Zones.Find("", "Gullhaven/Quay")).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "no locale",
            Assert.Throws<InvalidInputException>(() => Locales.Find("", "xx-QQ")).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "next-friday",
            Assert.Throws<InvalidInputException>(() => DateSnap.Parse("", "someday")).Message,
            StringComparison.Ordinal
        );
    }

    private static string Format(string pattern, string local, string locale) =>
        DatePattern.Parse("", pattern).Format(Moment(local), Locales.Find("", locale));

    private static ZonedDateTime Moment(string local) =>
        LocalDateTimePattern.ExtendedIso.Parse(local).Value.InZoneStrictly(Zones.Find("", "Europe/London"));

    private static LocalDateTime Local(JsonElement fixture, string name) =>
        LocalDateTimePattern.ExtendedIso.Parse(Text(fixture, name)).Value;

    private static string Text(JsonElement fixture, string name) => fixture.GetProperty(name).GetString()!;

    private static JsonElement Load()
    {
        using var stream = typeof(DateTests).Assembly.GetManifestResourceStream("date-fixtures.json")!;
        return JsonDocument.Parse(stream).RootElement;
    }
}
