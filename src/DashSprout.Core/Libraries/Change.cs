namespace DashSprout.Core.Libraries;

/// <summary>
/// What a change did to one item: as it was and as it is then. Nothing before: it was added or came back from the bin;
/// nothing after: it went into the bin with all that lies in it.
/// </summary>
/// <param name="Below">What comes in together with an added library or folder.</param>
public sealed record ItemChange(Item? Before, Item? After, EquatableList<Item> Below)
{
    /// <summary>A change of an item by itself.</summary>
    public ItemChange(Item? before, Item? after)
        : this(before, after, EquatableList<Item>.Empty) { }

    /// <summary>The item's id.</summary>
    public long Id => (After ?? Before)!.Id;

    /// <summary>The highest id in it.</summary>
    public long HighestId => Below.Select(item => item.Id).Append(Id).Max();
}

/// <summary>One change of a tree: everything in it happens, or nothing.</summary>
/// <param name="What">What it does, for the user: <c>Renamed “A” to “B”</c>.</param>
public sealed record Change(string What, EquatableList<ItemChange> Items)
{
    /// <summary>A change of some items.</summary>
    public Change(string what, params IEnumerable<ItemChange> items)
        : this(what, new EquatableList<ItemChange>(items)) { }

    /// <summary>
    /// The same change made when the tree has become another one, as undoing and doing again need it: only the
    /// parts that it changed change, and they must still be as it found them. Throws <see cref="ConflictException"/>
    /// otherwise.
    /// </summary>
    /// <param name="back">Whether it is undone.</param>
    /// <param name="fetch">Brings what lies below an item that comes back from the bin; null when it is gone for
    /// good.</param>
    public Change On(LibraryTree now, bool back, Func<Item, ItemChange?> fetch)
    {
        var items = Items.Select(item =>
            back ? new ItemChange(item.After, item.Before) : new ItemChange(item.Before, item.After)
        );
        // What was put into something new goes first when that goes again.
        return new Change(What, (back ? items.Reverse() : items).Select(item => One(now, item, fetch)));
    }

    private static ItemChange One(LibraryTree now, ItemChange wanted, Func<Item, ItemChange?> fetch)
    {
        var current = now.Find(wanted.Id);
        if (wanted is { Before: null, After: { } missing })
        {
            if (current is not null)
                throw new ConflictException($"The {missing.Title} is here already.");
            return fetch(missing)
                ?? throw new ConflictException(
                    $"The {missing.Title} is gone for good: it was in the bin for too long."
                );
        }
        if (current is null)
            throw new ConflictException(
                $"The {wanted.Before!.Title} was deleted since. Bring it back from the bin first."
            );
        return wanted.After is null
            ? new ItemChange(current, null)
            : new ItemChange(current, Merged(wanted.Before!, wanted.After, current));
    }

    private static Item Merged(Item before, Item after, Item current)
    {
        var slot = Part("where it lies", before.Slot, after.Slot, current.Slot, current);
        switch (before, after, current)
        {
            case (LibraryItem was, LibraryItem wanted, LibraryItem now):
                return now with
                {
                    Slot = slot,
                    LibraryName = Part("the name", was.Name, wanted.Name, now.Name, now),
                    Enabled = Part("the switch", was.Enabled, wanted.Enabled, now.Enabled, now),
                    Rules = Part("the rules", was.Rules, wanted.Rules, now.Rules, now),
                };
            case (FolderItem was, FolderItem wanted, FolderItem now):
                return now with
                {
                    Slot = slot,
                    FolderName = Part("the name", was.Name, wanted.Name, now.Name, now),
                    Enabled = Part("the switch", was.Enabled, wanted.Enabled, now.Enabled, now),
                    Defaults =
                        Part(
                            "what new snippets begin with",
                            was.Defaults ?? TriggerDefaults.None,
                            wanted.Defaults ?? TriggerDefaults.None,
                            now.Defaults ?? TriggerDefaults.None,
                            now
                        )
                            is var defaults
                        && defaults == TriggerDefaults.None
                            ? null
                            : defaults,
                };
            case (SnippetItem was, SnippetItem wanted, SnippetItem now):
                var (merged, conflicts) = SnippetMerge.Of(was.Snippet, wanted.Snippet, now.Snippet);
                if (conflicts.Count > 0)
                    throw Since(conflicts[0], now);
                return now with
                {
                    Slot = slot,
                    Snippet = merged,
                    Version = merged == now.Snippet ? now.Version : now.Version + 1,
                };
            default:
                throw new ConflictException($"The {current.Title} is not what it was.");
        }
    }

    private static T Part<T>(string name, T before, T after, T current, Item item)
        where T : IEquatable<T> =>
        before.Equals(after) || after.Equals(current) ? current
        : before.Equals(current) ? after
        : throw Since(name, item);

    private static ConflictException Since(string part, Item item) =>
        new($"The {item.Title} was changed since: {part}. Its history has what it was.");
}
