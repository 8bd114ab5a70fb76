using System.Diagnostics;
using DashSprout.Keyboard.Linking;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>An application that is open, with the file that tells what it holds.</summary>
internal sealed record OpenApplication(VirtualDesktop Desktop, Process Process, DesktopWindow Window, string File)
{
    /// <summary>Tells a whole text from its first half; a file is whole once nobody has it open otherwise.</summary>
    public Func<string, bool>? IsWhole { get; init; }

    /// <summary>Brings it to the front.</summary>
    public void Activate()
    {
        Desktop.Windows.Activate(Window.Id);
        Wait.Until($"{Window.App} in front", () => Desktop.Windows.HasKeys(Window.Id));
    }

    /// <summary>Has it save by Ctrl+S and gives what it holds.</summary>
    public string Saved()
    {
        Desktop.Settle();
        var before = System.IO.File.GetLastWriteTimeUtc(File);
        Desktop.Keyboard.Chord("Control_L", "s");
        Wait.Until("the file to be saved", () =>
            System.IO.File.GetLastWriteTimeUtc(File) > before && (IsWhole?.Invoke(Read()) ?? !Wait.IsOpen(File))
        );
        return Read();
    }

    private string Read() => System.IO.File.ReadAllText(File);

    /// <summary>
    /// Waits until letters reach the document, which in some programs is a good while after the window is there.
    /// </summary>
    /// <param name="isThere">Tells the text of a document with an x.</param>
    public void AwaitFirstLetter(Func<string, bool> isThere)
    {
        Wait.Until("the first letter in the document", () =>
        {
            Desktop.Keyboard.Type("x");
            Desktop.Keyboard.Chord("Control_L", "s");
            for (var looks = 0; looks < 50; looks++, Thread.Sleep(10))
                if (isThere(Read()))
                    return true;
            return false;
        });
        Wait.AtRest(Process);
        Desktop.Keyboard.Chord("Control_L", "a");
        Desktop.Keyboard.Tap("Delete");
        Desktop.Settle();
        Wait.AtRest(Process);
    }

    /// <summary>The lines that were entered so far.</summary>
    public string[] Lines() => System.IO.File.Exists(File) ? System.IO.File.ReadAllLines(File) : [];
}
