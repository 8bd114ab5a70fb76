using DashSprout.Core.Text;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Native;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// Has applications paste by the selections of X, and knows when they have: what was on the clipboard comes back only
/// then.
/// </summary>
internal sealed unsafe class Pasting(Injection injection, DesktopClipboard clipboard, Action stillAtWork)
    : IApplicationClipboard
{
    /// <summary>
    /// How long an application may take to ask for what it pastes, and between two pieces of it: one that stands still
    /// for two seconds still gets what it was to have.
    /// </summary>
    private const int PasteMs = 2500;

    /// <summary>
    /// How long it must have asked for nothing more: GTK 4 puts the text in some time after it has it; what takes
    /// formatting may ask for it after the plain text; a clipboard manager may have asked instead; and an application
    /// that is known to ask once more (<see cref="Manners.AsksToPaste"/>) has not got round to it, or does not.
    /// </summary>
    private const int SettleMs = 60,
        FormattingMs = 250,
        OthersMs = 150,
        OnceMoreMs = 1500;

    private const string HtmlTarget = "text/html";

    private ClipboardContent? before;
    private bool hasBefore;
    private ClipboardContent? put;

    /// <inheritdoc/>
    public string? Shown => put?.Text;

    /// <inheritdoc/>
    public bool WasAsked { get; private set; }

    /// <inheritdoc/>
    public bool TookPlainOnly { get; private set; }

    /// <inheritdoc/>
    public void Show(string plain, string? html, bool isTerminal)
    {
        if (!hasBefore)
            (before, hasBefore) = (clipboard.Save(), true);
        put = ClipboardContent.Of(plain, html);
        clipboard.Put(put, isTerminal);
    }

    /// <inheritdoc/>
    public void Paste(DeliveryPlace place) => Paste(put, place);

    /// <inheritdoc/>
    public void PasteInPassing(string plain, string? html, DeliveryPlace place)
    {
        var saved = hasBefore ? null : clipboard.Save();
        var content = ClipboardContent.Of(plain, html);
        clipboard.Put(content, place.IsTerminal);
        try
        {
            Paste(content, place);
        }
        finally
        {
            if (hasBefore)
                clipboard.Put(put, place.IsTerminal);
            else
                PutBack(saved);
        }
    }

    /// <inheritdoc/>
    public void GiveBack()
    {
        if (!hasBefore)
            return;
        PutBack(before);
        (before, hasBefore, put) = (null, false, null);
    }

    private void Paste(ClipboardContent? content, DeliveryPlace place)
    {
        (WasAsked, TookPlainOnly) = (false, false);
        var chord = Key.Parse("pasteChord", place.Delivery.PasteChord);
        if (!injection.Press(chord))
            throw new DeliveryStopped($"The keyboard layout has no key for {chord.Value}, so nothing went in.");
        var offersHtml = content?.Parts.ContainsKey(HtmlTarget) == true;
        var began = Environment.TickCount64;
        while (true)
        {
            clipboard.Serve();
            WasAsked = clipboard.Asked.Count > 0;
            var now = Environment.TickCount64;
            if (WasAsked && !clipboard.IsSending && now - clipboard.AskedAtMs >= Settles(place, offersHtml))
                break;
            if (clipboard.IsSending && now - clipboard.AskedAtMs > PasteMs)
            {
                clipboard.StopSending();
                throw new DeliveryStopped("The application stopped taking the text from the clipboard half-way.");
            }
            if (!WasAsked && now - began > PasteMs)
                throw new DeliveryStopped(
                    "The application did not take the text from the clipboard. Choose another way for it "
                        + "under Settings › Keyboard."
                );
            stillAtWork();
            var entry = new PollEntry { File = clipboard.Socket, Events = Posix.PollIn };
            _ = Posix.poll(&entry, 1, 3);
        }
        TookPlainOnly = clipboard.IsServing && offersHtml && !TookHtml;
    }

    private bool TookHtml => clipboard.Asked.Exists(one => one.Target == HtmlTarget);

    /// <summary>How long it must be quiet until a paste counts as done.</summary>
    private int Settles(DeliveryPlace place, bool offersHtml)
    {
        // The ids of a client's windows begin alike.
        var asked = clipboard.Asked.Count(one => one.Requestor >> 21 == place.Window >> 21);
        var often = place.Manners.AsksToPaste;
        return asked == 0 ? OthersMs
            : asked < often ? OnceMoreMs
            : often == 1 && offersHtml && !TookHtml ? FormattingMs
            : SettleMs;
    }

    private void PutBack(ClipboardContent? content)
    {
        clipboard.LeavePrimary();
        clipboard.Put(content);
    }
}
