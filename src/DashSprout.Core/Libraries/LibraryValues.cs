namespace DashSprout.Core.Libraries;

/// <summary>
/// What lies in a tree as values that stand for themselves, as files hold them: references are paths.
/// </summary>
public static class LibraryValues
{
    /// <summary>Some libraries with all that is in them.</summary>
    public static IEnumerable<Library> Of(LibraryTree now, Func<LibraryItem, bool> wanted) =>
        now.Libraries.Where(wanted).Select(library => new Taken(now).Of(library));

    /// <summary>
    /// What is meant of the libraries, with what it lies in: a library or folder stands for all that is in it. What is
    /// not there is passed over.
    /// </summary>
    public static IEnumerable<Library> Part(LibraryTree now, IReadOnlySet<long> ids)
    {
        var part = new Taken(now, ids);
        return now.Libraries.Where(part.Holds).Select(part.Of);
    }

    private sealed class Taken(LibraryTree now, IReadOnlySet<long>? ids = null)
    {
        public bool Holds(Item item) => ids is null || ids.Contains(item.Id) || now.Inside(item.Id).Any(Holds);

        public Library Of(LibraryItem library) =>
            Inside(library, (folders, snippets) =>
                new Library(library.Name, library.Enabled, library.Rules, folders, snippets)
            );

        private Folder Of(FolderItem folder) =>
            Inside(folder, (folders, snippets) =>
                new Folder(folder.Name, folders, snippets, folder.Enabled, folder.Defaults)
            );

        private T Inside<T>(Item holder, Func<EquatableList<Folder>, EquatableList<Snippet>, T> make)
        {
            var part = ids is null || ids.Contains(holder.Id) ? new Taken(now) : this;
            var items = now.Inside(holder.Id).Where(part.Holds).ToList();
            return make(
                new(items.OfType<FolderItem>().Select(part.Of)),
                new(items.OfType<SnippetItem>().Select(item => now.Outward(item.Snippet)))
            );
        }
    }
}
