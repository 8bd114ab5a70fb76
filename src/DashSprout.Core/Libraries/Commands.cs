using System.Collections.Immutable;
using DashSprout.Core.Bodies;

namespace DashSprout.Core.Libraries;

/// <summary>
/// What can be done with a tree. Each command says what it would change; <see cref="LibraryTree.With"/> does it. Bad
/// input throws <see cref="InvalidInputException"/>, something that is not there <see cref="MissingItemException"/>.
/// </summary>
public static class Commands
{
    /// <summary>Adds an empty library at the end.</summary>
    public static Change AddLibrary(LibraryTree now, long id, string name) =>
        Added(
            new LibraryItem(
                id,
                End(now, Slot.Root, ItemKind.Library),
                Names.Check("name", name),
                true,
                LibraryRules.Default
            )
        );

    /// <summary>Adds an empty folder at the end of a library or folder.</summary>
    public static Change AddFolder(LibraryTree now, long id, long parent, string name) =>
        Added(new FolderItem(id, End(now, Holder(now, parent), ItemKind.Folder), Names.Check("name", name)));

    /// <summary>Adds a snippet at the end of a library or folder.</summary>
    public static Change AddSnippet(LibraryTree now, long id, long parent, Snippet snippet)
    {
        snippet = PrivateName.Hide(snippet, IsTaken(now, Holder(now, parent)));
        var item = new SnippetItem(id, End(now, parent, ItemKind.Snippet), 1, now.Inward(snippet));
        Check(now, item);
        return Added(item);
    }

    /// <summary>
    /// Adds snippets at the end of a library or folder, in their order; names that are taken get a number behind them.
    /// </summary>
    public static Change AddSnippets(LibraryTree now, long nextId, long parent, IReadOnlyList<Snippet> snippets)
    {
        if (snippets.Count == 0)
            throw new InvalidInputException("snippets", "There is nothing to add.");
        var names = new FreeNames(TakenNames(now, parent));
        var slot = End(now, Holder(now, parent), ItemKind.Snippet);
        var items = new List<SnippetItem>();
        foreach (var snippet in snippets)
        {
            var name = names.Take(snippet.Name);
            var item = new SnippetItem(
                nextId + items.Count,
                slot with
                {
                    Position = slot.Position + items.Count * Slot.Step,
                },
                1,
                now.Inward(snippet with { Name = name })
            );
            items.Add(InvalidInputException.Within($"snippets[{items.Count}]", () =>
                {
                    Check(now, item);
                    return item;
                }));
        }
        return new Change(
            items.Count == 1 ? $"Added the {items[0].Title}" : $"Added {items.Count} snippets",
            items.Select(item => new ItemChange(null, item))
        );
    }

    /// <summary>A name that no snippet in a library or folder has: the given one, or the same with a number.</summary>
    /// <param name="itself">The snippet that is to have it, if it is there already.</param>
    public static string FreeName(LibraryTree now, long parent, string wanted, SnippetItem? itself = null)
    {
        var taken = TakenNames(now, parent);
        if (itself is not null)
            taken.Remove(itself.Name);
        return Free(taken, Names.Check("name", wanted));
    }

    private static HashSet<string> TakenNames(LibraryTree now, long parent) =>
        now.Inside(parent).OfType<SnippetItem>().Select(item => item.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);

    /// <summary>The same, gathered only when somebody asks: few changes do, and many names may lie there.</summary>
    private static Func<string, bool> IsTaken(LibraryTree now, long parent)
    {
        var names = new Lazy<HashSet<string>>(() => TakenNames(now, parent));
        return name => names.Value.Contains(name);
    }

    internal static string Free(HashSet<string> taken, string wanted) => Free(taken.Contains, wanted);

    /// <summary>A name that is not taken: the wanted one, or the same with a number.</summary>
    public static string Free(Func<string, bool> isTaken, string wanted)
    {
        var name = wanted;
        for (var count = 2; isTaken(name); count++)
            name = $"{wanted} {count}";
        return name;
    }

    /// <summary>Changes a library's name, switch or rules.</summary>
    public static Change ChangeLibrary(LibraryTree now, long id, string? name, bool? enabled, LibraryRules? rules)
    {
        var library = now.Get<LibraryItem>(id);
        var next = library with
        {
            LibraryName = name is null ? library.Name : Names.Check("name", name),
            Enabled = enabled ?? library.Enabled,
            Rules = rules ?? library.Rules,
        };
        var what =
            next.Name != library.Name ? Renamed(library, next)
            : next.Enabled != library.Enabled ? $"Switched the {library.Title} {(next.Enabled ? "on" : "off")}"
            : $"Changed the rules of the {library.Title}";
        return new Change(what, next == library ? [] : [new ItemChange(library, next)]);
    }

    /// <summary>Changes a folder's name, its switch, or what new triggers begin with in it.</summary>
    /// <param name="defaults">Null leaves them as they are; <see cref="TriggerDefaults.None"/> says nothing any
    /// more.</param>
    public static Change ChangeFolder(LibraryTree now, long id, string? name, bool? enabled, TriggerDefaults? defaults)
    {
        var folder = now.Get<FolderItem>(id);
        var next = folder with
        {
            FolderName = name is null ? folder.Name : Names.Check("name", name),
            Enabled = enabled ?? folder.Enabled,
            Defaults =
                defaults is null ? folder.Defaults
                : defaults == TriggerDefaults.None ? null
                : defaults,
        };
        var what =
            next.Name != folder.Name ? Renamed(folder, next)
            : next.Enabled != folder.Enabled ? $"Switched the {folder.Title} {(next.Enabled ? "on" : "off")}"
            : $"Changed what new snippets begin with in the {folder.Title}";
        return new Change(what, next == folder ? [] : [new ItemChange(folder, next)]);
    }

