namespace DashSprout.Core.Engine;

/// <summary>
/// A persistent trie over UTF-16 units. Adding or removing copies the path and shares the rest, so a typing thread
/// keeps reading the tree it has while another publishes the next one. Nothing here recurses, so that no text is too
/// long for it.
/// </summary>
internal sealed class TrieNode
{
    public static readonly TrieNode Empty = new([], [], [], Admission.None);

    private readonly char[] units;
    private readonly TrieNode[] children;

    private TrieNode(char[] units, TrieNode[] children, ActiveTrigger[] entries, Admission below)
    {
        this.units = units;
        this.children = children;
        Entries = entries;
        Below = below;
    }

    /// <summary>The triggers whose whole text leads to this node, those of one snippet in its order.</summary>
    public ActiveTrigger[] Entries { get; }

    /// <summary>Where the triggers that lie below this node may go off.</summary>
    public Admission Below { get; }

    public ReadOnlySpan<TrieNode> Children => children;

    /// <summary>The units that lead to the children.</summary>
    public ReadOnlySpan<char> Units => units;

    public TrieNode? Child(char unit)
    {
        var at = units.AsSpan().IndexOf(unit);
        return at < 0 ? null : children[at];
    }

    /// <summary>Follows a path down; null where it leaves the tree.</summary>
    public TrieNode? Find(ReadOnlySpan<char> path)
    {
        var node = this;
        foreach (var unit in path)
        {
            node = node.Child(unit);
            if (node is null)
                return null;
        }
        return node;
    }

    /// <summary>Builds a tree of all paths at once.</summary>
    public static TrieNode Of(List<TrieEdit> paths) => Empty.With(paths);

    /// <summary>
    /// The tree after many edits: each node on the way of any of them is copied once, which is much faster than making
    /// the edits one by one.
    /// </summary>
    public TrieNode With(List<TrieEdit> edits)
    {
        if (edits.Count == 0)
            return this;
        if (edits.Count == 1)
            return edits[0].Added ? With(edits[0].Path, edits[0].Entry) : Without(edits[0].Path, edits[0].Entry);
        // One builder for each depth, used again and again.
        var builders = new List<Builder> { new() };
        builders[0].Start(this, '\0');
        var depth = 0;
        var previous = "";
        foreach (var (path, entry, added) in Sorted(edits))
        {
            Close(builders, ref depth, path.AsSpan().CommonPrefixLength(previous));
            while (depth < path.Length)
            {
                if (++depth == builders.Count)
                    builders.Add(new Builder());
                builders[depth].Start(builders[depth - 1].Child(path[depth - 1]), path[depth - 1]);
            }
            if (added)
                builders[depth].Entries.Add(entry);
            else
                builders[depth].Entries.Remove(entry);
            previous = path;
        }
        Close(builders, ref depth, 0);
        return builders[0].Finish();
    }

    /// <summary>The edits in the order of their paths, those of one path in the order they came.</summary>
    private static IEnumerable<TrieEdit> Sorted(List<TrieEdit> edits)
    {
        // The first four units as one number: comparing numbers is several times as fast as comparing texts.
        var keys = new ulong[edits.Count];
        var places = new int[edits.Count];
        for (var at = 0; at < keys.Length; at++)
        {
            var path = edits[at].Path;
            for (var unit = 0; unit < 4; unit++)
                keys[at] = (keys[at] << 16) | (unit < path.Length ? path[unit] : 0u);
            places[at] = at;
        }
        Array.Sort(keys, places);
        for (var from = 0; from < keys.Length; )
        {
            var to = from + 1;
            while (to < keys.Length && keys[to] == keys[from])
                to++;
            if (to - from > 1)
                places
                    .AsSpan(from, to - from)
                    .Sort(
                        (one, other) =>
                            string.CompareOrdinal(edits[one].Path, edits[other].Path) is var order and not 0
                                ? order
                                : one - other
                    );
            from = to;
        }
        return places.Select(place => edits[place]);
    }

    public TrieNode With(ReadOnlySpan<char> path, ActiveTrigger entry)
    {
        var way = Way(path);
        var node = new TrieNode(way[^1].units, way[^1].children, [.. way[^1].Entries, entry], way[^1].Below);
        for (var depth = path.Length - 1; depth >= 0; depth--)
            node = way[depth].WithChild(path[depth], node, way[depth].Below.With(entry));
        return node;
    }

