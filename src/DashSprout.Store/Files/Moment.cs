using System.Globalization;

namespace DashSprout.Store.Files;

/// <summary>Moments as the store writes them: in UTC, so that their order is that of their texts.</summary>
internal static class Moment
{
    public static string Text(DateTimeOffset moment) =>
        moment.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture);

    public static DateTimeOffset Read(string text) =>
        DateTimeOffset.Parse(text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal);
}
