using DashSprout.Core.Bodies;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>
/// The engine for one place where somebody types: keystrokes in, decisions out. It has no clock, no randomness and does
/// no I/O; the same keystrokes on the same index always give the same decisions. A key that sets nothing off allocates
/// nothing. Not safe for use by several threads; the index may be exchanged by another.
/// </summary>
/// <param name="index">Gives the index that holds now; asked once for each key.</param>
public sealed class TypingEngine(Func<TriggerIndex> index)
{
    /// <summary>How long an abbreviation gives way, in milliseconds.</summary>
    public const int PauseMs = 700;

    /// <summary>The chord that takes a firing back unless a host sets another.</summary>
    public const string DefaultTakeBackChord = "Ctrl+Alt+Z";

    private readonly TypedTail tail = new();
    private string app = "";
    private Key previous;
    private Key beforePrevious;
    private Match? pending;
    private long pendingSince;
    private bool capsLock;
    private Firing? open;
    private Firing? takeable;
    private int takeableLength;
    private int quietStart;
    private int quietEnd;
    private Tracer? tracer;
    private List<Match>? observed;

    /// <summary>The chord that takes the last firing back; null when none does.</summary>
    public string? TakeBackChord { get; set; } = DefaultTakeBackChord;

    /// <summary>Whether the engine says why; costs nothing when off.</summary>
    public bool Tracing
    {
        get => tracer is not null;
        set => tracer = value ? tracer ?? new Tracer() : null;
    }

    /// <summary>What it did with the last key or event; null while not tracing.</summary>
    public TraceEntry? LastTrace => tracer?.Entry;

    /// <summary>
    /// The abbreviation that is complete and only waits for its closing key, so that a host can show what it would become.
    /// </summary>
    public ActiveTrigger? Hint => open is null && FindHint(index()) is { Trigger: { } trigger } ? trigger : null;

    /// <summary>The focus went to a field of an application; the typed tail begins anew.</summary>
    public void Focus(string application)
    {
        app = application;
        Reset("the focus moved, so what was typed before no longer counts");
    }

    /// <summary>The caret was moved with the mouse; the typed tail begins anew.</summary>
    public void Click() => Reset("a click moved the caret, so what was typed before no longer counts");

    /// <summary>Decides about one key. A firing must be answered before the next key.</summary>
    public Decision Press(in Keystroke keystroke)
    {
        if (open is not null) throw new InvalidOperationException("The last firing has not been answered.");
        var key = keystroke.Key;
        capsLock = keystroke.CapsLock;
        tracer?.Begin();
        if (key.Kind == KeyKind.Silent) return Decision.PassOn;

        var justFired = takeable;
        takeable = null;
        var (last, beforeLast) = (previous, beforePrevious);
        (beforePrevious, previous) = (last, key);
        var now = index();

        if (key.AddsText) return Type(now, keystroke, last);
        if (key == Key.Backspace) return Erase(justFired);
        if (key == Key.Escape) return Hush(now);
        if (pending is not null && key.Value == TakeBackChord) return Hush(now);

        if (pending is not null)
        {
            (previous, beforePrevious) = (last, beforeLast);
            return Settle(now, keyIsTyped: false);
        }
        if (key.Kind == KeyKind.Chord)
        {
            if (justFired is not null && key.Value == TakeBackChord) return TakeBack(justFired);
            if (FindHotkey(now, key) is { } hotkey) return PressHotkey(hotkey);
        }
        Reset(tracer is null ? "" : $"{key} moves the caret or acts, so what was typed before no longer counts");
        return Decision.PassOn;
    }

    /// <summary>
    /// Settles an abbreviation that has given way for <see cref="PauseMs"/>; the decision is
    /// <see cref="Decision.PassOn"/> when there is nothing to settle.
    /// </summary>
    public Decision Tick(long nowMs)
    {
        if (open is not null || pending is null || nowMs - pendingSince < PauseMs) return Decision.PassOn;
        tracer?.Begin();
        return Settle(index(), keyIsTyped: false, paused: true);
    }

