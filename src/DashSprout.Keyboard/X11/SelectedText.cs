using DashSprout.Core.Bodies;
using DashSprout.Core.Text;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// What is selected in the active window: from PRIMARY if that window's program owns it, else by copying and putting
/// back.
/// </summary>
internal sealed class SelectedText(
    DesktopClipboard clipboard,
    DesktopWindows windows,
    Injection injection,
    Action waiting
)
{
    private const int CopyMs = 200;

    /// <summary>The selected text; empty for none, null when it is too long to go in anywhere.</summary>
    /// <param name="mayCopy">Whether keys are held and may be pressed. In a terminal the chord that copies elsewhere
    /// ends a program; what is selected there is in PRIMARY anyway.
    /// </param>
    public string? Read(bool mayCopy)
    {
        var (text, owner) = clipboard.Selected();
        if (text.Length == 0 || owner >> 21 != windows.Focused() >> 21)
            text = mayCopy ? Copied() : "";
        return text.Length > RenderContext.MostUnits ? null : text;
    }

    private string Copied()
    {
        var before = clipboard.Save();
        clipboard.ForgetChange();
        injection.Press(Key.Parse("key", "Ctrl+C"));
        var until = Environment.TickCount64 + CopyMs;
        while (!clipboard.HasChanged)
        {
            // Nothing is selected, or the application does not copy by this chord.
            if (Environment.TickCount64 > until)
                return "";
            waiting();
            Thread.Sleep(2);
        }
        var copied = clipboard.Text(int.MaxValue) ?? "";
        clipboard.Put(before);
        return copied;
    }
}
