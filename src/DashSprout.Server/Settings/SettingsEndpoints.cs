using DashSprout.Core.Dates;
using DashSprout.Store.Items;

namespace DashSprout.Server.Settings;

/// <summary>A named date pattern, and what it gives now.</summary>
public sealed record DatePreset(string Name, string Pattern, string Now);

/// <summary>What can be chosen.</summary>
public sealed record DateChoices(
    IReadOnlyList<string> Zones,
    IReadOnlyList<string> Locales,
    IReadOnlyList<string> Snaps
);

internal static class SettingsEndpoints
{
    public static void MapSettings(this IEndpointRouteBuilder api)
    {
        api.MapGet("/settings/dates", (RenderContextSource contexts) => contexts.Dates);
        api.MapPut("/settings/dates", (DateSettings dates, RenderContextSource contexts) =>
        {
            contexts.Save(dates);
            return contexts.Dates;
        });
        api.MapDelete("/recent-answers", (RecentAnswers recent) => recent.Forget());
        api.MapGet("/dates/choices", () => new DateChoices([.. Zones.All], [.. Locales.All], [.. DateSnap.All]));
        api.MapGet("/dates/presets", (RenderContextSource contexts, string? locale) =>
        {
            var now = contexts.Now();
            var culture = string.IsNullOrEmpty(locale) ? now.Locale : Locales.Find("locale", locale);
            return DatePresets
                .For(culture)
                .Select(preset => new DatePreset(
                    preset.Name,
                    preset.Pattern,
                    DatePattern.Parse("pattern", preset.Pattern).Format(now.Now, culture)
                ))
                .ToArray();
        });
    }
}