    /// <summary>A snippet was chosen by hand, in the finder: it goes off where the caret is, switched on or not.</summary>
    public Decision.Fires Choose(PlacedSnippet snippet)
    {
        if (open is not null) throw new InvalidOperationException("The last firing has not been answered.");
        pending = null;
        takeable = null;
        tracer?.Begin();
        tail.Reset();
        return Fire(new Match(new ActiveTrigger(snippet, new Trigger.Chosen()), tail.End, tail.End, tail.End));
    }

    /// <summary>Answers a firing: its text has been put in, with everything that was put back behind it.</summary>
    /// <param name="beforeCaret">The plain text that stands before the caret now.</param>
    /// <param name="takeBackLength">
    /// How many caret steps back the text begins, so that the next key may take it back; null when it was more than text.
    /// </param>
    public void PutIn(string beforeCaret, int? takeBackLength)
    {
        var firing = open ?? throw new InvalidOperationException("No firing waits for an answer.");
        open = null;
        tail.Reset();
        quietEnd = 0;
        if (Text.Graphemes.Last(beforeCaret) is { Length: > 0 } last) tail.Append(last);
        if (takeBackLength is not { } length) return;
        takeable = firing;
        takeableLength = length;
    }

    /// <summary>Answers a firing: nothing was put in, what was typed stays, and that word is left alone.</summary>
    public void LeaveAsTyped()
    {
        var firing = open ?? throw new InvalidOperationException("No firing waits for an answer.");
        open = null;
        KeepQuiet(tail.End - firing.Typed.Count, tail.End);
    }

    /// <summary>
    /// Takes a key without deciding anything and notes every trigger whose rules let it go off on that key, each judged by
    /// itself. This is how safety is computed with the engine's own rules.
    /// </summary>
    internal void Observe(Key key, HashSet<ActiveTrigger>? found, Func<ActiveTrigger, bool>? wanted = null)
    {
        var last = previous;
        previous = key;
        var grew = tail.Append(key.Text);
        if (found is null) return;
        var now = index();
        Match? none = null;
        observed ??= [];
        observed.Clear();
        Collect(now, Timing.AtOnce, key, tail.End, ref none, observed);
        if (grew && now.AnyClosingKey.Contains(key))
        {
            Collect(now, Timing.ClosingKey, key, tail.End - 1, ref none, observed);
            if (last == key && tail.End - tail.First >= 2) Collect(now, Timing.DoubleClosingKey, key, tail.End - 2, ref none, observed);
        }
        foreach (var match in observed)
            if (wanted is null || wanted(match.Trigger)) found.Add(match.Trigger);
    }

    private Decision Type(TriggerIndex now, in Keystroke keystroke, Key last)
    {
        var key = keystroke.Key;
        var grew = tail.Append(key.Text);
        if (quietEnd > 0 && tail.End <= quietStart) quietEnd = 0;

        var best = Best(now, key, last, grew);

        if (pending is { } waiting)
        {
            var supersedes = best is { } longer && longer.Start <= waiting.Start && longer.Length > waiting.Length;
            if (!supersedes && !grew && !StillMayGrow(now, waiting, key))
            {
                // A mark joined its last letter, so it is no longer what was typed.
                pending = null;
            }
            else if (!supersedes)
            {
                if (!StillMayGrow(now, waiting, key)) return Settle(now, keyIsTyped: true);
                tracer?.Note(TraceEvent.GivesWay, $"`{waiting.Trigger.Trigger.Text}` goes on giving way", waiting.Trigger, TriggerRule.Timing);
                return Decision.PassOn;
            }
            pending = null;
        }

        if (best is not { } match)
        {
            tracer?.ExplainQuietKey(this, now, key, last, grew);
            return Decision.PassOn;
        }

        if (match.Trigger.Rules is { Timing: Timing.AtOnce, GivesWay: true } && LongerOne(now, match) is { } other)
        {
            pending = match;
            pendingSince = keystroke.AtMs;
            tracer?.Note(TraceEvent.GivesWay,
                $"`{match.Trigger.Trigger.Text}` gives way: it begins `{other.Trigger.Text}`", match.Trigger, TriggerRule.Timing);
            return new Decision.Waits(match.Trigger);
        }
        var fires = Fire(match, keyGraphemes: grew ? 1 : 0);
        tracer?.ExplainLosers(this, now, key, last, grew, match);
        return fires;
    }

