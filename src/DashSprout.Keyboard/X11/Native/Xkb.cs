using System.Runtime.InteropServices;

namespace DashSprout.Keyboard.X11.Native;

/// <summary>
/// The keyboard extension in <c>libX11</c>, and <c>libxkbcommon</c>, which turns keycodes into symbols and text.
/// </summary>
internal static unsafe partial class Xkb
{
    private const string X11 = "libX11.so.6",
        Common = "libxkbcommon.so.0",
        CommonX11 = "libxkbcommon-x11.so.0",
        Xcb = "libxcb.so.1";

    public const uint CoreKeyboard = 0x100;
    public const int NewKeyboardNotify = 0,
        MapNotify = 1,
        StateNotify = 2;
    public const int ComposeNothing = 0,
        Composing = 1,
        Composed = 2,
        ComposeCancelled = 3;

    [LibraryImport(X11)]
    public static partial int XkbQueryExtension(
        nint display,
        out int opcode,
        out int firstEvent,
        out int firstError,
        ref int major,
        ref int minor
    );

    [LibraryImport(X11)]
    public static partial int XkbSelectEvents(nint display, uint device, uint affected, uint values);

    /// <summary>
    /// Fills an <c>XkbStateRec</c>: group 0, locked group 1, base group 2 (16 bit), latched group 4 (16 bit), mods 6,
    /// base 7, latched 8, locked 9.
    /// </summary>
    [LibraryImport(X11)]
    public static partial int XkbGetState(nint display, uint device, byte* state);

    [LibraryImport(X11)]
    public static partial int XkbLockModifiers(nint display, uint device, uint affected, uint values);

    [LibraryImport(X11)]
    public static partial int XkbLatchModifiers(nint display, uint device, uint affected, uint values);

    [LibraryImport(X11)]
    public static partial int XkbGetAutoRepeatRate(nint display, uint device, out uint delayMs, out uint intervalMs);

    [LibraryImport(Xcb, StringMarshalling = StringMarshalling.Utf8)]
    public static partial nint xcb_connect(string? display, int* screen);

    [LibraryImport(Xcb)]
    public static partial int xcb_connection_has_error(nint connection);

    [LibraryImport(Xcb)]
    public static partial void xcb_disconnect(nint connection);

    [LibraryImport(CommonX11)]
    public static partial int xkb_x11_setup_xkb_extension(
        nint connection,
        ushort major,
        ushort minor,
        int flags,
        ushort* outMajor,
        ushort* outMinor,
        byte* baseEvent,
        byte* baseError
    );

    [LibraryImport(CommonX11)]
    public static partial int xkb_x11_get_core_keyboard_device_id(nint connection);

    [LibraryImport(CommonX11)]
    public static partial nint xkb_x11_keymap_new_from_device(nint context, nint connection, int device, int flags);

    [LibraryImport(Common)]
    public static partial nint xkb_context_new(int flags);

    [LibraryImport(Common)]
    public static partial void xkb_context_unref(nint context);

    [LibraryImport(Common)]
    public static partial void xkb_keymap_unref(nint keymap);

    [LibraryImport(Common)]
    public static partial uint xkb_keymap_min_keycode(nint keymap);

    [LibraryImport(Common)]
    public static partial uint xkb_keymap_max_keycode(nint keymap);

    [LibraryImport(Common)]
    public static partial uint xkb_keymap_num_layouts(nint keymap);

    [LibraryImport(Common)]
    public static partial nint xkb_keymap_layout_get_name(nint keymap, uint layout);

    [LibraryImport(Common)]
    public static partial uint xkb_keymap_num_layouts_for_key(nint keymap, uint key);

    [LibraryImport(Common)]
    public static partial uint xkb_keymap_num_levels_for_key(nint keymap, uint key, uint layout);

    [LibraryImport(Common)]
    public static partial int xkb_keymap_key_get_syms_by_level(
        nint keymap,
        uint key,
        uint layout,
        uint level,
        out uint* syms
    );

    [LibraryImport(Common)]
    public static partial nuint xkb_keymap_key_get_mods_for_level(
        nint keymap,
        uint key,
        uint layout,
        uint level,
        uint* masks,
        nuint size
    );

    [LibraryImport(Common)]
    public static partial nint xkb_state_new(nint keymap);

    [LibraryImport(Common)]
    public static partial void xkb_state_unref(nint state);

    [LibraryImport(Common)]
    public static partial int xkb_state_update_mask(
        nint state,
        uint baseMods,
        uint latchedMods,
        uint lockedMods,
        uint baseLayout,
        uint latchedLayout,
        uint lockedLayout
    );

    [LibraryImport(Common)]
    public static partial uint xkb_state_key_get_one_sym(nint state, uint key);

    [LibraryImport(Common)]
    public static partial uint xkb_keysym_to_utf32(uint sym);

    [LibraryImport(Common)]
    public static partial uint xkb_utf32_to_keysym(uint point);

    [LibraryImport(Common, StringMarshalling = StringMarshalling.Utf8)]
    public static partial nint xkb_compose_table_new_from_locale(nint context, string locale, int flags);

    [LibraryImport(Common)]
    public static partial void xkb_compose_table_unref(nint table);

    [LibraryImport(Common)]
    public static partial nint xkb_compose_state_new(nint table, int flags);

    [LibraryImport(Common)]
    public static partial void xkb_compose_state_unref(nint state);

    [LibraryImport(Common)]
    public static partial void xkb_compose_state_reset(nint state);

    [LibraryImport(Common)]
    public static partial int xkb_compose_state_feed(nint state, uint sym);

    [LibraryImport(Common)]
    public static partial int xkb_compose_state_get_status(nint state);

    [LibraryImport(Common)]
    public static partial int xkb_compose_state_get_utf8(nint state, byte* buffer, nuint size);
}
