using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Store;

namespace DashSprout.Server.Libraries;

/// <summary>
/// The libraries in use: every change goes to disk first, then a new shelf is published to whoever types. Changes are made
/// one at a time; readers take the shelf that holds now and never wait.
/// </summary>
internal sealed class Catalog(LibraryStore store, TimeProvider clock)
{
    private static readonly TimeSpan DeletedItemsAreKept = TimeSpan.FromDays(30);

    private readonly Lock gate = new();
    private volatile Shelf shelf = Shelf.Of(new Contents([], [], []));

    public Shelf Shelf => shelf;

    public void Open()
    {
        store.Purge(clock.GetUtcNow() - DeletedItemsAreKept);
        shelf = Shelf.Of(store.Load());
    }

    public StoredLibrary AddLibrary(Library library) => Changing(() =>
    {
        var id = store.Add([library])[0];
        Reload();
        return shelf.Library(id);
    });

    /// <summary>Adds libraries, in the place of those with the same name when they are to be replaced.</summary>
    /// <param name="fromFile">Whether the user brought them; the demo's own are trusted.</param>
    public void Import(IReadOnlyList<Library> libraries, bool replace, bool fromFile = true) => Changing(() =>
    {
        var names = libraries.Select(library => library.Name.ToUpperInvariant()).ToHashSet(StringComparer.Ordinal);
        var replaced = shelf.Libraries.Values.Where(library => names.Contains(library.Name.ToUpperInvariant())).Select(library => library.Id).ToList();
        if (!replace && replaced.Count > 0)
            throw new InvalidInputException("libraries",
                $"There is a library named “{shelf.Library(replaced[0]).Name}” already. Replace it, or rename one of the two.");
        store.Replace(replaced, libraries, fromFile, clock.GetUtcNow());
        Reload();
        return true;
    });

    public StoredLibrary SaveLibrary(long id, int version, string name, bool enabled, LibraryRules rules) => Changing(() =>
    {
        store.SaveLibrary(id, version, name, enabled, rules);
        Reload();
        return shelf.Library(id);
    });

    public StoredFolder AddFolder(Place place, string name) => Changing(() =>
    {
        if (shelf.PathOf(place).Count >= DashSprout.Exchange.FolderDocument.MaxDepth)
            throw new InvalidInputException("folderId", $"Folders nest at most {DashSprout.Exchange.FolderDocument.MaxDepth} deep. Add it further up.");
        var added = store.AddFolder(place, name);
        shelf = shelf with { Folders = shelf.Folders.Add(added.Id, added) };
        return added;
    });

    public StoredFolder SaveFolder(long id, int version, string name) => Changing(() =>
    {
        var saved = store.SaveFolder(id, version, name);
        Reload();
        return saved;
    });

    public StoredSnippet AddSnippet(Place place, Snippet snippet) => Changing(() =>
    {
        BodyCheck.Check(snippet.Body, shelf.PathOf(place, snippet.Name), shelf.FindBody);
        var added = store.AddSnippet(place, snippet);
        shelf = shelf.With(added);
        return added;
    });

    public StoredSnippet SaveSnippet(long id, int version, Snippet snippet) => Changing(() =>
    {
        BodyCheck.Check(snippet.Body, shelf.PathOf(shelf.Snippet(id).Place, snippet.Name), shelf.FindBody);
        var saved = store.SaveSnippet(id, version, snippet);
        shelf = shelf.With(saved);
        return saved;
    });

    /// <summary>Moves an item to a place, in front of another one there or to the end.</summary>
    public void Move(ItemKind kind, long id, Place place, long? before) => Changing(() =>
    {
        if (kind == ItemKind.Folder && FolderIsWithin(place.FolderId, id))
            throw new InvalidInputException("folderId", "A folder cannot be moved into itself.");
        var siblings = Siblings(kind, place).Where(sibling => sibling != id).ToList();
        var at = before is { } other ? siblings.IndexOf(other) : siblings.Count;
        if (at < 0) throw new InvalidInputException("before", $"There is no {kind.ToString().ToLowerInvariant()} {before} in this place.");
        siblings.Insert(at, id);
        store.Arrange(kind, place, siblings);
        Reload();
        return true;
    });

    public void Delete(ItemKind kind, long id) => Changing(() =>
    {
        store.Delete(kind, id, clock.GetUtcNow());
        if (kind == ItemKind.Snippet) shelf = shelf.Without(id);
        else Reload();
        return true;
    });

    public void Restore(ItemKind kind, long id) => Changing(() =>
    {
        store.Restore(kind, id);
        Reload();
        return true;
    });

    private void Reload() => shelf = Shelf.Of(store.Load());

    private IEnumerable<long> Siblings(ItemKind kind, Place place) => kind switch
    {
        ItemKind.Library => shelf.Libraries.Values.OrderBy(library => library.Position).Select(library => library.Id),
        ItemKind.Folder => shelf.Folders.Values.Where(folder => folder.Place == place)
            .OrderBy(folder => folder.Position).ThenBy(folder => folder.Id).Select(folder => folder.Id),
        _ => shelf.Snippets.Values.Where(snippet => snippet.Place == place)
            .OrderBy(snippet => snippet.Position).ThenBy(snippet => snippet.Id).Select(snippet => snippet.Id),
    };

    private bool FolderIsWithin(long? inner, long outer)
    {
        for (; inner is { } id; inner = shelf.Folder(id).Place.FolderId)
            if (id == outer) return true;
        return false;
    }

    private T Changing<T>(Func<T> change)
    {
        lock (gate) return change();
    }
}
