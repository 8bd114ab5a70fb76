using DashSprout.Core.Delivery;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Native;

namespace DashSprout.Keyboard;

/// <summary>Where somebody types, what is held back there, and what the link tells of itself.</summary>
internal sealed unsafe partial class LinkLoop
{
    private void FocusActive(bool keepTail = false)
    {
        var window = windows.Active();
        if (companion?.IsOwn(window) == true)
            return;
        if (companion?.IsShown == true)
        {
            // The page stands in for the window, where no browser could be started for it.
            if (window.Id == 0 || IsOwnPage(window) || (companion.IsElsewhere && window.Id != companion.UserWindow))
                return;
            companion.Drop();
            Take(host.Leave(), holding.IsOn);
        }
        if (window.Id != active.Id || window.Title != active.Title && IsOwnPage(window) != mute)
            Focus(window);
        else if (!keepTail)
            active = window;
    }

    private void Focus(DesktopWindow window)
    {
        active = window;
        application = applications.Of(window.App, window.Instance);
        mute = IsOwnPage(window);
        if (!mute)
            recorder?.Focused(window.App, NameOf(window));
        reader.ForgetComposition();
        FocusHost(keepTail: false);
        if (window.App.Length > 0 && !mute)
            program.Seen(application);
    }

    /// <summary>A window's title without the sign before it that something in it is not saved.</summary>
    private static string NameOf(DesktopWindow window) => window.Title.TrimStart('*', '•', '●', ' ');

    /// <summary>
    /// The program's own page has a keyboard of its own. A window of that name is no such page where it cannot show one:
    /// an editor may show a file that is called so.
    /// </summary>
    private bool IsOwnPage(DesktopWindow window) =>
        window.Title.StartsWith("Dash Sprout", StringComparison.Ordinal)
        && applications.Of(window.App, window.Instance).MayShowPages;

    /// <summary>
    /// What is known of the field with the focus; what an application told that one has left counts no more.
    /// </summary>
    private FieldSight? SightHere =>
        program.Sight?.Now is { } sight && (sight.Pid == active.Pid || sight.Pid == 0 || active.Pid == 0)
            ? sight
            : null;

    private void FocusHost(bool keepTail)
    {
        secret = SightHere is { Kind: SightKind.Secret };
        var kind = KindHere();
        if (keepTail && kind == host.Field)
            return;
        Take(host.Focus(application.Id, kind, application.IsTerminal), held: holding.IsOn);
        SetAlways();
    }

    /// <summary>Whether the field may be for pass-phrases: until it has told what it is, it may.</summary>
    private bool MayBeSecret => SightHere is { Kind: not SightKind.Open };

    private FieldKind KindHere() =>
        MayBeSecret ? FieldKind.Secret
        : application.IsTerminal ? FieldKind.SingleLine
        : plainApps.Contains(application.Id) ? FieldKind.Plain
        : FieldKind.Rich;

    /// <summary>
    /// The field with the focus has told something of itself. As long as it may be one for pass-phrases, nothing of it is
    /// learned; when it is none, what was typed there counts.
    /// </summary>
    public void SightChanged()
    {
        if (secret != SightHere is { Kind: SightKind.Secret })
            FocusHost(keepTail: false);
        else if (KindHere() is var kind && (kind == FieldKind.Secret) != (host.Field == FieldKind.Secret))
            Take(host.FieldTold(kind, application.IsTerminal), held: holding.IsOn);
    }

    /// <summary>After a click or a caret key the application may tell what stands before the caret.</summary>
    private void Look()
    {
        if (!Listens || SightHere is null || program.Sight?.TextBeforeCaret() is not { Length: > 0 } before)
            return;
        Take(host.StandsBefore(before), held: false);
    }

    private AppDelivery Delivery() =>
        program.DeliveryIn(application.Id) ?? (application.IsTerminal ? AppDelivery.Terminal : AppDelivery.Usual);

    private void SetAlways()
    {
        var own = program.Chords();
        var now = (
            program.Surroundings.Index(),
            application.Id,
            program.Surroundings.RestsIn(application.Id),
            injection.Group,
            own,
            !Listens,
            OffersHeld
        );
        if (alwaysFor == now)
            return;
        alwaysFor = now;
        var strokes = new HashSet<Stroke>();
        ownChords = [];
        var wanted = new HashSet<string>();
        if (Listens)
        {
            foreach (
                var (chord, act) in new (string, Action)[]
                {
                    (own.Finder, () => ShowOwn(new Shown.Finder())),
                    (own.Gather, Gather),
                    (own.Rest, program.Rest),
                    (own.Record, Record),
                }
            )
                if (StrokeOf(chord) is { } stroke)
                    ownChords[stroke] = act;
            strokes.UnionWith(ownChords.Keys);
            if (!now.Item3)
            {
                foreach (var name in (ReadOnlySpan<string>)["Enter", "Tab", "Escape", "Backspace", "Shift+Enter"])
                    if (StrokeOf(name) is { } stroke)
                        strokes.Add(stroke);
                if (reader.Layout.KeycodeFor(injection.Group, Symbols.KeypadEnter) is var keypad and not 0)
                    strokes.Add(new Stroke(keypad, 0));
                string[] chords =
                [
                    .. host.Chords(),
                    .. program.Surroundings.TakeBackChord() is { } takesBack ? (string[])[takesBack] : [],
                ];
                wanted.UnionWith(chords);
                foreach (var chord in chords)
                    if (StrokeOf(chord) is { } stroke)
                        strokes.Add(stroke);
            }
        }
        reader.Wanted = wanted;
        _ = holding.SetAlways(strokes);
        connection.Flush();
    }