    private Decision Erase(Firing? justFired)
    {
        if (justFired is { Trigger.Placed.Rules.BackspaceTakesBack: true }) return TakeBack(justFired);
        tail.RemoveLast();
        if (pending is { } waiting && tail.End < waiting.End)
        {
            pending = null;
            tracer?.Note(TraceEvent.Typed, $"`{waiting.Trigger.Trigger.Text}` was corrected and no longer gives way", waiting.Trigger);
        }
        if (quietEnd > 0 && tail.End <= quietStart) quietEnd = 0;
        return Decision.PassOn;
    }

    private Decision Hush(TriggerIndex now)
    {
        if ((pending ?? FindHint(now)) is not { } match) return Decision.PassOn;
        pending = null;
        KeepQuiet(match.Start, match.End);
        tracer?.Note(TraceEvent.Quiet, $"`{match.Trigger.Trigger.Text}` is left alone, as you asked", match.Trigger);
        return Decision.PassOn;
    }

    private Decision TakeBack(Firing firing)
    {
        tail.Reset();
        foreach (var grapheme in firing.Typed) tail.Append(grapheme);
        KeepQuiet(tail.First, tail.End);
        tracer?.Note(TraceEvent.TakesBack, $"`{firing.Trigger.Trigger.Text}` was taken back", firing.Trigger);
        return new Decision.TakesBack(firing, takeableLength, string.Concat(firing.Typed));
    }

    private Decision PressHotkey(ActiveTrigger hotkey)
    {
        tail.Reset();
        return Fire(new Match(hotkey, tail.End, tail.End, tail.End));
    }

    /// <summary>The abbreviation that gave way was meant: it goes off, and what was typed behind it is put back.</summary>
    private Decision Settle(TriggerIndex now, bool keyIsTyped, bool paused = false)
    {
        var match = pending!.Value;
        pending = null;
        if (!now.Contains(match.Trigger)) return Decision.PassOn;
        tracer?.Note(TraceEvent.Fires, paused
            ? $"`{match.Trigger.Trigger.Text}` was meant: nothing followed for {PauseMs} ms"
            : $"`{match.Trigger.Trigger.Text}` was meant: nothing longer can follow", match.Trigger, TriggerRule.Timing);
        return Fire(match, keyGraphemes: keyIsTyped ? 1 : 0, pressAgain: !keyIsTyped && !paused);
    }

    private Decision.Fires Fire(in Match match, int keyGraphemes = 0, bool pressAgain = false)
    {
        var typed = new List<string>();
        for (var at = match.Start; at < tail.End; at++) typed.Add(tail[at]);
        var rules = match.Trigger.Rules;
        var behind = typed.Skip(match.Length).Select(Key.Typed);
        var putBack = rules is { Timing: not Timing.AtOnce, KeepClosingKey: false } ? [] : behind;
        var firing = new Firing(match.Trigger, new(typed), new(putBack), CapitalsOf(match), Groups(match));
        open = firing;
        if (match.Trigger.Trigger is Trigger.Chosen)
            tracer?.Note(TraceEvent.Fires, $"*{match.Trigger.Placed.Snippet.Name}* was chosen in the finder", match.Trigger);
        else tracer?.Note(TraceEvent.Fires,
            $"`{match.Trigger.Trigger.Text}` in *{match.Trigger.Placed.Library}* puts in *{match.Trigger.Placed.Snippet.Name}*", match.Trigger);
        return new Decision.Fires(firing, keyGraphemes, pressAgain);
    }

