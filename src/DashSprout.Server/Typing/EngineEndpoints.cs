using DashSprout.Core.Engine;
using DashSprout.Server.Engine;
using DashSprout.Server.Libraries;
using Microsoft.AspNetCore.SignalR;

namespace DashSprout.Server.Typing;

/// <summary>What was typed last.</summary>
public sealed record NearestRequest(string Typed);

/// <summary>An abbreviation that is nearly what was typed; no slips when it is exactly that.</summary>
public sealed record NearestAnswer(
    long SnippetId,
    string Library,
    string Snippet,
    string Trigger,
    string Typed,
    int Slips,
    bool Active
);

internal static class EngineEndpoints
{
    public static void MapEngine(this IEndpointRouteBuilder api)
    {
        api.MapGet("/engine", State);
        api.MapPut(
            "/engine",
            async Task<EngineState> (EngineChange change, EngineSwitch engineSwitch, IHubContext<TypingHub> hub) =>
            {
                engineSwitch.Change(change);
                var state = State(engineSwitch);
                await hub.Clients.All.SendAsync("engine", state);
                return state;
            }
        );
        api.MapGet("/settings/typing", (EngineSwitch engineSwitch) => engineSwitch.Typing);
        api.MapPut(
            "/settings/typing",
            async Task<TypingSettings> (TypingSettings given, EngineSwitch engineSwitch, IHubContext<TypingHub> hub) =>
            {
                engineSwitch.Set(given);
                await hub.Clients.All.SendAsync("engine", State(engineSwitch));
                return engineSwitch.Typing;
            }
        );
        api.MapGet("/chords", (EngineSwitch engineSwitch, LibraryService libraryService) =>
        {
            var now = libraryService.Tree;
            return engineSwitch
                .Typing.Chords.All.Zip(ProgramChords.Default.All, (one, usual) =>
                    new ProgramChord(
                        one.Command,
                        one.Does,
                        one.Chord,
                        usual.Chord,
                        ProgramChords.OwnerOf(one.Chord, now)
                    )
                )
                .ToArray();
        });
        api.MapPost("/engine/nearest", (NearestRequest request, LibraryService libraryService) =>
            NearestAbbreviation
                .Of(libraryService.Snapshot.Index, request.Typed)
                .Select(near => new NearestAnswer(
                    near.Trigger.Placed.Id,
                    near.Trigger.Placed.Library,
                    near.Trigger.Placed.Snippet.Name,
                    near.Trigger.Trigger.Text,
                    near.Typed,
                    near.Slips,
                    near.Trigger.Placed.Active
                ))
                .ToArray()
        );
    }

    internal static EngineState State(EngineSwitch engineSwitch)
    {
        var rest = engineSwitch.Rest;
        return new EngineState(!rest.Resting, rest.Until?.ToUnixTimeMilliseconds(), rest.Apps, engineSwitch.Typing);
    }
}
