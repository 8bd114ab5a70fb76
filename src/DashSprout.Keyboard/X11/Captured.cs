namespace DashSprout.Keyboard.X11;

/// <summary>Something that happened at the display, in order.</summary>
internal abstract class Captured;

/// <summary>Something else than a key that changes what the typed keys mean.</summary>
internal sealed class CapturedChange(DisplayChange change) : Captured
{
    public DisplayChange Change { get; } = change;
}

/// <summary>A key that went down or up at a keyboard.</summary>
internal sealed class CapturedKey : Captured
{
    public required byte Keycode { get; init; }

    public required bool IsPress { get; init; }

    /// <summary>The modifiers and group in force when it was pressed.</summary>
    public required LayoutState State { get; set; }

    /// <summary>Whether it came to the link alone; the application has it already otherwise.</summary>
    public bool Held { get; set; }

    /// <summary>Whether the keyboard repeats it because it is held down.</summary>
    public bool Repeats { get; init; }

    /// <summary>Whether the link or another program typed it, and no hardware: it cannot be held back.</summary>
    public bool IsInjected { get; init; }

    /// <summary>What it types, once somebody has asked; what was composed before is part of it.</summary>
    public TypedKey? Typed { get; set; }

    /// <summary>When it was read, in the program's own milliseconds.</summary>
    public long AtMs { get; } = Environment.TickCount64;

    /// <summary>
    /// When it happened, in the display's milliseconds, which go round after 49 days. How long a key was down is told by
    /// these alone: a busy machine reads the end of a short press late.
    /// </summary>
    public uint DisplayMs { get; init; }
}

/// <summary>What a key press amounts to.</summary>
/// <param name="Key">The key; null for one that means nothing.</param>
/// <param name="Composed">A text of several graphemes that was composed; null otherwise.</param>
/// <param name="IsModifier">Whether it is held rather than typed.</param>
internal sealed record TypedKey(DashSprout.Core.Text.Key? Key, string? Composed, bool IsModifier);

/// <summary>What else than keys happens on the display.</summary>
internal enum DisplayChange
{
    /// <summary>A mouse button was pressed: the caret may be elsewhere.</summary>
    Button,

    /// <summary>Another window is active.</summary>
    ActiveWindow,

    /// <summary>The active window has another class: it belongs to another application than it said.</summary>
    Reclassed,
}
