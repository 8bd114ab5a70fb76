using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Text;

namespace DashSprout.Keyboard.Linking;

/// <summary>
/// Carries the steps of a delivery out in the application that has the focus. What cannot be done to its end is not
/// begun, and whatever stops it, the clipboard is what it was.
/// </summary>
internal sealed class DeliveryRunner(IApplicationInput input, IApplicationClipboard clipboard, LinkProgram program)
{
    /// <summary>A long text is typed in pieces, so that a window that goes away does not send the rest to another one.</summary>
    private const int PieceUnits = 400;

    private static readonly Key ArrowLeft = Key.Parse("key", "ArrowLeft"),
        SelectLeft = Key.Parse("key", "Shift+ArrowLeft");

    private const string NoPasting =
        "The keyboard layout does not type every character of this text, and this field refuses pasting.";

    /// <summary>Where it goes in now: a step may have brought another window to the front.</summary>
    private DeliveryPlace place = new(0, AppDelivery.Usual, false, false);

    /// <summary>Whether keys were pressed that may count only after what is typed behind them.</summary>
    private bool isBehind;

    /// <summary>Whether the last delivery offered formatting and the application took the plain text.</summary>
    public bool TookPlainOnly { get; private set; }

    /// <summary>Whether the last delivery has carried its first step out.</summary>
    public bool HasBegun { get; private set; }

    /// <summary>Whether something was deleted and nothing put in for it when the last delivery was stopped.</summary>
    public bool OnlyDeleted { get; private set; }

    /// <summary>Told when a step has brought another window to the front; tells where the rest goes in.</summary>
    public Func<DesktopWindow, DeliveryPlace>? Goes { get; set; }

    /// <summary>
    /// Carries steps out; more graphemes are deleted first than they say when keys have come between. Throws
    /// <see cref="DeliveryStopped"/> when it cannot be carried to its end.
    /// </summary>
    public void Run(IReadOnlyList<DeliveryStep> steps, int alsoDelete, DeliveryPlace at)
    {
        (TookPlainOnly, HasBegun, OnlyDeleted, isBehind, place) = (false, false, false, false, at);
        foreach (var step in steps)
            if (Impossible(step) is { } why)
                throw new DeliveryStopped(why);
        try
        {
            foreach (var step in steps)
            {
                input.StillAtWork();
                One(step, alsoDelete);
                if (step is DeliveryStep.Delete)
                    alsoDelete = 0;
                HasBegun = true;
            }
            // What somebody types next must not overtake the last of these.
            CatchUp();
        }
        catch (Exception)
        {
            clipboard.GiveBack();
            throw;
        }
    }

    /// <summary>Why a step cannot be carried out here; null when nothing is known to be in its way.</summary>
    private string? Impossible(DeliveryStep step)
    {
        var paste = Key.Parse("pasteChord", place.Delivery.PasteChord);
        var text = step switch
        {
            DeliveryStep.PutIn put => put.Plain,
            DeliveryStep.Press { Key: { Kind: KeyKind.Typed } typed } => typed.Text,
            _ => null,
        };
        return step switch
        {
            _ when text is not null && input.CanType(text) => null,
            _ when text is not null && place.IsSecret => NoPasting,
            _ when text is not null && !input.Has(paste) => NoKey(paste),
            DeliveryStep.Press { Key: { Kind: not KeyKind.Typed } named } when !input.Has(named) => NoKey(named),
            DeliveryStep.SetClipboard content when !IsTyped(content.Plain) && !input.Has(paste) => NoKey(paste),
            _ => null,
        };
    }

    private static string NoKey(Key key) => $"The keyboard layout has no key for {key.Value}, so nothing went in.";

    /// <summary>Whether a text that is to be pasted is typed here instead.</summary>
    private bool IsTyped(string text) => (place.Delivery.AlwaysType || place.IsSecret) && input.CanType(text);

