using DashSprout.Core;
using DashSprout.Core.Bodies;
using Microsoft.AspNetCore.Http.HttpResults;

namespace DashSprout.Server.Live;

/// <summary>A source of live values, and whether it may be read.</summary>
public sealed record LiveSource(string Source, bool Allowed);

internal static class LiveEndpoints
{
    public static void MapLive(this IEndpointRouteBuilder api)
    {
        api.MapGet("/live-sources", (LiveValues live) =>
            live.Allowed().Order(StringComparer.Ordinal).Select(source => new LiveSource(source, true)).ToArray()
        );

        api.MapPut("/live-sources", (LiveSource source, LiveValues live) =>
        {
            // As a body would have it, so that nothing is allowed that no part can name.
            _ = BodyParser.Parse($"<p><slot name=\"live\"{Markup.Attribute("data-url", source.Source)}></slot></p>");
            if (source.Source.StartsWith('/'))
                throw new InvalidInputException("source", "The program's own documents may always be read.");
            live.Allow(source.Source, source.Allowed);
        });
    }

    /// <summary>The stand-in service, for whoever wants to look at it.</summary>
    public static void MapHarbour(this IEndpointRouteBuilder routes) =>
        routes.MapGet("/harbour/{name}", Results<ContentHttpResult, NotFound> (string name, HarbourService harbour) =>
            harbour.Document($"/harbour/{name}") is { } document
                ? TypedResults.Content(document, "application/json")
                : TypedResults.NotFound()
        );
}
