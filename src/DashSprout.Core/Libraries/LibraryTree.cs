using System.Collections.Immutable;
using DashSprout.Core.Bodies;

namespace DashSprout.Core.Libraries;

/// <summary>
/// All libraries, folders and snippets as they are at one moment. A change makes another tree that shares what did
/// not change, at a cost that grows with the change and not with the tree.
/// </summary>
public sealed class LibraryTree
{
    /// <summary>How deep folders nest at most.</summary>
    public const int MaxDepth = 12;

    private static readonly SiblingOrder Order = new();

    private readonly IdTable<Item> items;

    /// <summary>What lies in each library and folder, in its order.</summary>
    private readonly IdTable<ImmutableList<Item>> inside;

    private LibraryTree(IdTable<Item> items, IdTable<ImmutableList<Item>> inside)
    {
        this.items = items;
        this.inside = inside;
    }

    /// <summary>The tree without anything.</summary>
    public static LibraryTree Empty { get; } = new(IdTable<Item>.Empty, IdTable<ImmutableList<Item>>.Empty);

    /// <summary>The libraries, the first wins.</summary>
    public IEnumerable<LibraryItem> Libraries => Inside(Slot.Root).Cast<LibraryItem>();

    /// <summary>All snippets, in no particular order.</summary>
    public IEnumerable<SnippetItem> Snippets => items.Select(item => item.Value).OfType<SnippetItem>();

    /// <summary>How many items there are.</summary>
    public int Count => items.Count;

    /// <summary>
    /// A tree of what a store holds. What cannot be reached from the root, because what held it is gone or two
    /// folders lie in each other, is given back beside it.
    /// </summary>
    public static (LibraryTree Tree, IReadOnlyList<Item> Unreachable) Of(IReadOnlyCollection<Item> all)
    {
        var byParent = new Dictionary<long, List<Item>>();
        foreach (var item in all)
        {
            if (!byParent.TryGetValue(item.Slot.Parent, out var siblings))
                byParent[item.Slot.Parent] = siblings = [];
            siblings.Add(item);
        }
        var items = IdTable<Item>.Empty.ToBuilder();
        var inside = IdTable<ImmutableList<Item>>.Empty.ToBuilder();
        var open = new Stack<long>([Slot.Root]);
        while (open.TryPop(out var parent))
        {
            if (!byParent.Remove(parent, out var siblings))
                continue;
            // Only libraries lie at the root, and nowhere else.
            siblings.RemoveAll(item => item.Kind == ItemKind.Library != (parent == Slot.Root));
            // A store gives them in the order they came, which is nearly always theirs.
            if (!Order.IsKept(siblings))
                siblings.Sort(Order);
            inside[parent] = [.. siblings];
            foreach (var item in siblings)
            {
                items.Add(item.Id, item);
                if (item.Kind != ItemKind.Snippet)
                    open.Push(item.Id);
            }
        }
        var tree = new LibraryTree(items.ToTable(), inside.ToTable());
        return (tree, tree.Count == all.Count ? [] : [.. all.Where(item => tree.Find(item.Id) != item)]);
    }

    /// <summary>An item; null when there is none of that id.</summary>
    public Item? Find(long id) => items.Find(id);

    /// <summary>An item of a kind; throws <see cref="MissingItemException"/>.</summary>
    public T Get<T>(long id)
        where T : Item =>
        Find(id) as T
        ?? throw new MissingItemException(
            id,
            typeof(T) == typeof(Item)
                ? "item"
                : typeof(T).Name.Replace("Item", "", StringComparison.Ordinal).ToLowerInvariant()
        );

    /// <summary>What lies in a library or folder, or at the root, in its order: folders first.</summary>
    public ImmutableList<Item> Inside(long parent) => inside.Find(parent) ?? [];

    /// <summary>The place of an item among what lies beside it.</summary>
    public int PlaceOf(Item item) => Inside(item.Slot.Parent).BinarySearch(item, Order);

    /// <summary>An item and all that lies below it, in order.</summary>
    public IEnumerable<Item> Within(Item item)
    {
        var open = new Stack<Item>([item]);
        while (open.TryPop(out var next))
        {
            yield return next;
            var inner = Inside(next.Id);
            for (var at = inner.Count - 1; at >= 0; at--)
                open.Push(inner[at]);
        }
    }

    /// <summary>The library in which an item lies, or which it is.</summary>
    public LibraryItem LibraryOf(Item item)
    {
        while (item is not LibraryItem)
            item = items.Find(item.Slot.Parent) ?? throw new MissingItemException(item.Slot.Parent);
        return (LibraryItem)item;
    }

    /// <summary>The folders in which an item lies, the outermost first.</summary>
    public IReadOnlyList<FolderItem> FoldersOf(Item item)
    {
        var folders = new List<FolderItem>();
        for (var parent = Find(item.Slot.Parent); parent is FolderItem folder; parent = Find(folder.Slot.Parent))
            folders.Insert(0, folder);
        return folders;
    }

    /// <summary>The outermost folder that is off among those in which an item lies; null when all are on.</summary>
    public FolderItem? OffFolderOf(Item item) => FoldersOf(item).FirstOrDefault(folder => !folder.Enabled);

