using DashSprout.Core.Text;

namespace DashSprout.Core.Engine;

/// <summary>
/// The graphemes typed since the last reset, at most 256, with their NFC and case-folded forms kept beside them so that
/// matching reads plain spans. Positions are absolute: they only grow, and a position from before a reset is never reused.
/// </summary>
internal sealed class TypedTail
{
    public const int Capacity = 256;
    private const int Slots = 2 * Capacity;

    private static readonly byte[] Composed = new byte[char.MaxValue + 1];

    private readonly string[] graphemes = new string[Slots];
    private readonly int[] ends = new int[Slots];
    private char[] written = new char[Slots * 2];
    private char[] folded = new char[Slots * 2];
    private int origin;
    private int count;

    /// <summary>Position behind the last grapheme.</summary>
    public int End => origin + count;

    /// <summary>Position of the first grapheme that is still remembered.</summary>
    public int First => Math.Max(origin, End - Capacity);

    /// <summary>The grapheme at a position, as it was typed.</summary>
    public string this[int position] => graphemes[position - origin];

    /// <summary>The NFC form between two positions.</summary>
    public ReadOnlySpan<char> Written(int start, int end) => Slice(written, start, end);

    /// <summary>The case-folded NFC form between two positions.</summary>
    public ReadOnlySpan<char> Folded(int start, int end) => Slice(folded, start, end);

    /// <summary>
    /// Adds one typed grapheme. Returns false when it joined the one before it (a combining mark typed by itself), so that
    /// no grapheme was added.
    /// </summary>
    public bool Append(string grapheme)
    {
        if (count > 0 && grapheme[0] >= '\u0300' && Joins(graphemes[count - 1], grapheme))
        {
            grapheme = graphemes[--count] + grapheme;
            Put(grapheme);
            return false;
        }
        if (count == Slots) DropOldest();
        Put(grapheme);
        return true;
    }

    public void RemoveLast()
    {
        if (count > 0) count--;
    }

    public void Reset()
    {
        origin += count + 1;
        count = 0;
    }

    /// <summary>Whether a word may begin at the position in the sense of UAX #29.</summary>
    public bool IsWordBoundary(int position)
    {
        var first = First;
        return WordBreaks.IsBoundary(Written(first, End), CharsBefore(position) - CharsBefore(first));
    }

    private ReadOnlySpan<char> Slice(char[] chars, int start, int end)
    {
        var from = CharsBefore(start);
        return chars.AsSpan(from, CharsBefore(end) - from);
    }

    private int CharsBefore(int position) => position == origin ? 0 : ends[position - origin - 1];

    private void Put(string grapheme)
    {
        var form = IsComposed(grapheme) ? grapheme : grapheme.Normalize();
        var at = count == 0 ? 0 : ends[count - 1];
        if (at + form.Length > written.Length)
        {
            Array.Resize(ref written, (at + form.Length) * 2);
            Array.Resize(ref folded, written.Length);
        }
        form.CopyTo(written.AsSpan(at));
        CaseFolding.Fold(form, folded.AsSpan(at, form.Length));
        graphemes[count] = grapheme;
        ends[count++] = at + form.Length;
    }

    /// <summary>Whether a grapheme is NFC; remembered for single units, because asking the platform allocates.</summary>
    private static bool IsComposed(string grapheme)
    {
        if (grapheme.Length > 1) return grapheme.IsNormalized();
        ref var known = ref Composed[grapheme[0]];
        if (known == 0) known = char.IsSurrogate(grapheme[0]) || grapheme.IsNormalized() ? (byte)1 : (byte)2;
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
            graphemes[at - Dropped] = graphemes[at];
            ends[at - Dropped] = ends[at] - chars;
        }
        origin += Dropped;
        count -= Dropped;
    }

    private static bool Joins(string last, string next)
    {
        Span<char> both = stackalloc char[64];
        if (last.Length + next.Length > both.Length) return Graphemes.IsOne(last + next);
        last.CopyTo(both);
        next.CopyTo(both[last.Length..]);
        return Graphemes.IsOne(both[..(last.Length + next.Length)]);
    }
}
