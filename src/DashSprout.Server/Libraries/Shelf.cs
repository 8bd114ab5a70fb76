using System.Collections.Immutable;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Store;

namespace DashSprout.Server.Libraries;

/// <summary>All libraries as they are at one moment, with the index over their triggers. Immutable.</summary>
internal sealed record Shelf(
    ImmutableDictionary<long, StoredLibrary> Libraries,
    ImmutableDictionary<long, StoredFolder> Folders,
    ImmutableDictionary<long, StoredSnippet> Snippets,
    TriggerIndex Index)
{
    public static Shelf Of(Contents contents)
    {
        var shelf = new Shelf(
            contents.Libraries.ToImmutableDictionary(library => library.Id),
            contents.Folders.ToImmutableDictionary(folder => folder.Id),
            contents.Snippets.ToImmutableDictionary(snippet => snippet.Id),
            TriggerIndex.Empty);
        return shelf with { Index = TriggerIndex.Of(contents.Snippets.Select(shelf.Placed)) };
    }

    /// <summary>The body of the snippet at a path; null when there is none.</summary>
    public Body? FindBody(string path) => Find(path)?.Snippet.Body;

    /// <summary>The path by which other snippets refer to one.</summary>
    public string PathOf(Place place, string name) => string.Join('/', [Library(place.LibraryId).Name, .. PathOf(place), name]);

    /// <summary>The shelf after one snippet was added or saved.</summary>
    public Shelf With(StoredSnippet snippet) => this with
    {
        Snippets = Snippets.SetItem(snippet.Id, snippet),
        Index = Index.Change([snippet.Id], [Placed(snippet)]),
    };

    /// <summary>The shelf after one snippet was deleted.</summary>
    public Shelf Without(long snippetId) => this with
    {
        Snippets = Snippets.Remove(snippetId),
        Index = Index.Change([snippetId], []),
    };

    public StoredLibrary Library(long id) =>
        Libraries.TryGetValue(id, out var library) ? library : throw new MissingItemException(ItemKind.Library, id);

    public StoredFolder Folder(long id) =>
        Folders.TryGetValue(id, out var folder) ? folder : throw new MissingItemException(ItemKind.Folder, id);

    public StoredSnippet Snippet(long id) =>
        Snippets.TryGetValue(id, out var snippet) ? snippet : throw new MissingItemException(ItemKind.Snippet, id);

    /// <summary>Checks that a place exists: the folder must lie in the library.</summary>
    public Place RequirePlace(long libraryId, long? folderId)
    {
        if (!Libraries.ContainsKey(libraryId))
            throw new InvalidInputException("libraryId", $"There is no library {libraryId}. Choose one that exists.");
        if (folderId is { } id && (!Folders.TryGetValue(id, out var folder) || folder.Place.LibraryId != libraryId))
            throw new InvalidInputException("folderId", $"There is no folder {folderId} in this library. Choose one that exists.");
        return new Place(libraryId, folderId);
    }

    /// <summary>Names of the folders a place lies in, outermost first.</summary>
    public IReadOnlyList<string> PathOf(Place place) => [.. FoldersOf(place).Select(folder => folder.Name)];

    public PlacedSnippet Placed(StoredSnippet snippet)
    {
        var library = Libraries[snippet.Place.LibraryId];
        var folders = FoldersOf(snippet.Place);
        // Folders come before the snippets beside them.
        int[] places = [library.Position, .. folders.SelectMany(folder => (int[])[0, folder.Position, (int)folder.Id]), 1, snippet.Position, (int)snippet.Id];
        return new PlacedSnippet(snippet.Id, library.Name, library.Enabled, library.Rules,
            new(folders.Select(folder => folder.Name)), new Rank(places), snippet.Snippet);
    }

    /// <summary>The libraries in their order, as they are written to files.</summary>
    public IEnumerable<Library> ToLibraries(Func<StoredLibrary, bool> wanted)
    {
        var folders = Folders.Values.OrderBy(folder => folder.Position).ThenBy(folder => folder.Id).ToLookup(folder => folder.Place);
        var snippets = Snippets.Values.OrderBy(snippet => snippet.Position).ThenBy(snippet => snippet.Id).ToLookup(snippet => snippet.Place);
        return Libraries.Values.Where(wanted).OrderBy(library => library.Position).Select(library =>
        {
            var place = new Place(library.Id, null);
            return new Library(library.Name, library.Enabled, library.Rules, FoldersIn(place), SnippetsIn(place));
        });

        EquatableList<Folder> FoldersIn(Place place) => new(folders[place].Select(folder =>
        {
            var inside = place with { FolderId = folder.Id };
            return new Folder(folder.Name, FoldersIn(inside), SnippetsIn(inside));
        }));

        EquatableList<Snippet> SnippetsIn(Place place) => new(snippets[place].Select(snippet => snippet.Snippet));
    }

    private StoredSnippet? Find(string path)
    {
        var names = path.Split('/');
        if (Libraries.Values.FirstOrDefault(library => library.Name == names[0]) is not { } library) return null;
        var place = new Place(library.Id, null);
        foreach (var name in names[1..^1])
        {
            if (Folders.Values.FirstOrDefault(folder => folder.Place == place && folder.Name == name) is not { } folder) return null;
            place = place with { FolderId = folder.Id };
        }
        return Snippets.Values.FirstOrDefault(snippet => snippet.Place == place && snippet.Snippet.Name == names[^1]);
    }

    private List<StoredFolder> FoldersOf(Place place)
    {
        var folders = new List<StoredFolder>();
        for (var id = place.FolderId; id is { } folderId; id = Folders[folderId].Place.FolderId) folders.Insert(0, Folders[folderId]);
        return folders;
    }
}
