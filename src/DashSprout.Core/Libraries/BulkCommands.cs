namespace DashSprout.Core.Libraries;

/// <summary>
/// What can be done with many items of a tree at once. What lies in another one that is meant as well goes with
/// it, and what is done is one change.
/// </summary>
public static class BulkCommands
{
    /// <summary>Makes the same changes in all snippets that are meant or lie in what is meant.</summary>
    public static Change Edit(LibraryTree now, IReadOnlyCollection<long> ids, BulkEdit edit)
    {
        var changes = new List<ItemChange>();
        foreach (var item in Outermost(now, ids).SelectMany(now.Within).OfType<SnippetItem>())
        {
            var next = edit.Of(item.Snippet);
            if (next == item.Snippet)
                continue;
            if (next.Tags.Count > SnippetTags.Most)
                throw new InvalidInputException(
                    "moreTags",
                    $"“{item.Name}” would have {next.Tags.Count} tags; {SnippetTags.Most} are allowed."
                );
            changes.Add(new ItemChange(item, item with { Snippet = next, Version = item.Version + 1 }));
        }
        return new Change(
            changes.Count == 1 ? $"Changed the {changes[0].Before!.Title}" : $"Changed {changes.Count} snippets",
            changes
        );
    }

    /// <summary>Switches items on or off.</summary>
    public static Change Switch(LibraryTree now, IReadOnlyCollection<long> ids, bool on)
    {
        var items = Outermost(now, ids);
        return new Change(
            $"Switched {Words(items)} {(on ? "on" : "off")}",
            items
                .Select(item => new ItemChange(item, Switched(item, on)))
                .Where(change => !change.Before!.Equals(change.After))
        );
    }

    /// <summary>Puts items into the bin.</summary>
    public static Change Delete(LibraryTree now, IReadOnlyCollection<long> ids)
    {
        var items = Outermost(now, ids);
        return new Change($"Deleted {Words(items)}", items.Select(item => new ItemChange(item, null)));
    }

