using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Native;

namespace DashSprout.Keyboard;

/// <summary>Where steps are carried out.</summary>
/// <param name="Window">The window that must keep the focus.</param>
/// <param name="IsSecret">Whether the field hides what is typed: nothing goes through the clipboard.</param>
/// <param name="IsTerminal">Whether it pastes from PRIMARY.</param>
internal sealed record CarryPlace(nint Window, AppDelivery Delivery, bool IsSecret, bool IsTerminal);

/// <summary>
/// Thrown when a delivery ends before its end, with the reason for the user; null when it needs none.
/// </summary>
internal sealed class DeliveryStopped(string? reason) : Exception(reason)
{
    public string? Reason { get; } = reason;
}

/// <summary>Carries the steps of a delivery out in the application that has the focus.</summary>
internal sealed unsafe class StepCarrier(
    Injection injection,
    DesktopClipboard clipboard,
    DesktopWindows windows,
    Func<LinkProgram> program,
    Action waiting
)
{
    /// <summary>
    /// How long an application may take to ask for what it pastes, and between two pieces of it: one that stands still
    /// for two seconds still gets what it was to have.
    /// </summary>
    private const int PasteMs = 2500;

    /// <summary>
    /// How long it must have asked for nothing more. Chromium asks for the plain text, then a dozen times what there is,
    /// and 30 to 50 ms later for the formatting; GTK 4 puts the text in some time after it has it; a clipboard manager
    /// may have asked instead.
    /// </summary>
    private const int SettleMs = 60,
        FormattingMs = 250,
        OthersMs = 150;

    private const string Html = "text/html";

    private ClipboardContent? before;
    private bool hasBefore;
    private ClipboardContent? put;

    /// <summary>Whether the last paste offered formatting and the application took the plain text.</summary>
    public bool TookPlainOnly { get; private set; }

    /// <summary>Whether the last delivery has carried its first step out.</summary>
    public bool HasBegun { get; private set; }

    /// <summary>Whether something was deleted and nothing put in for it when the last delivery was stopped.</summary>
    public bool OnlyDeleted { get; private set; }

    /// <summary>
    /// Carries steps out; more graphemes are deleted first than they say when keys have come between.
    /// </summary>
    public void Carry(IReadOnlyList<DeliveryStep> steps, int alsoDelete, CarryPlace place)
    {
        (TookPlainOnly, HasBegun, OnlyDeleted) = (false, false, false);
        // What cannot be done to its end is not begun: nothing is deleted then.
        foreach (var step in steps)
            if (Impossible(step, place) is { } why)
                throw new DeliveryStopped(why);
        try
        {
            foreach (var step in steps)
            {
                waiting();
                One(step, ref alsoDelete, place);
                HasBegun = true;
            }
        }
        catch (DeliveryStopped)
        {
            Restore();
            throw;
        }
    }

    /// <summary>Why a step cannot be carried out here; null when nothing is known to be in its way.</summary>
    private string? Impossible(DeliveryStep step, CarryPlace place)
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
            _ when text is not null && injection.CanType(text) => null,
            _ when text is not null && place.IsSecret => NoPasting,
            _ when text is not null && !injection.Has(paste) => NoKey(paste),
            DeliveryStep.Press { Key: { Kind: not KeyKind.Typed } named } when !injection.Has(named) => NoKey(named),
            DeliveryStep.SetClipboard content
                when !((place.IsSecret || place.Delivery.AlwaysType) && injection.CanType(content.Plain))
                    && !injection.Has(paste) => NoKey(paste),
            _ => null,
        };
    }

    private const string NoPasting =
        "The keyboard layout does not type every character of this text, and this field refuses pasting.";

    private static string NoKey(Key key) => $"The keyboard layout has no key for {key.Value}, so nothing went in.";

    private void One(DeliveryStep step, ref int alsoDelete, CarryPlace place)
    {
        var delay = place.Delivery.DelayMs;
        switch (step)
        {
            case DeliveryStep.Delete delete:
                OnlyDeleted |= delete.Graphemes > 0;
                Keys(Key.Backspace, delete.Graphemes + alsoDelete, place);
                alsoDelete = 0;
                return;
            case DeliveryStep.TakeBack back:
                Keys(Key.Backspace, back.Steps, place);
                return;
            case DeliveryStep.PutIn text:
                PutIn(text.Plain, text.Rich, place);
                return;
            case DeliveryStep.SetClipboard content:
                if (!hasBefore)
                    (before, hasBefore) = (clipboard.Save(), true);
                put = ClipboardContent.Of(content.Plain, content.Rich is null ? null : Writers.Rich(content.Rich).Text);
                clipboard.Put(put, place.IsTerminal);
                return;
            case DeliveryStep.Paste:
                if ((place.Delivery.AlwaysType || place.IsSecret) && put?.Text is { } typed && injection.CanType(typed))
                    PutIn(typed, null, place);
                else
                    Paste(place);
                return;
            case DeliveryStep.RestoreClipboard:
                Restore();
                return;
            case DeliveryStep.Press press:
                // A character that was composed has no key of its own.
                if (press.Key.Kind == KeyKind.Typed && !injection.Has(press.Key))
                {
                    PutIn(press.Key.Text, null, place);
                    return;
                }
                Check(place);
                if (!injection.Press(press.Key, 1, delay))
                    throw new DeliveryStopped(NoKey(press.Key));
                OnlyDeleted = false;
                return;
            case DeliveryStep.MoveBack move:
                Keys(Key.Parse("key", "ArrowLeft"), move.Steps, place);
                return;
            case DeliveryStep.SelectBack select:
                Keys(Key.Parse("key", "Shift+ArrowLeft"), select.Steps, place);
                return;
            case DeliveryStep.Wait wait:
                Wait((int)Math.Min(wait.For.TotalMilliseconds, 60_000));
                return;
            case DeliveryStep.GoTo goTo:
                GoTo(goTo.App, goTo.Field);
                return;
            case DeliveryStep.Open open:
                program().Open(open.Target);
                return;
            case DeliveryStep.ShowNotice notice:
                program().Say(notice.Text);
                return;
            case DeliveryStep.Remember:
                // An application cannot be asked to remember; what went in is taken back key by key.
                return;
            default:
                throw new InvalidOperationException($"The step {step.GetType().Name} is not known here.");
        }
    }

    private void Keys(Key key, int times, CarryPlace place)
    {
        if (times == 0)
            return;
        Check(place);
        if (!injection.Press(key, times, place.Delivery.DelayMs))
            throw new DeliveryStopped(NoKey(key));
    }

    private void PutIn(string text, Flow? rich, CarryPlace place)
    {
        Check(place);
        if (injection.CanType(text))
        {
            OnlyDeleted = false;
            // A long text is typed in pieces, so that a window that goes away does not send the rest to another one.
            for (var at = 0; at < text.Length; )
            {
                var length = Math.Min(400, text.Length - at);
                if (at + length < text.Length && char.IsHighSurrogate(text[at + length - 1]))
                    length--;
                injection.Type(text.Substring(at, length), place.Delivery.DelayMs);
                at += length;
                waiting();
                if (at < text.Length)
                    Check(place);
            }
            return;
        }
        if (place.IsSecret)
            throw new DeliveryStopped(NoPasting);
        var saved = hasBefore ? null : clipboard.Save();
        clipboard.Put(ClipboardContent.Of(text, rich is null ? null : Writers.Rich(rich).Text), place.IsTerminal);
        try
        {
            Paste(place);
        }
        finally
        {
            if (hasBefore)
                clipboard.Put(put);
            else
                PutBack(saved);
        }
    }

    private void Paste(CarryPlace place)
    {
        Check(place);
        var chord = Key.Parse("pasteChord", place.Delivery.PasteChord);
        if (!injection.Press(chord))
            throw new DeliveryStopped(NoKey(chord));
        var client = place.Window >> 21;
        var began = Environment.TickCount64;
        while (true)
        {
            clipboard.Serve();
            var now = Environment.TickCount64;
            if (clipboard.Asked.Count > 0)
                OnlyDeleted = false;
            if (clipboard.Asked.Count > 0 && !clipboard.IsSending && now - clipboard.AskedAtMs >= Settles(client))
                break;
            if (clipboard.IsSending && now - clipboard.AskedAtMs > PasteMs)
            {
                clipboard.StopSending();
                throw new DeliveryStopped("The application stopped taking the text from the clipboard half-way.");
            }
            if (clipboard.Asked.Count == 0 && now - began > PasteMs)
                throw new DeliveryStopped(
                    "The application did not take the text from the clipboard. Choose another way for it "
                        + "under Settings › Keyboard."
                );
            waiting();
            var entry = new PollEntry { File = clipboard.Socket, Events = Posix.PollIn };
            _ = Posix.poll(&entry, 1, 3);
        }
        var offered = clipboard.IsServing && clipboard.Asked.Count > 0;
        TookPlainOnly |=
            offered && !clipboard.Asked.Exists(one => one.Target == Html) && put?.Parts.ContainsKey(Html) == true;
    }

    /// <summary>How long it must be quiet until a paste counts as done.</summary>
    private int Settles(nint client)
    {
        if (!clipboard.Asked.Exists(one => one.Requestor >> 21 == client))
            return OthersMs;
        var formatted = put?.Parts.ContainsKey(Html) == true && !clipboard.Asked.Exists(one => one.Target == Html);
        return formatted ? FormattingMs : SettleMs;
    }

    private void Restore()
    {
        if (!hasBefore)
            return;
        PutBack(before);
        (before, hasBefore, put) = (null, false, null);
    }

    private void PutBack(ClipboardContent? content)
    {
        clipboard.LeavePrimary();
        clipboard.Put(content);
    }

    private void Wait(int ms)
    {
        var until = Environment.TickCount64 + ms;
        while (Environment.TickCount64 < until)
        {
            waiting();
            clipboard.Serve();
            Thread.Sleep((int)Math.Clamp(until - Environment.TickCount64, 0, 20));
        }
    }

    private void GoTo(string app, string field)
    {
        var all = windows.All();
        var wanted = all.LastOrDefault(window =>
            window.App == app && (field.Length == 0 || window.Title.Contains(field, StringComparison.OrdinalIgnoreCase))
        )
            ?? throw new DeliveryStopped(
                $"No window of “{app}”{(field.Length == 0 ? "" : $" with “{field}” in its title")} is open, "
                    + "so the rest did not go in."
            );
        windows.Activate(wanted.Id);
        var until = Environment.TickCount64 + 1000;
        while (windows.Active().Id != wanted.Id)
        {
            if (Environment.TickCount64 > until)
                throw new DeliveryStopped(
                    $"The window of “{app}” did not come to the front, so the rest did not go in."
                );
            waiting();
            Thread.Sleep(5);
        }
        Goes?.Invoke(wanted);
    }

    /// <summary>Told when a step has brought another window to the front.</summary>
    public Action<DesktopWindow>? Goes { get; set; }

    /// <summary>The window that must keep the focus from now on; 0 when any may have it.</summary>
    public Func<nint> Window { get; set; } = () => 0;

    private void Check(CarryPlace place)
    {
        var wanted = Window();
        if (wanted != 0 && windows.ActiveId() is var active && active != wanted && place.Window != 0)
            throw new DeliveryStopped(null);
    }
}
