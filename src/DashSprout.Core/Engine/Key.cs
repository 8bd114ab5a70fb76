using DashSprout.Core.Text;

namespace DashSprout.Core.Engine;

/// <summary>What a key press amounts to for the engine.</summary>
public enum KeyKind
{
    /// <summary>One typed grapheme.</summary>
    Typed,

    /// <summary>A key with a name in W3C UI Events, such as <c>Enter</c> or <c>ArrowLeft</c>.</summary>
    Named,

    /// <summary>A key pressed while Ctrl, Alt or Meta is held, or a named key with Shift.</summary>
    Chord,

    /// <summary>A key that types nothing by itself: Shift, Caps Lock, a dead key.</summary>
    Silent,
}

/// <summary>
/// A key by its W3C UI Events <c>key</c> value: one grapheme, a named key, or a chord written
/// <c>Ctrl+Alt+Shift+Meta+KEY</c> with only the modifiers that are held, letters in upper case.
/// </summary>
public readonly record struct Key
{
    private static readonly string[] Modifiers = ["Ctrl", "Alt", "Shift", "Meta"];

    private static readonly HashSet<string> SilentNames =
    [
        "Shift", "Control", "Alt", "AltGraph", "Meta", "CapsLock", "NumLock", "ScrollLock", "Fn", "FnLock",
        "Hyper", "Super", "Symbol", "SymbolLock", "Dead", "Compose", "Process", "Unidentified",
    ];

    private static readonly HashSet<string> Names =
    [
        "Enter", "Tab", "Backspace", "Delete", "Insert", "Escape", "ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown",
        "Home", "End", "PageUp", "PageDown", "Clear", "Copy", "Cut", "Paste", "Redo", "Undo", "Again", "Cancel",
        "ContextMenu", "Execute", "Find", "Help", "Pause", "Play", "Props", "Select", "PrintScreen",
        "ZoomIn", "ZoomOut", "BrowserBack", "BrowserForward", "BrowserHome", "BrowserRefresh", "BrowserSearch",
        "MediaPlayPause", "MediaStop", "MediaTrackNext", "MediaTrackPrevious",
        "AudioVolumeUp", "AudioVolumeDown", "AudioVolumeMute",
        .. Enumerable.Range(1, 24).Select(number => $"F{number}"),
    ];

    private Key(KeyKind kind, string value, char text)
    {
        Kind = kind;
        Value = value;
        TextUnit = text;
    }

    /// <summary>Enter; adds a line end to the typed tail.</summary>
    public static Key Enter { get; } = new(KeyKind.Named, "Enter", '\n');

    /// <summary>Tab; adds a tab to the typed tail.</summary>
    public static Key Tab { get; } = new(KeyKind.Named, "Tab", '\t');

    /// <summary>Backspace.</summary>
    public static Key Backspace { get; } = new(KeyKind.Named, "Backspace", '\0');

    /// <summary>Escape.</summary>
    public static Key Escape { get; } = new(KeyKind.Named, "Escape", '\0');

    /// <summary>What kind of key this is.</summary>
    public KeyKind Kind { get; }

    /// <summary>The key as written.</summary>
    public string Value { get; }

    private char TextUnit { get; }

    /// <summary>True when the key adds to the typed tail: a grapheme, Enter or Tab.</summary>
    public bool AddsText => Kind == KeyKind.Typed || TextUnit != '\0';

    /// <summary>What the key adds to the typed tail: the grapheme, a line end or a tab; empty otherwise.</summary>
    public string Text => Kind == KeyKind.Typed ? Value : TextUnit switch { '\n' => "\n", '\t' => "\t", _ => "" };

    /// <summary>The key for one typed grapheme; a line end is Enter and a tab is Tab.</summary>
    public static Key Typed(string grapheme) => grapheme switch
    {
        "\n" or "\r\n" or "\r" => Enter,
        "\t" => Tab,
        _ => new Key(KeyKind.Typed, grapheme, '\0'),
    };

    /// <summary>The keys that type a text, one for each grapheme.</summary>
    public static IEnumerable<Key> ForText(string text) => Graphemes.Split(text).Select(Typed);

    /// <summary>Reads a key as written; throws <see cref="InvalidInputException"/> for what no keyboard sends.</summary>
    public static Key Parse(string field, string value)
    {
        if (value.Length == 0) throw new InvalidInputException(field, "A key is missing here.");
        if (Graphemes.IsOne(value)) return Typed(value);
        if (Names.Contains(value)) return Named(value);
        if (SilentNames.Contains(value)) return new Key(KeyKind.Silent, value, '\0');
        return ParseChord(field, value);
    }

    /// <inheritdoc/>
    public override string ToString() => Value;

    private static Key Named(string value) => value switch
    {
        "Enter" => Enter,
        "Tab" => Tab,
        _ => new Key(KeyKind.Named, value, '\0'),
    };

    private static Key ParseChord(string field, string value)
    {
        var held = new bool[Modifiers.Length];
        var rest = value;
        while (Array.FindIndex(Modifiers, name => rest.Length > name.Length + 1
                   && rest.StartsWith(name + "+", StringComparison.Ordinal)) is var at && at >= 0)
        {
            held[at] = true;
            rest = rest[(Modifiers[at].Length + 1)..];
        }

        if (SilentNames.Contains(rest) || Array.IndexOf(Modifiers, rest) >= 0)
            throw new InvalidInputException(field, $"“{value}” holds modifiers only. Add a key to press with them.");
        var isOne = Graphemes.IsOne(rest);
        if (!held.Contains(true) || (!isOne && !Names.Contains(rest)))
            throw new InvalidInputException(field,
                $"“{value}” is not a key. Write one typed character, a key's name such as Enter, or a chord such as Ctrl+Alt+D.");

        var prefix = string.Concat(Modifiers.Where((_, at) => held[at]).Select(name => name + "+"));
        return new Key(KeyKind.Chord, prefix + (isOne ? rest.ToUpperInvariant() : rest), '\0');
    }
}

/// <summary>One key press as a keyboard reports it.</summary>
/// <param name="Key">Which key.</param>
/// <param name="CapsLock">Whether Caps Lock is on.</param>
/// <param name="AtMs">When, in milliseconds from any fixed moment; never goes back.</param>
public readonly record struct Keystroke(Key Key, bool CapsLock = false, long AtMs = 0);
