using DashSprout.Core.Bodies;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>
/// The engine for one place where somebody types: keystrokes in, decisions out. It has no clock, no randomness and does
/// no I/O; the same keystrokes on the same index always give the same decisions. A key that sets nothing off allocates
/// nothing. Not safe for use by several threads; the index may be exchanged by another.
/// </summary>
public sealed class TypingEngine
{
    /// <summary>How long an abbreviation gives way, in milliseconds.</summary>
    public const int PauseMs = 700;

    /// <summary>The chord that takes a firing back unless a host sets another.</summary>
    public const string DefaultTakeBackChord = "Ctrl+Alt+Z";

    private readonly Func<TriggerIndex> index;
    private readonly TypedTail tail = new();
    private readonly Matcher matcher;
    private readonly GivingWay givingWay;
    private Explainer? explainer;
    private Key previous;
    private bool capsLock;
    private Firing? open;
    private (Key[] Keys, int Neighbours) beforeFiring;
    private Firing? takeable;
    private int takeableSteps;

    /// <summary>An engine that has seen no key yet.</summary>
    /// <param name="index">Gives the index that holds now; asked once for each key.</param>
    public TypingEngine(Func<TriggerIndex> index)
    {
        this.index = index;
        matcher = new Matcher(tail);
        givingWay = new GivingWay(tail, matcher);
    }

    /// <summary>The chord that takes the last firing back; null when none does.</summary>
    public string? TakeBackChord { get; set; } = DefaultTakeBackChord;

    /// <summary>Whether a waiting word is shown to the user, so that Escape on it keeps it quiet.</summary>
    public bool HintsShown { get; set; } = true;

    /// <summary>Whether the engine says why; costs nothing when off.</summary>
    public bool Tracing
    {
        get => explainer is not null;
        set => explainer = value ? explainer ?? new Explainer(tail, matcher) : null;
    }

    /// <summary>What it did with the last key or event; null while not tracing.</summary>
    public TraceEntry? LastTrace => explainer?.Entry;

    /// <summary>
    /// The abbreviation that is complete and only waits for its closing key, so that a host can show what it would
    /// become.
    /// </summary>
    public ActiveTrigger? Hint => HintsShown && open is null ? matcher.Waiting?.Trigger : null;

    /// <summary>Whether something gives way; a caret key or chord settles it first and acts after.</summary>
    public bool GivesWay => givingWay.Waiting is not null;

    /// <summary>
    /// When the engine wants to be asked again by <see cref="Tick"/>; null when a pause changes nothing.
    /// </summary>
    public long? SettlesAt => givingWay.SettlesAt;

    /// <summary>
    /// Whether the next key may be used or must act later when it is one that acts (any but a typed character), so that
    /// it has to be held back until it is decided.
    /// </summary>
    public bool ActingKeysMatter =>
        GivesWay
        || matcher.ActingKeyMatters
        || (HintsShown && matcher.Waiting is not null)
        || (takeable is { } firing && (TakeBackChord is not null || firing.Trigger.Placed.Rules.BackspaceTakesBack));

    /// <summary>The focus went to a field of an application; the typed tail begins anew.</summary>
    public void Focus(string application)
    {
        matcher.App = application;
        Reset("the focus moved, so what was typed before no longer counts");
    }

    /// <summary>The caret was moved with the mouse; the typed tail begins anew.</summary>
    public void Click() => Reset("a click moved the caret, so what was typed before no longer counts");

    /// <summary>
    /// What stands before the caret is known although it was not typed here: it counts for left edges and can be part
    /// of no match.
    /// </summary>
    public void StandsBefore(string grapheme)
    {
        Reset("the caret was moved; what stands before it counts for the left edge");
        tail.BeginBehind(grapheme);
    }

