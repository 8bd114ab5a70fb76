using System.Runtime.CompilerServices;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Exchange;
using DashSprout.Store;

namespace DashSprout.Server.Libraries;

/// <summary>All libraries with what lies in them, in their order.</summary>
public sealed record LibraryTree(IReadOnlyList<LibraryNode> Libraries);

/// <summary>A library in the tree.</summary>
public sealed record LibraryNode(
    long Id, int Version, string Name, bool Enabled, IReadOnlyList<string>? ClosingKeys, bool CapsLockShouts, bool BackspaceTakesBack,
    IReadOnlyList<FolderNode> Folders, IReadOnlyList<SnippetNode> Snippets);

/// <summary>A folder in the tree.</summary>
public sealed record FolderNode(long Id, int Version, string Name, IReadOnlyList<FolderNode> Folders, IReadOnlyList<SnippetNode> Snippets);

/// <summary>A snippet in the tree, with its first words instead of its whole body.</summary>
public sealed record SnippetNode(long Id, int Version, string Name, bool Enabled, string FirstWords, IReadOnlyList<TriggerSketch> Triggers);

/// <summary>What the table shows of a trigger; no scope when it works everywhere.</summary>
public sealed record TriggerSketch(string Kind, string Text, string? Timing, string? Case, ScopeDocument? Scope)
{
    internal static TriggerSketch Of(Core.Triggers.Trigger trigger) =>
        Of(TriggerDocument.Of(trigger));

    private static TriggerSketch Of(TriggerDocument document) => new(
        document.Kind!, document.Text!, document.Timing, document.Case, document.Scope is { Mode: "everywhere" } ? null : document.Scope);
}

/// <summary>What a library is made with.</summary>
public sealed record NewLibrary(string? Name = null);

/// <summary>What of a library can be saved; what is left out stays.</summary>
/// <param name="Version">The version the change is based on.</param>
/// <param name="OwnClosingKeys">Its closing keys; an empty list stands for the default set.</param>
public sealed record LibraryChange(
    int Version, string? Name = null, bool? Enabled = null, IReadOnlyList<string>? OwnClosingKeys = null,
    bool? CapsLockShouts = null, bool? BackspaceTakesBack = null);

/// <summary>What a folder is made with.</summary>
public sealed record NewFolder(long LibraryId, string? Name = null, long? FolderId = null);

/// <summary>What of a folder can be saved.</summary>
public sealed record FolderChange(int Version, string? Name = null);

/// <summary>The id of something that was made.</summary>
public sealed record Made(long Id);

/// <summary>Where something is moved: into a place, in front of another item there or to the end. Libraries need no place.</summary>
public sealed record Move(long LibraryId = 0, long? FolderId = null, long? Before = null);

internal static class LibraryEndpoints
{
    private const int FirstWordsLength = 90;

    /// <summary>Made once for each version of a snippet and gone with it, so that the tree of many is told quickly.</summary>
    private static readonly ConditionalWeakTable<StoredSnippet, SnippetNode> Nodes = [];

