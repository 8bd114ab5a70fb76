using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Exchange;

namespace DashSprout.Server.Libraries;

/// <summary>A snippet with where it lies. Other snippets in its body are named by identity (<c>#42</c>).</summary>
public sealed record SnippetAnswer(long Id, int Version, long ParentId, LibraryNode Library, IReadOnlyList<string> Folders, string Path, SnippetDocument Snippet);

/// <summary>A snippet to add at the end of a library or folder.</summary>
/// <param name="ParentId">The library or folder; null for the first library, which is made when there is none.</param>
/// <param name="Snippet">Without a name it gets a free one.</param>
/// <param name="FreeName">Whether a name that is taken gets a number behind it.</param>
public sealed record NewSnippet(SnippetDocument Snippet, long? ParentId = null, bool FreeName = false);

/// <summary>
/// What changed of a snippet on a page. Each part that differs between before and after is saved for itself; parts that
/// did not change may be left out on both sides.
/// </summary>
/// <param name="Before">The snippet as the page knew it; its triggers are of no account.</param>
/// <param name="After">The snippet as the page has it now; its triggers are of no account.</param>
public sealed record SnippetEdit(SnippetDocument Before, SnippetDocument After, IReadOnlyList<TriggerChange>? Triggers = null);

/// <summary>A trigger that changed on a page: nothing before for a new one, nothing after for one that was taken away.</summary>
public sealed record TriggerChange(TriggerDocument? Before = null, TriggerDocument? After = null);

/// <summary>What came of saving: the snippet as it is kept now, and the parts that could not be saved.</summary>
public sealed record SnippetSaved(SnippetAnswer Now, IReadOnlyList<UnsavedPart> Unsaved);

/// <summary>A part that was not saved.</summary>
/// <param name="Part"><c>name</c>, <c>enabled</c>, <c>note</c>, <c>private</c>, <c>delivery</c>, <c>body</c> or <c>triggers[n]</c>, n being its place among the changes.</param>
/// <param name="Conflict">Whether it was changed elsewhere meanwhile; the answer's snippet holds what is there.</param>
public sealed record UnsavedPart(string Part, string Why, bool Conflict);

internal static class SnippetEndpoints
{
    private const string NewName = "New snippet";

    public static void MapSnippets(this IEndpointRouteBuilder api)
    {
        api.MapGet("/snippets/{id:long}", (long id, Catalog catalog) => Answer(catalog.Catalogue, catalog.Catalogue.Get<SnippetItem>(id)));

        api.MapPost("/snippets", (NewSnippet given, Catalog catalog) =>
        {
            var parent = given.ParentId ?? FirstLibrary(catalog);
            var change = catalog.Do((now, id) =>
            {
                var document = given.Snippet;
                if (document.Name is null || given.FreeName) document = document with { Name = Commands.FreeName(now, parent, document.Name ?? NewName) };
                return Commands.AddSnippet(now, id, parent, InvalidInputException.Within("snippet", document.ToSnippet));
            });
            return TypedResults.Ok(Answer(catalog.Catalogue, catalog.Catalogue.Get<SnippetItem>(change.Items[0].Id)));
        });

        api.MapPatch("/snippets/{id:long}", (long id, SnippetEdit edit, Catalog catalog) =>
        {
            IReadOnlyList<UnsavedPart> unsaved = [];
            catalog.Do((now, _) =>
            {
                (var change, unsaved) = new SnippetSaving(now, now.Get<SnippetItem>(id)).Save(edit);
                return change;
            });
            return TypedResults.Ok(new SnippetSaved(Answer(catalog.Catalogue, catalog.Catalogue.Get<SnippetItem>(id)), unsaved));
        });
    }

    public static SnippetAnswer Answer(Catalogue now, SnippetItem item)
    {
        var library = now.LibraryOf(item);
        var document = LibraryDocument.Of(library.Name, library.Enabled, library.Rules);
        return new SnippetAnswer(item.Id, item.Version, item.Slot.Parent,
            new LibraryNode(library.Id, library.Name, library.Enabled, document.ClosingKeys, document.CapsLockShouts, document.BackspaceTakesBack, []),
            [.. now.FoldersOf(item).Select(folder => folder.Name)], now.PathOf(item), SnippetDocument.Of(item.Snippet));
    }

    private static long FirstLibrary(Catalog catalog) => catalog.Catalogue.Libraries.FirstOrDefault()?.Id
        ?? catalog.Do((now, id) => Commands.AddLibrary(now, id, "My snippets")).Items[0].Id;
}
