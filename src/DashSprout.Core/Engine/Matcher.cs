using System.Globalization;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>
/// What matches at the end of what was typed, by the triggers' own rules. It walks the reversed trie back from the
/// caret, so a key costs as many steps as the longest abbreviation that could end there has letters, however many
/// abbreviations there are. Allocates nothing.
/// </summary>
internal sealed class Matcher(TypedTail tail)
{
    private int quietStart;
    private int quietEnd;
    private Match? waiting;

    /// <summary>The triggers; exchanged from key to key.</summary>
    public TriggerIndex Index { get; set; } = TriggerIndex.Empty;

    /// <summary>The application in which one types; null for one in which every trigger works.</summary>
    public string? App { get; set; } = "";

    /// <summary>The abbreviation that is complete and only waits for its closing key; as of the last look.</summary>
    public Match? Waiting => waiting;

    /// <summary>Whether Enter or Tab may set something off if it comes next; as of the last look.</summary>
    public bool ActingKeyMatters { get; private set; }

    /// <summary>Looks at what has just been typed: the trigger that goes off on it, and what waits now.</summary>
    /// <param name="grew">Whether the key added a grapheme.</param>
    public Match? Look(Key key, Key last, bool grew)
    {
        Match? best = null;
        waiting = null;
        ActingKeyMatters = false;
        AtCaret(ref best);
        if (!grew || !Index.AnyClosingKey.Contains(key))
            return best;
        BeforeClosingKey(Timing.ClosingKey, key, tail.End - 1, ref best);
        if (last.Closing == key.Closing && tail.End - tail.MatchFrom >= 2)
            BeforeClosingKey(Timing.DoubleClosingKey, key, tail.End - 2, ref best);
        if (key.Kind != KeyKind.Typed && !ActingKeyMatters)
        {
            // Enter or Tab was the first of two.
            Match? second = null;
            BeforeClosingKey(Timing.DoubleClosingKey, key, tail.End - 1, ref second);
            ActingKeyMatters = second is not null;
        }
        return best;
    }

    /// <summary>
    /// Looks again after the tail has changed in another way than by typing; gives what would go off at once here.
    /// </summary>
    public Match? LookAgain()
    {
        Match? best = null;
        waiting = null;
        ActingKeyMatters = false;
        AtCaret(ref best);
        return best;
    }

    /// <summary>Forgets what the last look has found: the tail began anew.</summary>
    public void Forget()
    {
        waiting = null;
        ActingKeyMatters = false;
        quietEnd = 0;
    }

    /// <summary>Keeps what stands between two positions quiet until it is erased.</summary>
    public void KeepQuiet(int start, int end) => (quietStart, quietEnd) = (start, end);

    /// <summary>What was erased is quiet no longer.</summary>
    public void Erased()
    {
        quietEnd = Math.Min(quietEnd, tail.End);
        if (quietEnd <= quietStart)
            quietEnd = 0;
    }

    /// <summary>
    /// Every trigger whose rules let it go off on a key that has just been typed, each judged by itself.
    /// </summary>
    public void Each(Key key, Key last, bool grew, Action<ActiveTrigger> found)
    {
        Ending(Timing.AtOnce, key, tail.End, found);
        if (!grew || !Index.AnyClosingKey.Contains(key))
            return;
        Ending(Timing.ClosingKey, key, tail.End - 1, found);
        if (last.Closing != key.Closing || tail.End - tail.MatchFrom < 2)
            return;
        Ending(Timing.DoubleClosingKey, key, tail.End - 2, found);
    }

    /// <summary>
    /// Whether a longer active abbreviation begins with what stands between two positions and could still go off there.
    /// </summary>
    public bool LongerMayFollow(int start, int end) =>
        Follows(Index.Forward.Find(tail.Folded(start, end)), start)
        || Follows(Index.ForwardExact.Find(tail.Written(start, end)), start);

    /// <summary>One of those longer ones, for an explanation.</summary>
    public ActiveTrigger? LongerOne(int start, int end) =>
        FirstBelow(Index.Forward.Find(tail.Folded(start, end)), start)
        ?? FirstBelow(Index.ForwardExact.Find(tail.Written(start, end)), start);

    /// <summary>
    /// Whether what was typed since a position is itself an abbreviation that only waits for its closing key, or for
    /// the second of two.
    /// </summary>
    public bool IsComplete(int start) =>
        IsComplete(start, tail.End, null)
        || (tail.End - 1 > start && IsComplete(start, tail.End - 1, tail[tail.End - 1]));

    /// <summary>The hotkey that a chord sets off here.</summary>
    public ActiveTrigger? Hotkey(Key chord)
    {
        if (!Index.Hotkeys.TryGetValue(chord.Value, out var hotkeys))
            return null;
        ActiveTrigger? best = null;
        foreach (var hotkey in hotkeys)
            if (Admits(hotkey.Trigger.Scope) && (best is null || Compare(new(hotkey, 0, 0, 0), new(best, 0, 0, 0)) < 0))
                best = hotkey;
        return best;
    }