    private Capitals CapitalsOf(in Match match) => match.Trigger.Rules?.Case switch
    {
        LetterCase.Mirror => CapitalShapes.Of(tail.Written(match.Start, match.TextEnd)),
        LetterCase.Either when capsLock && match.Trigger.Placed.Rules.CapsLockShouts => Capitals.All,
        _ => Capitals.AsWritten,
    };

    private EquatableList<string> Groups(in Match match)
    {
        if (match.Trigger.Trigger is not Trigger.Pattern pattern) return EquatableList<string>.Empty;
        var found = pattern.Expression.Match(tail.Written(match.Start, match.TextEnd).ToString());
        return new(found.Groups.Values.Select(group => group.Value));
    }

    private void Reset(string why)
    {
        tail.Reset();
        pending = null;
        takeable = null;
        quietEnd = 0;
        tracer?.Begin();
        tracer?.Note(TraceEvent.Reset, why);
    }

    private void KeepQuiet(int start, int end) => (quietStart, quietEnd) = (start, end);

    // ---- matching ------------------------------------------------------------------------------------------------

    /// <summary>Something that matched: the trigger's text lies between Start and TextEnd, its closing keys up to End.</summary>
    private readonly record struct Match(ActiveTrigger Trigger, int Start, int TextEnd, int End)
    {
        public int Length => TextEnd - Start;
    }

    private Match? Best(TriggerIndex now, Key key, Key last, bool grew)
    {
        Match? best = null;
        Collect(now, Timing.AtOnce, key, tail.End, ref best);
        if (!grew || !now.AnyClosingKey.Contains(key)) return best;
        Collect(now, Timing.ClosingKey, key, tail.End - 1, ref best);
        if (last == key && tail.End - tail.First >= 2) Collect(now, Timing.DoubleClosingKey, key, tail.End - 2, ref best);
        return best;
    }

    private void Collect(TriggerIndex now, Timing timing, Key key, int textEnd, ref Match? best, List<Match>? all = null)
    {
        var node = now.Backward;
        for (var start = textEnd - 1; start >= tail.First; start--)
        {
            node = Descend(node, start);
            if (node is null) break;
            foreach (var entry in node.Entries)
                if (entry.Rules!.Timing == timing && Obstacle(entry, start, textEnd, key) is null)
                    Found(new Match(entry, start, textEnd, tail.End), ref best);
        }
        foreach (var entry in now.Patterns)
            if (entry.Rules!.Timing == timing && FindPattern(entry, textEnd, key) is { } start)
                Found(new Match(entry, start, textEnd, tail.End), ref best);

        void Found(in Match match, ref Match? winner)
        {
            if (all is null) Prefer(match, ref winner);
            else all.Add(match);
        }
    }

    private TrieNode? Descend(TrieNode? node, int position)
    {
        var units = tail.Folded(position, position + 1);
        for (var at = units.Length - 1; at >= 0 && node is not null; at--) node = node.Child(units[at]);
        return node;
    }

    private int? FindPattern(ActiveTrigger entry, int textEnd, Key key)
    {
        var start = tail.First;
        while (textEnd > start && tail.Written(start, textEnd).Length > Trigger.Pattern.Window) start++;
        var expression = ((Trigger.Pattern)entry.Trigger).Expression;
        for (; start < textEnd; start++)
        {
            var matches = expression.EnumerateMatches(tail.Written(start, textEnd));
            if (!matches.MoveNext()) return null;
            var chars = 0;
            while (chars < matches.Current.Index)
            {
                chars += tail.Written(start, start + 1).Length;
                start++;
            }
            // A match that begins inside a grapheme is none; the search goes on behind it.
            if (chars == matches.Current.Index && Obstacle(entry, start, textEnd, key) is null) return start;
        }
        return null;
    }