    /// <summary>
    /// Moves items into a library or folder, in their order: in front of another one of its kind there or to the end.
    /// Names that are taken there get a number behind them.
    /// </summary>
    /// <param name="parent">Of no account for libraries.</param>
    public static Change Move(LibraryTree now, IReadOnlyCollection<long> ids, long parent, long? before)
    {
        var items = Outermost(now, ids);
        if (items.Count == 1)
            return Commands.Move(now, items[0].Id, parent, before);
        var libraries = items.Count(item => item.Kind == ItemKind.Library);
        if (libraries > 0 && libraries < items.Count)
            throw new InvalidInputException(
                "ids",
                "Libraries cannot be moved together with what lies in libraries. Move them by themselves."
            );
        var to = libraries > 0 ? Slot.Root : Commands.Holder(now, parent);
        var moved = items.ToHashSet();
        var rest = now.Inside(to).Where(item => !moved.Contains(item)).ToList();
        var changes = items
            .GroupBy(item => item.Kind)
            .SelectMany(group =>
            {
                var beside = rest.Where(item => item.Kind == group.Key).ToList();
                var names = beside.Select(item => item.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
                var at =
                    before is { } other && beside.FindIndex(item => item.Id == other) is var found and >= 0
                        ? found
                        : beside.Count;
                return Arranging
                    .Insert(
                        beside,
                        at,
                        [.. group.Select(item => Named(item, Commands.Free(names, item.Name), names))],
                        to
                    )
                    .Select(item => new ItemChange(now.Find(item.Id), item));
            });
        return new Change(
            to == Slot.Root ? $"Moved {Words(items)}" : $"Moved {Words(items)} to “{now.PathOf(now.Get<Item>(to))}”",
            changes.Where(change => !change.Before!.Equals(change.After))
        );
    }

    /// <summary>
    /// Puts a copy behind each item, with a number behind its name. The copies are off, since they answer to the same
    /// keys as what they are copies of.
    /// </summary>
    /// <param name="nextId">The first id that was never used.</param>
    public static Change Duplicate(LibraryTree now, long nextId, IReadOnlyCollection<long> ids)
    {
        var items = Outermost(now, ids);
        var changes = new List<ItemChange>();
        foreach (var group in items.GroupBy(item => (item.Slot.Parent, item.Kind)))
        {
            var beside = now.Inside(group.Key.Parent).Where(item => item.Kind == group.Key.Kind).ToList();
            var names = beside.Select(item => item.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
            var below = new Dictionary<long, EquatableList<Item>>();
            foreach (var item in group)
            {
                var copy = Named(Switched(item, false), Commands.Free(names, item.Name), names);
                (copy, below[nextId]) = Copy(now, item, copy, ref nextId);
                foreach (
                    var placed in Arranging.Insert(
                        beside,
                        beside.FindIndex(other => other.Id == item.Id) + 1,
                        [copy],
                        group.Key.Parent
                    )
                )
                    beside[beside.FindIndex(other => other.Id == placed.Id)] = placed;
            }
            foreach (var item in beside)
            {
                var was = below.ContainsKey(item.Id) ? null : now.Find(item.Id);
                if (was is null || was.Slot != item.Slot)
                    changes.Add(new ItemChange(was, item, was is null ? below[item.Id] : EquatableList<Item>.Empty));
            }
        }
        return new Change($"Duplicated {Words(items)}", changes);
    }

    /// <summary>
    /// The items meant, in the order of the table, without what lies in another of them; what is gone is passed over.
    /// </summary>
    private static List<Item> Outermost(LibraryTree now, IReadOnlyCollection<long> ids)
    {
        if (ids.Count == 0)
            throw new InvalidInputException("ids", "Nothing is chosen. Choose at least one row.");
        var wanted = ids.ToHashSet();
        var found = new List<Item>();
        foreach (var library in now.Libraries)
            Look(library);
        return found.Count > 0 ? found : throw new MissingItemException(ids.First());

        void Look(Item item)
        {
            if (wanted.Contains(item.Id))
                found.Add(item);
            else
                foreach (var inner in now.Inside(item.Id))
                    Look(inner);
        }
    }

    private static (Item Copy, EquatableList<Item> Below) Copy(
        LibraryTree now,
        Item original,
        Item copy,
        ref long nextId
    )
    {
        var below = new List<Item>();
        var top = Numbered(copy, nextId++, copy.Slot.Parent);
        Below(original.Id, top.Id, ref nextId);
        return (top, new(below));

        void Below(long from, long to, ref long id)
        {
            foreach (var inner in now.Inside(from))
            {
                var own = Numbered(inner, id++, to);
                below.Add(own);
                Below(inner.Id, own.Id, ref id);
            }
        }
    }

    private static Item Numbered(Item item, long id, long parent) =>
        item is SnippetItem snippet
            ? snippet with
            {
                Id = id,
                Slot = item.Slot with { Parent = parent },
                Version = 1,
            }
            : item with
            {
                Id = id,
                Slot = item.Slot with { Parent = parent },
            };

    private static Item Named(Item item, string name, HashSet<string> names)
    {
        names.Add(name);
        return item switch
        {
            LibraryItem library => library with { LibraryName = name },
            FolderItem folder => folder with { FolderName = name },
            SnippetItem snippet when snippet.Name != name => snippet with
            {
                Snippet = snippet.Snippet with { Name = name },
                Version = snippet.Version + 1,
            },
            _ => item,
        };
    }

    private static Item Switched(Item item, bool on) =>
        item switch
        {
            LibraryItem library => library with { Enabled = on },
            FolderItem folder => folder with { Enabled = on },
            SnippetItem snippet when snippet.Snippet.Enabled != on => snippet with
            {
                Snippet = snippet.Snippet with { Enabled = on },
                Version = snippet.Version + 1,
            },
            _ => item,
        };

    /// <summary>Items for the user: the one there is by its name, many by their number.</summary>
    private static string Words(List<Item> items)
    {
        if (items.Count == 1)
            return $"the {items[0].Title}";
        var kinds = items.Select(item => item.Kind).Distinct().ToList();
        return kinds is [var kind]
            ? $"{items.Count} {(kind == ItemKind.Library ? "libraries" : Wording.Of(kind) + "s")}"
            : $"{items.Count} folders and snippets";
    }
}