    /// <summary>
    /// The first rule that keeps a trigger back whose text stands between the positions; null when none does.
    /// </summary>
    public TriggerRule? Obstacle(ActiveTrigger entry, int start, int textEnd, Key key)
    {
        var rules = entry.Rules!;
        if (rules.Timing != Timing.AtOnce && !entry.ClosingKeys.Contains(key))
            return TriggerRule.Timing;
        return Obstacle(entry, start, textEnd);
    }

    /// <summary>The same, the closing key apart.</summary>
    public TriggerRule? Obstacle(ActiveTrigger entry, int start, int textEnd)
    {
        if (!Admits(entry.Trigger.Scope))
            return TriggerRule.Scope;
        if (
            entry.Rules!.Case == LetterCase.Exact
            && entry.Trigger is Trigger.Abbreviation
            && !tail.Written(start, textEnd).SequenceEqual(entry.Trigger.Text)
        )
            return TriggerRule.LetterCase;
        if (!LeftEdgePasses(entry.Rules.LeftEdge, start))
            return TriggerRule.LeftEdge;
        return IsQuiet(start) ? TriggerRule.Quiet : null;
    }

    /// <summary>What ends at the caret: it goes off at once, or waits for its closing key.</summary>
    private void AtCaret(ref Match? best)
    {
        var end = tail.End;
        foreach (var (start, entries) in new ReverseWalk(tail, Index.Backward, end))
        {
            foreach (var entry in entries)
            {
                if (Obstacle(entry, start, end) is not null)
                    continue;
                if (entry.Rules!.Timing == Timing.AtOnce)
                    Prefer(new Match(entry, start, end, end), ref best);
                else if (entry.ClosingKeys.Keys.Count > 0)
                {
                    Prefer(new Match(entry, start, end, end), ref waiting);
                    ActingKeyMatters |= entry.Rules.Timing == Timing.ClosingKey && entry.ClosingKeys.HoldsActingKeys;
                }
            }
        }
        if (!Index.AtOncePatterns.IsEmpty)
        {
            Patterns(Index.AtOncePatterns, null, null, end, ref best);
            ActingKeyMatters |= PatternEndsWith(Key.Enter) || PatternEndsWith(Key.Tab);
        }
        if (!ActingKeyMatters && !Index.ClosingPatterns.IsEmpty)
        {
            Match? closed = null;
            Patterns(Index.ClosingPatterns, Timing.ClosingKey, null, end, ref closed);
            ActingKeyMatters = closed is { Trigger.ClosingKeys.HoldsActingKeys: true };
        }
    }

    private void BeforeClosingKey(Timing timing, Key key, int textEnd, ref Match? best)
    {
        foreach (var (start, entries) in new ReverseWalk(tail, Index.Backward, textEnd))
        foreach (var entry in entries)
            if (entry.Rules!.Timing == timing && Obstacle(entry, start, textEnd, key) is null)
                Prefer(new Match(entry, start, textEnd, tail.End), ref best);
        Patterns(Index.ClosingPatterns, timing, key, textEnd, ref best);
    }

    private void Ending(Timing timing, Key key, int textEnd, Action<ActiveTrigger> found)
    {
        foreach (var (start, entries) in new ReverseWalk(tail, Index.Backward, textEnd))
        foreach (var entry in entries)
            if (entry.Rules!.Timing == timing && Obstacle(entry, start, textEnd, key) is null)
                found(entry);
        var patterns = timing == Timing.AtOnce ? Index.AtOncePatterns : Index.ClosingPatterns;
        foreach (var group in patterns.Groups)
        {
            if (!group.MayMatch(tail.Written(WindowStart(textEnd), textEnd)))
                continue;
            foreach (var entry in group.Patterns)
                if (entry.Rules!.Timing == timing && FindPattern(entry, textEnd, key) is not null)
                    found(entry);
        }
    }

    /// <param name="timing">Which of them; null for all.</param>
    /// <param name="key">The closing key; null when any will do.</param>
    private void Patterns(PatternSet patterns, Timing? timing, Key? key, int textEnd, ref Match? best)
    {
        if (patterns.IsEmpty || textEnd <= tail.MatchFrom)
            return;
        var typed = tail.Written(WindowStart(textEnd), textEnd);
        foreach (var group in patterns.Groups)
        {
            if (!group.MayMatch(typed))
                continue;
            foreach (var entry in group.Patterns)
                if ((timing is null || entry.Rules!.Timing == timing) && FindPattern(entry, textEnd, key) is { } start)
                    Prefer(new Match(entry, start, textEnd, tail.End), ref best);
        }
    }

