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
        var start = isApp
            ? new ProcessStartInfo("gtk-launch") { ArgumentList = { target[4..] } }
            : new ProcessStartInfo("xdg-open") { ArgumentList = { target } };
        start.RedirectStandardError = start.RedirectStandardOutput = true;
        try
        {
            Process.Start(start)?.Dispose();
            return null;
        }
        catch (Win32Exception)
        {
            return $"“{target}” could not be opened: {start.FileName} is not installed.";
        }
    }
}
