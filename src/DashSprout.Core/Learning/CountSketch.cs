namespace DashSprout.Core.Learning;

/// <summary>
/// Counts things without keeping them: the Count-Min sketch of Cormode and Muthukrishnan, “An Improved Data Stream
/// Summary: The Count-Min PreviewText and its Applications” (Journal of Algorithms 55, 2005), with the conservative update
/// of Estan and Varghese (2002). A count is never too low, and after N counted things too high by more than
/// e·N/<see cref="Width"/> with a probability below e^-<see cref="Depth"/>. It forgets: after every <see cref="Span"/>
/// things all counts are halved, as in Einziger, Friedman and Manes, “TinyLFU” (2017), so what came once long ago is
/// gone. Its size never changes. Not safe for use by several threads.
/// </summary>
public sealed class CountSketch
{
    private readonly byte[] cells;
    private readonly int mask;

    /// <summary>An empty sketch.</summary>
    /// <param name="widthBits">Each row has two to this power counters.</param>
    /// <param name="span">How many things are counted before all counts are halved.</param>
    public CountSketch(int widthBits = 20, int depth = 4, long span = 700_000)
    {
        (Depth, Span) = (depth, span);
        Width = 1 << widthBits;
        mask = Width - 1;
        cells = new byte[depth * Width];
    }

    /// <summary>Counters in a row.</summary>
    public int Width { get; }

    /// <summary>Rows.</summary>
    public int Depth { get; }

    /// <summary>How many things are counted before all counts are halved.</summary>
    public long Span { get; }

    /// <summary>
    /// How many things were counted since the last time that counts were halved, and half of those before.
    /// </summary>
    public long Counted { get; private set; }

    /// <summary>The counters, row after row.</summary>
    public ReadOnlySpan<byte> Cells => cells;

    /// <summary>Counts a thing; says how often it came by now, itself included.</summary>
    public int Add(ulong code)
    {
        if (Counted >= Span)
            Halve();
        Counted++;
        var least = Estimate(code);
        if (least == byte.MaxValue)
            return least;
        for (var row = 0; row < Depth; row++)
        {
            ref var cell = ref cells[Cell(row, code)];
            if (cell == least)
                cell++;
        }
        return least + 1;
    }

    /// <summary>How often a thing came, at most.</summary>
    public int Estimate(ulong code)
    {
        var least = cells[Cell(0, code)];
        for (var row = 1; row < Depth && least > 0; row++)
            least = Math.Min(least, cells[Cell(row, code)]);
        return least;
    }

    /// <summary>Halves every count.</summary>
    public void Halve()
    {
        foreach (ref var cell in cells.AsSpan())
            cell >>= 1;
        Counted >>= 1;
    }

    /// <summary>Takes over counts that were kept; false when they are of another size.</summary>
    public bool Restore(ReadOnlySpan<byte> kept, long counted)
    {
        if (kept.Length != cells.Length || counted < 0 || counted > Span)
            return false;
        kept.CopyTo(cells);
        Counted = counted;
        return true;
    }

    /// <summary>Forgets everything.</summary>
    public void Clear()
    {
        Array.Clear(cells);
        Counted = 0;
    }

    /// <summary>
    /// Two halves of the code stand for as many hash functions as there are rows (Kirsch and Mitzenmacher, 2006).
    /// </summary>
    private int Cell(int row, ulong code) =>
        row * Width + ((int)((uint)code + (uint)row * ((uint)(code >> 32) | 1)) & mask);
}
