namespace DashSprout.Core.Safety;

/// <summary>
/// Chords that something else commonly owns (common practice of browsers, desktops and text fields), and those that
/// type a character on a layout with AltGr, which many systems report as Ctrl+Alt.
/// </summary>
public static class TakenChords
{
    private static readonly Dictionary<string, string> Owners = Table();

    /// <summary>The chords of this program, as they are unless its settings say otherwise.</summary>
    private static readonly HashSet<string> Ours =
    [
        "Ctrl+Alt+ ",
        "Ctrl+Alt+N",
        "Ctrl+Alt+R",
        "Ctrl+Alt+Shift+R",
        "Ctrl+Alt+Z",
        "Ctrl+Alt+W",
        "Ctrl+Alt+P",
    ];

    /// <summary>Who owns a chord; null when nobody is known to.</summary>
    public static string? OwnerOf(string chord)
    {
        var outside = OwnerOutside(chord);
        if (!Ours.Contains(chord))
            return outside;
        const string Us =
            "Dash Sprout itself, unless its settings say otherwise: finder, gather, rest, record, take back, "
            + "why, proof line";
        return outside is null ? Us : $"{outside}; {Us}";
    }

    /// <summary>Who owns a chord besides this program; null when nobody is known to.</summary>
    public static string? OwnerOutside(string chord) => Owners.GetValueOrDefault(chord);

    private static Dictionary<string, string> Table()
    {
        var owners = new Dictionary<string, string>(StringComparer.Ordinal);
        void Add(string owner, params string[] chords)
        {
            foreach (var chord in chords)
                owners[chord] = owners.TryGetValue(chord, out var other) ? $"{other}; {owner}" : owner;
        }
        Add(
            "Text fields: select, copy, cut, paste, undo",
            "Ctrl+A",
            "Ctrl+C",
            "Ctrl+X",
            "Ctrl+V",
            "Ctrl+Z",
            "Ctrl+Y",
            "Ctrl+Shift+Z",
            "Ctrl+Shift+V"
        );
        Add(
            "Text fields: move and delete by words",
            "Ctrl+ArrowLeft",
            "Ctrl+ArrowRight",
            "Ctrl+Backspace",
            "Ctrl+Delete",
            "Ctrl+Home",
            "Ctrl+End",
            "Ctrl+Shift+ArrowLeft",
            "Ctrl+Shift+ArrowRight"
        );
        Add("Rich text fields: bold, italic, underlined, link", "Ctrl+B", "Ctrl+I", "Ctrl+U", "Ctrl+K");
        Add(
            "Browsers: tabs and windows",
            "Ctrl+T",
            "Ctrl+N",
            "Ctrl+W",
            "Ctrl+Shift+T",
            "Ctrl+Shift+N",
            "Ctrl+Shift+W",
            "Ctrl+Tab",
            "Ctrl+Shift+Tab",
            "Ctrl+PageUp",
            "Ctrl+PageDown",
            "Ctrl+1",
            "Ctrl+2",
            "Ctrl+3",
            "Ctrl+4",
            "Ctrl+5",
            "Ctrl+6",
            "Ctrl+7",
            "Ctrl+8",
            "Ctrl+9"
        );
        Add(
            "Browsers: find, open, save, print, reload, address, history",
            "Ctrl+F",
            "Ctrl+G",
            "Ctrl+O",
            "Ctrl+S",
            "Ctrl+P",
            "Ctrl+R",
            "Ctrl+L",
            "Ctrl+H",
            "Ctrl+J",
            "Ctrl+D",
            "Ctrl+E",
            "Ctrl+Shift+R",
            "Ctrl+Shift+I",
            "Ctrl+Shift+J",
            "Ctrl+Shift+Delete",
            "Alt+ArrowLeft",
            "Alt+ArrowRight",
            "Alt+Home",
            "Alt+D",
            "Ctrl+Q"
        );
        Add("Browsers: zoom", "Ctrl++", "Ctrl+-", "Ctrl+0");
        Add(
            "Desktops: windows and sessions",
            "Alt+Tab",
            "Alt+Shift+Tab",
            "Alt+F4",
            "Alt+F2",
            "Alt+ ",
            "Alt+Escape",
            "Ctrl+Alt+Delete",
            "Ctrl+Alt+L",
            "Ctrl+Alt+T",
            "Ctrl+Alt+ArrowLeft",
            "Ctrl+Alt+ArrowRight",
            "Ctrl+Alt+ArrowUp",
            "Ctrl+Alt+ArrowDown",
            "Meta+L",
            "Meta+D",
            "Meta+E",
            "Meta+Tab",
            "Meta+A"
        );
        for (var number = 1; number <= 12; number++)
            Add("Desktops: text consoles", $"Ctrl+Alt+F{number}");
        // What AltGr types, by layout.
        AltGr(
            "German",
            ("Q", "@"),
            ("E", "€"),
            ("7", "{"),
            ("8", "["),
            ("9", "]"),
            ("0", "}"),
            ("ß", "\\"),
            ("+", "~"),
            ("<", "|"),
            ("M", "µ"),
            ("2", "²"),
            ("3", "³")
        );
        AltGr(
            "French",
            ("E", "€"),
            ("0", "@"),
            ("2", "~"),
            ("3", "#"),
            ("4", "{"),
            ("5", "["),
            ("6", "|"),
            ("7", "`"),
            ("8", "\\"),
            ("9", "^")
        );
        AltGr("Spanish", ("E", "€"), ("1", "|"), ("2", "@"), ("3", "#"), ("4", "~"), ("6", "¬"), ("º", "\\"));
        AltGr(
            "Nordic",
            ("E", "€"),
            ("2", "@"),
            ("3", "£"),
            ("4", "$"),
            ("7", "{"),
            ("8", "["),
            ("9", "]"),
            ("0", "}"),
            ("+", "\\"),
            ("M", "µ")
        );
        return owners;

        void AltGr(string layout, params (string Key, string Types)[] keys)
        {
            foreach (var (key, types) in keys)
                Add($"{layout} layout: AltGr types {types}", $"Ctrl+Alt+{key}");
        }
    }
}
