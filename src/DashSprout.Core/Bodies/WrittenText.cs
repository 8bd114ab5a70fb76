using System.Text;
using DashSprout.Core.Text;

namespace DashSprout.Core.Bodies;

/// <summary>Text that grows, with the places in it where the caret and the selection will stand.</summary>
internal sealed class WrittenText
{
    private readonly StringBuilder text = new();
    private int? caret;
    private int? start;
    private int? end;

    /// <summary>Its length in UTF-16 units.</summary>
    public int Length => text.Length;

    public void Add(string part) => text.Append(part);

    /// <summary>Notes a place; pieces that are none leave nothing behind.</summary>
    public void Mark(Piece piece)
    {
        switch (piece)
        {
            case Piece.Caret:
                caret = text.Length;
                break;
            case Piece.SelectionStart:
                start = text.Length;
                break;
            case Piece.SelectionEnd:
                end = text.Length;
                break;
        }
    }

    /// <summary>Writes what was added last in another way; places behind it stay behind it.</summary>
    /// <param name="from">Where it begins.</param>
    public void Rewrite(int from, string part)
    {
        var old = text.Length;
        text.Length = from;
        text.Append(part);
        if (caret == old)
            caret = text.Length;
        if (start == old)
            start = text.Length;
        if (end == old)
            end = text.Length;
    }

    public Written Done()
    {
        var whole = text.ToString();
        int Steps(int units) => Graphemes.Count(whole.AsSpan(0, units));
        return new Written(
            whole,
            whole,
            caret is { } at ? Steps(at) : null,
            start is { } from && end is { } to ? (Steps(from), Steps(to)) : null
        );
    }
}
