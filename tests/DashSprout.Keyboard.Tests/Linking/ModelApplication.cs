using System.Globalization;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Linking;
using NodaTime;

namespace DashSprout.Keyboard.Tests.Linking;

/// <summary>
/// An application with one field, a clipboard and a keyboard, in memory: what is done to it is what it shows. It can
/// fail, or lose the focus, at any point of what is done.
/// </summary>
internal sealed class ModelApplication : IApplicationInput, IApplicationClipboard, IKeyHold
{
    private readonly List<string> before = [],
        behind = [];
    private string? keptClipboard;
    private bool isKept;

    /// <summary>What the field shows.</summary>
    public string Text => string.Concat(before) + string.Concat(Enumerable.Reverse(behind));

    /// <summary>What is on the clipboard.</summary>
    public string Clipboard { get; private set; } = "copied before";

    /// <summary>Characters that only the clipboard brings in.</summary>
    public string Lacking { get; init; } = "→é";

    /// <summary>Whether it pastes the plain text where formatting is offered.</summary>
    public bool PastesPlain { get; init; }

    /// <summary>How many things were done to it.</summary>
    public int Point { get; private set; }

    /// <summary>What happens at a point instead of what is done there.</summary>
    public Action<int> At { get; set; } = _ => { };

    /// <summary>Whether its window has the focus.</summary>
    public bool IsInFront { get; set; } = true;

    /// <summary>Typed while the keys are about to be held.</summary>
    public string Slipping { get; set; } = "";

    /// <summary>Whether the caret is moved then.</summary>
    public bool Moves { get; set; }

    /// <inheritdoc/>
    public bool IsOn { get; private set; }

    /// <inheritdoc/>
    public string? Shown { get; private set; }

    /// <inheritdoc/>
    public bool WasAsked { get; private set; }

    /// <inheritdoc/>
    public bool TookPlainOnly { get; private set; }

    /// <inheritdoc/>
    public bool CanType(string text) => !text.Any(Lacking.Contains);

    /// <inheritdoc/>
    public bool Has(Key key) => key.Kind != KeyKind.Typed || CanType(key.Text);

    /// <inheritdoc/>
    public void Type(string text, int delayMs)
    {
        Reach();
        Insert(text);
    }

    /// <inheritdoc/>
    public void Press(Key key, int times, int delayMs)
    {
        Reach();
        for (var count = 0; count < times; count++)
            Press(key);
    }

    /// <inheritdoc/>
    public bool HasFocus(nint window) => IsInFront;

    /// <inheritdoc/>
    public DesktopWindow GoTo(string app, string field) => throw new DeliveryStopped($"No window of “{app}” is open.");

    /// <inheritdoc/>
    public void Wait(Duration time) => Reach();

    /// <inheritdoc/>
    public void StillAtWork() { }

    /// <inheritdoc/>
    public void Blank() { }

    /// <inheritdoc/>
    public void Show(string plain, string? html, bool isTerminal)
    {
        Reach();
        if (!isKept)
            (keptClipboard, isKept) = (Clipboard, true);
        Clipboard = plain;
        Shown = plain;
    }

    /// <inheritdoc/>
    public void Paste(DeliveryPlace place)
    {
        WasAsked = false;
        Reach();
        WasAsked = true;
        TookPlainOnly = PastesPlain;
        Insert(Clipboard);
    }

    /// <inheritdoc/>
    public void PasteInPassing(string plain, string? html, DeliveryPlace place)
    {
        var saved = Clipboard;
        Clipboard = plain;
        try
        {
            Paste(place);
        }
        finally
        {
            Clipboard = saved;
        }
    }

    /// <inheritdoc/>
    public void GiveBack()
    {
        if (isKept)
            Clipboard = keptClipboard!;
        (isKept, Shown) = (false, null);
    }

    /// <inheritdoc/>
    public void WhileHeld(Func<Slipped, bool> act)
    {
        IsOn = true;
        Insert(Slipping);
        if (act(new Slipped(Slipping.Length, Moves)))
            Insert(Slipping);
        IsOn = false;
    }

    /// <summary>Puts a text in at the caret, as whoever types does.</summary>
    public void Insert(string text)
    {
        var letters = StringInfo.GetTextElementEnumerator(text);
        while (letters.MoveNext())
            before.Add(letters.GetTextElement());
    }

    private void Reach() => At(Point++);

    private void Press(Key key)
    {
        switch (key.Value)
        {
            case "Backspace":
                before.RemoveAt(before.Count - 1);
                return;
            case "ArrowLeft":
                behind.Add(before[^1]);
                before.RemoveAt(before.Count - 1);
                return;
            default:
                Insert(key.Text);
                return;
        }
    }
}
