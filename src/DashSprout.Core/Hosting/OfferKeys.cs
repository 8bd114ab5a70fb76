using DashSprout.Core.Text;

namespace DashSprout.Core.Hosting;

/// <summary>The keys that take an offer and walk through several.</summary>
public static class OfferKeys
{
    /// <summary>The key that takes an offer unless another is chosen: at a line's end the arrow goes nowhere.</summary>
    public static Key Usual { get; } = Key.Parse("key", "ArrowRight");

    /// <summary>The next one.</summary>
    public static Key Next { get; } = Key.Parse("key", "Alt+ArrowDown");

    /// <summary>The one before.</summary>
    public static Key Previous { get; } = Key.Parse("key", "Alt+ArrowUp");

    /// <summary>Whether a key goes somewhere within a line, so that it takes an offer at its end only.</summary>
    public static bool IsAtLineEndOnly(Key key) => key == Usual;

    /// <summary>
    /// Reads the key that takes an offer; throws <see cref="InvalidInputException"/> for one that is used in ordinary
    /// typing.
    /// </summary>
    public static Key Read(string field, string value)
    {
        var key = Key.Parse(field, value);
        if (key == Next || key == Previous)
            throw new InvalidInputException(field, $"{key} walks through several offers. Choose another key.");
        return
            key is { Kind: KeyKind.Named or KeyKind.Chord, AddsText: false }
            && key != Key.Backspace
            && key != Key.Escape
            && key.Value != "Delete"
            ? key
            : throw new InvalidInputException(
                field,
                $"“{value}” is used in ordinary typing, so it would take offers that nobody wants. Choose an "
                    + "arrow, End, a function key or a chord such as Ctrl+Alt+Enter."
            );
    }
}