    public static void MapLibraries(this IEndpointRouteBuilder api)
    {
        api.MapGet("/libraries", (Catalog catalog) => Tree(catalog.Shelf));

        api.MapPost("/libraries", (NewLibrary given, Catalog catalog) =>
        {
            var library = new Library(Names.Check("name", given.Name), true, LibraryRules.Default, EquatableList<Folder>.Empty, EquatableList<Snippet>.Empty);
            return TypedResults.Ok(new Made(catalog.AddLibrary(library).Id));
        });

        api.MapPatch("/libraries/{id:long}", (long id, LibraryChange change, Catalog catalog) =>
        {
            var now = catalog.Shelf.Library(id);
            var rules = now.Rules;
            if (change.OwnClosingKeys is { } keys)
                rules = rules with { ClosingKeys = keys.Count == 0 ? Core.Triggers.ClosingKeys.Default : Core.Triggers.ClosingKeys.Parse("ownClosingKeys", keys) };
            rules = rules with
            {
                CapsLockShouts = change.CapsLockShouts ?? rules.CapsLockShouts,
                BackspaceTakesBack = change.BackspaceTakesBack ?? rules.BackspaceTakesBack,
            };
            catalog.SaveLibrary(id, change.Version, change.Name is null ? now.Name : Names.Check("name", change.Name), change.Enabled ?? now.Enabled, rules);
            return TypedResults.NoContent();
        });

        api.MapPost("/folders", (NewFolder given, Catalog catalog) =>
        {
            var place = catalog.Shelf.RequirePlace(given.LibraryId, given.FolderId);
            return TypedResults.Ok(new Made(catalog.AddFolder(place, Names.Check("name", given.Name)).Id));
        });

        api.MapPatch("/folders/{id:long}", (long id, FolderChange change, Catalog catalog) =>
        {
            catalog.SaveFolder(id, change.Version, Names.Check("name", change.Name));
            return TypedResults.NoContent();
        });

        foreach (var (kind, path) in ((ItemKind, string)[])[(ItemKind.Library, "libraries"), (ItemKind.Folder, "folders"), (ItemKind.Snippet, "snippets")])
        {
            api.MapDelete($"/{path}/{{id:long}}", (long id, Catalog catalog) =>
            {
                catalog.Delete(kind, id);
                return TypedResults.NoContent();
            });
            api.MapPost($"/{path}/{{id:long}}/restore", (long id, Catalog catalog) =>
            {
                catalog.Restore(kind, id);
                return TypedResults.NoContent();
            });
            api.MapPost($"/{path}/{{id:long}}/move", (long id, Move move, Catalog catalog) =>
            {
                var place = kind == ItemKind.Library ? default : catalog.Shelf.RequirePlace(move.LibraryId, move.FolderId);
                catalog.Move(kind, id, place, move.Before);
                return TypedResults.NoContent();
            });
        }
    }

    private static LibraryTree Tree(Shelf shelf)
    {
        var folders = shelf.Folders.Values.OrderBy(folder => folder.Position).ThenBy(folder => folder.Id).ToLookup(folder => folder.Place);
        var snippets = shelf.Snippets.Values.OrderBy(snippet => snippet.Position).ThenBy(snippet => snippet.Id).ToLookup(snippet => snippet.Place);
        return new LibraryTree([.. shelf.Libraries.Values.OrderBy(library => library.Position).Select(library =>
        {
            var place = new Place(library.Id, null);
            var document = LibraryDocument.Of(new Library(library.Name, library.Enabled, library.Rules, EquatableList<Folder>.Empty, EquatableList<Snippet>.Empty));
            return new LibraryNode(library.Id, library.Version, library.Name, library.Enabled, document.ClosingKeys,
                library.Rules.CapsLockShouts, library.Rules.BackspaceTakesBack, FoldersIn(place), SnippetsIn(place));
        })]);

        IReadOnlyList<FolderNode> FoldersIn(Place place) =>
        [
            .. folders[place].Select(folder =>
            {
                var inside = place with { FolderId = folder.Id };
                return new FolderNode(folder.Id, folder.Version, folder.Name, FoldersIn(inside), SnippetsIn(inside));
            })
        ];

        IReadOnlyList<SnippetNode> SnippetsIn(Place place) =>
        [
            .. snippets[place].Select(snippet => Nodes.GetValue(snippet, Node))
        ];
    }

    private static SnippetNode Node(StoredSnippet stored) => new(
        stored.Id, stored.Version, stored.Snippet.Name, stored.Snippet.Enabled, FirstWords(stored.Snippet), [.. stored.Snippet.Triggers.Select(TriggerSketch.Of)]);

    private static string FirstWords(Snippet snippet)
    {
        var text = Sketch.Of(snippet.Body);
        var cut = text.AsSpan(0, Math.Min(text.Length, FirstWordsLength * 2)).ToString().ReplaceLineEndings(" ⏎ ");
        var end = Core.Text.Graphemes.Offset(cut, FirstWordsLength);
        return end < cut.Length ? cut[..end] + "…" : cut;
    }
}
