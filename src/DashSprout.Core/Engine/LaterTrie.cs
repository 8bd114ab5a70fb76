namespace DashSprout.Core.Engine;

/// <summary>
/// A trie whose edits are made when somebody looks at it: what only explanations read need not be ready for the next
/// key.
/// </summary>
internal sealed class LaterTrie
{
    /// <summary>So many edits wait at most before a further one makes them.</summary>
    private const int MostWaiting = 50_000;

    private readonly Lock gate = new();
    private readonly TrieNode from;
    private List<TrieEdit>? waiting;
    private TrieNode? tree;

    private LaterTrie(TrieNode from, List<TrieEdit> waiting)
    {
        this.from = from;
        this.waiting = waiting;
    }

    /// <summary>The trie without entries.</summary>
    public static LaterTrie Empty { get; } = new(TrieNode.Empty, []);

    /// <summary>The trie with all its edits.</summary>
    public TrieNode Tree
    {
        get
        {
            lock (gate)
            {
                tree ??= from.With(waiting!);
                waiting = null;
                return tree;
            }
        }
    }

    /// <summary>The trie with more edits to be made.</summary>
    public LaterTrie With(List<TrieEdit> edits)
    {
        if (edits.Count == 0)
            return this;
        lock (gate)
        {
            if (waiting is { Count: < MostWaiting } others)
                return new LaterTrie(from, [.. others, .. edits]);
        }
        return new LaterTrie(Tree, edits);
    }
}
