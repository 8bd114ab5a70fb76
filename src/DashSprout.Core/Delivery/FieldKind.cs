namespace DashSprout.Core.Delivery;

/// <summary>What a field takes.</summary>
public enum FieldKind
{
    /// <summary>Formatted text.</summary>
    Rich,

    /// <summary>Text of several lines without formatting.</summary>
    Plain,

    /// <summary>Text of several lines written in Markdown.</summary>
    Markdown,

    /// <summary>One line; Enter sends or goes on.</summary>
    SingleLine,

    /// <summary>A pass-phrase: it refuses pasting, shows no hints, and nothing is learned from it.</summary>
    Secret,
}
