using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Core.Mirroring;

/// <summary>A library of a tree as a shared one, and a tree's change that makes it what was merged.</summary>
public static class SharedMapping
{
    /// <summary>A library as it is, private snippets included.</summary>
    /// <param name="keyOf">The key of an item; it is asked for each item in the library once or more.</param>
    public static SharedLibrary Of(LibraryTree now, LibraryItem library, Func<long, string> keyOf)
    {
        var inside = now.Within(library)
            .Where(item => item.Id != library.Id)
            .ToDictionary(item => item.Id, item => keyOf(item.Id));
        return new SharedLibrary(
            new SharedRoot(library.Name, library.Enabled, library.Rules),
            new(now.Within(library).Skip(1).Select(Entry)),
            EquatableList<string>.Empty
        );

        SharedEntry Entry(Item item)
        {
            var parent = item.Slot.Parent == library.Id ? SharedLibrary.Top : inside[item.Slot.Parent];
            return item is FolderItem folder
                ? new SharedFolder(inside[item.Id], parent, folder.Name, folder.Enabled, folder.Defaults)
                : new SharedSnippet(
                    inside[item.Id],
                    parent,
                    SharedLibrary.Rewrite(((SnippetItem)item).Snippet, Target)
                );
        }

        string Target(string target) =>
            References.Id(target) is { } id && inside.TryGetValue(id, out var key) ? $"/{key}" : now.NameOf(target);
    }

    /// <summary>The change that makes a library what was merged, and the ids that what is new gets, by key.</summary>
    /// <param name="idOf">The ids of what is in the library, by key.</param>
    /// <param name="nextId">The first id that was never used.</param>
    public static (Change Change, IReadOnlyDictionary<string, long> Added) Change(
        LibraryTree now,
        LibraryItem library,
        SharedLibrary wanted,
        IReadOnlyDictionary<string, long> idOf,
        long nextId
    )
    {
        var added = new Dictionary<string, long>();
        foreach (var entry in wanted.Entries)
            if (!idOf.ContainsKey(entry.Key))
                added[entry.Key] = nextId++;
        long Id(string key) =>
            key == SharedLibrary.Top ? library.Id
            : idOf.TryGetValue(key, out var id) ? id
            : added[key];

        var changes = new List<ItemChange>();
        var root = library with
        {
            LibraryName = Free(now, library, wanted.Root.Name),
            Enabled = wanted.Root.Enabled,
            Rules = wanted.Root.Rules,
        };
        if (root != library)
            changes.Add(new ItemChange(library, root));
        foreach (var siblings in wanted.Entries.GroupBy(entry => (entry.Parent, entry is SharedFolder)))
            Place([.. siblings]);
        // What goes goes last, so that what was moved out of it stays.
        var stays = wanted.Entries.Select(entry => Id(entry.Key)).ToHashSet();
        var gone = now.Within(library).Skip(1).Where(item => !stays.Contains(item.Id)).ToList();
        var goneIds = gone.Select(item => item.Id).ToHashSet();
        changes.AddRange(
            gone.Where(item => !goneIds.Contains(item.Slot.Parent)).Select(item => new ItemChange(item, null))
        );
        return (new Change($"Read the library “{root.Name}” from its mirror folder", changes), added);

        void Place(IReadOnlyList<SharedEntry> siblings)
        {
            var parent = Id(siblings[0].Parent);
            var last = 0L;
            // Positions stay where they keep the order; otherwise all of this place are placed anew.
            var old = siblings
                .Select(entry => now.Find(Id(entry.Key)))
                .TakeWhile(item => item?.Slot.Parent == parent)
                .Select(item => item!.Slot.Position)
                .ToList();
            var keep =
                old.Zip(old.Skip(1)).All(pair => pair.First < pair.Second)
                && siblings.Skip(old.Count).All(entry => now.Find(Id(entry.Key))?.Slot.Parent != parent);
            for (var at = 0; at < siblings.Count; at++)
            {
                var position = last = keep && at < old.Count ? old[at] : last + Slot.Step;
                var item = now.Find(Id(siblings[at].Key));
                var next = Item(siblings[at], item as SnippetItem, new Slot(parent, position));
                if (item is null || !item.Equals(next))
                    changes.Add(new ItemChange(item, next));
            }
        }

        Item Item(SharedEntry entry, SnippetItem? old, Slot slot)
        {
            if (entry is SharedFolder folder)
                return new FolderItem(Id(folder.Key), slot, folder.Name, folder.Enabled, folder.Defaults);
            var snippet = SharedLibrary.Rewrite(((SharedSnippet)entry).Snippet, Target);
            return new SnippetItem(
                Id(entry.Key),
                slot,
                old is null ? 1
                    : old.Snippet == snippet ? old.Version
                    : old.Version + 1,
                snippet
            );
        }

        string Target(string target) =>
            !target.StartsWith('/')
                ? now.At(target) is { } other
                    ? References.To(other.Id)
                    : target
                : idOf.TryGetValue(target[1..], out var id) || added.TryGetValue(target[1..], out id)
                    ? References.To(id)
                    : target;
    }

    /// <summary>The library's name among these: another library may have it here already.</summary>
    private static string Free(LibraryTree now, LibraryItem library, string wanted) =>
        Commands.Free(
            name =>
                now.Libraries.Any(other =>
                    other.Id != library.Id && other.Name.Equals(name, StringComparison.OrdinalIgnoreCase)
                ),
            wanted
        );
}
