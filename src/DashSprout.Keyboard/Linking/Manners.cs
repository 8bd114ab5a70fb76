using NodaTime;

namespace DashSprout.Keyboard.Linking;

/// <summary>
/// How an application takes what reaches it, where it differs from most. What stands here was measured by
/// <c>bench/DashSprout.Keyboard.Bench</c>, which types on and on in each family of applications.
/// </summary>
internal sealed record Manners
{
    /// <summary>Most applications: xterm, VTE, GTK 3 and 4, Chromium and Firefox.</summary>
    public static Manners Usual { get; } = new();

    /// <summary>
    /// The office suite puts keys that act in a queue of its own and characters in at once: of three Backspaces and a
    /// text the text comes first. A paste waits in the same queue, so that it comes in order. Where it draws by itself
    /// (its generic toolkit, in windows of the same class), three Backspaces that come at once are one that repeats.
    /// </summary>
    public static Manners OfOffice { get; } =
        new() { CommandsLag = Duration.FromMilliseconds(60), CountsEqualKeysOnce = true };

    /// <summary>
    /// Qt 5 looks at the keyboard anew when keys come from another one, and sees the modifiers that are down by the time
    /// it gets round to it, for keys that were typed before.
    /// </summary>
    public static Manners OfQt5 { get; } = new() { LooksAtModifiersLate = true };

    /// <summary>
    /// Chromium, and what is built on it, looks at the text when the chord comes and asks for it again when the page
    /// pastes, which may be a while later: what is on the clipboard by then goes in.
    /// </summary>
    public static Manners OfChromium { get; } = new() { AsksToPaste = 2 };

    /// <summary>The beginnings of window classes, in lower case.</summary>
    private static readonly (string Class, Manners Manners)[] ByClass =
    [
        ("libreoffice", OfOffice),
        ("soffice", OfOffice),
        ("openoffice", OfOffice),
    ];

    /// <summary>The beginnings of the names of files that a program has loaded.</summary>
    private static readonly (string File, Manners Manners)[] ByFile =
    [
        ("libQt5XcbQpa.so", OfQt5),
        // The engine's table of languages, beside every program that is built on it.
        ("icudtl.dat", OfChromium),
    ];

    /// <summary>
    /// How long keys that act (Backspace, arrows, Enter) may come after characters typed behind them; nothing where all
    /// keys count in order.
    /// </summary>
    public Duration CommandsLag { get; private init; } = Duration.Zero;

    /// <summary>Whether equal keys that come at once count as one that repeats.</summary>
    public bool CountsEqualKeysOnce { get; private init; }

    /// <summary>Whether it must be told of a modifier whenever keys come from another keyboard.</summary>
    public bool LooksAtModifiersLate { get; private init; }

    /// <summary>How often it asks for the content of the clipboard until it has pasted.</summary>
    public int AsksToPaste { get; private init; } = 1;

    /// <summary>Whether keys that act come after what is typed behind them.</summary>
    public bool CommandsComeLate => CommandsLag > Duration.Zero;

    /// <summary>How the application takes it whose windows have a class.</summary>
    /// <param name="pid">Its process; 0 when nobody knows.</param>
    public static Manners Of(string app, int pid) =>
        Array.Find(ByClass, one => app.StartsWith(one.Class, StringComparison.OrdinalIgnoreCase)).Manners
        ?? Array.Find(ByFile, one => HasLoaded(pid, one.File)).Manners
        ?? Usual;

    /// <summary>Whether a process has loaded a file; of what runs in a room of its own nobody knows.</summary>
    private static bool HasLoaded(int pid, string file)
    {
        if (pid == 0)
            return false;
        try
        {
            return File.ReadLines($"/proc/{pid}/maps").Any(line => line.Contains($"/{file}", StringComparison.Ordinal));
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            // It has ended, or belongs to somebody else.
            return false;
        }
    }
}
