namespace DashSprout.Core.Text;

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
        "Shift",
        "Control",
        "Alt",
        "AltGraph",
        "Meta",
        "CapsLock",
        "NumLock",
        "ScrollLock",
        "Fn",
        "FnLock",
        "Hyper",
        "Super",
        "Symbol",
        "SymbolLock",
        "Dead",
        "Compose",
        "Process",
        "Unidentified",
    ];

    private static readonly HashSet<string> Names =
    [
        "Enter",
        "Tab",
        "Backspace",
        "Delete",
        "Insert",
        "Escape",
        "ArrowLeft",
        "ArrowRight",
        "ArrowUp",
        "ArrowDown",
        "Home",
        "End",
        "PageUp",
        "PageDown",
        "Clear",
        "Copy",
        "Cut",
        "Paste",
        "Redo",
        "Undo",
        "Again",
        "Cancel",
        "ContextMenu",
        "Execute",
        "Find",
        "Help",
        "Pause",
        "Play",
        "Props",
        "Select",
        "PrintScreen",
        "ZoomIn",
        "ZoomOut",
        "BrowserBack",
        "BrowserForward",
        "BrowserHome",
        "BrowserRefresh",
        "BrowserSearch",
        "MediaPlayPause",
        "MediaStop",
        "MediaTrackNext",
        "MediaTrackPrevious",
        "AudioVolumeUp",
        "AudioVolumeDown",
        "AudioVolumeMute",
        .. Enumerable.Range(1, 24).Select(number => $"F{number}"),
    ];

    private Key(KeyKind kind, string value, char text)
    {
        Kind = kind;
        Value = value;
        TextUnit = text;
    }

    /// <summary>
    /// The longest grapheme a key types, in UTF-16 units; the longest in Unicode's own emoji data has 35.
    /// </summary>
    public const int MaxUnits = 64;

    /// <summary>
    /// The most that one key value types, in UTF-16 units: a key of several letters, or a composed text.
    /// </summary>
    public const int MaxTextUnits = 4096;

    /// <summary>Enter; adds a line end to the typed tail.</summary>
    public static Key Enter { get; } = new(KeyKind.Named, "Enter", '\n');

    /// <summary>Shift+Enter: counts as Enter for closing keys and stays what it is in the field.</summary>
    public static Key ShiftEnter { get; } = new(KeyKind.Chord, "Shift+Enter", '\n');

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

    /// <summary>The key as closing keys know it: Shift+Enter is Enter.</summary>
    public Key Closing => this == ShiftEnter ? Enter : this;

    /// <summary>True when the key adds to the typed tail: a grapheme, Enter, Shift+Enter or Tab.</summary>
    public bool AddsText => Kind == KeyKind.Typed || TextUnit != '\0';

    /// <summary>What the key adds to the typed tail: the grapheme, a line end or a tab; empty otherwise.</summary>
    public string Text =>
        Kind == KeyKind.Typed
            ? Value
            : TextUnit switch
            {
                '\n' => "\n",
                '\t' => "\t",
                _ => "",
            };

    /// <summary>The key for one typed grapheme; a line end is Enter and a tab is Tab.</summary>
    public static Key Typed(string grapheme) =>
        grapheme switch
        {
            "\n" or "\r\n" or "\r" => Enter,
            "\t" => Tab,
            _ => new Key(KeyKind.Typed, grapheme, '\0'),
        };

    /// <summary>The keys that type a text, one for each grapheme.</summary>
    public static IEnumerable<Key> ForText(string text) => Graphemes.Split(text).Select(Typed);

    /// <summary>
    /// Reads what a keyboard says: a key, or the graphemes of a value of several letters (one key of an Arabic keyboard
    /// types <c>لا</c>). Nothing typed is ever part of the <see cref="InvalidInputException"/> for what no keyboard
    /// sends.
    /// </summary>
    public static IReadOnlyList<Key> ReadAll(string field, string value)
    {
        Known(field, value);
        if (Graphemes.IsOne(value))
            return [TypedWithin(field, value)];
        if (Find(value) is { } key)
            return [key];
        // A chord of a key without a name here still is one: it resets what was typed.
        if (SplitChord(value) is var (held, rest) && held.Contains(true))
            return
            [
                new Key(
                    SilentNames.Contains(rest) || Array.IndexOf(Modifiers, rest) >= 0 ? KeyKind.Silent : KeyKind.Chord,
                    value,
                    '\0'
                ),
            ];
        if (value.Length > MaxTextUnits)
            throw new InvalidInputException(
                field,
                $"A key types at most {MaxTextUnits} units; this value has {value.Length}."
            );
        return [.. Graphemes.Split(value).Select(grapheme => TypedWithin(field, grapheme))];
    }

    /// <summary>
    /// Reads one key as somebody wrote it in a setting or body; throws <see cref="InvalidInputException"/> for what is
    /// none.
    /// </summary>
    public static Key Parse(string field, string value)
    {
        Known(field, value);
        if (Graphemes.IsOne(value))
            return TypedWithin(field, value);
        if (Find(value) is { } key)
            return key;
        throw IsModifiersOnly(value)
            ? new InvalidInputException(field, $"“{value}” holds modifiers only. Add a key to press with them.")
            : new InvalidInputException(
                field,
                $"“{Graphemes.Shortened(value, MaxUnits)}” is not a key. Write one "
                    + "typed character, a key's name such as Enter, or a chord such as Ctrl+Alt+D."
            );
    }

    /// <inheritdoc/>
    public override string ToString() => Value;

    private static Key Named(string value) =>
        value switch
        {
            "Enter" => Enter,
            "Tab" => Tab,
            _ => new Key(KeyKind.Named, value, '\0'),
        };

    private static void Known(string field, string value)
    {
        if (value.Length == 0)
            throw new InvalidInputException(field, "A key is missing here.");
        if (!Graphemes.IsWellFormed(value))
            throw new InvalidInputException(
                field,
                "Half of a character (a lone surrogate) is no key. Send both halves together."
            );
    }

    private static Key TypedWithin(string field, string grapheme) =>
        grapheme.Length <= MaxUnits
            ? Typed(grapheme)
            : throw new InvalidInputException(
                field,
                $"One character has at most {MaxUnits} units; this one has {grapheme.Length}."
            );

    /// <summary>A key with a name, or a chord; null for anything else.</summary>
    private static Key? Find(string value)
    {
        if (Names.Contains(value))
            return Named(value);
        if (SilentNames.Contains(value))
            return new Key(KeyKind.Silent, value, '\0');
        if (value == ShiftEnter.Value)
            return ShiftEnter;
        var (held, rest) = SplitChord(value);
        if (!held.Contains(true) || SilentNames.Contains(rest) || Array.IndexOf(Modifiers, rest) >= 0)
            return null;
        var isOne = Graphemes.IsOne(rest);
        if (!isOne && !Names.Contains(rest))
            return null;
        var prefix = string.Concat(Modifiers.Where((_, at) => held[at]).Select(name => name + "+"));
        return new Key(KeyKind.Chord, prefix + (isOne ? rest.ToUpperInvariant() : rest), '\0');
    }

    private static bool IsModifiersOnly(string value) =>
        SplitChord(value) is var (held, rest)
        && held.Contains(true)
        && (SilentNames.Contains(rest) || Array.IndexOf(Modifiers, rest) >= 0);

    private static (bool[] Held, string Key) SplitChord(string value)
    {
        var held = new bool[Modifiers.Length];
        var rest = value;
        while (
            Array.FindIndex(Modifiers, name =>
                rest.Length > name.Length + 1 && rest.StartsWith(name + "+", StringComparison.Ordinal)
            )
                is var at
            && at >= 0
        )
        {
            held[at] = true;
            rest = rest[(Modifiers[at].Length + 1)..];
        }
        return (held, rest);
    }
}
