using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Linking;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// The keys that are held back always, since applications act on them at once: Enter, Tab, Escape, Backspace, the
/// program's own chords and those of the snippets.
/// </summary>
internal sealed class ActingKeys(
    XConnection connection,
    KeyReader reader,
    Injection injection,
    Holding holding,
    FocusTracker focus,
    TypingHost host,
    LinkProgram program
)
{
    private static readonly string[] Closing = ["Enter", "Tab", "Escape", "Backspace", "Shift+Enter"];

    private (TriggerIndex Index, string App, bool Rests, uint Group, OwnChords Own, bool Listens, int Offers)? heldFor;
    private Dictionary<Stroke, Action> own = [];

    /// <summary>What the program's own chords do.</summary>
    public required Func<OwnChords, IEnumerable<(string Chord, Action Act)>> Acts { get; init; }

    /// <summary>What a stroke of the program's own does; null for any other.</summary>
    public Action? Own(Stroke stroke) => own.GetValueOrDefault(stroke);

    /// <summary>The layout was read anew: the same chords are other keys.</summary>
    public void LayoutChanged()
    {
        heldFor = null;
        Renew();
    }

    /// <summary>Holds back what is to be held back now, if that has changed.</summary>
    public void Renew()
    {
        var chords = program.Chords();
        var rests = program.Services.RestsIn(focus.Application.Id);
        var now = (
            program.Services.Index(),
            focus.Application.Id,
            rests,
            injection.Group,
            chords,
            focus.Listens,
            host.Offers.All.Count
        );
        if (heldFor == now)
            return;
        heldFor = now;
        own = focus.Listens ? Strokes(chords) : [];
        var strokes = new HashSet<Stroke>(own.Keys);
        if (focus.Listens && !rests)
            strokes.UnionWith(Listened());
        else
            reader.Wanted = new HashSet<string>();
        _ = holding.SetAlways(strokes);
        connection.Flush();
    }

    private Dictionary<Stroke, Action> Strokes(OwnChords chords)
    {
        var found = new Dictionary<Stroke, Action>();
        foreach (var (chord, act) in Acts(chords))
            if (StrokeOf(chord) is { } stroke)
                found[stroke] = act;
        return found;
    }

    private IEnumerable<Stroke> Listened()
    {
        string[] chords =
        [
            .. host.Chords(),
            .. program.Services.TakeBackChord() is { } takesBack ? (string[])[takesBack] : [],
        ];
        reader.Wanted = chords.ToHashSet();
        foreach (var name in Closing.Concat(chords))
            if (StrokeOf(name) is { } stroke)
                yield return stroke;
        if (reader.Layout.KeycodeFor(injection.Group, Symbols.KeypadEnter) is var keypad and not 0)
            yield return new Stroke(keypad, 0);
    }

    private Stroke? StrokeOf(string chord) => reader.Layout.StrokeFor(injection.Group, Key.Parse("chord", chord));
}
