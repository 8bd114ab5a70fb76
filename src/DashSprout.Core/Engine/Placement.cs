using DashSprout.Core.Libraries;

namespace DashSprout.Core.Engine;

/// <summary>
/// Places the snippets of a tree for the engine, and lets an index follow the tree's changes.
/// </summary>
public static class Placement
{
    /// <summary>A snippet with all that the engine must know of its surroundings.</summary>
    public static PlacedSnippet Of(LibraryTree tree, SnippetItem item) => new Placer(tree).Place(item);

    /// <summary>The index of a whole tree.</summary>
    public static TriggerIndex Index(LibraryTree tree)
    {
        var items = tree.Snippets.ToArray();
        return TriggerIndex.Of(Placed(tree, items));
    }

    private static PlacedSnippet[] Placed(LibraryTree tree, IReadOnlyList<SnippetItem> items)
    {
        var placed = new PlacedSnippet[items.Count];
        ParallelRanges.For(placed.Length, (from, to) =>
        {
            var placer = new Placer(tree);
            for (var at = from; at < to; at++)
                placed[at] = placer.Place(items[at]);
        });
        return placed;
    }

    /// <summary>The index after a change: only what the engine would notice is taken out and put in again.</summary>
    public static TriggerIndex Follow(TriggerIndex index, LibraryTree before, LibraryTree after, Change change)
    {
        var removed = new List<long>();
        var added = new List<SnippetItem>();
        foreach (var (was, now, _) in change.Items)
        {
            if (
                was is SnippetItem old
                && now is SnippetItem next
                && old.Slot == next.Slot
                && old.Snippet == next.Snippet
            )
                continue;
            if (was is not null)
                removed.AddRange(before.Within(was).OfType<SnippetItem>().Select(item => item.Id));
            if (now is not null)
                added.AddRange(after.Within(now).OfType<SnippetItem>());
        }
        if (removed.Count == 0 && added.Count == 0)
            return index;
        // What lies in two changed things is in the list twice.
        return index.Change(
            removed,
            Placed(after, change.Items.Count == 1 ? added : [.. added.DistinctBy(item => item.Id)])
        );
    }

    /// <summary>Places snippets; what those of one library or folder share is worked out once.</summary>
    private sealed class Placer(LibraryTree tree)
    {
        private readonly Dictionary<long, Holders> holders = [];
        private long lastId = -1;
        private Holders last;

        private readonly record struct Holders(
            LibraryItem Library,
            EquatableList<string> Folders,
            string? OffFolder,
            long[] Places
        );

        public PlacedSnippet Place(SnippetItem item)
        {
            var (library, folders, offFolder, places) = Holder(item.Slot.Parent);
            return new PlacedSnippet(
                item.Id,
                library.Name,
                library.Enabled,
                library.Rules,
                folders,
                offFolder,
                new Rank(places, item.Slot.Position, item.Id),
                item.Snippet
            );
        }

        private Holders Holder(long id)
        {
            if (id == lastId)
                return last;
            var item = tree.Get<Item>(id);
            var folders = tree.FoldersOf(item).Append(item).OfType<FolderItem>().ToList();
            var library = tree.LibraryOf(item);
            // Folders come before the snippets beside them: 1 stands for the snippets, 0 for a folder.
            long[] places =
            [
                library.Slot.Position,
                library.Id,
                .. folders.SelectMany(folder => (long[])[0, folder.Slot.Position, folder.Id]),
                1,
            ];
            if (!holders.TryGetValue(id, out last))
                holders.Add(
                    id,
                    last = new(
                        library,
                        new(folders.Select(folder => folder.Name)),
                        folders.Find(folder => !folder.Enabled)?.Name,
                        places
                    )
                );
            lastId = id;
            return last;
        }
    }
}
