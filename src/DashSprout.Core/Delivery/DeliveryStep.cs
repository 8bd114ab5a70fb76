using DashSprout.Core.Bodies;
using DashSprout.Core.Text;
using NodaTime;

namespace DashSprout.Core.Delivery;

/// <summary>
/// One step of bringing a firing into a field; every host carries the steps out alike and in order. A caret step is
/// what an arrow key does: one grapheme, or one line's end.
/// </summary>
public abstract record DeliveryStep
{
    private DeliveryStep() { }

    /// <summary>
    /// Remove what is selected, which typing would have replaced, and graphemes before the caret; a line's end that was
    /// typed is one.
    /// </summary>
    public sealed record Delete(int Graphemes) : DeliveryStep;

    /// <summary>Put text in at the caret; the caret stands behind it then.</summary>
    /// <param name="Plain">The text for a field that takes no formatting, as the field's kind writes it.</param>
    /// <param name="Rich">The same for a rich field; null when the field takes no formatting.</param>
    public sealed record PutIn(string Plain, Flow? Rich) : DeliveryStep;

    /// <summary>Remember what the field holds now, in case the text that goes in next is taken back.</summary>
    public sealed record Remember : DeliveryStep;

    /// <summary>
    /// Take the text of the last delivery away: a field that could remember holds again what it held before that text
    /// went in, with no block or mark of it left; another removes the caret steps before the caret.
    /// </summary>
    public sealed record TakeBack(int Steps) : DeliveryStep;

    /// <summary>Put something on the clipboard; what is on it before is remembered until it is restored.</summary>
    /// <param name="Plain">The plain text.</param>
    /// <param name="Rich">The same with its formatting; null when there is none.</param>
    public sealed record SetClipboard(string Plain, Flow? Rich) : DeliveryStep;

    /// <summary>Paste what is on the clipboard at the caret.</summary>
    public sealed record Paste : DeliveryStep;

    /// <summary>Put back on the clipboard what was on it before.</summary>
    public sealed record RestoreClipboard : DeliveryStep;

    /// <summary>
    /// Press a key as if it had been typed, completely: one that a body presses, or one that was held back and goes to
    /// the application after all. It never sets a trigger off.
    /// </summary>
    public sealed record Press(Key Key) : DeliveryStep;

    /// <summary>Move the caret back by caret steps.</summary>
    public sealed record MoveBack(int Steps) : DeliveryStep;

    /// <summary>Select the caret steps before the caret.</summary>
    public sealed record SelectBack(int Steps) : DeliveryStep;

    /// <summary>Let some time pass.</summary>
    public sealed record Wait(Duration For) : DeliveryStep;

    /// <summary>Give the focus to another field, by the application's id and the field's name.</summary>
    public sealed record GoTo(string App, string Field) : DeliveryStep;

    /// <summary>Open an address, document or application.</summary>
    public sealed record Open(string Target) : DeliveryStep;

    /// <summary>Show the user a notice.</summary>
    public sealed record ShowNotice(string Text) : DeliveryStep;
}
