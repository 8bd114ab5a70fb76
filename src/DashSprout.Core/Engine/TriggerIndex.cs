using System.Collections.Immutable;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>
/// All triggers, arranged for matching: a persistent snapshot. An edit makes a new index that shares nearly everything
/// with the old one, so the engine follows a saved snippet without a pause however many there are.
/// </summary>
public sealed class TriggerIndex
{
    private readonly ImmutableDictionary<long, ImmutableArray<ActiveTrigger>> bySnippet;

    private TriggerIndex(
        ImmutableDictionary<long, ImmutableArray<ActiveTrigger>> bySnippet,
        TrieNode backward, TrieNode forward, TrieNode forwardExact, TrieNode off,
        PatternSet atOncePatterns, PatternSet closingPatterns,
        ImmutableDictionary<string, ImmutableArray<ActiveTrigger>> hotkeys, ClosingKeys anyClosingKey)
    {
        this.bySnippet = bySnippet;
        Backward = backward;
        Forward = forward;
        ForwardExact = forwardExact;
        Off = off;
        AtOncePatterns = atOncePatterns;
        ClosingPatterns = closingPatterns;
        Hotkeys = hotkeys;
        AnyClosingKey = anyClosingKey;
    }

    /// <summary>The index without triggers.</summary>
    public static TriggerIndex Empty { get; } = new(
        ImmutableDictionary<long, ImmutableArray<ActiveTrigger>>.Empty,
        TrieNode.Empty, TrieNode.Empty, TrieNode.Empty, TrieNode.Empty, PatternSet.Empty, PatternSet.Empty,
        ImmutableDictionary.Create<string, ImmutableArray<ActiveTrigger>>(StringComparer.Ordinal), ClosingKeys.None);

    /// <summary>Active abbreviations spelled from their last unit to their first.</summary>
    internal TrieNode Backward { get; }

    /// <summary>Active abbreviations of either case, folded and spelled forwards, to find the longer ones that a text begins.</summary>
    internal TrieNode Forward { get; }

    /// <summary>The same for those of exact case, as they are written.</summary>
    internal TrieNode ForwardExact { get; }

    /// <summary>Abbreviations that are switched off, spelled backwards; read by the trace only.</summary>
    internal TrieNode Off { get; }

    /// <summary>Active patterns that go off at once.</summary>
    internal PatternSet AtOncePatterns { get; }

    /// <summary>Active patterns that go off on closing keys.</summary>
    internal PatternSet ClosingPatterns { get; }

    /// <summary>Whether any pattern is active.</summary>
    internal bool HasPatterns => !AtOncePatterns.IsEmpty || !ClosingPatterns.IsEmpty;

    /// <summary>Active hotkeys by chord.</summary>
    internal ImmutableDictionary<string, ImmutableArray<ActiveTrigger>> Hotkeys { get; }

    /// <summary>At least every key that closes a word for some trigger; it may still hold keys of removed ones.</summary>
    internal ClosingKeys AnyClosingKey { get; }

    /// <summary>Every trigger, active or not, in no particular order.</summary>
    public IEnumerable<ActiveTrigger> All => bySnippet.Values.SelectMany(triggers => triggers);

    /// <summary>The triggers of one snippet, in its order.</summary>
    public IReadOnlyList<ActiveTrigger> TriggersOf(long snippetId) => bySnippet.TryGetValue(snippetId, out var triggers) ? triggers : [];

    /// <summary>Whether a shorter active abbreviation begins a trigger's text, whatever the case rules say.</summary>
    internal bool HasOneThatBegins(ActiveTrigger trigger)
    {
        for (var length = 1; length < trigger.Folded.Length; length++)
            if (Spelled(trigger.Folded.AsSpan(0, length)).Length > 0) return true;
        return false;
    }

    /// <summary>The active abbreviations that are spelled like this, folded, whatever the case rules say.</summary>
    internal ActiveTrigger[] Spelled(ReadOnlySpan<char> folded)
    {
        TrieNode? node = Backward;
        for (var at = folded.Length - 1; at >= 0 && node is not null; at--) node = node.Child(folded[at]);
        return node?.Entries ?? [];
    }

