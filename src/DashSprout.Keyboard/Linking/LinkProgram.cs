using DashSprout.Core.Hosting;

namespace DashSprout.Keyboard.Linking;

/// <summary>The chords that are the program's own wherever one types.</summary>
public sealed record OwnChords(string Finder, string Gather, string Rest, string Record);

/// <summary>
/// What the link asks of the program around it. Everything is called on the link's own thread and answers at once.
/// </summary>
public sealed record LinkProgram
{
    /// <summary>What the host asks for.</summary>
    public required HostServices Services { get; init; }

    /// <summary>The program's own chords.</summary>
    public required Func<OwnChords> Chords { get; init; }

    /// <summary>How text reaches an application that the user has said something of; null for the usual way.</summary>
    public Func<string, AppDelivery?> DeliveryIn { get; init; } = _ => null;

    /// <summary>A firing has come to its end.</summary>
    public Action<Ended> Ended { get; init; } = _ => { };

    /// <summary>The rest chord was pressed.</summary>
    public Action Rest { get; init; } = () => { };

    /// <summary>Something to tell the user, as a notice of the desktop.</summary>
    public Action<string> Say { get; init; } = _ => { };

    /// <summary>Opens an address, document or application.</summary>
    public Action<string> Open { get; init; } = _ => { };

    /// <summary>
    /// The characters that snippets use, most used first; those that the layout lacks are lent spare keys.
    /// </summary>
    public Func<IReadOnlyList<int>> Characters { get; init; } = () => [];

    /// <summary>An application was typed in, for the rules to be offered.</summary>
    public Action<DesktopApplication> Seen { get; init; } = _ => { };

    /// <summary>
    /// Shows and answers slips, questions and the finder over the user's application; null when nothing can show them.
    /// </summary>
    public ICompanion? Companion { get; init; }

    /// <summary>
    /// What stands before the caret and what kind of field it is, where the application tells it; null when nobody
    /// asks.
    /// </summary>
    public IFieldSight? Sight { get; init; }

    /// <summary>Whether a waiting word shows near the caret what it would become.</summary>
    public Func<bool> Hints { get; init; } = () => false;
}