    /// <summary>What new triggers begin with in a library or folder, worked out from it and what it lies in.</summary>
    public TriggerDefaults DefaultsIn(long holder)
    {
        var defaults = TriggerDefaults.None;
        for (var item = Find(holder); item is not null; item = Find(item.Slot.Parent))
            if ((item is FolderItem folder ? folder.Defaults : (item as LibraryItem)?.Rules.Defaults) is { } said)
                defaults = defaults.Over(said);
        return defaults;
    }

    /// <summary>The path of an item, as files write references: <c>Library/Folder/Name</c>.</summary>
    public string PathOf(Item item) =>
        item is LibraryItem
            ? item.Name
            : string.Join('/', [LibraryOf(item).Name, .. FoldersOf(item).Select(folder => folder.Name), item.Name]);

    /// <summary>The snippet at a path; null when there is none.</summary>
    public SnippetItem? At(string path)
    {
        var names = path.Split('/');
        Item? item = Libraries.FirstOrDefault(library => library.Name == names[0]);
        for (var at = 1; at < names.Length && item is not null; at++)
        {
            var kind = at == names.Length - 1 ? ItemKind.Snippet : ItemKind.Folder;
            item = Inside(item.Id).FirstOrDefault(inner => inner.Kind == kind && inner.Name == names[at]);
        }
        return item as SnippetItem;
    }

    /// <summary>
    /// The snippet that a reference in a body means: by identity, or by its path; null when there is none.
    /// </summary>
    public SnippetItem? Referred(string target) =>
        References.Id(target) is { } id ? Find(id) as SnippetItem : At(target);

    /// <summary>The body that a reference means; null when there is none.</summary>
    public Body? FindBody(string target) => Referred(target)?.Snippet.Body;

    /// <summary>
    /// What a reference means, for the user: the snippet's path, or the reference itself when there is none.
    /// </summary>
    public string NameOf(string target) => Referred(target) is { } snippet ? PathOf(snippet) : target;

    /// <summary>A snippet as files hold it: references are paths.</summary>
    public Snippet Outward(Snippet snippet) => snippet.WithBodies(body => References.Rewrite(body, NameOf));

    /// <summary>A snippet as the tree holds it: references are identities where there is such a snippet.</summary>
    public Snippet Inward(Snippet snippet) =>
        snippet.WithBodies(body =>
            References.Rewrite(body, target => Referred(target) is { } found ? References.To(found.Id) : target)
        );

    /// <summary>
    /// The tree after a change; throws <see cref="InvalidInputException"/> or <see cref="ConflictException"/> when
    /// it would not be a good one, and nothing has happened then.
    /// </summary>
    public LibraryTree With(Change change)
    {
        var next = new Editing(this);
        foreach (var (before, after, below) in change.Items)
        {
            if (before is not null && !ReferenceEquals(Find(before.Id), before))
                throw new ConflictException($"The {before.Title} was changed in between. Look at it again.");
            if (before is not null && after is null)
                next.Remove(before);
            if (before is not null && after is not null)
                next.Replace(before, after);
            if (before is null && after is not null)
                next.Add(after, below);
        }
        var tree = next.ToTree();
        var named = new List<Item>();
        foreach (var (before, after, _) in change.Items)
        {
            if (after is null)
                continue;
            var moved = before is null || before.Slot.Parent != after.Slot.Parent;
            if (moved)
                TreeRules.CheckPlace(tree, after);
            if (moved || before!.Name != after.Name)
                named.Add(after);
        }
        foreach (var siblings in named.GroupBy(item => item.Slot.Parent))
            TreeRules.CheckNames(tree, siblings.Key, [.. siblings]);
        return tree;
    }

    /// <summary>A tree in the making.</summary>
    private sealed class Editing(LibraryTree start)
    {
        private readonly IdTable<Item>.IdTableBuilder items = start.items.ToBuilder();
        private readonly IdTable<ImmutableList<Item>>.IdTableBuilder inside = start.inside.ToBuilder();

        public void Add(Item item, IReadOnlyList<Item> below)
        {
            Put(item);
            foreach (var siblings in below.GroupBy(inner => inner.Slot.Parent))
            {
                inside[siblings.Key] = [.. siblings.Order(Order)];
                foreach (var inner in siblings)
                    items[inner.Id] = inner;
            }
        }

        public void Remove(Item item)
        {
            Take(item);
            // What was moved out of it before in the same change is not in it any more.
            var open = new Stack<Item>([item]);
            while (open.TryPop(out var inner))
            {
                foreach (var below in inside.Find(inner.Id) ?? [])
                    open.Push(below);
                items.Remove(inner.Id);
                inside.Remove(inner.Id);
            }
        }

        public void Replace(Item before, Item after)
        {
            Take(before);
            Put(after);
        }

        public LibraryTree ToTree() => new(items.ToTable(), inside.ToTable());

        private void Put(Item item)
        {
            items[item.Id] = item;
            var siblings = inside.Find(item.Slot.Parent) ?? [];
            var at = siblings.BinarySearch(item, Order);
            inside[item.Slot.Parent] = siblings.Insert(at < 0 ? ~at : at, item);
        }

        private void Take(Item item)
        {
            if (
                inside.Find(item.Slot.Parent) is not { } siblings
                || siblings.BinarySearch(item, Order) is not (var at and >= 0)
            )
                return;
            siblings = siblings.RemoveAt(at);
            if (siblings.IsEmpty)
                inside.Remove(item.Slot.Parent);
            else
                inside[item.Slot.Parent] = siblings;
        }
    }
}
