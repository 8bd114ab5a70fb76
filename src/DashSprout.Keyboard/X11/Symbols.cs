using DashSprout.Core.Text;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// X's key symbols (<c>X11/keysymdef.h</c>) and the names that W3C UI Events gives the same keys.
/// </summary>
internal static class Symbols
{
    public const uint BackSpace = 0xff08,
        Tab = 0xff09,
        Return = 0xff0d,
        Escape = 0xff1b,
        Left = 0xff51,
        Insert = 0xff63,
        ShiftL = 0xffe1,
        ControlL = 0xffe3,
        CapsLock = 0xffe5,
        NumLock = 0xff7f,
        AltL = 0xffe9,
        SuperL = 0xffeb,
        Level3 = 0xfe03,
        KeypadEnter = 0xff8d,
        LeftTab = 0xfe20;

    /// <summary>The bits of the real modifiers, as the keyboards of X map them.</summary>
    public const uint Shift = 1,
        Lock = 2,
        Control = 4,
        Alt = 8,
        Num = 16,
        Meta = 64,
        AltGr = 128;

    private static readonly Dictionary<uint, string> Names = new()
    {
        [BackSpace] = "Backspace",
        [Tab] = "Tab",
        [LeftTab] = "Tab",
        [Return] = "Enter",
        [KeypadEnter] = "Enter",
        [Escape] = "Escape",
        [0xffff] = "Delete",
        [0xff50] = "Home",
        [0xff51] = "ArrowLeft",
        [0xff52] = "ArrowUp",
        [0xff53] = "ArrowRight",
        [0xff54] = "ArrowDown",
        [0xff55] = "PageUp",
        [0xff56] = "PageDown",
        [0xff57] = "End",
        [0xff63] = "Insert",
        [0xff67] = "ContextMenu",
        [0xff61] = "PrintScreen",
        [0xff13] = "Pause",
        [0xff6a] = "Help",
        [0xff65] = "Undo",
        [0xff66] = "Redo",
        [0xff68] = "Find",
        [0xff69] = "Cancel",
        [0xff0b] = "Clear",
        [0xff95] = "Home",
        [0xff96] = "ArrowLeft",
        [0xff97] = "ArrowUp",
        [0xff98] = "ArrowRight",
        [0xff99] = "ArrowDown",
        [0xff9a] = "PageUp",
        [0xff9b] = "PageDown",
        [0xff9c] = "End",
        [0xff9d] = "Clear",
        [0xff9e] = "Insert",
        [0xff9f] = "Delete",
        [0xffe1] = "Shift",
        [0xffe2] = "Shift",
        [0xffe3] = "Control",
        [0xffe4] = "Control",
        [0xffe5] = "CapsLock",
        [0xffe6] = "CapsLock",
        [0xffe7] = "Meta",
        [0xffe8] = "Meta",
        [0xffe9] = "Alt",
        [0xffea] = "Alt",
        [0xffeb] = "Meta",
        [0xffec] = "Meta",
        [0xffed] = "Hyper",
        [0xffee] = "Hyper",
        [0xff7f] = "NumLock",
        [0xff14] = "ScrollLock",
        [0xff20] = "Compose",
        [0xff7e] = "AltGraph",
        [0xfe03] = "AltGraph",
        [0xfe11] = "AltGraph",
        [0xff2d] = "Process",
        [0xff31] = "Process",
        [0xff33] = "Process",
        [0xff34] = "Process",
    };

    private static readonly Dictionary<string, uint> ByName = Names
        .GroupBy(pair => pair.Value)
        .ToDictionary(group => group.Key, group => group.First().Key);

    /// <summary>The <c>key</c> value of a symbol that types no text; null when it is none that is known.</summary>
    public static string? NameOf(uint symbol) =>
        Names.TryGetValue(symbol, out var name) ? name
        : symbol is >= 0xffbe and <= 0xffd5 ? $"F{symbol - 0xffbe + 1}"
        : symbol is >= 0xfe50 and <= 0xfe9f ? "Dead"
        : symbol is >= 0xfe01 and <= 0xfe1f ? "AltGraph"
        : null;

    /// <summary>The symbol of a key with a name; 0 when it has none.</summary>
    public static uint Of(string name) =>
        ByName.TryGetValue(name, out var symbol) ? symbol
        : name.Length > 1 && name[0] == 'F' && int.TryParse(name.AsSpan(1), out var number) && number is >= 1 and <= 24
            ? (uint)(0xffbe + number - 1)
        : 0;

    /// <summary>Whether a symbol is a modifier's, which is held rather than typed.</summary>
    public static bool IsModifier(uint symbol) =>
        symbol is >= 0xffe1 and <= 0xffee or 0xfe03 or 0xfe11 or 0xff7e or 0xff7f;

    /// <summary>A chord as the core writes it: <c>Ctrl+Alt+Shift+Meta+KEY</c>.</summary>
    public static Key? Chord(uint modifiers, string key)
    {
        var held = string.Concat(
            (modifiers & Control) != 0 ? "Ctrl+" : "",
            (modifiers & Alt) != 0 ? "Alt+" : "",
            (modifiers & Shift) != 0 ? "Shift+" : "",
            (modifiers & Meta) != 0 ? "Meta+" : ""
        );
        return Key.ReadAll("key", held + (key.Length <= 2 ? key.ToUpperInvariant() : key)) is [var one] ? one : null;
    }
}
