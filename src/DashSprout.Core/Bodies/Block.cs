namespace DashSprout.Core.Bodies;

/// <summary>How the lines of a block are aligned.</summary>
public enum Align
{
    /// <summary>As the field has it.</summary>
    Default,

    /// <summary>Left.</summary>
    Left,

    /// <summary>Centred.</summary>
    Center,

    /// <summary>Right.</summary>
    Right,

    /// <summary>Both edges.</summary>
    Justify,
}

/// <summary>A part of a body that stands by itself.</summary>
public abstract record Block
{
    private Block() { }

    /// <summary>A paragraph.</summary>
    public sealed record Paragraph(EquatableList<Inline> Content, Align Align = Align.Default) : Block;

    /// <summary>A heading of level 1 to 3.</summary>
    public sealed record Heading(int Level, EquatableList<Inline> Content, Align Align = Align.Default) : Block;

    /// <summary>Text whose spaces and lines count.</summary>
    public sealed record Preformatted(EquatableList<Inline> Content) : Block;

    /// <summary>A quotation.</summary>
    public sealed record Quote(EquatableList<Block> Blocks) : Block;

    /// <summary>A list; each item holds blocks.</summary>
    public sealed record BulletList(EquatableList<EquatableList<Block>> Items, bool Numbered) : Block;

    /// <summary>A table of rows.</summary>
    public sealed record Table(EquatableList<BodyRow> Rows) : Block;

    /// <summary>A line across.</summary>
    public sealed record Rule : Block;

    /// <summary>Blocks that are put in when a condition holds.</summary>
    public sealed record Passage(Formula When, EquatableList<Block> Blocks) : Block;

    /// <summary>Shown to the user, not put in.</summary>
    public sealed record Notice(EquatableList<Inline> Content) : Block;
}

/// <summary>A row of a table.</summary>
/// <param name="Repeats">How often it is repeated, with the answers to its fields; null for once.</param>
public sealed record BodyRow(EquatableList<Cell> Cells, RowRange? Repeats = null);

/// <summary>A cell of a table.</summary>
public sealed record Cell(bool Header, EquatableList<Block> Blocks);
