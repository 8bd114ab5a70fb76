using NodaTime;

namespace DashSprout.Keyboard.Linking;

/// <summary>
/// How an application takes what reaches it, where it differs from most. What stands here was measured by
/// <c>bench/DashSprout.Keyboard.Bench</c>, which types on and on in each family of applications.
/// </summary>
/// <param name="CommandsLag">How long keys that act (Backspace, arrows, Enter) may come after characters typed behind
/// them; nothing where all keys count in order.</param>
/// <param name="CountsEqualKeysOnce">Whether equal keys that come at once count as one that repeats.</param>
internal sealed record Manners(Duration CommandsLag, bool CountsEqualKeysOnce)
{
    /// <summary>Most applications: xterm, VTE, GTK 3 and 4, Qt 5, Chromium and Firefox.</summary>
    public static Manners Usual { get; } = new(Duration.Zero, false);

    /// <summary>
    /// The office suite puts keys that act in a queue of its own and characters in at once: of three Backspaces and a
    /// text the text comes first. A paste waits in the same queue, so that it comes in order. Where it
    /// draws by itself (its generic toolkit, in windows of the same class), three Backspaces that come at once are one
    /// that repeats.
    /// </summary>
    public static Manners Queueing { get; } = new(Duration.FromMilliseconds(60), true);

    /// <summary>The beginnings of window classes whose applications differ, in lower case.</summary>
    private static readonly (string Class, Manners Manners)[] Known =
    [
        ("libreoffice", Queueing),
        ("soffice", Queueing),
        ("openoffice", Queueing),
    ];

    /// <summary>Whether keys that act come after what is typed behind them.</summary>
    public bool CommandsComeLate => CommandsLag > Duration.Zero;

    /// <summary>How the application takes it whose windows have a class.</summary>
    public static Manners Of(string app) =>
        Array.Find(Known, one => app.StartsWith(one.Class, StringComparison.OrdinalIgnoreCase)).Manners ?? Usual;
}
