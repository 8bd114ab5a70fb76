using System.Diagnostics;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>A page in Chromium with one field, whose content is told by the window's title.</summary>
internal sealed class BrowserField
{
    private readonly VirtualDesktop desktop;
    private readonly nint window;

    /// <param name="isRich">A contenteditable element rather than a plain field.</param>
    /// <param name="isFirefox">Whether another family of browsers shows it.</param>
    public BrowserField(VirtualDesktop desktop, bool isRich, bool isFirefox = false)
    {
        this.desktop = desktop;
        var file = Path.Combine(desktop.Folder, $"field-{isRich}.html");
        var field = isRich
            ? "<div id=f contenteditable style='white-space:pre-wrap;min-height:200px'></div>"
            : "<textarea id=f rows=10 cols=80></textarea>";
        File.WriteAllText(
            file,
            $$"""
            <!doctype html><meta charset=utf-8><title>field</title>{{field}}<script>
            const f = document.getElementById("f");
            // Only a page that has the keyboard says so: what is typed before goes nowhere.
            const tell = () => { if (document.hasFocus()) document.title = `held [${(f.value ?? f.textContent).replaceAll("\u00a0", " ")}]`; };
            f.addEventListener("input", tell); addEventListener("focus", tell); f.focus(); tell();
            </script>
            """
        );
        window = isFirefox ? InFirefox(file) : InChromium(file, isRich);
        Wait.Until("the field", () => Text() == "");
    }

    private nint InChromium(string file, bool isRich)
    {
        desktop.Start(
            "chromium",
            $"--app=file://{file}",
            $"--user-data-dir={Path.Combine(desktop.Folder, $"profile-{isRich}")}",
            "--class=FieldPage",
            "--ozone-platform=x11",
            "--no-first-run",
            "--no-default-browser-check",
            "--password-store=basic",
            "--disable-background-networking",
            "--disable-extensions",
            "--no-sandbox",
            "--test-type",
            "--disable-gpu",
            "--disable-dev-shm-usage"
        );
        return desktop.Await("FieldPage").Id;
    }

    private nint InFirefox(string file)
    {
        var profile = Path.Combine(desktop.Folder, $"firefox-{Guid.NewGuid():N}");
        Directory.CreateDirectory(profile);
        File.WriteAllText(
            Path.Combine(profile, "user.js"),
            """
            user_pref("browser.shell.checkDefaultBrowser", false);
            user_pref("browser.aboutwelcome.enabled", false);
            user_pref("datareporting.policy.dataSubmissionEnabled", false);
            user_pref("toolkit.telemetry.reportingpolicy.firstRun", false);
            user_pref("browser.startup.homepage_override.mstone", "ignore");
            user_pref("termsofuse.bypassNotification", true);
            user_pref("app.normandy.enabled", false);
            user_pref("app.update.enabled", false);
            """
        );
        desktop.Start("firefox-esr", "--no-remote", "--profile", profile, $"file://{file}");
        nint found = 0;
        Wait.Until("the browser", () =>
        {
            var active = desktop.Windows.Active();
            found = active.Id;
            return active.Title.StartsWith("held [", StringComparison.Ordinal);
        });
        return found;
    }

    /// <summary>Waits for what is to be in the field; false when something else stays there.</summary>
    public bool Comes(string wanted)
    {
        for (var (last, since) = (Text(), Stopwatch.StartNew()); last != wanted; Thread.Sleep(10))
        {
            if (Text() is var now && now != last)
                (last, since) = (now, Stopwatch.StartNew());
            // What has not changed for so long is not on its way any more.
            if (since.Elapsed > Patience.Longest / 6)
                return false;
        }
        return true;
    }

    /// <summary>What the field holds; null when the page does not tell.</summary>
    public string? Text() =>
        desktop.Windows.Of(window).Title is ['h', 'e', 'l', 'd', ' ', '[', .. var rest]
        && rest.LastIndexOf(']') is var end and >= 0
            ? rest[..end]
            : null;
}