    /// <summary>Decides about one key. A firing must be answered before the next key.</summary>
    public Decision Press(in Keystroke keystroke)
    {
        if (open is not null)
            throw new InvalidOperationException("The last firing has not been answered.");
        var key = keystroke.Key;
        capsLock = keystroke.CapsLock;
        explainer?.Begin();
        if (key.Kind == KeyKind.Silent)
            return Decision.PassOn;

        var justFired = takeable;
        if (justFired is not null)
            takeable = null;
        var last = previous;
        matcher.Index = index();

        if (GivesWay && !key.AddsText && key != Key.Backspace && key != Key.Escape)
        {
            if (key.Value == TakeBackChord)
                return Hush();
            var settled = givingWay.LongerOneIsComplete ? null : Settle(pressAgain: true);
            givingWay.End();
            if (settled is not null)
                return settled;
        }

        previous = key;
        if (key.AddsText)
            return Type(keystroke, last);
        if (key == Key.Backspace)
            return Erase(justFired, keystroke.AtMs);
        if (key == Key.Escape)
            return HintsShown ? Hush() : Decision.PassOn;
        if (key.Kind == KeyKind.Chord)
        {
            if (justFired is not null && key.Value == TakeBackChord)
                return TakeBack(justFired);
            if (matcher.Hotkey(key) is { } hotkey)
                return PressHotkey(hotkey);
        }
        Reset(explainer is null ? "" : $"{key} moves the caret or acts, so what was typed before no longer counts");
        return Decision.PassOn;
    }

    /// <summary>
    /// Settles an abbreviation that has given way for <see cref="PauseMs"/> since the last key; the decision is
    /// <see cref="Decision.PassOn"/> when there is nothing to settle.
    /// </summary>
    public Decision Tick(long nowMs)
    {
        if (open is not null || SettlesAt is not { } at || nowMs < at)
            return Decision.PassOn;
        matcher.Index = index();
        explainer?.Begin();
        return Settle(paused: true) ?? Decision.PassOn;
    }

    /// <summary>
    /// A snippet was chosen by hand, in the finder: it goes off where the caret is, switched on or not.
    /// </summary>
    public Decision.Fires Choose(PlacedSnippet snippet)
    {
        if (open is not null)
            throw new InvalidOperationException("The last firing has not been answered.");
        takeable = null;
        givingWay.End();
        explainer?.Begin();
        Forget();
        return Fire(new Match(new ActiveTrigger(snippet, new Trigger.Chosen()), tail.End, tail.End, tail.End));
    }

    /// <summary>
    /// A snippet goes in where the caret is, in the place of what was typed of its text; null when that is not
    /// remembered any more.
    /// </summary>
    /// <param name="begun">How many graphemes of its text stand before the caret.</param>
    public Decision.Fires? Take(PlacedSnippet snippet, int begun)
    {
        if (open is not null)
            throw new InvalidOperationException("The last firing has not been answered.");
        if (tail.End - begun < tail.MatchFrom)
            return null;
        takeable = null;
        givingWay.End();
        matcher.Forget();
        explainer?.Begin();
        return Fire(new Match(new ActiveTrigger(snippet, new Trigger.Begun()), tail.End - begun, tail.End, tail.End));
    }

    /// <summary>Answers a firing: its text has been put in.</summary>
    /// <param name="neighbour">The last character that was put in before the caret, which counts for left edges only;
    /// empty when nothing was put in, null when nobody knows what stands there (a key was pressed that moved the
    /// caret).
    /// </param>
    /// <param name="keysBehind">Whether the keys that were put back stand between it and the caret; they count as
    /// typed.</param>
    /// <param name="takeBackSteps">How many caret steps back the text begins, so that the next key may take it back;
    /// null when it was more than text.
    /// </param>
    public void PutIn(string? neighbour, bool keysBehind, int? takeBackSteps)
    {
        var firing = open ?? throw new InvalidOperationException("No firing waits for an answer.");
        open = null;
        var left = neighbour is { Length: 0 } ? BeforeTyped(firing) : neighbour;
        tail.BeginBehind(left is null ? "" : Graphemes.Last(left));
        matcher.Forget();
        if (keysBehind)
            foreach (var key in firing.PutBack)
                tail.Append(key);
        matcher.LookAgain();
        if (takeBackSteps is not { } steps)
            return;
        takeable = firing;
        takeableSteps = steps;
    }

