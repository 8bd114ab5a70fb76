using DashSprout.Core;
using DashSprout.Core.Text;

namespace DashSprout.Keyboard.Linking;

/// <summary>How text reaches one application.</summary>
/// <param name="PasteChord">The chord that pastes there.</param>
/// <param name="AlwaysType">Whether everything is typed, since the application refuses pasting or does it
/// badly.</param>
/// <param name="DelayMs">A pause after each typed key, for applications that lose keys otherwise.</param>
public sealed record AppDelivery(string PasteChord, bool AlwaysType, int DelayMs)
{
    /// <summary>The longest pause after a key.</summary>
    public const int MostDelayMs = 50;

    /// <summary>Most applications.</summary>
    public static AppDelivery Usual { get; } = new("Ctrl+V", false, 0);

    /// <summary>Terminals, where Ctrl+V is a key of the program inside.</summary>
    public static AppDelivery Terminal { get; } = new("Shift+Insert", false, 0);

    /// <summary>How text reaches an application of which nobody has said anything.</summary>
    public static AppDelivery For(DesktopApplication application) => application.IsTerminal ? Terminal : Usual;

    /// <summary>
    /// The same with a chord that can be pressed; throws <see cref="InvalidInputException"/> for what makes no sense.
    /// </summary>
    public AppDelivery Checked()
    {
        if (DelayMs is < 0 or > MostDelayMs)
            throw new InvalidInputException(
                "delayMs",
                $"The pause after a key is from 0 to {MostDelayMs} milliseconds."
            );
        var key = Key.Parse("pasteChord", PasteChord);
        return key.Kind == KeyKind.Chord
            ? this with
            {
                PasteChord = key.Value,
            }
            : throw new InvalidInputException("pasteChord", "Pasting needs a chord, such as Ctrl+V or Shift+Insert.");
    }
}
