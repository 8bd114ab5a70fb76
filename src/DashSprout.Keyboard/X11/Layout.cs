using System.Runtime.InteropServices;
using System.Text;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Linking;
using static DashSprout.Keyboard.X11.Native.Xkb;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// What the keys of the display's keyboard type: from a keycode to a key and back, by <c>libxkbcommon</c> from the
/// keymap that the server has now.
/// </summary>
internal sealed unsafe class Layout : IDisposable
{
    private readonly nint context,
        keymap,
        state,
        plain;
    private readonly Dictionary<(uint Group, uint Point), Stroke> strokes = [];
    private readonly Dictionary<(uint Group, uint Symbol), byte> keycodes = [];
    private readonly HashSet<uint> readGroups = [];

    private Layout(nint context, nint keymap)
    {
        (this.context, this.keymap) = (context, keymap);
        state = xkb_state_new(keymap);
        plain = xkb_state_new(keymap);
        Names =
        [
            .. Enumerable
                .Range(0, (int)xkb_keymap_num_layouts(keymap))
                .Select(at => Marshal.PtrToStringUTF8(xkb_keymap_layout_get_name(keymap, (uint)at)) ?? ""),
        ];
    }

    /// <summary>The layouts by their names, in the order of their groups.</summary>
    public IReadOnlyList<string> Names { get; }

    /// <summary>Reads the keymap of a display's core keyboard.</summary>
    public static Layout Read(string? displayName)
    {
        var connection = xcb_connect(displayName, null);
        try
        {
            if (xcb_connection_has_error(connection) != 0)
                throw new LinkException("The display's keyboard layout cannot be read: no connection.");
            if (xkb_x11_setup_xkb_extension(connection, 1, 0, 0, null, null, null, null) == 0)
                throw new LinkException(
                    "The display has no keyboard extension (XKB), so what its keys type is not known."
                );
            var context = xkb_context_new(0);
            var keymap = xkb_x11_keymap_new_from_device(
                context,
                connection,
                xkb_x11_get_core_keyboard_device_id(connection),
                0
            );
            if (keymap != 0)
                return new Layout(context, keymap);
            xkb_context_unref(context);
            throw new LinkException("The display's keyboard layout cannot be read.");
        }
        finally
        {
            xcb_disconnect(connection);
        }
    }

    /// <summary>The symbol that a keycode gives now; 0 for none.</summary>
    public uint Symbol(byte keycode, in LayoutState now)
    {
        _ = xkb_state_update_mask(
            state,
            now.Base,
            now.Latched,
            now.Locked,
            now.BaseGroup,
            now.LatchedGroup,
            now.LockedGroup
        );
        return xkb_state_key_get_one_sym(state, keycode);
    }

    /// <summary>The symbol of a keycode without any modifier.</summary>
    public uint PlainSymbol(byte keycode, uint group)
    {
        _ = xkb_state_update_mask(plain, 0, 0, 0, 0, 0, group);
        return xkb_state_key_get_one_sym(plain, keycode);
    }

    /// <summary>A keycode that means nothing, so that nobody hears of it; 0 when every one means something.</summary>
    public byte SilentKeycode()
    {
        for (var keycode = byte.MaxValue; keycode > 8; keycode--)
            if (PlainSymbol(keycode, 0) == 0)
                return keycode;
        return 0;
    }

    /// <summary>
    /// The key that a keycode is now; null for one that means nothing. A dead key is silent. A command is what the group
    /// in force makes of it, or what another group does when that is no Latin letter, as toolkits take it.
    /// </summary>
    /// <param name="wanted">The chords that are listened for here: one of them is meant where two groups differ.</param>
    public Key? KeyOf(byte keycode, in LayoutState now, IReadOnlySet<string> wanted)
    {
        if (KeyIn(keycode, now) is not { Kind: KeyKind.Chord } chord)
            return KeyIn(keycode, now);
        if (Names.Count < 2 || wanted.Contains(chord.Value))
            return chord;
        Key? latin = null;
        for (uint group = 0; group < Names.Count; group++)
        {
            var there = now with { BaseGroup = group, LatchedGroup = 0, LockedGroup = 0 };
            if (KeyIn(keycode, there) is not { Kind: KeyKind.Chord } other)
                continue;
            if (wanted.Contains(other.Value) && !(Ascii.IsValid(chord.Value) && Ascii.IsValid(other.Value)))
                return other;
            if (Ascii.IsValid(other.Value))
                latin ??= other;
        }
        return Ascii.IsValid(chord.Value) ? chord : latin ?? chord;
    }

    private Key? KeyIn(byte keycode, in LayoutState now)
    {
        const uint chordModifiers = Symbols.Control | Symbols.Alt | Symbols.Meta;
        var held = now.Modifiers & (chordModifiers | Symbols.Shift);
        // Which character a chord has does not depend on Ctrl, Alt and Meta, nor on Caps Lock.
        var bare =
            (held & chordModifiers) == 0
                ? now
                : now with
                {
                    Base = now.Base & ~chordModifiers,
                    Latched = now.Latched & ~chordModifiers,
                    Locked = now.Locked & ~(chordModifiers | Symbols.Lock),
                };
        var symbol = Symbol(keycode, bare);
        if (symbol == 0)
            return null;
        if (Symbols.NameOf(symbol) is { } name)
        {
            var key = Key.ReadAll("key", name)[0];
            return key.Kind == KeyKind.Silent || held == 0 ? key : Symbols.Chord(held, name);
        }
        var point = xkb_keysym_to_utf32(symbol);
        if (point < 0x20 || point == 0x7f)
            return Key.ReadAll("key", "Unidentified")[0];
        var text = char.ConvertFromUtf32((int)point);
        return (held & chordModifiers) == 0 ? Key.Typed(text) : Symbols.Chord(held, text);
    }