    /// <summary>Puts another content in the place of a snippet's.</summary>
    public static Change ChangeSnippet(LibraryTree now, long id, Snippet content)
    {
        var item = now.Get<SnippetItem>(id);
        if (!item.Snippet.Private)
            content = PrivateName.Hide(content, IsTaken(now, item.Slot.Parent));
        var next = item with { Snippet = now.Inward(content), Version = item.Version + 1 };
        var parts = SnippetParts.Differing(item.Snippet, next.Snippet);
        if (parts.Count == 0)
            return new Change($"Saved the {item.Title}");
        if (parts.Any(part => part.Key is SnippetParts.Text or SnippetParts.Twin))
            Check(now, next);
        var what = parts is [var only] ? only.Changed(item.Snippet, next.Snippet) : $"Changed the {next.Title}";
        return new Change(what, new ItemChange(item, next));
    }

    /// <summary>
    /// Moves an item into a library or folder, in front of another one of its kind there or to the end.
    /// </summary>
    /// <param name="parent">Of no account for a library.</param>
    public static Change Move(LibraryTree now, long id, long parent, long? before)
    {
        var item = now.Get<Item>(id);
        var to = item.Kind == ItemKind.Library ? Slot.Root : Holder(now, parent);
        var stays = item.Slot.Parent == to;
        var beside = now.Inside(to).Where(sibling => sibling.Kind == item.Kind && sibling.Id != id).ToList();
        var at = before is null ? beside.Count : beside.FindIndex(sibling => sibling.Id == before);
        if (at < 0)
            throw new InvalidInputException(
                "before",
                $"There is no {Wording.Of(item.Kind)} {before} in this place. Choose one that lies there."
            );
        var what = stays ? $"Moved the {item.Title}" : $"Moved the {item.Title} to “{now.PathOf(now.Get<Item>(to))}”";
        if (stays && now.PlaceOf(item) - Range(now.Inside(to), item.Kind).First == at)
            return new Change(what);
        return new Change(
            what,
            Arranging.Insert(beside, at, [item], to).Select(placed => new ItemChange(now.Find(placed.Id), placed))
        );
    }

    /// <summary>
    /// Moves an item one place up or down among those of its kind beside it; at the end nothing changes.
    /// </summary>
    public static Change Shift(LibraryTree now, long id, bool up)
    {
        var item = now.Get<Item>(id);
        var siblings = now.Inside(item.Slot.Parent);
        var (first, end) = Range(siblings, item.Kind);
        var at = now.PlaceOf(item);
        if (up ? at == first : at == end - 1)
            return new Change($"Moved the {item.Title}");
        return Move(
            now,
            id,
            item.Slot.Parent,
            up ? siblings[at - 1].Id
                : at + 2 < end ? siblings[at + 2].Id
                : null
        );
    }

    /// <summary>Puts an item into the bin, with all that lies in it.</summary>
    public static Change Delete(LibraryTree now, long id)
    {
        var item = now.Get<Item>(id);
        return new Change($"Deleted the {item.Title}", new ItemChange(item, null));
    }

    /// <summary>
    /// What must hold of a snippet's bodies among the others; throws <see cref="InvalidInputException"/> for the field
    /// <c>body</c>.
    /// </summary>
    /// <param name="missing">What stands for a snippet that is not there; null when none may be missing.</param>
    public static void Check(LibraryTree now, SnippetItem item, Body? missing = null)
    {
        foreach (var body in item.Snippet.Bodies)
            BodyCheck.Check(
                body,
                References.To(item.Id),
                target => now.FindBody(target) ?? missing,
                target => target == References.To(item.Id) ? Path(now, item) : now.NameOf(target)
            );
    }

    internal static Slot End(LibraryTree now, long parent, ItemKind kind)
    {
        var siblings = now.Inside(parent);
        var (first, end) = Range(siblings, kind);
        return new Slot(parent, (end > first ? siblings[end - 1].Slot.Position : 0) + Slot.Step);
    }

    /// <summary>Where those of a kind stand among what lies side by side; folders come first.</summary>
    private static (int First, int End) Range(ImmutableList<Item> siblings, ItemKind kind)
    {
        if (kind == ItemKind.Library)
            return (0, siblings.Count);
        var folders = siblings.FindIndex(item => item.Kind == ItemKind.Snippet) is var at and >= 0
            ? at
            : siblings.Count;
        return kind == ItemKind.Folder ? (0, folders) : (folders, siblings.Count);
    }

    private static string Path(LibraryTree now, SnippetItem item) =>
        $"{now.PathOf(now.Get<Item>(item.Slot.Parent))}/{item.Name}";

    private static Change Added(Item item) => new($"Added the {item.Title}", new ItemChange(null, item));

    internal static long Holder(LibraryTree now, long parent) =>
        now.Find(parent) is LibraryItem or FolderItem
            ? parent
            : throw new InvalidInputException(
                "parentId",
                $"There is no library or folder {parent}. Choose one that exists."
            );

    private static string Renamed(Item before, Item after) => $"Renamed the {before.Title} to “{after.Name}”";
}
