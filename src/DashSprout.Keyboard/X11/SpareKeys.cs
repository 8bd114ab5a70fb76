using DashSprout.Keyboard.X11.Native;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// Keycodes without a symbol, lent to characters that snippets use and the layout does not type. Which ones are lent
/// stands on the root window, so that a link that was killed leaves nothing behind for long.
/// </summary>
internal sealed unsafe class SpareKeys(XConnection connection)
{
    private readonly Dictionary<byte, int> lent = [];

    /// <summary>Takes back what a link lent that was killed.</summary>
    public void Reclaim()
    {
        var left = connection.Words(connection.Root, "_DASH_SPROUT_KEYCODES");
        foreach (var keycode in left.Where(code => code is > 8 and < 256))
            Map((byte)keycode, 0);
        if (left.Length > 0)
            Note();
        connection.Sync();
    }

    /// <summary>
    /// Lends keys to the characters that need them; true when something was changed, which every program on the display
    /// is told.
    /// </summary>
    public bool Lend(Layout layout, uint group, IReadOnlyList<int> characters)
    {
        var free = layout.UnusedKeycodes();
        var lost = lent.Where(pair => layout.StrokeFor(group, pair.Value) is null).Select(pair => pair.Key).ToList();
        var wanted = characters
            .Where(point => !lent.ContainsValue(point) && layout.StrokeFor(group, point) is null && point > 0x7f)
            .Distinct()
            .ToList();
        var places = new Queue<byte>(free.Where(code => !lent.ContainsKey(code)));
        if (lost.Count == 0 && (wanted.Count == 0 || places.Count == 0))
            return false;
        // A new keymap has none of what was lent before.
        foreach (var keycode in lost)
            Map(keycode, lent[keycode]);
        foreach (var point in wanted)
        {
            if (!places.TryDequeue(out var keycode))
                break;
            lent[keycode] = point;
            Map(keycode, point);
        }
        Note();
        connection.Sync();
        return true;
    }

    /// <summary>Takes everything back.</summary>
    public void Clear()
    {
        if (lent.Count == 0)
            return;
        foreach (var keycode in lent.Keys)
            Map(keycode, 0);
        lent.Clear();
        Note();
        connection.Sync();
    }

    private void Map(byte keycode, int point)
    {
        var symbols = stackalloc nint[2];
        symbols[0] = symbols[1] = point == 0 ? 0 : (nint)Xkb.xkb_utf32_to_keysym((uint)point);
        _ = Xlib.XChangeKeyboardMapping(connection.Display, keycode, 2, symbols, 1);
    }

    private void Note() =>
        connection.SetWords(
            connection.Root,
            connection.Atom("_DASH_SPROUT_KEYCODES"),
            connection.Atom("CARDINAL"),
            [.. lent.Keys.Select(code => (nint)code)]
        );
}
