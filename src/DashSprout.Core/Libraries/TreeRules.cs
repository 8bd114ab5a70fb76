namespace DashSprout.Core.Libraries;

/// <summary>
/// What must hold of a tree after a change, looked at where the change was; throws <see cref="InvalidInputException"/>
/// where it does not.
/// </summary>
internal static class TreeRules
{
    /// <summary>What must hold of where an item lies that is new there.</summary>
    public static void CheckPlace(LibraryTree tree, Item after)
    {
        if (after.Kind == ItemKind.Library != (after.Slot.Parent == Slot.Root))
            throw new InvalidInputException("parentId", $"A {Wording.Of(after.Kind)} cannot lie there.");
        var parent = after.Slot.Parent == Slot.Root ? null : tree.Find(after.Slot.Parent);
        if (after.Slot.Parent != Slot.Root && parent is null or SnippetItem)
            throw new InvalidInputException(
                "parentId",
                $"There is no library or folder {after.Slot.Parent} that the {after.Title} could lie in. "
                    + "Choose one that exists."
            );
        if (after.Kind == ItemKind.Folder)
            CheckDepth(tree, (FolderItem)after);
    }

    /// <summary>
    /// What must hold of names that are new in a place: each stands there once for its kind, whatever its letter case.
    /// </summary>
    public static void CheckNames(LibraryTree tree, long parent, HashSet<Item> named)
    {
        if (named.Count == 1)
        {
            // Nearly always it is one; then a look at each sibling is faster than a table of them all.
            var item = named.First();
            if (
                tree.Inside(parent).FirstOrDefault(other => other.Id != item.Id && other.SharesNameWith(item)) is
                { } same
            )
                throw Taken(same);
            return;
        }
        foreach (var siblings in tree.Inside(parent).GroupBy(item => item.Kind))
        {
            var names = new Dictionary<string, Item>(StringComparer.OrdinalIgnoreCase);
            foreach (var item in siblings)
                if (!names.TryAdd(item.Name, item) && (named.Contains(item) || named.Contains(names[item.Name])))
                    throw Taken(item);
        }
    }

    private static InvalidInputException Taken(Item item) =>
        new("name", $"A {Wording.Of(item.Kind)} named “{item.Name}” is here already. Choose another name.");

    private static void CheckDepth(LibraryTree tree, FolderItem folder)
    {
        var above = 0;
        for (
            var parent = tree.Find(folder.Slot.Parent);
            parent is FolderItem outer;
            parent = tree.Find(outer.Slot.Parent)
        )
            if (outer.Id == folder.Id || ++above > LibraryTree.MaxDepth)
                throw new InvalidInputException("parentId", "A folder cannot be moved into itself.");
        if (above + Height(tree, folder, LibraryTree.MaxDepth + 1) > LibraryTree.MaxDepth)
            throw new InvalidInputException(
                "parentId",
                $"Folders nest at most {LibraryTree.MaxDepth} deep. Put it further up."
            );
    }

    private static int Height(LibraryTree tree, Item folder, int most) =>
        most == 0
            ? 0
            : 1
                + tree.Inside(folder.Id)
                    .TakeWhile(inner => inner.Kind == ItemKind.Folder)
                    .Select(inner => Height(tree, inner, most - 1))
                    .DefaultIfEmpty(0)
                    .Max();
}
