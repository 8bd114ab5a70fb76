using System.ComponentModel;
using System.Diagnostics;
using DashSprout.Keyboard.Linking;

namespace DashSprout.Keyboard.Services;

/// <summary>Opens addresses, documents and applications as the desktop does.</summary>
public static class DesktopOpening
{
    /// <summary>
    /// Opens a target: <c>https:</c>, <c>mailto:</c>, <c>file:</c>, or <c>app:</c> with the id of a desktop entry.
    /// Returns what is wrong, in words; null when nothing is.
    /// </summary>
    public static string? Open(string target)
    {
        var isApp = target.StartsWith("app:", StringComparison.Ordinal);
        if (isApp && Applications.FileOf(target[4..]) is null)
            return $"No application “{target[4..]}” is installed here.";
        return isApp ? Start("gtk-launch", target[4..]) : Start("xdg-open", target);
    }

    /// <summary>
    /// Starts a program that goes on by itself: in a session of its own, and what it says goes nowhere, since a pipe to
    /// this program would end before it does and end it too.
    /// </summary>
    internal static string? Start(string program, string argument)
    {
        const string script =
            """command -v "$0" >/dev/null || exit 127; setsid "$0" "$1" </dev/null >/dev/null 2>&1 &""";
        try
        {
            using var started = Process.Start("sh", ["-c", script, program, argument]);
            started.WaitForExit();
            return started.ExitCode == 0 ? null : $"“{argument}” could not be opened: {program} is not installed.";
        }
        catch (Win32Exception)
        {
            return $"“{argument}” could not be opened: this machine has no shell.";
        }
    }
}
