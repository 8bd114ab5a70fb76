namespace DashSprout.Core.Engine;

/// <summary>
/// A persistent trie over folded UTF-16 units. Adding or removing copies the path and shares the rest, so a typing thread
/// keeps reading the tree it has while another publishes the next one.
/// </summary>
internal sealed class TrieNode
{
    public static readonly TrieNode Empty = new([], [], []);

    private readonly char[] units;
    private readonly TrieNode[] children;

    private TrieNode(char[] units, TrieNode[] children, ActiveTrigger[] entries)
    {
        this.units = units;
        this.children = children;
        Entries = entries;
    }

    /// <summary>The triggers whose whole text leads to this node.</summary>
    public ActiveTrigger[] Entries { get; }

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

    /// <summary>Builds a tree from all its paths at once, which is much cheaper than adding them one by one.</summary>
    public static TrieNode Of(List<(string Path, ActiveTrigger Entry)> paths)
    {
        var sorted = paths.ToArray();
        Array.Sort(sorted, (a, b) => string.CompareOrdinal(a.Path, b.Path));
        return Of(sorted, 0);
    }

    private static TrieNode Of(ReadOnlySpan<(string Path, ActiveTrigger Entry)> sorted, int depth)
    {
        var ending = 0;
        while (ending < sorted.Length && sorted[ending].Path.Length == depth) ending++;
        var entries = new ActiveTrigger[ending];
        for (var at = 0; at < ending; at++) entries[at] = sorted[at].Entry;

        var units = new List<char>();
        var children = new List<TrieNode>();
        for (var start = ending; start < sorted.Length;)
        {
            var unit = sorted[start].Path[depth];
            var end = start + 1;
            while (end < sorted.Length && sorted[end].Path[depth] == unit) end++;
            units.Add(unit);
            children.Add(Of(sorted[start..end], depth + 1));
            start = end;
        }
        return new TrieNode([.. units], [.. children], entries);
    }

    public TrieNode With(ReadOnlySpan<char> path, ActiveTrigger entry)
    {
        if (path.IsEmpty) return new TrieNode(units, children, [.. Entries, entry]);
        var at = units.AsSpan().IndexOf(path[0]);
        var child = (at < 0 ? Empty : children[at]).With(path[1..], entry);
        return at < 0
            ? new TrieNode([.. units, path[0]], [.. children, child], Entries)
            : new TrieNode(units, Replaced(at, child), Entries);
    }

    public TrieNode Without(ReadOnlySpan<char> path, ActiveTrigger entry)
    {
        if (path.IsEmpty) return new TrieNode(units, children, Array.FindAll(Entries, other => !ReferenceEquals(other, entry)));
        var at = units.AsSpan().IndexOf(path[0]);
        if (at < 0) return this;
        var child = children[at].Without(path[1..], entry);
        return child.Entries.Length == 0 && child.units.Length == 0
            ? new TrieNode([.. units[..at], .. units[(at + 1)..]], [.. children[..at], .. children[(at + 1)..]], Entries)
            : new TrieNode(units, Replaced(at, child), Entries);
    }

    private TrieNode[] Replaced(int at, TrieNode child)
    {
        var copy = (TrieNode[])children.Clone();
        copy[at] = child;
        return copy;
    }
}
