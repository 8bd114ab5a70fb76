using System.Globalization;
using System.Text.Json.Nodes;

namespace DashSprout.Server.Live;

/// <summary>
/// The stand-in service of the invented port of Gullhaven: its tide table and weather, worked out from the time alone,
/// for the demo and for trying live values.
/// </summary>
internal sealed class HarbourService(TimeProvider clock)
{
    /// <summary>A document of the service; null when there is none of that path.</summary>
    public string? Document(string path) =>
        path switch
        {
            "/harbour/tides.json" => Tides().ToJsonString(),
            "/harbour/weather.json" => Weather().ToJsonString(),
            _ => null,
        };

    /// <summary>
    /// High and low water follow each other by half of 12 h 25 min, which is the common practice for two tides a day.
    /// </summary>
    private JsonObject Tides()
    {
        var now = clock.GetLocalNow().DateTime;
        var half = TimeSpan.FromMinutes(745.0 / 2);
        var count = (long)Math.Ceiling((now - DateTime.UnixEpoch).TotalMinutes / half.TotalMinutes);
        JsonArray high = [],
            low = [];
        for (var at = count; at < count + 4; at++)
        {
            var time = DateTime.UnixEpoch + half * at;
            var isHigh = at % 2 == 0;
            // Springs and neaps come and go within a fortnight.
            var swing = Math.Cos(2 * Math.PI * (time - DateTime.UnixEpoch).TotalDays / 14.77);
            var height = Math.Round(isHigh ? 4.2 + 0.6 * swing : 1.1 - 0.4 * swing, 1);
            (isHigh ? high : low).Add(
                new JsonObject { ["time"] = time.ToString("HH:mm", CultureInfo.InvariantCulture), ["height"] = height }
            );
        }
        return new JsonObject
        {
            ["station"] = "Gullhaven",
            ["unit"] = "m",
            ["high"] = high,
            ["low"] = low,
        };
    }

    private JsonObject Weather()
    {
        string[] directions = ["N", "NE", "E", "SE", "S", "SW", "W", "NW"];
        var hour = (long)(clock.GetUtcNow() - DateTimeOffset.UnixEpoch).TotalHours;
        var wave = Math.Sin(hour / 7.0);
        return new JsonObject
        {
            ["station"] = "Gullhaven",
            ["wind"] = new JsonObject
            {
                ["direction"] = directions[hour / 5 % 8],
                ["speed"] = (int)(12 + 8 * wave),
                ["unit"] = "kn",
            },
            ["pressure"] = (int)(1012 - 9 * wave),
            ["sea"] =
                wave < -0.3 ? "smooth"
                : wave < 0.5 ? "slight"
                : "moderate",
            ["visibility"] = wave < 0.6 ? "good" : "fair",
        };
    }
}
