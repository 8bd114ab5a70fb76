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

/// <summary>A field of the fill slip.</summary>
/// <param name="Name">Letters, digits and underscores, beginning with a letter; the same name means the same answer.</param>
/// <param name="Title">What the slip calls it.</param>
/// <param name="Default">The answer in place when the slip opens.</param>
/// <param name="Size">Width in characters, or lines of a long text; null for the usual.</param>
/// <param name="Choices">What can be chosen; empty for other types.</param>
public sealed record BodyField(
    string Name, FieldType Type, string Title, string Default, bool Required, string? Min, string? Max, string? Step, int? Size,
    EquatableList<string> Choices)
{
    /// <summary>A field of one line without limits.</summary>
    public static BodyField Text(string name, string title = "", string value = "") =>
        new(name, FieldType.Text, title, value, false, null, null, null, null, EquatableList<string>.Empty);

    /// <summary>What the slip calls it: the title, or the name.</summary>
    public string Label => Title.Length > 0 ? Title : Name;
}
