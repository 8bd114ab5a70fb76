using DashSprout.Core.Text;
using DashSprout.Keyboard.Linking;
using NodaTime;

namespace DashSprout.Keyboard.X11;

/// <summary>Types into the application in front as a keyboard does.</summary>
internal sealed class InjectedInput(
    Injection injection,
    DesktopClipboard clipboard,
    DesktopWindows windows,
    Action stillAtWork
) : IApplicationInput
{
    private const int ComesMs = 5000,
        LookMs = 5,
        WaitMs = 20;
    private static readonly Duration LongestWait = Duration.FromMinutes(1);

    /// <inheritdoc/>
    public bool CanType(string text) => injection.CanType(text);

    /// <inheritdoc/>
    public bool Has(Key key) => injection.Has(key);

    /// <inheritdoc/>
    public void Type(string text, int delayMs) => injection.Type(text, delayMs);

    /// <inheritdoc/>
    public void Press(Key key, int times, int delayMs) => injection.Press(key, times, delayMs);

    /// <inheritdoc/>
    public bool HasFocus(nint window) => window == 0 || windows.ActiveId() == window;

    /// <inheritdoc/>
    public void StillAtWork() => stillAtWork();

    /// <inheritdoc/>
    public void Wait(Duration time)
    {
        var until = Environment.TickCount64 + (long)(time < LongestWait ? time : LongestWait).TotalMilliseconds;
        while (Environment.TickCount64 < until)
        {
            stillAtWork();
            clipboard.Serve();
            Thread.Sleep((int)Math.Clamp(until - Environment.TickCount64, 0, WaitMs));
        }
    }

    /// <inheritdoc/>
    public DesktopWindow GoTo(string app, string field)
    {
        var wanted = windows
            .All()
            .LastOrDefault(window =>
                window.App == app
                && (field.Length == 0 || window.Title.Contains(field, StringComparison.OrdinalIgnoreCase))
            )
            ?? throw new DeliveryStopped(
                $"No window of “{app}”{(field.Length == 0 ? "" : $" with “{field}” in its title")} is open, "
                    + "so the rest did not go in."
            );
        windows.Activate(wanted.Id);
        var until = Environment.TickCount64 + ComesMs;
        while (!windows.HasKeys(wanted.Id))
        {
            // The focus may be in a window that does not tell whose it is.
            var isOver = Environment.TickCount64 > until;
            if (isOver && windows.ActiveId() == wanted.Id)
                break;
            if (isOver)
                throw new DeliveryStopped(
                    $"The window of “{app}” did not come to the front, so the rest did not go in."
                );
            stillAtWork();
            Thread.Sleep(LookMs);
        }
        return wanted;
    }
}