    /// <summary>The triggers that are not in this index any more, and those that are new in it, since an older one.</summary>
    internal (IReadOnlyList<ActiveTrigger> Gone, IReadOnlyList<ActiveTrigger> Came) Since(TriggerIndex older)
    {
        return (NotIn(older, this), NotIn(this, older));

        static List<ActiveTrigger> NotIn(TriggerIndex some, TriggerIndex other)
        {
            var found = new List<ActiveTrigger>();
            foreach (var (id, triggers) in some.bySnippet)
                if (!other.bySnippet.TryGetValue(id, out var others) || triggers != others) found.AddRange(triggers);
            return found;
        }
    }

    /// <summary>Whether a trigger, as an object, is still part of this index.</summary>
    internal bool Contains(ActiveTrigger trigger) =>
        bySnippet.TryGetValue(trigger.Placed.Id, out var triggers) && triggers.Contains(trigger);

    /// <summary>Builds an index.</summary>
    public static TriggerIndex Of(IEnumerable<PlacedSnippet> snippets)
    {
        var bySnippet = ImmutableDictionary.CreateBuilder<long, ImmutableArray<ActiveTrigger>>();
        List<(string, ActiveTrigger)> backward = [], forward = [], forwardExact = [], off = [];
        List<ActiveTrigger> patterns = [];
        var closing = ClosingKeys.None;
        var hotkeys = new Changes(Empty);
        foreach (var snippet in snippets)
        {
            var triggers = TriggersOf(snippet);
            bySnippet.Add(snippet.Id, triggers);
            foreach (var trigger in triggers)
            {
                if (trigger.Trigger is Trigger.Abbreviation && !trigger.Placed.Active) off.Add((Reversed(trigger), trigger));
                if (!trigger.Placed.Active) continue;
                closing = closing.With(trigger.ClosingKeys);
                if (trigger.Trigger is Trigger.Hotkey) hotkeys.Add(trigger);
                if (trigger.Trigger is Trigger.Pattern) patterns.Add(trigger);
                if (trigger.Trigger is not Trigger.Abbreviation) continue;
                backward.Add((Reversed(trigger), trigger));
                if (IsExact(trigger)) forwardExact.Add((trigger.Trigger.Text, trigger));
                else forward.Add((trigger.Folded, trigger));
            }
        }
        var building = Task.Run(() => TrieNode.Of(backward));
        var forwardTree = TrieNode.Of(forward);
        return new TriggerIndex(
            bySnippet.ToImmutable(), building.GetAwaiter().GetResult(), forwardTree, TrieNode.Of(forwardExact), TrieNode.Of(off),
            PatternSet.Of(patterns.Where(IsAtOnce)), PatternSet.Of(patterns.Where(pattern => !IsAtOnce(pattern))), hotkeys.ToIndex().Hotkeys, closing);
    }

    /// <summary>The index after some snippets were removed and others added; a changed snippet is in both lists.</summary>
    public TriggerIndex Change(IEnumerable<long> removed, IEnumerable<PlacedSnippet> added)
    {
        var changes = new Changes(this);
        foreach (var id in removed) changes.Remove(id);
        foreach (var snippet in added) changes.Add(snippet);
        return changes.ToIndex();
    }

    /// <summary>The index without one trigger; its snippet's other triggers stay.</summary>
    internal TriggerIndex Without(ActiveTrigger trigger)
    {
        var changes = new Changes(this);
        changes.RemoveOne(trigger);
        return changes.ToIndex();
    }

    private sealed class Changes(TriggerIndex start)
    {
        private readonly ImmutableDictionary<long, ImmutableArray<ActiveTrigger>>.Builder bySnippet = start.bySnippet.ToBuilder();
        private readonly ImmutableDictionary<string, ImmutableArray<ActiveTrigger>>.Builder hotkeys = start.Hotkeys.ToBuilder();
        private PatternSet atOncePatterns = start.AtOncePatterns;
        private PatternSet closingPatterns = start.ClosingPatterns;
        private TrieNode backward = start.Backward;
        private TrieNode forward = start.Forward;
        private TrieNode forwardExact = start.ForwardExact;
        private TrieNode off = start.Off;
        private ClosingKeys closing = start.AnyClosingKey;

