using DashSprout.Core.Bodies;

namespace DashSprout.Core.Libraries;

/// <summary>
/// Brings libraries into a tree. One that replaces another of the same name keeps its place, and what has the same
/// path as before keeps its identity, so that references, records and what is being typed go on; what the new one has
/// not goes into the bin.
/// </summary>
public static class Importing
{
    /// <summary>
    /// The change that brings libraries in, and the references in them that lead nowhere, as sentences.
    /// </summary>
    /// <param name="nextId">The first id that was never used.</param>
    public static (Change Change, IReadOnlyList<string> Dangling) Of(
        LibraryTree now,
        IReadOnlyList<Library> libraries,
        bool replace,
        long nextId
    )
    {
        var work = new Bringing(now, nextId);
        foreach (var library in libraries)
        {
            var old = now.Libraries.FirstOrDefault(other =>
                other.Name.Equals(library.Name, StringComparison.OrdinalIgnoreCase)
            );
            if (old is not null && !replace)
                throw new InvalidInputException(
                    "libraries",
                    $"There is a library named “{old.Name}” already. Replace it, or rename one of the two."
                );
            work.Bring(library, old);
        }
        return work.Finish(
            libraries.Count == 1
                ? $"Brought in the library “{libraries[0].Name}”"
                : $"Brought in {libraries.Count} libraries"
        );
    }

    private sealed class Bringing(LibraryTree now, long nextId)
    {
        private readonly List<(Item? Old, Item New)> items = [];
        private readonly List<Item> gone = [];
        private readonly Dictionary<string, long> paths = [];
        private int brought;

        public void Bring(Library library, LibraryItem? old)
        {
            var slot = old?.Slot
                ?? new Slot(Slot.Root, Commands.End(now, Slot.Root, ItemKind.Library).Position + brought++ * Slot.Step);
            var item = new LibraryItem(old?.Id ?? nextId++, slot, library.Name, library.Enabled, library.Rules);
            items.Add((old, item));
            Inside(item.Id, old, library.Folders, library.Snippets, library.Name);
        }

        public (Change, IReadOnlyList<string>) Finish(string what)
        {
            var changed = items
                .Select(pair => (pair.Old, New: Linked(pair.New)))
                .Where(pair => pair.Old is null || Differs(pair.Old, pair.New))
                .ToList();
            // What is new inside something new comes in with it.
            var added = changed.Where(pair => pair.Old is null).Select(pair => pair.New).ToList();
            var byId = added.ToDictionary(item => item.Id);
            var below = added.Where(item => byId.ContainsKey(item.Slot.Parent)).ToLookup(item => Top(item));
            var change = new Change(
                what,
                [
                    .. gone.Select(item => new ItemChange(item, null)),
                    .. added
                        .Where(item => !byId.ContainsKey(item.Slot.Parent))
                        .Select(item => new ItemChange(null, item, new(below[item.Id]))),
                    .. changed.Where(pair => pair.Old is not null).Select(pair => new ItemChange(pair.Old, pair.New)),
                ]
            );
            var next = now.With(change);
            return (
                change,
                [.. changed.Select(pair => pair.New).OfType<SnippetItem>().SelectMany(item => Check(next, item))]
            );

            long Top(Item item)
            {
                while (byId.TryGetValue(item.Slot.Parent, out var holder))
                    item = holder;
                return item.Id;
            }
        }

        private void Inside(
            long parent,
            Item? old,
            EquatableList<Folder> folders,
            EquatableList<Snippet> snippets,
            string path
        )
        {
            var left = old is null ? [] : now.Inside(old.Id).ToHashSet();
            var before = new Dictionary<(ItemKind, string), Item>();
            foreach (var item in left)
                before.TryAdd((item.Kind, item.Name.ToUpperInvariant()), item);
            T? Counterpart<T>(ItemKind kind, string name)
                where T : Item =>
                before.Remove((kind, name.ToUpperInvariant()), out var found) && left.Remove(found) ? (T)found : null;

            var place = 0L;
            foreach (var folder in folders)
            {
                var counterpart = Counterpart<FolderItem>(ItemKind.Folder, folder.Name);
                var item = new FolderItem(
                    counterpart?.Id ?? nextId++,
                    new Slot(parent, ++place * Slot.Step),
                    folder.Name,
                    folder.Enabled,
                    folder.Defaults
                );
                items.Add((counterpart, item));
                Inside(item.Id, counterpart, folder.Folders, folder.Snippets, $"{path}/{folder.Name}");
            }
            place = 0;
            foreach (var snippet in snippets)
            {
                var counterpart = Counterpart<SnippetItem>(ItemKind.Snippet, snippet.Name);
                var item = new SnippetItem(
                    counterpart?.Id ?? nextId++,
                    new Slot(parent, ++place * Slot.Step),
                    counterpart?.Version ?? 1,
                    snippet
                );
                items.Add((counterpart, item));
                paths[$"{path}/{snippet.Name}"] = item.Id;
            }
            gone.AddRange(left);
        }

        /// <summary>
        /// The item with its references by identity, and a new version when its content is another one.
        /// </summary>
        private Item Linked(Item item)
        {
            if (item is not SnippetItem snippet)
                return item;
            var linked = snippet with { Snippet = snippet.Snippet.WithBodies(body => References.Rewrite(body, Link)) };
            return now.Find(item.Id) is SnippetItem old && old.Snippet != linked.Snippet
                ? linked with
                {
                    Version = old.Version + 1,
                }
                : linked;
        }

        private string Link(string target)
        {
            if (References.Id(target) is not null)
                throw new InvalidInputException(
                    "libraries",
                    $"A file refers to another snippet by its path, not by “{target}”. Write Library/Folder/Name."
                );
            return paths.TryGetValue(target, out var id) ? References.To(id)
                : now.At(target) is { } found ? References.To(found.Id)
                : target;
        }

        private static bool Differs(Item old, Item item) => old.Slot != item.Slot || !old.Equals(item);

        private static IEnumerable<string> Check(LibraryTree next, SnippetItem item)
        {
            if (item.Snippet.Bodies.All(body => body is Body.Plain))
                yield break;
            var missing = item
                .Snippet.Bodies.SelectMany(References.In)
                .Distinct()
                .Where(target => next.Referred(target) is null)
                .ToList();
            foreach (var target in missing)
                yield return $"“{next.PathOf(item)}” puts in “{target}”, which is not here.";
            try
            {
                // What leads nowhere is told and can be mended; all else must be right.
                Commands.Check(next, item, missing: new Body.Plain(""));
            }
            catch (InvalidInputException exception)
            {
                throw new InvalidInputException("libraries", $"In “{next.PathOf(item)}”: {exception.Message}");
            }
        }
    }
}
