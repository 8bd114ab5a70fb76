using System.ComponentModel;
using System.Diagnostics;

namespace DashSprout.Keyboard.Services;

/// <summary>What runs the companion window's page.</summary>
public interface ICompanionBrowser
{
    /// <summary>The class of its windows.</summary>
    string WindowClass { get; }

    /// <summary>Starts it with a page; false when it cannot be started.</summary>
    bool Start(string address);

    /// <summary>Ends it.</summary>
    void Stop();
}

/// <summary>An installed browser of the Chromium family, with a profile of its own.</summary>
public sealed class CompanionBrowser(string program, string profile, string? display) : ICompanionBrowser
{
    private static readonly string[] Programs =
    [
        "chromium",
        "chromium-browser",
        "google-chrome-stable",
        "google-chrome",
        "microsoft-edge-stable",
        "brave-browser",
        "vivaldi-stable",
    ];
    private Process? process;

    /// <inheritdoc/>
    public string WindowClass => "DashSproutCompanion";

    /// <summary>The browser that is installed; null when none is.</summary>
    public static string? Find() =>
        Programs
            .SelectMany(name =>
                (Environment.GetEnvironmentVariable("PATH") ?? "")
                    .Split(':')
                    .Select(folder => Path.Combine(folder, name))
            )
            .FirstOrDefault(File.Exists);

    /// <inheritdoc/>
    public bool Start(string address)
    {
        Stop();
        var settings = Path.Combine(profile, "Default", "Preferences");
        Directory.CreateDirectory(Path.GetDirectoryName(settings)!);
        if (!File.Exists(settings))
            File.WriteAllText(settings, """{"browser":{"custom_chrome_frame":false}}""");
        var start = new ProcessStartInfo(program) { RedirectStandardError = true, RedirectStandardOutput = true };
        foreach (
            var argument in (string[])
                [
                    $"--app={address}",
                    $"--user-data-dir={profile}",
                    $"--class={WindowClass}",
                    "--ozone-platform=x11",
                    "--no-first-run",
                    "--no-default-browser-check",
                    "--password-store=basic",
                    "--disable-background-networking",
                    "--disable-extensions",
                    "--disable-sync",
                    "--window-size=780,500",
                    "--window-position=-3000,-3000",
                    .. Environment.UserName == "root"
                        ? (string[])["--no-sandbox", "--test-type", "--disable-gpu", "--disable-dev-shm-usage"]
                        : [],
                ]
        )
            start.ArgumentList.Add(argument);
        if (display is not null)
            start.Environment["DISPLAY"] = display;
        try
        {
            process = Process.Start(start);
        }
        catch (Win32Exception)
        {
            return false;
        }
        if (process is null)
            return false;
        // What it says is of no use to anybody, but a full pipe would stop it.
        process.OutputDataReceived += (_, _) => { };
        process.ErrorDataReceived += (_, _) => { };
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        return true;
    }

    /// <inheritdoc/>
    public void Stop()
    {
        if (process is null)
            return;
        try
        {
            if (!process.HasExited)
                process.Kill(entireProcessTree: true);
        }
        catch (InvalidOperationException)
        {
            // It ended by itself meanwhile.
        }
        process.Dispose();
        process = null;
    }
}

/// <summary>
/// Where no browser of the Chromium family is installed: the page opens in the user's usual browser when something is
/// asked, and takes the keys from there.
/// </summary>
public sealed class UsualBrowser : ICompanionBrowser
{
    /// <inheritdoc/>
    public string WindowClass => "DashSproutCompanion";

    /// <inheritdoc/>
    public bool Start(string address) => true;

    /// <inheritdoc/>
    public void Stop() { }
}