    private void One(DeliveryStep step, int alsoDelete)
    {
        switch (step)
        {
            case DeliveryStep.Delete delete:
                Press(Key.Backspace, delete.Graphemes + alsoDelete);
                OnlyDeleted |= delete.Graphemes > 0;
                return;
            case DeliveryStep.TakeBack back:
                Press(Key.Backspace, back.Steps);
                return;
            case DeliveryStep.PutIn text:
                PutIn(text.Plain, text.Rich);
                return;
            case DeliveryStep.SetClipboard content:
                clipboard.Show(content.Plain, Html(content.Rich), place.IsTerminal);
                return;
            case DeliveryStep.Paste when clipboard.Shown is { } shown && IsTyped(shown):
                PutIn(shown, null);
                return;
            case DeliveryStep.Paste:
                Check();
                Pasting(clipboard.Paste);
                return;
            case DeliveryStep.RestoreClipboard:
                clipboard.GiveBack();
                return;
            // A character that was composed has no key of its own.
            case DeliveryStep.Press { Key: { Kind: KeyKind.Typed } typed } when isBehind || !input.Has(typed):
                PutIn(typed.Text, null);
                return;
            case DeliveryStep.Press press:
                Press(press.Key, 1);
                OnlyDeleted = false;
                return;
            case DeliveryStep.MoveBack move:
                Press(ArrowLeft, move.Steps);
                return;
            case DeliveryStep.SelectBack select:
                Press(SelectLeft, select.Steps);
                return;
            case DeliveryStep.Wait wait:
                input.Wait(wait.For);
                return;
            case DeliveryStep.GoTo to:
                var window = input.GoTo(to.App, to.Field);
                place = Goes?.Invoke(window) ?? place with { Window = window.Id };
                return;
            case DeliveryStep.Open open:
                program.Open(open.Target);
                return;
            case DeliveryStep.ShowNotice notice:
                program.Say(notice.Text);
                return;
            case DeliveryStep.Remember:
                // An application cannot be asked to remember; what went in is taken back key by key.
                return;
            default:
                throw new InvalidOperationException($"The step {step.GetType().Name} is not known here.");
        }
    }

    private void Press(Key key, int times)
    {
        if (times == 0)
            return;
        Check();
        if (!input.Has(key))
            throw new DeliveryStopped(NoKey(key));
        input.Press(key, times, place.Delivery.DelayMs);
        isBehind |= key.Kind != KeyKind.Typed && place.Manners.CommandsComeLate;
    }

    private void PutIn(string text, Flow? rich)
    {
        Check();
        if (input.CanType(text) && !(isBehind && MayPaste))
        {
            CatchUp();
            TypeInPieces(text);
            return;
        }
        if (place.IsSecret)
            throw new DeliveryStopped(NoPasting);
        // A paste is a key that acts, too: it comes in order.
        Pasting(at => clipboard.PasteInPassing(text, Html(rich), at));
    }

    private void TypeInPieces(string text)
    {
        for (var at = 0; at < text.Length; )
        {
            var length = Math.Min(PieceUnits, text.Length - at);
            if (at + length < text.Length && char.IsHighSurrogate(text[at + length - 1]))
                length--;
            input.Type(text.Substring(at, length), place.Delivery.DelayMs);
            OnlyDeleted = false;
            at += length;
            input.StillAtWork();
            if (at < text.Length)
                Check();
        }
    }

    private void Pasting(Action<DeliveryPlace> paste)
    {
        try
        {
            paste(place);
        }
        finally
        {
            // Whoever has asked for it may have put it in, also when it did not take it to its end.
            if (clipboard.WasAsked)
                OnlyDeleted = false;
        }
        TookPlainOnly |= clipboard.TookPlainOnly;
        isBehind = false;
    }

    private bool MayPaste =>
        !place.IsSecret && !place.Delivery.AlwaysType && input.Has(Key.Parse("pasteChord", place.Delivery.PasteChord));

    private void CatchUp()
    {
        if (isBehind)
            input.Wait(place.Manners.CommandsLag);
        isBehind = false;
    }

    private static string? Html(Flow? rich) => rich is null ? null : Writers.Rich(rich).Text;

    /// <summary>Nothing more goes in once somebody has gone elsewhere; they need not be told.</summary>
    private void Check()
    {
        if (!input.HasFocus(place.Window))
            throw new DeliveryStopped(null);
    }
}