        public void Add(PlacedSnippet snippet)
        {
            var triggers = TriggersOf(snippet);
            bySnippet.Add(snippet.Id, triggers);
            foreach (var trigger in triggers) Add(trigger);
        }

        public void Remove(long id)
        {
            if (!bySnippet.TryGetValue(id, out var triggers)) return;
            bySnippet.Remove(id);
            foreach (var trigger in triggers) Remove(trigger);
        }

        public void RemoveOne(ActiveTrigger trigger)
        {
            bySnippet[trigger.Placed.Id] = bySnippet[trigger.Placed.Id].Remove(trigger);
            Remove(trigger);
        }

        public TriggerIndex ToIndex() => new(
            bySnippet.ToImmutable(), backward, forward, forwardExact, off, atOncePatterns, closingPatterns, hotkeys.ToImmutable(), closing);

        public void Add(ActiveTrigger trigger)
        {
            if (trigger.Trigger is Trigger.Abbreviation && !trigger.Placed.Active) off = off.With(Reversed(trigger), trigger);
            if (!trigger.Placed.Active) return;
            closing = closing.With(trigger.ClosingKeys);
            switch (trigger.Trigger)
            {
                case Trigger.Abbreviation abbreviation:
                    backward = backward.With(Reversed(trigger), trigger);
                    if (IsExact(trigger)) forwardExact = forwardExact.With(abbreviation.Text, trigger);
                    else forward = forward.With(trigger.Folded, trigger);
                    break;
                case Trigger.Pattern when IsAtOnce(trigger):
                    atOncePatterns = atOncePatterns.With(trigger);
                    break;
                case Trigger.Pattern:
                    closingPatterns = closingPatterns.With(trigger);
                    break;
                case Trigger.Hotkey hotkey:
                    hotkeys[hotkey.Chord.Value] = hotkeys.TryGetValue(hotkey.Chord.Value, out var others) ? others.Add(trigger) : [trigger];
                    break;
            }
        }

        private void Remove(ActiveTrigger trigger)
        {
            if (!trigger.Placed.Active)
            {
                if (trigger.Trigger is Trigger.Abbreviation) off = off.Without(Reversed(trigger), trigger);
                return;
            }
            switch (trigger.Trigger)
            {
                case Trigger.Abbreviation abbreviation:
                    backward = backward.Without(Reversed(trigger), trigger);
                    if (IsExact(trigger)) forwardExact = forwardExact.Without(abbreviation.Text, trigger);
                    else forward = forward.Without(trigger.Folded, trigger);
                    break;
                case Trigger.Pattern:
                    atOncePatterns = atOncePatterns.Without(trigger);
                    closingPatterns = closingPatterns.Without(trigger);
                    break;
                case Trigger.Hotkey hotkey when hotkeys.TryGetValue(hotkey.Chord.Value, out var others):
                    if (others.Length == 1) hotkeys.Remove(hotkey.Chord.Value);
                    else hotkeys[hotkey.Chord.Value] = others.Remove(trigger);
                    break;
            }
        }
    }

    private static bool IsExact(ActiveTrigger trigger) => trigger.Rules!.Case == LetterCase.Exact;

    private static bool IsAtOnce(ActiveTrigger trigger) => trigger.Rules!.Timing == Timing.AtOnce;

    private static ImmutableArray<ActiveTrigger> TriggersOf(PlacedSnippet snippet) =>
        [.. snippet.Snippet.Triggers.Select((trigger, order) => new ActiveTrigger(snippet, trigger, order))];

    private static string Reversed(ActiveTrigger trigger) => string.Create(trigger.Folded.Length, trigger.Folded, static (units, folded) =>
    {
        folded.CopyTo(units);
        units.Reverse();
    });
}
