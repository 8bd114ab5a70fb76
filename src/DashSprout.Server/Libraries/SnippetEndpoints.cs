using DashSprout.Exchange;
using DashSprout.Store;

namespace DashSprout.Server.Libraries;

/// <summary>A snippet with where it lies.</summary>
public sealed record SnippetAnswer(
    long Id, int Version, long LibraryId, long? FolderId, string Library, IReadOnlyList<string> Folders, SnippetDocument Snippet);

/// <summary>A snippet to add to a place.</summary>
public sealed record NewSnippet(long LibraryId, SnippetDocument Snippet, long? FolderId = null);

/// <summary>A snippet to save.</summary>
/// <param name="Version">The version the change is based on.</param>
public sealed record SnippetChange(int Version, SnippetDocument Snippet);

/// <summary>A snippet's switch.</summary>
public sealed record SnippetSwitch(int Version, bool Enabled);

internal static class SnippetEndpoints
{
    public static void MapSnippets(this IEndpointRouteBuilder api)
    {
        api.MapGet("/snippets/{id:long}", (long id, Catalog catalog) => Answer(catalog.Shelf, catalog.Shelf.Snippet(id)));

        api.MapPost("/snippets", (NewSnippet given, Catalog catalog) =>
        {
            var place = catalog.Shelf.RequirePlace(given.LibraryId, given.FolderId);
            var added = catalog.AddSnippet(place, Core.InvalidInputException.Within("snippet", given.Snippet.ToSnippet));
            return TypedResults.Ok(Answer(catalog.Shelf, added));
        });

        api.MapPut("/snippets/{id:long}", (long id, SnippetChange change, Catalog catalog) =>
        {
            var snippet = Core.InvalidInputException.Within("snippet", change.Snippet.ToSnippet);
            return TypedResults.Ok(Answer(catalog.Shelf, catalog.SaveSnippet(id, change.Version, snippet)));
        });

        api.MapPut("/snippets/{id:long}/switch", (long id, SnippetSwitch change, Catalog catalog) =>
        {
            var snippet = catalog.Shelf.Snippet(id).Snippet with { Enabled = change.Enabled };
            return TypedResults.Ok(Answer(catalog.Shelf, catalog.SaveSnippet(id, change.Version, snippet)));
        });
    }

    public static SnippetAnswer Answer(Shelf shelf, StoredSnippet snippet) => new(
        snippet.Id, snippet.Version, snippet.Place.LibraryId, snippet.Place.FolderId,
        shelf.Library(snippet.Place.LibraryId).Name, shelf.PathOf(snippet.Place), SnippetDocument.Of(snippet.Snippet));
}
