namespace DashSprout.Core.Engine;

/// <summary>
/// A persistent trie over UTF-16 units. Adding or removing copies the path and shares the rest, so a typing thread keeps
/// reading the tree it has while another publishes the next one. Nothing here recurses, so that no text is too long for it.
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
            if (node is null) return null;
        }
        return node;
    }

    /// <summary>Builds a tree of all paths at once, much faster than adding them one by one.</summary>
    public static TrieNode Of(List<(string Path, ActiveTrigger Entry)> paths)
    {
        var sorted = paths.ToArray();
        Array.Sort(sorted, (a, b) => string.CompareOrdinal(a.Path, b.Path));
        // One builder for each depth, used again and again.
        var builders = new List<Builder> { new() };
        var depth = 0;
        var previous = "";
        foreach (var (path, entry) in sorted)
        {
            Close(builders, ref depth, path.AsSpan().CommonPrefixLength(previous));
            while (depth < path.Length)
            {
                if (++depth == builders.Count) builders.Add(new Builder());
                builders[depth].Unit = path[depth - 1];
            }
            builders[depth].Entries.Add(entry);
            previous = path;
        }
        Close(builders, ref depth, 0);
        return builders[0].Finish();
    }

    public TrieNode With(ReadOnlySpan<char> path, ActiveTrigger entry)
    {
        var way = Way(path);
        var node = new TrieNode(way[^1].units, way[^1].children, [.. way[^1].Entries, entry], way[^1].Below);
        for (var depth = path.Length - 1; depth >= 0; depth--) node = way[depth].WithChild(path[depth], node, way[depth].Below.With(entry));
        return node;
    }

    public TrieNode Without(ReadOnlySpan<char> path, ActiveTrigger entry)
    {
        if (Find(path) is null) return this;
        var way = Way(path);
        var last = way[^1];
        var node = new TrieNode(last.units, last.children, Array.FindAll(last.Entries, other => !ReferenceEquals(other, entry)), last.Below);
        for (var depth = path.Length - 1; depth >= 0; depth--)
        {
            node = node.Entries.Length == 0 && node.units.Length == 0 ? way[depth].WithoutChild(path[depth]) : way[depth].WithChild(path[depth], node, null);
        }
        return node;
    }

    /// <summary>The nodes along a path, this one first; where the tree ends they are empty.</summary>
    private TrieNode[] Way(ReadOnlySpan<char> path)
    {
        var way = new TrieNode[path.Length + 1];
        way[0] = this;
        for (var depth = 0; depth < path.Length; depth++) way[depth + 1] = way[depth].Child(path[depth]) ?? Empty;
        return way;
    }

    /// <param name="below">What lies below then; worked out anew when null.</param>
    private TrieNode WithChild(char unit, TrieNode child, Admission? below)
    {
        var at = units.AsSpan().IndexOf(unit);
        if (at < 0) return new TrieNode([.. units, unit], [.. children, child], Entries, below ?? All([.. children, child]));
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
        for (var at = 0; at < nodes.Count; at++) all = all.With(nodes[at].Below).With(nodes[at].Entries);
        return all;
    }

    /// <summary>Finishes the open nodes deeper than a depth.</summary>
    private static void Close(List<Builder> builders, ref int depth, int wanted)
    {
        for (; depth > wanted; depth--)
        {
            var parent = builders[depth - 1];
            parent.Units.Add(builders[depth].Unit);
            parent.Children.Add(builders[depth].Finish());
        }
    }

    /// <summary>A node whose children are still coming.</summary>
    private sealed class Builder
    {
        public char Unit { get; set; }

        public List<char> Units { get; } = [];

        public List<TrieNode> Children { get; } = [];

        public List<ActiveTrigger> Entries { get; } = [];

        /// <summary>The node; the builder is empty again then.</summary>
        public TrieNode Finish()
        {
            var node = new TrieNode([.. Units], [.. Children], [.. Entries], All(Children));
            Units.Clear();
            Children.Clear();
            Entries.Clear();
            return node;
        }
    }
}