    /// <summary>Answers a firing: nothing was put in, what was typed stays, and that word is left alone.</summary>
    public void LeaveAsTyped()
    {
        var firing = open ?? throw new InvalidOperationException("No firing waits for an answer.");
        open = null;
        matcher.KeepQuiet(tail.End - firing.Typed.Count, tail.End);
        matcher.LookAgain();
    }

    /// <summary>
    /// Something went wrong while a key was decided or a firing put in: no firing waits any more, and nothing is known
    /// of what was typed.
    /// </summary>
    public void GiveUp()
    {
        open = null;
        Reset("something went wrong, so what was typed before no longer counts");
    }

    private Decision Type(in Keystroke keystroke, Key last)
    {
        var key = keystroke.Key;
        var grew = tail.Append(key);
        var best = matcher.Look(key, last, grew);

        // A mark that joins the waiting text's last letter makes it another text; a longer one was meant after all.
        if (givingWay.IsChangedBy(grew) || givingWay.IsBeatenBy(best))
            givingWay.End();
        if (givingWay.Waiting is { } waiting)
        {
            if (!givingWay.GoesOn(keystroke.AtMs))
            {
                if (Settle(keyGraphemes: grew ? 1 : 0) is { } settled)
                    return settled;
            }
            else
            {
                explainer?.Note(
                    TraceEvent.GivesWay,
                    $"`{waiting.Trigger.Trigger.Text}` goes on giving way",
                    waiting.Trigger,
                    TriggerRule.Timing
                );
                return Decision.PassOn;
            }
        }
        if (best is not { } match)
        {
            explainer?.ExplainQuietKey(key, last, grew);
            return Decision.PassOn;
        }
        if (givingWay.IsNeededFor(match))
        {
            givingWay.Begin(match, keystroke.AtMs);
            explainer?.Note(
                TraceEvent.GivesWay,
                $"`{match.Trigger.Trigger.Text}` gives way: it begins "
                    + $"`{matcher.LongerOne(match.Start, match.TextEnd)?.Trigger.Text}`",
                match.Trigger,
                TriggerRule.Timing
            );
            return Decision.PassOn;
        }
        var fires = Fire(match, keyGraphemes: grew ? 1 : 0);
        explainer?.ExplainLosers(key, last, grew, match);
        return fires;
    }

    private Decision Erase(Firing? justFired, long atMs)
    {
        if (justFired is { Trigger.Placed.Rules.BackspaceTakesBack: true })
            return TakeBack(justFired);
        tail.RemoveLast();
        matcher.Erased();
        if (givingWay.Erased(matcher.LookAgain(), atMs) is { } corrected)
            explainer?.Note(
                TraceEvent.Typed,
                $"`{corrected.Trigger.Text}` was corrected and no longer gives way",
                corrected
            );
        else if (givingWay.Waiting is { } waiting)
            explainer?.Note(
                TraceEvent.GivesWay,
                $"`{waiting.Trigger.Trigger.Text}` gives way",
                waiting.Trigger,
                TriggerRule.Timing
            );
        return Decision.PassOn;
    }

    private Decision Hush()
    {
        if ((givingWay.Waiting ?? matcher.Waiting) is not { } match)
            return Decision.PassOn;
        givingWay.End();
        matcher.KeepQuiet(match.Start, match.End);
        matcher.LookAgain();
        explainer?.Note(TraceEvent.Quiet, $"`{match.Trigger.Trigger.Text}` is left alone, as you asked", match.Trigger);
        return Decision.KeepQuiet;
    }

