using System.Text;
using static DashSprout.Keyboard.X11.Native.Xkb;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// Dead keys and the compose key, followed beside the application, which composes for itself: what the user has
/// composed counts as typed. By the compose table of the user's locale.
/// </summary>
internal sealed unsafe class Composition : IDisposable
{
    private static readonly string[] LocaleNames = ["LC_ALL", "LC_CTYPE", "LANG"];
    private readonly nint context = xkb_context_new(0);
    private readonly nint table,
        state;

    public Composition()
    {
        var locale = LocaleNames
            .Select(Environment.GetEnvironmentVariable)
            .FirstOrDefault(value => !string.IsNullOrEmpty(value))
            ?? "C";
        // Outside UTF-8 locales an application composes nothing worth following; the table of a UTF-8 locale does no
        // harm there.
        table = xkb_compose_table_new_from_locale(
            context,
            locale.Contains("UTF-8", StringComparison.OrdinalIgnoreCase) ? locale : "en_US.UTF-8",
            0
        );
        state = table == 0 ? 0 : xkb_compose_state_new(table, 0);
    }

    /// <summary>
    /// What a symbol makes of a composition: null when it is none of its business, empty while it goes on, else the
    /// text.
    /// </summary>
    public string? Feed(uint symbol)
    {
        if (state == 0 || Symbols.IsModifier(symbol))
            return null;
        _ = xkb_compose_state_feed(state, symbol);
        switch (xkb_compose_state_get_status(state))
        {
            case Composing:
                return "";
            case Composed:
                var buffer = stackalloc byte[64];
                var length = xkb_compose_state_get_utf8(state, buffer, 64);
                xkb_compose_state_reset(state);
                return Encoding.UTF8.GetString(buffer, Math.Min(length, 63));
            case ComposeCancelled:
                xkb_compose_state_reset(state);
                return "";
            default:
                return null;
        }
    }

    public void Reset()
    {
        if (state != 0)
            xkb_compose_state_reset(state);
    }

    public void Dispose()
    {
        if (state != 0)
            xkb_compose_state_unref(state);
        if (table != 0)
            xkb_compose_table_unref(table);
        xkb_context_unref(context);
    }
}
