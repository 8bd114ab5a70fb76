namespace DashSprout.Core.Engine;

/// <summary>
/// The way from a position back through what was typed, down a reversed trie: each stop is a position where the text of
/// some triggers begins. A value that is enumerated once and allocates nothing.
/// </summary>
internal ref struct ReverseWalk(TypedTail tail, TrieNode root, int textEnd)
{
    private readonly ReadOnlySpan<char> folded = tail.AllFolded;
    private readonly int first = tail.MatchFrom;
    private TrieNode node = root;
    private int start = textEnd;
    private int unit = textEnd > tail.MatchFrom ? tail.UnitsBefore(textEnd) : 0;

    /// <summary>Where the triggers' text begins, and the triggers.</summary>
    public readonly (int Start, ActiveTrigger[] Entries) Current => (start, node.Entries);

    public readonly ReverseWalk GetEnumerator() => this;

    public bool MoveNext()
    {
        while (start > first)
        {
            var begin = tail.UnitsBefore(start - 1);
            while (unit > begin)
            {
                if (node.Child(folded[--unit]) is not { } next)
                    return false;
                node = next;
            }
            start--;
            if (node.Entries.Length > 0)
                return true;
        }
        return false;
    }
}
