namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>The applications in which is typed on and on: each family of them that Debian has.</summary>
internal static class MarathonPlaces
{
    /// <summary>A name, the program it needs, and how a number of expansions is done there.</summary>
    public sealed record MarathonPlace(
        string Name,
        string Program,
        Func<LinkedDesktop, int, (int Done, IReadOnlyList<string> Wrong)> Run
    )
    {
        /// <summary>Whether this machine has it.</summary>
        public bool IsThere => File.Exists($"/usr/bin/{Program}");

        /// <summary>
        /// Whether it loses keys by itself where the machine is busy, whoever types them: of three Backspaces of a hand,
        /// 20 ms apart and without any link, the office suite's own toolkit counted one. That says nothing of the link, so
        /// only the bench types there, on an idle machine.
        /// </summary>
        public bool LosesKeysWhenBusy { get; init; }
    }

    public static IReadOnlyList<MarathonPlace> All { get; } =
    [
        new("xterm", "xterm", (desk, count) => Marathon.InTerminal(desk, desk.Desktop.Terminal(), count)),
        new("VTE", "lxterminal", (desk, count) => Marathon.InTerminal(desk, desk.Desktop.VteTerminal(), count)),
        new("GTK 3", "mousepad", (desk, count) => Marathon.InEditor(desk, desk.Desktop.GtkEditor().Saved, count)),
        new("GTK 4", "gnome-text-editor", (desk, count) =>
            Marathon.InEditor(desk, desk.Desktop.Gtk4Editor().Saved, count)
        ),
        new("Qt 5", "featherpad", (desk, count) => Marathon.InEditor(desk, desk.Desktop.QtEditor().Saved, count)),
        new("Chromium, plain", "chromium", (desk, count) =>
            Marathon.InPage(desk, new BrowserField(desk.Desktop, isRich: false), count)
        ),
        new("Chromium, editable", "chromium", (desk, count) =>
            Marathon.InPage(desk, new BrowserField(desk.Desktop, isRich: true), count)
        ),
        new("Firefox, plain", "firefox-esr", (desk, count) =>
            Marathon.InPage(desk, new BrowserField(desk.Desktop, isRich: false, isFirefox: true), count)
        ),
        new("Firefox, editable", "firefox-esr", (desk, count) =>
            Marathon.InPage(desk, new BrowserField(desk.Desktop, isRich: true, isFirefox: true), count)
        ),
        new("Office writer, GTK 3", "soffice", (desk, count) =>
            Marathon.InEditor(desk, new OfficeWriter(desk.Desktop, "gtk3").Saved, count)
        ),
        new("Office writer, generic", "soffice", (desk, count) =>
            Marathon.InEditor(desk, new OfficeWriter(desk.Desktop, "gen").Saved, count)
        )
        {
            LosesKeysWhenBusy = true,
        },
    ];
}