    /// <summary>
    /// Whether keys are held back for offers: none, the one that takes it, or those too that walk through several.
    /// </summary>
    private int OffersHeld => Math.Min(2, host.Offers.All.Count);

    /// <summary>
    /// What is shown near the caret: what a word would become, how the text may go on, or what would have put it in.
    /// </summary>
    private string? HintText(long now)
    {
        if (hinted is { } waits)
            return "→ " + waits.Placed.Snippet.Glance();
        if (Listens && host.Offers.Chosen is { } offer)
        {
            var key = program.Surroundings.TakeKey();
            // An arrow that would only move the caret is no offer.
            if (!OfferKeys.IsAtLineEndOnly(key))
                return $"… {offer.Rest}  ({key})";
            if (program.Sight?.EndsLine() == true)
                return $"… {offer.Rest}  (→)";
        }
        return passing is { } missed && now < missed.Until ? $"{missed.Trigger.Trigger.Text} puts this in" : null;
    }

    private Stroke? StrokeOf(string chord) => reader.Layout.StrokeFor(injection.Group, Key.Parse("chord", chord));

    /// <summary>The first expansion should not pay for what every first call costs.</summary>
    private void WarmEverythingUp()
    {
        WarmUp.Hosts(program.Surroundings);
        _ = reader.Typed(
            new CapturedKey
            {
                Keycode = 38,
                IsPress = true,
                State = capture.State,
            }
        );
        reader.ForgetComposition();
        _ = injection.CanType("warm");
        _ = clipboard.Text(1000);
        UnderHold(null);
        capture.Fence();
    }

    /// <summary>
    /// Below the caret where the application tells it, else at the window's lower edge, else at the pointer.
    /// </summary>
    private (int X, int Y) HintPlace()
    {
        if (SightHere is not null && program.Sight?.Caret() is { } caret)
            return (caret.X + 2, caret.Y + caret.Height + 4);
        if (windows.Place(active.Id) is { } place)
            return (place.X + 12, place.Y + place.Height - 34);
        _ = Xlib.XQueryPointer(
            connection.Display,
            connection.Root,
            out _,
            out _,
            out var x,
            out var y,
            out _,
            out _,
            out _
        );
        return (x + 12, y + 16);
    }

    /// <summary>Types into a window of its own and tells how it went.</summary>
    public void Check(TaskCompletionSource<LinkCheckAnswer> told)
    {
        var lines = new List<LinkCheckLine>();
        double? median = null;
        UnderHold(() =>
        {
            var answer = LinkCheck.Typing(
                displayName,
                windows,
                injection,
                reader.Layout,
                program.Characters(),
                StillAtWork
            );
            median = answer.MedianMs;
            lines.AddRange(answer.Lines);
        });
        lines.Add(
            capture.Keyboards.Count > 0
                ? new LinkCheckLine(
                    "Keyboards",
                    true,
                    $"{capture.Keyboards.Count} heard, layout {string.Join(", ", reader.Layout.Names)}."
                )
                : new LinkCheckLine(
                    "Keyboards",
                    false,
                    "The display has no keyboard of its own, so keys cannot be held back while text goes in."
                )
        );
        lines.Add(
            watch.HasOutside
                ? new LinkCheckLine("Watch", true, "Keys are given back even if the program is stopped from outside.")
                : new LinkCheckLine(
                    "Watch",
                    false,
                    "A program that is stopped from outside could keep Enter and Tab. Install xkill (package "
                        + "x11-utils) and start Dash Sprout again."
                )
        );
        lines.Add(
            companion switch
            {
                null or { HasWindow: false } => new LinkCheckLine(
                    "Window for slips",
                    false,
                    "No Chromium-family browser was found, so slips and the finder open in your usual "
                        + "browser and not over the application. Install one, such as the package chromium."
                ),
                { IsReady: true } => new LinkCheckLine("Window for slips", true, "It is ready."),
                _ => new LinkCheckLine(
                    "Window for slips",
                    false,
                    "It has not come up yet. Wait a moment, then check again."
                ),
            }
        );
        lines.Add(
            SightHere is null
                ? new LinkCheckLine(
                    "Fields",
                    true,
                    "This application tells nothing of its fields: pass-phrase fields are not recognised "
                        + "there, and after a click what is typed begins anew."
                )
                : new LinkCheckLine(
                    "Fields",
                    true,
                    "This application tells of its fields: pass-phrase fields are left alone."
                )
        );
        told.SetResult(new LinkCheckAnswer(lines.TrueForAll(line => line.IsGood), median, lines));
    }
}
