using DashSprout.Core.Bodies;
using DashSprout.Core.Hosting;

namespace DashSprout.Keyboard;

/// <summary>What the companion window shows.</summary>
public abstract record Shown
{
    private Shown() { }

    /// <summary>The finder.</summary>
    public sealed record Finder : Shown;

    /// <summary>A new snippet of what is selected or copied.</summary>
    public sealed record Gather(string Text) : Shown;

    /// <summary>A new snippet of recorded keys.</summary>
    public sealed record Recorded(string Body) : Shown;

    /// <summary>A slip or question of the host, and what its snippet would be worked out from.</summary>
    public sealed record Question(HostQuestion Asked, RenderContext Context) : Shown;
}

/// <summary>The page's side of the companion window: what it is to show, and that it shows it.</summary>
public interface ICompanion
{
    /// <summary>Tells the page to show something.</summary>
    void Show(int number, Shown shown);

    /// <summary>Tells the page to show nothing any more.</summary>
    void Clear();

    /// <summary>Whether the page is there and listens.</summary>
    bool IsLoaded { get; }

    /// <summary>The address of the page.</summary>
    string Address { get; }
}

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