    private Decision TakeBack(Firing firing)
    {
        tail.Restore(beforeFiring);
        matcher.KeepQuiet(tail.End - firing.Typed.Count, tail.End);
        matcher.LookAgain();
        explainer?.Note(TraceEvent.TakesBack, $"`{firing.Trigger.Trigger.Text}` was taken back", firing.Trigger);
        return new Decision.TakesBack(firing, takeableSteps);
    }

    private Decision PressHotkey(ActiveTrigger hotkey)
    {
        Forget();
        return Fire(new Match(hotkey, tail.End, tail.End, tail.End));
    }

    /// <summary>
    /// The abbreviation that gave way was meant: it goes off, and what was typed behind it is put back. Null when it is
    /// gone from the index by now.
    /// </summary>
    private Decision? Settle(int keyGraphemes = 0, bool pressAgain = false, bool paused = false)
    {
        var match = givingWay.Waiting!.Value;
        givingWay.End();
        if (!matcher.Index.Contains(match.Trigger))
            return null;
        explainer?.Note(
            TraceEvent.Fires,
            paused
                ? $"`{match.Trigger.Trigger.Text}` was meant: nothing followed for {PauseMs} ms"
                : $"`{match.Trigger.Trigger.Text}` was meant: nothing longer can follow",
            match.Trigger,
            TriggerRule.Timing
        );
        return Fire(match, keyGraphemes, pressAgain);
    }

    private Decision.Fires Fire(in Match match, int keyGraphemes = 0, bool pressAgain = false)
    {
        beforeFiring = tail.Remembered();
        var typed = new List<Key>();
        for (var at = match.Start; at < tail.End; at++)
            typed.Add(tail[at]);
        var putBack = match.Trigger.Rules is { Timing: not Timing.AtOnce, KeepClosingKey: false }
            ? []
            : typed.Skip(match.Length);
        var firing = new Firing(match.Trigger, new(typed), new(putBack), CapitalsOf(match), Groups(match));
        open = firing;
        if (match.Trigger.Trigger is Trigger.Chosen)
            explainer?.Note(
                TraceEvent.Fires,
                $"*{match.Trigger.Placed.Snippet.Name}* was chosen in the finder",
                match.Trigger
            );
        else if (match.Trigger.Trigger is Trigger.Begun)
            explainer?.Note(
                TraceEvent.Fires,
                $"the rest of *{match.Trigger.Placed.Snippet.Name}* was taken as it was offered",
                match.Trigger
            );
        else
            explainer?.Note(
                TraceEvent.Fires,
                $"`{match.Trigger.Trigger.Text}` in *{match.Trigger.Placed.Library}* puts in "
                    + $"*{match.Trigger.Placed.Snippet.Name}*",
                match.Trigger
            );
        return new Decision.Fires(firing, keyGraphemes, pressAgain);
    }

    /// <summary>The character that stands before what a firing removes; null when it is not known.</summary>
    private string? BeforeTyped(Firing firing)
    {
        var at = tail.End - firing.Typed.Count - 1;
        return at >= tail.First ? tail[at].Text : null;
    }

    private Capitals CapitalsOf(in Match match) =>
        match.Trigger.Rules?.Case switch
        {
            LetterCase.Mirror => CapitalShapes.Of(tail.Written(match.Start, match.TextEnd)),
            LetterCase.Either when capsLock && match.Trigger.Placed.Rules.CapsLockShouts => Capitals.All,
            _ => Capitals.AsWritten,
        };

    private EquatableList<string> Groups(in Match match)
    {
        if (match.Trigger.Trigger is not Trigger.Pattern pattern)
            return EquatableList<string>.Empty;
        var found = pattern.Expression.Match(tail.Written(match.Start, match.TextEnd).ToString());
        return new(found.Groups.Values.Select(group => group.Value));
    }

    private void Reset(string why)
    {
        Forget();
        givingWay.End();
        takeable = null;
        explainer?.Begin();
        explainer?.Note(TraceEvent.Reset, why);
    }

    private void Forget()
    {
        tail.Reset();
        matcher.Forget();
    }
}
