using DashSprout.Core.Text;
using NodaTime;

namespace DashSprout.Keyboard.Linking;

/// <summary>
/// What a link can do to the application in front. Every kind of desktop has its own way; the order of things and what
/// is made good when one fails are the same for all (<see cref="DeliveryRunner"/>).
/// </summary>
internal interface IApplicationInput
{
    /// <summary>Whether every character of a text can be typed.</summary>
    bool CanType(string text);

    /// <summary>Whether a key or chord can be pressed.</summary>
    bool Has(Key key);

    /// <summary>Types a text that can be typed, with a pause after each key.</summary>
    void Type(string text, int delayMs);

    /// <summary>Presses a key or chord that there is several times, with a pause after each.</summary>
    void Press(Key key, int times, int delayMs);

    /// <summary>Whether a window has the focus; 0 stands for any.</summary>
    bool HasFocus(nint window);

    /// <summary>
    /// Brings a window of an application to the front, one with <paramref name="field"/> in its title; throws
    /// <see cref="DeliveryStopped"/> when there is none.
    /// </summary>
    DesktopWindow GoTo(string app, string field);

    /// <summary>Lets some time pass.</summary>
    void Wait(Duration time);

    /// <summary>Called between steps: keys are held no longer than they may be.</summary>
    void StillAtWork();
}

/// <summary>What a link can do with the clipboard.</summary>
internal interface IApplicationClipboard
{
    /// <summary>Keeps what is on the clipboard, once, and puts something else there.</summary>
    /// <param name="isTerminal">Whether it is pasted in a terminal, which may take it from elsewhere.</param>
    void Show(string plain, string? html, bool isTerminal);

    /// <summary>
    /// Has the application paste what is there, and returns when it has it; throws <see cref="DeliveryStopped"/> when it
    /// does not take it.
    /// </summary>
    void Paste(DeliveryPlace place);

    /// <summary>Pastes something in passing: what was on the clipboard before is there again afterwards.</summary>
    void PasteInPassing(string plain, string? html, DeliveryPlace place);

    /// <summary>Puts back what was kept, if something was.</summary>
    void GiveBack();

    /// <summary>What was put there to be pasted; null when nothing was.</summary>
    string? Shown { get; }

    /// <summary>Whether somebody has asked for what was pasted last.</summary>
    bool WasAsked { get; }

    /// <summary>Whether what was pasted last has formatting and the application took the plain text.</summary>
    bool TookPlainOnly { get; }
}
