namespace DashSprout.Keyboard.Linking;

/// <summary>What an application tells of the field that has the focus.</summary>
public interface IFieldSight
{
    /// <summary>What is known of the field with the focus; null when the application does not tell.</summary>
    FieldSight? Now { get; }

    /// <summary>
    /// The text before the caret, at most some graphemes of its line; null when the application does not tell. Answers
    /// within some milliseconds.
    /// </summary>
    string? TextBeforeCaret();

    /// <summary>
    /// Whether nothing but a line's end stands behind the caret; null when the application does not tell. Answers
    /// within some milliseconds.
    /// </summary>
    bool? EndsLine();

    /// <summary>Where the caret is on the screen; null when the application does not tell.</summary>
    (int X, int Y, int Height)? Caret();
}

/// <summary>A field as its application describes it.</summary>
/// <param name="Pid">The process that it belongs to; 0 as long as nobody knows.</param>
public sealed record FieldSight(SightKind Kind, int Pid)
{
    /// <summary>A field that has the focus and has been asked what it is.</summary>
    public static FieldSight Asked { get; } = new(SightKind.Asked, 0);
}

/// <summary>What is known of a field.</summary>
public enum SightKind
{
    /// <summary>It has just got the focus and has not answered yet; it may be one for pass-phrases.</summary>
    Asked,

    /// <summary>It shows what is typed.</summary>
    Open,

    /// <summary>It is for pass-phrases.</summary>
    Secret,
}
