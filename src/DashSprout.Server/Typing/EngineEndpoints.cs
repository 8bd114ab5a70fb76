using DashSprout.Core.Engine;
using DashSprout.Core.Triggers;
using DashSprout.Server.Libraries;
using Microsoft.AspNetCore.SignalR;

namespace DashSprout.Server.Typing;

/// <summary>The engine's switch.</summary>
public sealed record EngineChange(bool Listening);

internal static class EngineEndpoints
{
    public static void MapEngine(this IEndpointRouteBuilder api)
    {
        api.MapGet("/engine", State);
        api.MapPut("/engine", async Task<EngineState> (EngineChange change, EngineSwitch engineSwitch, Catalog catalog, IHubContext<TypingHub> hub) =>
        {
            engineSwitch.Set(rest: !change.Listening);
            var state = State(engineSwitch, catalog);
            await hub.Clients.All.SendAsync("engine", state);
            return state;
        });
    }

    private static EngineState State(EngineSwitch engineSwitch, Catalog catalog) => new(
        !engineSwitch.Resting,
        [
            TypingEngine.DefaultTakeBackChord,
            .. catalog.Shelf.Index.All.Where(trigger => trigger.Placed.Active).Select(trigger => trigger.Trigger)
                .OfType<Trigger.Hotkey>().Select(hotkey => hotkey.Chord.Value).Distinct().Order(StringComparer.Ordinal),
        ]);
}