    /// <summary>Whether a key that acts would complete a pattern that goes off at once.</summary>
    private bool PatternEndsWith(Key key)
    {
        tail.Append(key);
        Match? found = null;
        Patterns(Index.AtOncePatterns, null, null, tail.End, ref found);
        tail.RemoveLast();
        return found is not null;
    }

    private int WindowStart(int textEnd)
    {
        var start = textEnd;
        var units = 0;
        while (start > tail.MatchFrom && (units += tail.Written(start - 1, start).Length) <= Trigger.Pattern.Window)
            start--;
        return start;
    }

    private int? FindPattern(ActiveTrigger entry, int textEnd, Key? key)
    {
        var start = WindowStart(textEnd);
        var expression = ((Trigger.Pattern)entry.Trigger).Expression;
        for (; start < textEnd; start++)
        {
            var matches = expression.EnumerateMatches(tail.Written(start, textEnd));
            if (!matches.MoveNext())
                return null;
            var chars = 0;
            while (chars < matches.Current.Index)
            {
                chars += tail.Written(start, start + 1).Length;
                start++;
            }
            // A match that begins inside a grapheme is none; the search goes on behind it.
            if (chars != matches.Current.Index)
                continue;
            if (
                (key is { } closing ? Obstacle(entry, start, textEnd, closing) : Obstacle(entry, start, textEnd))
                is null
            )
                return start;
        }
        return null;
    }

    private bool IsComplete(int start, int end, Key? first)
    {
        return Any(Index.Forward.Find(tail.Folded(start, end)))
            || Any(Index.ForwardExact.Find(tail.Written(start, end)));

        bool Any(TrieNode? node)
        {
            if (node is null)
                return false;
            foreach (var entry in node.Entries)
                if (
                    entry.Rules!.Timing != Timing.AtOnce
                    && Obstacle(entry, start, end) is null
                    && (
                        first is not { } key
                        || (entry.Rules.Timing == Timing.DoubleClosingKey && entry.ClosingKeys.Contains(key))
                    )
                )
                    return true;
            return false;
        }
    }

    private bool Follows(TrieNode? node, int start) => node is not null && Admits(node.Below, start);

    private bool Admits(Admission admission, int start)
    {
        if (IsQuiet(start))
            return false;
        foreach (var edge in (ReadOnlySpan<LeftEdge>)[LeftEdge.Space, LeftEdge.Word, LeftEdge.Any])
            if (admission[edge] is { } scope && Admits(scope) && LeftEdgePasses(edge, start))
                return true;
        return false;
    }

    private ActiveTrigger? FirstBelow(TrieNode? node, int start)
    {
        while (node is not null && Admits(node.Below, start))
        {
            TrieNode? next = null;
            foreach (var child in node.Children)
            {
                foreach (var entry in child.Entries)
                    if (Admits(entry.Trigger.Scope) && LeftEdgePasses(entry.Rules!.LeftEdge, start))
                        return entry;
                if (next is null && Admits(child.Below, start))
                    next = child;
            }
            node = next;
        }
        return null;
    }

    private bool Admits(Scope scope) => App is null || scope.Admits(App);

    private bool IsQuiet(int start) => start < quietEnd;

    private bool LeftEdgePasses(LeftEdge edge, int start)
    {
        if (start == tail.First || edge == LeftEdge.Any)
            return true;
        if (edge == LeftEdge.Word)
            return tail.IsWordBoundary(start);
        var before = tail.Written(start - 1, start)[^1];
        return before is '"' or '\'' or '\t' or '\n' or '\r' or '\u0085'
            || char.GetUnicodeCategory(before)
                is UnicodeCategory.SpaceSeparator
                    or UnicodeCategory.LineSeparator
                    or UnicodeCategory.ParagraphSeparator
                    or UnicodeCategory.OpenPunctuation
                    or UnicodeCategory.InitialQuotePunctuation;
    }

    /// <summary>
    /// The longest text wins; then scoped before everywhere, exact case before the others, then priority.
    /// </summary>
    private static void Prefer(in Match match, ref Match? best)
    {
        if (best is not { } other || Compare(match, other) < 0)
            best = match;
    }

    private static int Compare(in Match a, in Match b)
    {
        if (a.Length != b.Length)
            return b.Length - a.Length;
        var scoped = IsScoped(b.Trigger).CompareTo(IsScoped(a.Trigger));
        if (scoped != 0)
            return scoped;
        var exact = IsExact(b.Trigger).CompareTo(IsExact(a.Trigger));
        if (exact != 0)
            return exact;
        var rank = a.Trigger.Placed.Rank.CompareTo(b.Trigger.Placed.Rank);
        return rank != 0 ? rank : a.Trigger.Order.CompareTo(b.Trigger.Order);
    }

    private static bool IsScoped(ActiveTrigger trigger) => trigger.Trigger.Scope is not Scope.EverywhereScope;

    private static bool IsExact(ActiveTrigger trigger) => trigger.Rules?.Case == LetterCase.Exact;
}
