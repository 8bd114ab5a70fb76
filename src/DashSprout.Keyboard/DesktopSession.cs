using DashSprout.Keyboard.Accessibility;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Services;
using Tmds.DBus.Protocol;

namespace DashSprout.Keyboard;

/// <summary>
/// What the link has of the user's desktop session beside its display: notices, an item in the tray, and what
/// applications tell of their fields. All of it is optional; a desktop without one of them lacks just that.
/// </summary>
/// <param name="page">The address of the program's page.</param>
/// <param name="listens">Whether the engine listens.</param>
/// <param name="rest">Listens again with null, rests until told with 0, else for some minutes.</param>
/// <param name="quit">Ends the program.</param>
/// <param name="address">The session's D-Bus address; null for the one of the environment.</param>
public sealed class DesktopSession(
    string page,
    Func<bool> listens,
    Action<int?> rest,
    Action quit,
    string? address = null
) : IDisposable
{
    private readonly Lock gate = new();
    private readonly FieldSightings sightings = new();
    private DBusConnection? bus;
    private TrayItem? tray;
    private Task starting = Task.CompletedTask;

    /// <summary>What is known of the field with the focus.</summary>
    public IFieldSight Sight => sightings;

    /// <summary>Told when another field has the focus, on any thread.</summary>
    public event Action? SightChanged
    {
        add => sightings.Changed += value;
        remove => sightings.Changed -= value;
    }

    /// <summary>Why there are no notices and no tray; null when there are.</summary>
    public string? Problem { get; private set; }

    /// <summary>Connects to the session, if there is one.</summary>
    public void Begin(bool showTray)
    {
        lock (gate)
            starting = Connect(showTray);
    }

    /// <summary>Leaves the session.</summary>
    public void End()
    {
        lock (gate)
        {
            tray?.Hide();
            tray = null;
            sightings.End();
            bus?.Dispose();
            bus = null;
        }
    }

    /// <summary>Shows a notice.</summary>
    public void Say(string words) => _ = Notify(words);

    /// <summary>Shows the tray item, or takes it away.</summary>
    public void ShowTray(bool shown) => _ = SetTray(shown);

    /// <summary>Whether the engine listens has changed.</summary>
    public void TrayChanged() => tray?.Refresh();

    public void Dispose() => End();

    private async Task Connect(bool showTray)
    {
        try
        {
            if ((address ?? DBusAddress.Session) is not { Length: > 0 } found)
            {
                Problem =
                    "There is no D-Bus session, so notices, the tray and what applications tell of their "
                    + "fields are missing.";
                return;
            }
            var made = new DBusConnection(found);
            await made.ConnectAsync();
            bus = made;
            await SetTray(showTray);
            await sightings.Begin(made);
        }
        catch (Exception exception) when (DesktopBus.IsFault(exception))
        {
            Problem =
                "The desktop's D-Bus session does not answer, so notices and the tray are missing: "
                + $"{exception.Message}";
        }
    }

    private async Task SetTray(bool shown)
    {
        await Task.Yield();
        if (bus is not { } connected)
            return;
        if (!shown)
        {
            tray?.Hide();
            tray = null;
            return;
        }
        if (tray is not null)
            return;
        tray = new TrayItem(connected, listens, rest, () => DesktopOpening.Open(page), quit);
        try
        {
            await tray.Show();
        }
        catch (Exception exception) when (DesktopBus.IsFault(exception))
        {
            // A desktop without a tray: the page and the chord do the same.
            tray.Hide();
            tray = null;
        }
    }

    private async Task Notify(string words)
    {
        await starting;
        if (bus is not { } connected)
            return;
        try
        {
            await connected.Call(
                ("org.freedesktop.Notifications", "/org/freedesktop/Notifications", "org.freedesktop.Notifications"),
                "Notify",
                "susssasa{sv}i",
                (ref MessageWriter writer) =>
                {
                    writer.WriteString("Dash Sprout");
                    writer.WriteUInt32(0);
                    writer.WriteString("dash-sprout");
                    writer.WriteString("Dash Sprout");
                    // The body may be read as markup.
                    writer.WriteString(
                        words
                            .Replace("&", "&amp;", StringComparison.Ordinal)
                            .Replace("<", "&lt;", StringComparison.Ordinal)
                            .Replace(">", "&gt;", StringComparison.Ordinal)
                    );
                    writer.WriteArray(Array.Empty<string>());
                    writer.WriteDictionary(new Dictionary<string, VariantValue>());
                    writer.WriteInt32(-1);
                }
            );
        }
        catch (Exception exception) when (DesktopBus.IsFault(exception))
        {
            Problem = $"The desktop shows no notices: {exception.Message}";
        }
    }
}