    /// <summary>The stroke that types a character in a group; null when the layout has none.</summary>
    public Stroke? StrokeFor(uint group, int point)
    {
        ReadGroup(group);
        return strokes.TryGetValue((group, (uint)point), out var stroke) ? stroke : null;
    }

    /// <summary>The keycode of a symbol that needs no modifier; 0 when the layout has none.</summary>
    public byte KeycodeFor(uint group, uint symbol)
    {
        ReadGroup(group);
        return keycodes.GetValueOrDefault((group, symbol));
    }

    /// <summary>
    /// The stroke that is a key or chord here, such as <c>Ctrl+Alt+D</c>; none when the layout cannot type it. A command
    /// whose letter the group lacks is pressed where another group has it: toolkits look there too.
    /// </summary>
    public Stroke? StrokeFor(uint group, Key key)
    {
        var rest = key.Value;
        uint held = 0;
        foreach (
            var (name, bit) in new[]
            {
                ("Ctrl+", Symbols.Control),
                ("Alt+", Symbols.Alt),
                ("Shift+", Symbols.Shift),
                ("Meta+", Symbols.Meta),
            }
        )
        {
            if (
                key.Kind != KeyKind.Chord
                || rest.Length <= name.Length
                || !rest.StartsWith(name, StringComparison.Ordinal)
            )
                continue;
            held |= bit;
            rest = rest[name.Length..];
        }
        if (Symbols.Of(rest) is var symbol and not 0)
            return KeycodeFor(group, symbol) is var keycode and not 0 ? new Stroke(keycode, held) : null;
        if (key.Kind == KeyKind.Chord)
            rest = rest.ToLowerInvariant();
        if (rest.EnumerateRunes().ToList() is not [var rune])
            return null;
        if (StrokeFor(group, rune.Value) is { } stroke)
            return stroke with { Modifiers = stroke.Modifiers | held };
        if ((held & ~Symbols.Shift) == 0)
            return null;
        for (uint other = 0; other < Names.Count; other++)
            if (StrokeFor(other, rune.Value) is { } there && (there.Modifiers & ~Symbols.Shift) == 0)
                return there with { Modifiers = there.Modifiers | held };
        return null;
    }

    /// <summary>
    /// The keycodes that have no symbol at all and can be lent to characters; keycode 8 is none of them.
    /// </summary>
    public IReadOnlyList<byte> UnusedKeycodes()
    {
        var unused = new List<byte>();
        for (
            var keycode = Math.Max(9, xkb_keymap_min_keycode(keymap));
            keycode <= Math.Min(255, xkb_keymap_max_keycode(keymap));
            keycode++
        )
        {
            var layouts = xkb_keymap_num_layouts_for_key(keymap, keycode);
            var symbols = 0;
            for (uint layout = 0; layout < layouts; layout++)
            for (uint level = 0; level < xkb_keymap_num_levels_for_key(keymap, keycode, layout); level++)
                symbols += xkb_keymap_key_get_syms_by_level(keymap, keycode, layout, level, out _);
            if (symbols == 0)
                unused.Add((byte)keycode);
        }
        return unused;
    }

    public void Dispose()
    {
        xkb_state_unref(state);
        xkb_state_unref(plain);
        xkb_keymap_unref(keymap);
        xkb_context_unref(context);
    }

    /// <summary>Reads a group backwards: for each character and named key the cheapest stroke.</summary>
    private void ReadGroup(uint group)
    {
        if (!readGroups.Add(group))
            return;
        var masks = stackalloc uint[16];
        for (
            var keycode = Math.Max(9, xkb_keymap_min_keycode(keymap));
            keycode <= Math.Min(255, xkb_keymap_max_keycode(keymap));
            keycode++
        )
        {
            var layouts = xkb_keymap_num_layouts_for_key(keymap, keycode);
            if (layouts == 0)
                continue;
            var layout = group < layouts ? group : 0;
            for (uint level = 0; level < xkb_keymap_num_levels_for_key(keymap, keycode, layout); level++)
            {
                if (xkb_keymap_key_get_syms_by_level(keymap, keycode, layout, level, out var symbols) != 1)
                    continue;
                if (level == 0)
                    keycodes.TryAdd((group, *symbols), (byte)keycode);
                var count = xkb_keymap_key_get_mods_for_level(keymap, keycode, layout, level, masks, 16);
                for (nuint at = 0; at < count; at++)
                {
                    if ((masks[at] & ~(Symbols.Shift | Symbols.AltGr)) != 0)
                        continue;
                    var point = xkb_keysym_to_utf32(*symbols);
                    if (point < 0x20 || point == 0x7f || Symbols.NameOf(*symbols) is not null)
                        continue;
                    var stroke = new Stroke((byte)keycode, masks[at]);
                    if (!strokes.TryGetValue((group, point), out var known) || Cost(stroke) < Cost(known))
                        strokes[(group, point)] = stroke;
                }
            }
        }
    }

    /// <summary>Fewer modifiers are cheaper; the keypad's keys come last, since Num Lock changes them.</summary>
    private static int Cost(Stroke stroke) =>
        System.Numerics.BitOperations.PopCount(stroke.Modifiers) + (stroke.Keycode is >= 79 and <= 91 ? 10 : 0);
}
