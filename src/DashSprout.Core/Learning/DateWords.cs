using System.Globalization;

namespace DashSprout.Core.Learning;

/// <summary>Names of months and days, as they are written.</summary>
public static class DateWords
{
    /// <summary>Those of some languages, and of English.</summary>
    public static IReadOnlySet<string> Of(params IEnumerable<CultureInfo> languages) =>
        languages
            .Append(CultureInfo.InvariantCulture)
            .Select(language => language.DateTimeFormat)
            .SelectMany(format =>
                (string[])
                    [
                        .. format.MonthNames,
                        .. format.MonthGenitiveNames,
                        .. format.AbbreviatedMonthNames,
                        .. format.DayNames,
                    ]
            )
            .Where(name => name.Length > 2)
            .ToHashSet(StringComparer.Ordinal);
}
