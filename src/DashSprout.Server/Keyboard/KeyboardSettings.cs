using DashSprout.Core;
using DashSprout.Keyboard.Linking;
using DashSprout.Server.Data;
using DashSprout.Store.Data;

namespace DashSprout.Server.Keyboard;

/// <summary>The keyboard link's settings.</summary>
/// <param name="Enabled">Whether the link is made whenever the program starts.</param>
/// <param name="Hints">Whether a waiting word shows near the caret what it would become.</param>
/// <param name="Tray">Whether the program shows in the desktop's tray.</param>
/// <param name="Apps">Applications whose delivery was chosen.</param>
public sealed record KeyboardSettings(bool Enabled, bool Hints, bool Tray, IReadOnlyList<KeyboardAppDelivery> Apps)
{
    internal static KeyboardSettings Default { get; } = new(false, true, true, []);
}

/// <summary>How text reaches one application.</summary>
/// <param name="App">The class of its windows.</param>
/// <param name="PasteChord">The chord that pastes there.</param>
/// <param name="AlwaysType">Whether everything is typed.</param>
/// <param name="DelayMs">A pause after each typed key, in milliseconds.</param>
public sealed record KeyboardAppDelivery(string App, string PasteChord, bool AlwaysType, int DelayMs);

/// <summary>An application that was typed in.</summary>
/// <param name="Id">The class of its windows, by which rules name it.</param>
/// <param name="HasIcon">Whether it has an icon that a page can show.</param>
public sealed record SeenApp(string Id, string Name, bool HasIcon, bool IsTerminal);

/// <summary>The link's settings and the applications that were typed in; kept across restarts.</summary>
internal sealed class KeyboardChoices(SettingStore settings) : IHeldData
{
    private const string Setting = "keyboard",
        SeenSetting = "keyboard-apps";
    private const int MostApps = 200;
    private readonly Lock gate = new();
    private volatile KeyboardSettings chosen = KeyboardSettings.Default;
    private Dictionary<string, DesktopApplication> seen = [];
    private Dictionary<string, AppDelivery> deliveries = [];

    private sealed record SeenApps(IReadOnlyList<DesktopApplication> Apps);

    public KeyboardSettings Chosen => chosen;

    public void Open()
    {
        var kept = settings.Get<KeyboardSettings>(Setting);
        Use(kept is { Apps: not null } && IsGood(kept) ? kept : KeyboardSettings.Default);
        seen = (settings.Get<SeenApps>(SeenSetting)?.Apps ?? [])
            .Where(app => app?.Id is { Length: > 0 })
            .DistinctBy(app => app.Id)
            .ToDictionary(app => app.Id);
    }

    /// <summary>Whether the keyboard is listened to stays as the user has it now.</summary>
    public void Replace(Action replace)
    {
        lock (gate)
        {
            var enabled = chosen.Enabled;
            replace();
            Open();
            if (chosen.Enabled == enabled)
                return;
            settings.Set(Setting, chosen with { Enabled = enabled });
            Use(chosen with { Enabled = enabled });
        }
    }

    /// <summary>Checks the settings, keeps them and uses them from now on.</summary>
    public void Save(KeyboardSettings given)
    {
        if (given.Apps.Count > MostApps)
            throw new InvalidInputException(
                "apps",
                $"At most {MostApps} applications can have a delivery of their own."
            );
        given = given with
        {
            Apps = [.. given.Apps.Select((app, at) => InvalidInputException.Within($"apps[{at}]", () => Checked(app)))],
        };
        lock (gate)
        {
            settings.Set(Setting, given);
            Use(given);
        }
    }

    /// <summary>The delivery chosen for an application; null for the usual one.</summary>
    public AppDelivery? DeliveryIn(string app) => deliveries.GetValueOrDefault(app);

    /// <summary>The applications that were typed in, by name.</summary>
    public IReadOnlyList<DesktopApplication> Seen()
    {
        lock (gate)
            return [.. seen.Values.OrderBy(app => app.Name, StringComparer.CurrentCultureIgnoreCase)];
    }

    /// <summary>An application is typed in; true when it is a new one.</summary>
    public bool See(DesktopApplication app)
    {
        lock (gate)
        {
            if (seen.TryGetValue(app.Id, out var known) && known == app || seen.Count >= MostApps)
                return false;
            seen[app.Id] = app;
            settings.Set(SeenSetting, new SeenApps([.. seen.Values]));
            return true;
        }
    }

    private void Use(KeyboardSettings given)
    {
        deliveries = given
            .Apps.DistinctBy(app => app.App)
            .ToDictionary(app => app.App, app => new AppDelivery(app.PasteChord, app.AlwaysType, app.DelayMs));
        chosen = given;
    }

    private static KeyboardAppDelivery Checked(KeyboardAppDelivery app)
    {
        if (app.App is not { Length: > 0 and <= 80 })
            throw new InvalidInputException(
                "app",
                "Name the application by the class of its windows, in at most 80 characters."
            );
        var good = new AppDelivery(app.PasteChord, app.AlwaysType, app.DelayMs).Checked();
        return app with { PasteChord = good.PasteChord };
    }

    private static bool IsGood(KeyboardSettings kept)
    {
        try
        {
            return kept.Apps.All(app => app?.PasteChord is not null && Checked(app) == app);
        }
        catch (InvalidInputException)
        {
            return false;
        }
    }
}
