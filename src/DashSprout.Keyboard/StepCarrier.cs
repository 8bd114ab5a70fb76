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
    /// How long an application may take to ask for what it pastes, and how long it is let alone once it has asked.
    /// </summary>
    private const int PasteMs = 1000,
        SettleMs = 15,
        OthersMs = 150;

    private ClipboardContent? before;
    private bool hasBefore;
    private ClipboardContent? put;

    /// <summary>Whether the last paste offered formatting and the application took the plain text.</summary>
    public bool TookPlainOnly { get; private set; }

    /// <summary>
    /// Carries steps out; more graphemes are deleted first than they say when keys have come between.
    /// </summary>
    public void Carry(IReadOnlyList<DeliveryStep> steps, int alsoDelete, CarryPlace place)
    {
        TookPlainOnly = false;
        try
        {
            foreach (var step in steps)
            {
                waiting();
                One(step, ref alsoDelete, place);
            }
        }
        catch (DeliveryStopped)
        {
            Restore();
            throw;
        }
    }

    private void One(DeliveryStep step, ref int alsoDelete, CarryPlace place)
    {
        var delay = place.Delivery.DelayMs;
        switch (step)
        {
            case DeliveryStep.Delete delete:
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
                Check(place);
                if (!injection.Press(press.Key, 1, delay))
                    throw new DeliveryStopped(
                        $"The keyboard layout has no key for {press.Key.Value}, so the rest did not go in."
                    );
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
            throw new DeliveryStopped($"The keyboard layout has no key for {key.Value}, so the text did not go in.");
    }

    private void PutIn(string text, Flow? rich, CarryPlace place)
    {
        Check(place);
        if (injection.CanType(text))
        {
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
            throw new DeliveryStopped(
                "The keyboard layout does not type every character of this text, and this field refuses pasting."
            );
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
            throw new DeliveryStopped(
                $"The keyboard layout has no key for {chord.Value}, so the text could not be pasted."
            );
        var client = place.Window >> 21;
        var began = Environment.TickCount64;
        while (true)
        {
            clipboard.Serve();
            var now = Environment.TickCount64;
            var byOurs = clipboard.Asked.Exists(one => one.Requestor >> 21 == client);
            if (
                clipboard.Asked.Count > 0
                && !clipboard.IsSending
                && now - clipboard.AskedAtMs >= (byOurs ? SettleMs : OthersMs)
            )
                break;
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
            offered
            && !clipboard.Asked.Exists(one => one.Target == "text/html")
            && put?.Parts.ContainsKey("text/html") == true;
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
