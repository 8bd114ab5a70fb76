using DashSprout.Core.Text;

namespace DashSprout.Core.Engine;

/// <summary>
/// The keys typed since the last reset, at most 256, with the NFC and case-folded forms of their graphemes kept beside
/// them so that matching reads plain spans. Positions are absolute: they only grow, and a position from before a reset
/// is never reused. A tail may begin with a left neighbour: a character that was put in and counts for left edges only.
/// </summary>
internal sealed class TypedTail
{
    public const int Capacity = 256;
    private const int Slots = 2 * Capacity;
    private const char FirstMark = '\u0300';

    private static readonly byte[] Composed = new byte[char.MaxValue + 1];

    private readonly Key[] keys = new Key[Slots];
    private readonly int[] ends = new int[Slots];
    private char[] written = new char[Slots * 2];
    private char[] folded = new char[Slots * 2];
    private int origin;
    private int count;
    private int matchFrom;

    /// <summary>Position behind the last grapheme.</summary>
    public int End => origin + count;

    /// <summary>Position of the first grapheme that is still remembered.</summary>
    public int First => Math.Max(origin, End - Capacity);

    /// <summary>Position from which a trigger's text may begin: behind the left neighbour.</summary>
    public int MatchFrom => Math.Max(matchFrom, First);

    /// <summary>The key at a position, as it was typed.</summary>
    public Key this[int position] => keys[position - origin];

    /// <summary>
    /// The case-folded NFC form of all that is kept; <see cref="UnitsBefore"/> says where a position begins in it.
    /// </summary>
    public ReadOnlySpan<char> AllFolded => folded;

    /// <summary>The NFC form between two positions.</summary>
    public ReadOnlySpan<char> Written(int start, int end) => Slice(written, start, end);

    /// <summary>The case-folded NFC form between two positions.</summary>
    public ReadOnlySpan<char> Folded(int start, int end) => Slice(folded, start, end);

    /// <summary>
    /// Adds one typed key. Returns false when it joined the one before it (a combining mark typed by itself), so that
    /// no grapheme was added.
    /// </summary>
    public bool Append(in Key key)
    {
        var grapheme = key.Text;
        if (count > 0 && grapheme[0] >= FirstMark && Joins(keys[count - 1].Text, grapheme))
        {
            count--;
            Put(Key.Typed(keys[count].Text + grapheme));
            return false;
        }
        if (count == Slots)
            DropOldest();
        Put(key);
        return true;
    }

    public void RemoveLast()
    {
        if (count == 0)
            return;
        count--;
        matchFrom = Math.Min(matchFrom, End);
    }

    /// <summary>The tail as it is now, to be brought back by <see cref="Restore"/>.</summary>
    public (Key[] Keys, int Neighbours) Remembered()
    {
        var kept = keys[(First - origin)..count];
        return (kept, MatchFrom - First);
    }

    public void Restore((Key[] Keys, int Neighbours) remembered)
    {
        Reset();
        foreach (var key in remembered.Keys)
            Append(key);
        matchFrom = First + remembered.Neighbours;
    }

    /// <summary>
    /// Begins anew behind a character that counts for left edges only; behind nothing that is known when it is empty.
    /// </summary>
    public void BeginBehind(string neighbour)
    {
        Reset();
        if (neighbour.Length > 0)
            Append(Key.Typed(neighbour));
        matchFrom = End;
    }

    public void Reset()
    {
        origin += count + 1;
        count = 0;
        matchFrom = origin;
    }

    /// <summary>Whether a word may begin at the position in the sense of UAX #29.</summary>
    public bool IsWordBoundary(int position)
    {
        var first = First;
        return WordBreaks.IsBoundary(Written(first, End), UnitsBefore(position) - UnitsBefore(first));
    }

    private ReadOnlySpan<char> Slice(char[] chars, int start, int end)
    {
        var from = UnitsBefore(start);
        return chars.AsSpan(from, UnitsBefore(end) - from);
    }

    /// <summary>How many units stand before a position.</summary>
    public int UnitsBefore(int position) => position == origin ? 0 : ends[position - origin - 1];

    private void Put(in Key key)
    {
        var grapheme = key.Text;
        var at = count == 0 ? 0 : ends[count - 1];
        if (grapheme.Length == 1 && grapheme[0] < FirstMark && at < written.Length)
        {
            // Nearly every key: what lies below the combining marks is its own NFC form.
            written[at] = grapheme[0];
            folded[at] = CaseFolding.Fold(grapheme[0]);
            keys[count] = key;
            ends[count++] = at + 1;
            return;
        }
        var form = IsComposed(grapheme) ? grapheme : grapheme.Normalize();
        if (at + form.Length > written.Length)
        {
            Array.Resize(ref written, (at + form.Length) * 2);
            Array.Resize(ref folded, written.Length);
        }
        form.CopyTo(written.AsSpan(at));
        CaseFolding.Fold(form, folded.AsSpan(at, form.Length));
        keys[count] = key;
        ends[count++] = at + form.Length;
    }

    /// <summary>
    /// Whether a grapheme is NFC; remembered for single units, because asking the platform allocates.
    /// </summary>
    private static bool IsComposed(string grapheme)
    {
        if (grapheme.Length > 1)
            return grapheme.IsNormalized();
        ref var known = ref Composed[grapheme[0]];
        if (known == 0)
            known = char.IsSurrogate(grapheme[0]) || grapheme.IsNormalized() ? (byte)1 : (byte)2;
        return known == 1;
    }

    private void DropOldest()
    {
        const int Dropped = Slots - Capacity;
        var chars = ends[Dropped - 1];
        written.AsSpan(chars, ends[count - 1] - chars).CopyTo(written);
        folded.AsSpan(chars, ends[count - 1] - chars).CopyTo(folded);
        for (var at = Dropped; at < count; at++)
        {
            keys[at - Dropped] = keys[at];
            ends[at - Dropped] = ends[at] - chars;
        }
        origin += Dropped;
        count -= Dropped;
    }

    private static bool Joins(string last, string next)
    {
        Span<char> both = stackalloc char[64];
        if (last.Length + next.Length > both.Length)
            return Graphemes.IsOne(last + next);
        last.CopyTo(both);
        next.CopyTo(both[last.Length..]);
        return Graphemes.IsOne(both[..(last.Length + next.Length)]);
    }
}
