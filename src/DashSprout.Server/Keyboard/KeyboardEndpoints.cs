using DashSprout.Keyboard.Linking;
using Microsoft.AspNetCore.Http.HttpResults;

namespace DashSprout.Server.Keyboard;

/// <summary>How the keyboard link stands.</summary>
/// <param name="Problem">Why it is not linked, and what to do; null when nothing is wrong.</param>
/// <param name="SessionProblem">What the desktop lacks that the link works without; null when it lacks nothing.</param>
/// <param name="CompanionReady">Whether the window over other applications can be shown at once.</param>
public sealed record KeyboardState(
    bool Linked,
    string Display,
    IReadOnlyList<string> Layouts,
    string? Problem,
    string? SessionProblem,
    bool CompanionReady,
    KeyboardSettings Settings,
    IReadOnlyList<SeenApp> Apps
);

internal static class KeyboardEndpoints
{
    public static void MapKeyboard(this IEndpointRouteBuilder api)
    {
        api.MapGet("/keyboard", State);
        api.MapPut("/keyboard", (KeyboardSettings settings, LinkedKeyboard keyboard, KeyboardChoices choices) =>
        {
            keyboard.Save(settings);
            return State(keyboard, choices);
        });
        api.MapPost("/keyboard/check", (LinkedKeyboard keyboard) => keyboard.Link.Check());
        api.MapGet(
            "/keyboard/icons/{app}",
            Results<PhysicalFileHttpResult, NotFound> (string app, KeyboardChoices choices) =>
                choices.Seen().FirstOrDefault(one => one.Id == app) is { } known
                && Applications.IconFile(known.Icon) is { } file
                    ? TypedResults.PhysicalFile(file, Path.GetExtension(file) == ".svg" ? "image/svg+xml" : "image/png")
                    : TypedResults.NotFound()
        );
    }

    private static KeyboardState State(LinkedKeyboard keyboard, KeyboardChoices choices)
    {
        var state = keyboard.Link.State;
        return new KeyboardState(
            state.IsLinked,
            state.Display,
            state.Layouts,
            state.Problem,
            keyboard.SessionProblem,
            keyboard.Link.IsCompanionReady,
            choices.Chosen,
            [
                .. choices
                    .Seen()
                    .Select(app => new SeenApp(
                        app.Id,
                        app.Name,
                        Applications.IconFile(app.Icon) is not null,
                        app.IsTerminal
                    )),
            ]
        );
    }
}
