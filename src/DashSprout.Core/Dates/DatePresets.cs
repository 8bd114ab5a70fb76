using System.Globalization;
using System.Text;

namespace DashSprout.Core.Dates;

/// <summary>Patterns with a name, so that nobody has to know the letters.</summary>
public static class DatePresets
{
    /// <summary>The presets of a locale, in the order a picker shows them.</summary>
    public static IEnumerable<(string Name, string Pattern)> For(CultureInfo culture)
    {
        var names = culture.DateTimeFormat;
        yield return ("Short date", FromDotNet(names.ShortDatePattern));
        yield return ("Medium date", "d MMM y");
        yield return ("Long date", "d MMMM y");
        yield return ("Full date", FromDotNet(names.LongDatePattern));
        yield return ("Time", FromDotNet(names.ShortTimePattern));
        yield return ("Time with seconds", FromDotNet(names.LongTimePattern));
        yield return ("Weekday", "EEEE");
        yield return ("Weekday, day and month", $"EEEE, {FromDotNet(names.MonthDayPattern)}");
        yield return ("Month and year", "LLLL y");
        yield return ("ISO 8601 date", "yyyy-MM-dd");
        yield return ("ISO 8601 date and time", "yyyy-MM-dd'T'HH:mm:ssXXX");
        yield return ("Week of the year", "'week' w");
        yield return ("File-name stamp", "yyyyMMdd-HHmm");
        yield return ("File-name stamp with seconds", "yyyyMMdd-HHmmss");
    }

    /// <summary>
    /// A .NET pattern in the letters of UTS #35; the two differ in the weekday, the era and the half of the day.
    /// </summary>
    private static string FromDotNet(string pattern)
    {
        var converted = new StringBuilder();
        for (var at = 0; at < pattern.Length; )
        {
            var letter = pattern[at];
            var end = at + 1;
            if (letter == '\'')
            {
                end = pattern.IndexOf('\'', at + 1) + 1;
                if (end == 0)
                    end = pattern.Length;
                converted.Append(pattern, at, end - at);
                at = end;
                continue;
            }
            while (end < pattern.Length && pattern[end] == letter)
                end++;
            converted.Append(
                (letter, end - at) switch
                {
                    ('d', > 3) => "EEEE",
                    ('d', 3) => "EEE",
                    ('t', _) => "a",
                    ('g', _) => "G",
                    ('y', > 2) => "y",
                    ('d' or 'M' or 'y' or 'H' or 'h' or 'm' or 's', _) => pattern[at..end],
                    _ => char.IsAsciiLetter(letter) ? $"'{pattern[at..end]}'" : pattern[at..end],
                }
            );
            at = end;
        }
        return converted.ToString();
    }
}
