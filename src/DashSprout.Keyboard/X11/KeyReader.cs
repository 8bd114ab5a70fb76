using DashSprout.Core.Text;
using DashSprout.Keyboard.X11.Native;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// What captured keys type: by the layout that the display has now, with what was composed before, and with the spare
/// keys that are lent to characters of the snippets.
/// </summary>
internal sealed class KeyReader : IDisposable
{
    /// <summary>A new keymap comes in several notices; it is read once they have ended.</summary>
    private const int KeymapRestMs = 60;

    private readonly XConnection connection;
    private readonly Capture capture;
    private readonly string? displayName;
    private readonly Composition composition = new();
    private readonly SpareKeys spareKeys;
    private readonly uint repeatDelayMs;
    private (byte Keycode, uint DisplayMs) last;
    private long keymapAt;

    public KeyReader(XConnection connection, Capture capture, string? displayName)
    {
        (this.connection, this.capture, this.displayName) = (connection, capture, displayName);
        spareKeys = new SpareKeys(connection);
        spareKeys.Reclaim();
        Layout = Layout.Read(displayName);
        if (Xkb.XkbGetAutoRepeatRate(connection.Display, Xkb.CoreKeyboard, out var delay, out _) != 0)
            repeatDelayMs = delay;
    }

    public Layout Layout { get; private set; }

    /// <summary>The chords that are listened for where somebody types.</summary>
    public IReadOnlySet<string> Wanted { get; set; } = new HashSet<string>();

    /// <summary>The layout group in force.</summary>
    public uint Group => capture.State.Group(Layout.Names.Count);

    /// <summary>What a key press amounts to; the first question about it counts, in the order of the presses.</summary>
    public TypedKey Typed(CapturedKey key)
    {
        if (key.Typed is { } known)
            return known;
        var symbol = Layout.Symbol(key.Keycode, key.State);
        var isModifier = Symbols.IsModifier(symbol);
        var made = Layout.KeyOf(key.Keycode, key.State, Wanted);
        if (isModifier || made is { Kind: KeyKind.Chord })
            return key.Typed = new TypedKey(made, null, isModifier);
        return key.Typed = composition.Feed(symbol) switch
        {
            null => new TypedKey(made, null, false),
            "" => new TypedKey(Key.Parse("key", "Dead"), null, false),
            var text when Graphemes.IsOne(text) => new TypedKey(Key.Typed(text), null, false),
            var text => new TypedKey(null, text, false),
        };
    }

    /// <summary>Whether a key is a modifier that counts as long as it is down.</summary>
    public bool IsHeldModifier(byte keycode) =>
        Layout.PlainSymbol(keycode, 0) is not (Symbols.CapsLock or Symbols.NumLock) and var symbol
        && Symbols.IsModifier(symbol);

    /// <summary>What was composed so far is given up: the caret is elsewhere.</summary>
    public void ForgetComposition() => composition.Reset();

    /// <summary>A key that types went down.</summary>
    public void WentDown(CapturedKey key) => last = (key.Keycode, key.DisplayMs);

    /// <summary>
    /// Whether the last key was still down until now and for so long that the keyboard has repeated it, which nobody
    /// tells.
    /// </summary>
    /// <param name="now">Another key that goes down, or the last key's coming up.</param>
    public bool HasRepeated(CapturedKey now)
    {
        if (last.Keycode == 0 || repeatDelayMs == 0 || unchecked(now.DisplayMs - last.DisplayMs) <= repeatDelayMs)
            return false;
        if (now.IsPress ? !capture.Down.Contains(last.Keycode) : now.Keycode != last.Keycode)
            return false;
        last = default;
        return true;
    }

    /// <summary>Follows changes of the keymap; true when the layout was read anew.</summary>
    public bool KeepUp(long now, Func<IReadOnlyList<int>> characters)
    {
        if (capture.KeymapChanged)
        {
            capture.KeymapChanged = false;
            keymapAt = now + KeymapRestMs;
        }
        if (keymapAt == 0 || now < keymapAt)
            return false;
        keymapAt = 0;
        Read();
        Lend(characters());
        return true;
    }

    /// <summary>Lends spare keys to characters that the layout lacks.</summary>
    public void Lend(IReadOnlyList<int> characters)
    {
        if (!spareKeys.Lend(Layout, Group, characters))
            return;
        connection.Sync();
        capture.Read();
        // The notices of one's own change are no news.
        capture.KeymapChanged = false;
        Read();
    }

    /// <summary>Takes the spare keys back.</summary>
    public void TakeBack() => spareKeys.Clear();

    public void Dispose()
    {
        composition.Dispose();
        Layout.Dispose();
    }

    private void Read()
    {
        var fresh = Layout.Read(displayName);
        Layout.Dispose();
        Layout = fresh;
    }
}
