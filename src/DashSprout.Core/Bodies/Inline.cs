using DashSprout.Core.Dates;
using DashSprout.Core.Text;
using NodaTime;

namespace DashSprout.Core.Bodies;

/// <summary>Ways to set text off.</summary>
public enum Emphasis
{
    /// <summary>Bold.</summary>
    Strong,

    /// <summary>Italic.</summary>
    Em,

    /// <summary>Underlined.</summary>
    U,

    /// <summary>Struck through.</summary>
    S,

    /// <summary>Code.</summary>
    Code,
}

/// <summary>Colours and letters of a stretch of text, as CSS values; null where it says nothing.</summary>
public sealed record TextStyle(string? Color, string? Background, string? Family, string? Size);

/// <summary>How one of several is chosen.</summary>
public enum PickWay
{
    /// <summary>By chance.</summary>
    Random,

    /// <summary>One after the other.</summary>
    Cycle,
}

/// <summary>A part of a line: text, formatting, or a live part that is worked out when the snippet goes off.</summary>
public abstract record Inline
{
    private Inline() { }

    /// <summary>Plain words.</summary>
    public sealed record Text(string Value) : Inline;

    /// <summary>A line's end within a block.</summary>
    public sealed record Break : Inline;

    /// <summary>Text set off.</summary>
    public sealed record Emphasised(Emphasis Emphasis, EquatableList<Inline> Content) : Inline;

    /// <summary>Text in a colour, face or size.</summary>
    public sealed record Styled(TextStyle Style, EquatableList<Inline> Content) : Inline;

    /// <summary>A link to an http, https or mailto address.</summary>
    public sealed record Link(string Target, EquatableList<Inline> Content) : Inline;

    /// <summary>A picture kept beside the libraries.</summary>
    public sealed record Picture(string Media, string Alt, int? Width) : Inline;

    /// <summary>A date or time.</summary>
    public sealed record Date(DatePart Part) : Inline;

    /// <summary>A field of the fill slip; where it stands, the answer goes in.</summary>
    public sealed record Field(BodyField Slip) : Inline;

    /// <summary>An answer again, or a calculation.</summary>
    public sealed record Calculation(Formula Formula, string? Pattern) : Inline;

    /// <summary>Text that is put in when a condition holds.</summary>
    public sealed record Passage(Formula When, EquatableList<Inline> Content) : Inline;

    /// <summary>What is on the clipboard.</summary>
    public sealed record Clipboard(bool Trim) : Inline;

    /// <summary>What is selected in the field; the content when nothing is.</summary>
    public sealed record Selection(EquatableList<Inline> Otherwise) : Inline;

    /// <summary>A group of the pattern that set the snippet off; 0 is the whole match.</summary>
    public sealed record Group(int Number) : Inline;

    /// <summary>Another snippet, by its path <c>Library/Folder/Name</c>.</summary>
    public sealed record Reference(string Target) : Inline;

    /// <summary>One of several.</summary>
    public sealed record Pick(PickWay Way, EquatableList<EquatableList<Inline>> Choices) : Inline;

    /// <summary>A random UUID.</summary>
    public sealed record UniqueId : Inline;

    /// <summary>Where the caret stands at the end.</summary>
    public sealed record Caret : Inline;

    /// <summary>Text that is left selected.</summary>
    public sealed record Selected(EquatableList<Inline> Content) : Inline;

    /// <summary>A key that is pressed.</summary>
    public sealed record KeyPress(Key Key, int Times) : Inline;

    /// <summary>Keys that are pressed one after the other.</summary>
    public sealed record KeyRun(EquatableList<Key> Keys) : Inline;

    /// <summary>A value of a JSON document: its address, and where in it, as a JSON Pointer (RFC 6901).</summary>
    public sealed record Live(string Source, string Path) : Inline;

    /// <summary>A pause between two steps.</summary>
    public sealed record Wait(Duration For) : Inline;

    /// <summary>Another field of an application gets the focus, by their names.</summary>
    public sealed record GoTo(string App, string FieldName) : Inline;

    /// <summary>A part of a stored body that was right once and is no longer, and why.</summary>
    public sealed record Wrong(string Why) : Inline;

    /// <summary>Something that is opened and not put in.</summary>
    public sealed record Open(string Target) : Inline;
}
