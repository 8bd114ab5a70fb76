using DashSprout.Core.Delivery;

namespace DashSprout.Keyboard.Linking;

/// <summary>Where somebody types: the window, its application, and what is known of the field.</summary>
internal sealed class FocusTracker(LinkProgram program, Applications applications)
{
    /// <summary>So many processes are known by what they have loaded.</summary>
    private const int MostKnown = 100;

    private readonly Dictionary<(string App, int Pid), Manners> manners = [];

    /// <summary>Applications that took the plain text where formatting was offered.</summary>
    private readonly HashSet<string> plain = [];

    /// <summary>The window in which somebody types.</summary>
    public DesktopWindow Window { get; private set; } = DesktopWindow.None;

    /// <summary>The application it belongs to.</summary>
    public DesktopApplication Application { get; private set; } = new("", "", "", false);

    /// <summary>How the application takes what reaches it.</summary>
    public Manners Manners { get; private set; } = Manners.Usual;

    /// <summary>Whether it shows the program's own page, which has a keyboard of its own.</summary>
    public bool IsOwnPage { get; private set; }

    /// <summary>Whether the field is known to be for pass-phrases.</summary>
    public bool IsSecret { get; private set; }

    /// <summary>
    /// Whether keys are told to the host: not in the program's own page, and never in a field for pass-phrases.
    /// </summary>
    public bool Listens => !IsOwnPage && !IsSecret;

    /// <summary>
    /// What is known of the field with the focus; what an application told that one has left counts no more.
    /// </summary>
    public FieldSight? Sight =>
        program.Sight?.Now is { } sight && (sight.Pid == Window.Pid || sight.Pid == 0 || Window.Pid == 0)
            ? sight
            : null;

    /// <summary>Whether the field may be for pass-phrases: until it has told what it is, it may.</summary>
    public bool MayBeSecret => Sight is { Kind: not SightKind.Open };

    /// <summary>What the field takes.</summary>
    public FieldKind Kind =>
        MayBeSecret ? FieldKind.Secret
        : Application.IsTerminal ? FieldKind.SingleLine
        : plain.Contains(Application.Id) ? FieldKind.Plain
        : FieldKind.Rich;

    /// <summary>Where a delivery goes in now.</summary>
    public DeliveryPlace Place =>
        new(
            Window.Id,
            program.DeliveryIn(Application.Id) ?? AppDelivery.For(Application),
            MayBeSecret,
            Application.IsTerminal
        )
        {
            Manners = Manners,
        };

    /// <summary>A window's title without the sign before it that something in it is not saved.</summary>
    public string Title => Window.Title.TrimStart('*', '•', '●', ' ');

    /// <summary>
    /// Whether somebody types elsewhere once a window is in front: it is another one, or it has turned out to belong to
    /// another application, as the first windows of an office suite do, or to show the program's own page.
    /// </summary>
    public bool IsElsewhere(DesktopWindow window) =>
        window.Id != Window.Id || window.App != Window.App || ShowsOwnPage(window) != IsOwnPage;

    /// <summary>A window has come to the front.</summary>
    public void Take(DesktopWindow window)
    {
        Manners = MannersOf(window);
        Window = window;
        Application = applications.Of(window.App, window.Instance);
        IsOwnPage = ShowsOwnPage(window);
    }

    /// <summary>What a process has loaded takes some milliseconds to read, and somebody may be typing by then.</summary>
    private Manners MannersOf(DesktopWindow window)
    {
        if (manners.TryGetValue((window.App, window.Pid), out var known))
            return known;
        if (manners.Count == MostKnown)
            manners.Clear();
        return manners[(window.App, window.Pid)] = Manners.Of(window.App, window.Pid);
    }

    /// <summary>Looks again whether the field is for pass-phrases; true when that has changed.</summary>
    public bool LookForSecret()
    {
        var before = IsSecret;
        IsSecret = Sight is { Kind: SightKind.Secret };
        return before != IsSecret;
    }

    /// <summary>The application took the plain text where formatting was offered; true when that is news.</summary>
    public bool TakesPlainOnly() => plain.Add(Application.Id);

    /// <summary>
    /// A window of that name is no page of the program where it cannot show one: an editor may show a file that is
    /// called so.
    /// </summary>
    public bool ShowsOwnPage(DesktopWindow window) =>
        window.Title.StartsWith("Dash Sprout", StringComparison.Ordinal)
        && applications.Of(window.App, window.Instance).MayShowPages;
}