    /// <summary>The first rule that keeps a trigger back whose text stands between the positions; null when none does.</summary>
    private TriggerRule? Obstacle(ActiveTrigger entry, int start, int textEnd, Key key)
    {
        var rules = entry.Rules!;
        if (rules.Timing != Timing.AtOnce && !entry.ClosingKeys.Contains(key)) return TriggerRule.Timing;
        if (!entry.Trigger.Scope.Admits(app)) return TriggerRule.Scope;
        if (rules.Case == LetterCase.Exact && entry.Trigger is Trigger.Abbreviation
            && !tail.Written(start, textEnd).SequenceEqual(entry.Trigger.Text)) return TriggerRule.LetterCase;
        if (!LeftEdgePasses(rules.LeftEdge, start)) return TriggerRule.LeftEdge;
        return IsQuiet(start) ? TriggerRule.Quiet : null;
    }

    private bool IsQuiet(int start) => quietEnd > 0 && start < quietEnd;

    private bool LeftEdgePasses(LeftEdge edge, int start)
    {
        if (start == tail.First || edge == LeftEdge.Any) return true;
        if (edge == LeftEdge.Word) return tail.IsWordBoundary(start);
        var before = tail.Written(start - 1, start)[^1];
        return before is '"' or '\'' or '\t' or '\n' or '\r' or '\u0085'
            || char.GetUnicodeCategory(before) is System.Globalization.UnicodeCategory.SpaceSeparator
                or System.Globalization.UnicodeCategory.LineSeparator or System.Globalization.UnicodeCategory.ParagraphSeparator
                or System.Globalization.UnicodeCategory.OpenPunctuation or System.Globalization.UnicodeCategory.InitialQuotePunctuation;
    }

    /// <summary>The longest text wins; then scoped before everywhere, exact case before the others, then priority.</summary>
    private static void Prefer(in Match match, ref Match? best)
    {
        if (best is not { } other || Compare(match, other) < 0) best = match;
    }

    private static int Compare(in Match a, in Match b)
    {
        if (a.Length != b.Length) return b.Length - a.Length;
        var scoped = IsScoped(b.Trigger).CompareTo(IsScoped(a.Trigger));
        if (scoped != 0) return scoped;
        var exact = IsExact(b.Trigger).CompareTo(IsExact(a.Trigger));
        return exact != 0 ? exact : a.Trigger.Placed.Rank.CompareTo(b.Trigger.Placed.Rank);
    }

    private static bool IsScoped(ActiveTrigger trigger) => trigger.Trigger.Scope is not Scope.EverywhereScope;

    private static bool IsExact(ActiveTrigger trigger) => trigger.Rules?.Case == LetterCase.Exact;

    private ActiveTrigger? FindHotkey(TriggerIndex now, Key chord)
    {
        if (!now.Hotkeys.TryGetValue(chord.Value, out var hotkeys)) return null;
        ActiveTrigger? best = null;
        foreach (var hotkey in hotkeys)
            if (hotkey.Trigger.Scope.Admits(app)
                && (best is null || Compare(new(hotkey, 0, 0, 0), new(best, 0, 0, 0)) < 0))
                best = hotkey;
        return best;
    }

    private Match? FindHint(TriggerIndex now)
    {
        Match? best = null;
        var node = now.Backward;
        for (var start = tail.End - 1; start >= tail.First; start--)
        {
            node = Descend(node, start);
            if (node is null) break;
            foreach (var entry in node.Entries)
                if (entry.Rules!.Timing != Timing.AtOnce && entry.ClosingKeys.Keys is [var closing, ..]
                    && Obstacle(entry, start, tail.End, closing) is null)
                    Prefer(new Match(entry, start, tail.End, tail.End), ref best);
        }
        return best;
    }