    public TrieNode Without(ReadOnlySpan<char> path, ActiveTrigger entry)
    {
        if (Find(path) is null)
            return this;
        var way = Way(path);
        var last = way[^1];
        var node = new TrieNode(
            last.units,
            last.children,
            Array.FindAll(last.Entries, other => !ReferenceEquals(other, entry)),
            last.Below
        );
        for (var depth = path.Length - 1; depth >= 0; depth--)
        {
            node =
                node.Entries.Length == 0 && node.units.Length == 0
                    ? way[depth].WithoutChild(path[depth])
                    : way[depth].WithChild(path[depth], node, null);
        }
        return node;
    }

    /// <summary>The nodes along a path, this one first; where the tree ends they are empty.</summary>
    private TrieNode[] Way(ReadOnlySpan<char> path)
    {
        var way = new TrieNode[path.Length + 1];
        way[0] = this;
        for (var depth = 0; depth < path.Length; depth++)
            way[depth + 1] = way[depth].Child(path[depth]) ?? Empty;
        return way;
    }

    /// <param name="below">What lies below then; worked out anew when null.</param>
    private TrieNode WithChild(char unit, TrieNode child, Admission? below)
    {
        var at = units.AsSpan().IndexOf(unit);
        if (at < 0)
            return new TrieNode([.. units, unit], [.. children, child], Entries, below ?? All([.. children, child]));
        var copy = (TrieNode[])children.Clone();
        copy[at] = child;
        return new TrieNode(units, copy, Entries, below ?? All(copy));
    }

    private TrieNode WithoutChild(char unit)
    {
        var at = units.AsSpan().IndexOf(unit);
        TrieNode[] left = [.. children[..at], .. children[(at + 1)..]];
        return new TrieNode([.. units[..at], .. units[(at + 1)..]], left, Entries, All(left));
    }

    private static Admission All(IReadOnlyList<TrieNode> nodes)
    {
        var all = Admission.None;
        for (var at = 0; at < nodes.Count; at++)
            all = all.With(nodes[at].Below).With(nodes[at].Entries);
        return all;
    }

    /// <summary>Finishes the open nodes deeper than a depth.</summary>
    private static void Close(List<Builder> builders, ref int depth, int wanted)
    {
        for (; depth > wanted; depth--)
            builders[depth - 1].Set(builders[depth].Unit, builders[depth].Finish());
    }

    /// <summary>A node in the making.</summary>
    private sealed class Builder
    {
        private readonly List<char> units = [];
        private readonly List<TrieNode> children = [];

        /// <summary>The unit that leads to the node.</summary>
        public char Unit { get; private set; }

        public List<ActiveTrigger> Entries { get; } = [];

        public void Start(TrieNode? from, char unit)
        {
            Unit = unit;
            units.Clear();
            children.Clear();
            Entries.Clear();
            if (from is null)
                return;
            units.AddRange(from.units);
            children.AddRange(from.children);
            Entries.AddRange(from.Entries);
        }

        public TrieNode? Child(char unit) => units.IndexOf(unit) is var at and >= 0 ? children[at] : null;

        /// <summary>Puts a child in its place; one that holds nothing any more goes.</summary>
        public void Set(char unit, TrieNode child)
        {
            var at = units.IndexOf(unit);
            if (child.Entries.Length > 0 || child.units.Length > 0)
            {
                if (at >= 0)
                {
                    children[at] = child;
                    return;
                }
                units.Add(unit);
                children.Add(child);
            }
            else if (at >= 0)
            {
                units.RemoveAt(at);
                children.RemoveAt(at);
            }
        }

        public TrieNode Finish() =>
            new(
                units.Count == 0 ? [] : [.. units],
                children.Count == 0 ? [] : [.. children],
                Entries.Count == 0 ? [] : [.. Entries],
                All(children)
            );
    }
}

/// <summary>An entry to be put in or taken out at a path.</summary>
internal readonly record struct TrieEdit(string Path, ActiveTrigger Entry, bool Added = true);
