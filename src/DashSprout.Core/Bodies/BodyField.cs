namespace DashSprout.Core.Bodies;

/// <summary>What a field asks for.</summary>
public enum FieldType
{
    /// <summary>A line of text.</summary>
    Text,

    /// <summary>A number.</summary>
    Number,

    /// <summary>A date, answered as <c>2026-03-02</c>.</summary>
    Date,

    /// <summary>Yes or no, answered as <c>true</c> or <c>false</c>.</summary>
    Checkbox,

    /// <summary>Text of several lines.</summary>
    LongText,

    /// <summary>One of some choices.</summary>
    Choice,
}

/// <summary>Something that can be chosen.</summary>
/// <param name="Label">What is shown and put in.</param>
/// <param name="Value">What it counts for in formulas; null for the label itself.</param>
public sealed record FieldChoice(string Label, string? Value = null);

/// <summary>A field of the fill slip.</summary>
/// <param name="Name">Letters, digits and underscores, beginning with a letter; the same name means the same
/// answer.</param>
/// <param name="Title">What the slip calls it.</param>
/// <param name="Default">The answer in place when the slip opens.</param>
/// <param name="Size">Width in characters, or lines of a long text; null for the usual.</param>
/// <param name="Choices">What can be chosen; empty for other types.</param>
public sealed record BodyField(
    string Name,
    FieldType Type,
    string Title,
    string Default,
    bool Required,
    string? Min,
    string? Max,
    string? Step,
    int? Size,
    EquatableList<FieldChoice> Choices
)
{
    /// <summary>A field of one line without limits.</summary>
    public static BodyField Text(string name, string title = "", string value = "") =>
        new(name, FieldType.Text, title, value, false, null, null, null, null, EquatableList<FieldChoice>.Empty);

    /// <summary>
    /// What the default is worked out from, over the other answers; null for a default as it is written.
    /// </summary>
    public Formula? DefaultFormula { get; init; }

    /// <summary>A regular expression that the whole answer must match; null for any answer.</summary>
    public string? Pattern { get; init; }

    /// <summary>The row that is repeated and asks for it in each; null for a field that is asked once.</summary>
    public FieldRow? Row { get; init; }

    /// <summary>What the slip calls it: the title, or the name.</summary>
    public string Label => Title.Length > 0 ? Title : Name;

    /// <summary>The key of its answer.</summary>
    /// <param name="row">The row, from 1; of no account for a field that is asked once.</param>
    public string KeyIn(int row) =>
        Row is null ? Name : string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{Name}[{row}]");
}

/// <summary>A row of a table whose fields are asked for again and again.</summary>
/// <param name="Number">Which of the body's repeated rows it is, from 1.</param>
public sealed record FieldRow(int Number, RowRange Range)
{
    /// <summary>The key under which the number of rows is answered.</summary>
    public string Key => string.Create(System.Globalization.CultureInfo.InvariantCulture, $"[{Number}]");
}
