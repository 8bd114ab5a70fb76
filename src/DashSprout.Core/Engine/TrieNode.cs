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