    /// <summary>An active abbreviation that is longer than the match, begins with it, and could go off where it stands.</summary>
    private ActiveTrigger? LongerOne(TriggerIndex now, in Match match) =>
        now.Forward.Find(tail.Folded(match.Start, match.TextEnd)) is { } node ? FirstBelow(node, match.Start, tail.End) : null;

    private bool StillMayGrow(TriggerIndex now, in Match waiting, Key key)
    {
        if (now.Forward.Find(tail.Folded(waiting.Start, tail.End)) is { } node)
        {
            if (FirstBelow(node, waiting.Start, tail.End) is not null) return true;
            foreach (var entry in node.Entries)
                if (entry.Rules!.Timing != Timing.AtOnce && CouldBe(entry, waiting.Start, tail.End)) return true;
        }
        // The first of two closing keys.
        if (tail.End - 1 > waiting.End && now.Forward.Find(tail.Folded(waiting.Start, tail.End - 1)) is { } complete)
            foreach (var entry in complete.Entries)
                if (entry.Rules!.Timing == Timing.DoubleClosingKey && entry.ClosingKeys.Contains(key)
                    && CouldBe(entry, waiting.Start, tail.End - 1)) return true;
        return false;
    }

    private ActiveTrigger? FirstBelow(TrieNode node, int start, int end)
    {
        foreach (var child in node.Children)
        {
            foreach (var entry in child.Entries)
                if (CouldBe(entry, start, end)) return entry;
            if (FirstBelow(child, start, end) is { } found) return found;
        }
        return null;
    }

    private bool CouldBe(ActiveTrigger entry, int start, int end) =>
        entry.Trigger.Scope.Admits(app)
        && (entry.Rules!.Case != LetterCase.Exact || entry.Trigger.Text.AsSpan().StartsWith(tail.Written(start, end)))
        && LeftEdgePasses(entry.Rules.LeftEdge, start)
        && !IsQuiet(start);

    // ---- the trace -----------------------------------------------------------------------------------------------

    /// <summary>Collects the reasons for one key; nothing here runs while tracing is off.</summary>
    private sealed class Tracer
    {
        private const int MostReasons = 4;
        private readonly List<TraceReason> reasons = [];
        private TraceEvent happened;

        public TraceEntry Entry => new(happened, [.. reasons]);

        public void Begin()
        {
            reasons.Clear();
            happened = TraceEvent.Typed;
        }

        public void Note(TraceEvent what, string why, ActiveTrigger? trigger = null, TriggerRule? rule = null)
        {
            happened = what;
            var known = reasons.Exists(reason => reason.Why == why);
            if (!known && reasons.Count < MostReasons) reasons.Add(new TraceReason(why, trigger, rule));
        }

