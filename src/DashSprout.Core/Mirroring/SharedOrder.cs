using DashSprout.Core.Libraries;

namespace DashSprout.Core.Mirroring;

/// <summary>
/// Sees to it that merged entries make what a tree can hold: where they lie, in which order, under which
/// names.
/// </summary>
internal static class SharedOrder
{
    /// <summary>Gives everything a place: nothing lies in itself, in nothing, or too deep.</summary>
    /// <param name="entries">The entries by key; changed.</param>
    /// <param name="theirs">What the others have: where both cannot be, theirs holds.</param>
    public static void Mend(Dictionary<string, SharedEntry> entries, IReadOnlyDictionary<string, SharedEntry> theirs)
    {
        foreach (var entry in entries.Values.ToList())
            if (entry.Parent != SharedLibrary.Top && entries.GetValueOrDefault(entry.Parent) is not SharedFolder)
                entries[entry.Key] = entry with { Parent = SharedLibrary.Top };
        var folders = entries
            .Values.OfType<SharedFolder>()
            .Select(folder => folder.Key)
            .Order(StringComparer.Ordinal)
            .ToList();
        foreach (var key in folders)
            if (Depth(entries, key) is null)
                entries[key] = entries[key] with { Parent = Allowed(key) };
        foreach (var key in folders)
            if (Depth(entries, key) is not (<= LibraryTree.MaxDepth))
                entries[key] = entries[key] with { Parent = SharedLibrary.Top };

        string Allowed(string key) =>
            theirs.GetValueOrDefault(key)?.Parent is { } parent && entries.GetValueOrDefault(parent) is SharedFolder
                ? parent
                : SharedLibrary.Top;
    }

    /// <summary>
    /// The entries as a list: the outer before the inner, folders before snippets, side by side as the one side has
    /// them that changed the order.
    /// </summary>
    public static IReadOnlyList<SharedEntry> Arrange(
        Dictionary<string, SharedEntry> entries,
        SharedLibrary? before,
        SharedLibrary theirs,
        SharedLibrary mine
    )
    {
        var inside = entries.Values.ToLookup(entry => entry.Parent);
        var (was, there, here) = (Places(before), Places(theirs), Places(mine));
        var arranged = new List<SharedEntry>();
        Inside(SharedLibrary.Top);
        return arranged;

        void Inside(string parent)
        {
            foreach (var folder in InOrder([.. inside[parent].OfType<SharedFolder>()]))
            {
                arranged.Add(folder);
                Inside(folder.Key);
            }
            arranged.AddRange(InOrder([.. inside[parent].OfType<SharedSnippet>()]));
        }

        List<SharedEntry> InOrder(IReadOnlyList<SharedEntry> siblings)
        {
            var mineMoved = !Kept(siblings, was, here);
            var theirsMoved = !Kept(siblings, was, there);
            return mineMoved && !theirsMoved ? Woven(siblings, here, there) : Woven(siblings, there, here);
        }
    }

    /// <summary>
    /// The same with names that stand once in each place for their kind, whatever their letter case: those that the
    /// others have as they are keep them, the rest get a number behind.
    /// </summary>
    public static IReadOnlyList<SharedEntry> Unique(
        IReadOnlyList<SharedEntry> entries,
        IReadOnlyDictionary<string, SharedEntry> theirs
    )
    {
        var renamed = new Dictionary<string, SharedEntry>();
        foreach (var siblings in entries.GroupBy(entry => (entry.Parent, entry is SharedFolder)))
        {
            var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
            var late = new List<SharedEntry>();
            foreach (
                var entry in siblings.OrderBy(entry => theirs.GetValueOrDefault(entry.Key)?.Name == entry.Name ? 0 : 1)
            )
                if (!taken.Add(entry.Name))
                    late.Add(entry);
            foreach (var entry in late)
            {
                var name = Commands.Free(taken.Contains, entry.Name);
                taken.Add(name);
                renamed[entry.Key] = entry.Named(name);
            }
        }
        return renamed.Count == 0 ? entries : [.. entries.Select(entry => renamed.GetValueOrDefault(entry.Key, entry))];
    }

    private static Dictionary<string, int> Places(SharedLibrary? library) =>
        (library?.Entries ?? EquatableList<SharedEntry>.Empty)
            .Select((entry, at) => (entry.Key, at))
            .ToDictionary(pair => pair.Key, pair => pair.at);

    /// <summary>Whether those that both have stand in the same order in both.</summary>
    private static bool Kept(
        IReadOnlyList<SharedEntry> siblings,
        Dictionary<string, int> before,
        Dictionary<string, int> after
    )
    {
        var last = -1;
        foreach (
            var entry in siblings
                .Where(entry => before.ContainsKey(entry.Key) && after.ContainsKey(entry.Key))
                .OrderBy(entry => before[entry.Key])
        )
        {
            if (after[entry.Key] < last)
                return false;
            last = after[entry.Key];
        }
        return true;
    }

    /// <summary>
    /// Those of the first order, and each that only the second has behind the one that it follows there.
    /// </summary>
    private static List<SharedEntry> Woven(
        IReadOnlyList<SharedEntry> siblings,
        Dictionary<string, int> first,
        Dictionary<string, int> second
    )
    {
        var order = siblings.Where(entry => first.ContainsKey(entry.Key)).OrderBy(entry => first[entry.Key]).ToList();
        var rest = siblings.Where(entry => !first.ContainsKey(entry.Key)).Select(entry => entry.Key).ToHashSet();
        if (rest.Count == 0)
            return order;
        var behind = new Dictionary<string, List<SharedEntry>>();
        var above = "";
        foreach (
            var entry in siblings
                .OrderBy(entry => second.GetValueOrDefault(entry.Key, int.MaxValue))
                .ThenBy(entry => entry.Key, StringComparer.Ordinal)
        )
        {
            if (!rest.Contains(entry.Key))
                above = entry.Key;
            else if (behind.TryGetValue(above, out var more))
                more.Add(entry);
            else
                behind[above] = [entry];
        }
        return
        [
            .. behind.GetValueOrDefault("", []),
            .. order.SelectMany(entry => behind.GetValueOrDefault(entry.Key, []).Prepend(entry)),
        ];
    }

    /// <summary>How many folders a folder lies in, itself counted; null when it lies in itself.</summary>
    private static int? Depth(Dictionary<string, SharedEntry> entries, string key)
    {
        var depth = 0;
        for (var at = key; at != SharedLibrary.Top; at = entries[at].Parent)
            if (++depth > entries.Count)
                return null;
        return depth;
    }
}