        /// <summary>Says what nearly went off on a key that set nothing off.</summary>
        public void ExplainQuietKey(TypingEngine engine, TriggerIndex now, Key key, Key last, bool grew)
        {
            foreach (var (entry, start, textEnd) in Ending(engine, now, key, last, grew))
            {
                var atEnd = textEnd == engine.tail.End;
                if (!entry.Placed.Active)
                {
                    var off = entry.Placed.LibraryEnabled ? $"snippet *{entry.Placed.Snippet.Name}*" : $"library *{entry.Placed.Library}*";
                    Near($"`{entry.Trigger.Text}` stays quiet: {off} is off", entry, TriggerRule.Switch);
                    continue;
                }
                var timing = entry.Rules!.Timing;
                var obstacle = engine.Obstacle(entry, start, textEnd, atEnd && entry.ClosingKeys.Keys is [var any, ..] ? any : key);
                switch (obstacle)
                {
                    case null when atEnd && timing == Timing.ClosingKey:
                        Note(TraceEvent.Waits, $"`{entry.Trigger.Text}` waits for a closing key", entry, TriggerRule.Timing);
                        break;
                    case null when timing == Timing.DoubleClosingKey:
                        Note(TraceEvent.Waits, $"`{entry.Trigger.Text}` waits for a closing key pressed twice", entry, TriggerRule.Timing);
                        break;
                    case TriggerRule.Timing:
                        Near($"`{entry.Trigger.Text}` does not go off: {Shown(key)} is none of its closing keys", entry, TriggerRule.Timing);
                        break;
                    case TriggerRule.Scope:
                        Near($"`{entry.Trigger.Text}` stays quiet: not in this application", entry, TriggerRule.Scope);
                        break;
                    case TriggerRule.LetterCase:
                        Near($"`{entry.Trigger.Text}` wants exact case: you typed `{engine.tail.Written(start, textEnd)}`", entry, TriggerRule.LetterCase);
                        break;
                    case TriggerRule.LeftEdge:
                        var wanted = entry.Rules.LeftEdge == LeftEdge.Word ? "not at a word's start" : "not after a space";
                        Near($"`{entry.Trigger.Text}` stays quiet: {wanted}: `{engine.tail[start - 1]}` stands before it", entry, TriggerRule.LeftEdge);
                        break;
                    case TriggerRule.Quiet:
                        Near($"`{entry.Trigger.Text}` is quiet: you took it back or left it alone", entry, TriggerRule.Quiet);
                        break;
                }
            }
            if (reasons.Count == 0) Note(TraceEvent.Typed, "no trigger ends here");
        }

        /// <summary>Says which others would have gone off on the same key.</summary>
        public void ExplainLosers(TypingEngine engine, TriggerIndex now, Key key, Key last, bool grew, in Match winner)
        {
            foreach (var (entry, start, textEnd) in Ending(engine, now, key, last, grew))
            {
                if (ReferenceEquals(entry, winner.Trigger) || !entry.Placed.Active) continue;
                var onThisKey = entry.Rules!.Timing == Timing.AtOnce == (textEnd == engine.tail.End);
                if (onThisKey && engine.Obstacle(entry, start, textEnd, key) is null)
                    Note(TraceEvent.Fires,
                        $"`{entry.Trigger.Text}` in *{entry.Placed.Library}* loses to `{winner.Trigger.Trigger.Text}` in *{winner.Trigger.Placed.Library}*",
                        entry, TriggerRule.Priority);
            }
        }

        private void Near(string why, ActiveTrigger entry, TriggerRule? rule) =>
            Note(happened == TraceEvent.Waits ? TraceEvent.Waits : TraceEvent.NearMiss, why, entry, rule);

        /// <summary>Every abbreviation that ends at the caret or, for a key that is no letter or digit, right before it.</summary>
        private static IEnumerable<(ActiveTrigger Entry, int Start, int TextEnd)> Ending(
            TypingEngine engine, TriggerIndex now, Key key, Key last, bool grew)
        {
            var found = new List<(ActiveTrigger Entry, int Start, int TextEnd)>();
            Walk(engine.tail.End, entry => true);
            if (grew && !char.IsLetterOrDigit(key.Text, 0))
            {
                Walk(engine.tail.End - 1, entry => entry.Rules!.Timing != Timing.AtOnce);
                if (last == key) Walk(engine.tail.End - 2, entry => entry.Rules!.Timing == Timing.DoubleClosingKey);
            }
            return found.OrderByDescending(match => match.TextEnd - match.Start);

            void Walk(int textEnd, Func<ActiveTrigger, bool> wanted)
            {
                foreach (var root in (TrieNode[])[now.Backward, now.Off])
                {
                    TrieNode? node = root;
                    for (var start = textEnd - 1; start >= engine.tail.First; start--)
                    {
                        node = engine.Descend(node, start);
                        if (node is null) break;
                        found.AddRange(node.Entries.Where(wanted).Select(entry => (entry, start, textEnd)));
                    }
                }
            }
        }

        private static string Shown(Key key) => key.Value == " " ? "Space" : key.Kind == KeyKind.Named ? key.Value : $"`{key.Value}`";
    }
}
