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
        TrieNode backward, TrieNode forward, TrieNode off,
        ImmutableArray<ActiveTrigger> patterns, ImmutableDictionary<string, ImmutableArray<ActiveTrigger>> hotkeys,
        ClosingKeys anyClosingKey)
    {
        this.bySnippet = bySnippet;
        Backward = backward;
        Forward = forward;
        Off = off;
        Patterns = patterns;
        Hotkeys = hotkeys;
        AnyClosingKey = anyClosingKey;
    }

    /// <summary>The index without triggers.</summary>
    public static TriggerIndex Empty { get; } = new(
        ImmutableDictionary<long, ImmutableArray<ActiveTrigger>>.Empty,
        TrieNode.Empty, TrieNode.Empty, TrieNode.Empty, [],
        ImmutableDictionary.Create<string, ImmutableArray<ActiveTrigger>>(StringComparer.Ordinal), ClosingKeys.None);

    /// <summary>Active abbreviations spelled from their last unit to their first.</summary>
    internal TrieNode Backward { get; }

    /// <summary>Active abbreviations spelled forwards, to find the longer ones that a text begins.</summary>
    internal TrieNode Forward { get; }

    /// <summary>Abbreviations that are switched off, spelled backwards; read by the trace only.</summary>
    internal TrieNode Off { get; }

    /// <summary>Active patterns.</summary>
    internal ImmutableArray<ActiveTrigger> Patterns { get; }

    /// <summary>Active hotkeys by chord.</summary>
    internal ImmutableDictionary<string, ImmutableArray<ActiveTrigger>> Hotkeys { get; }

    /// <summary>At least every key that closes a word for some trigger; it may still hold keys of removed ones.</summary>
    internal ClosingKeys AnyClosingKey { get; }

    /// <summary>Every trigger, active or not, in no particular order.</summary>
    public IEnumerable<ActiveTrigger> All => bySnippet.Values.SelectMany(triggers => triggers);

    /// <summary>The triggers of one snippet, in its order.</summary>
    public IReadOnlyList<ActiveTrigger> TriggersOf(long snippetId) => bySnippet.TryGetValue(snippetId, out var triggers) ? triggers : [];

    /// <summary>Whether a shorter active abbreviation begins a trigger's text.</summary>
    internal bool HasOneThatBegins(ActiveTrigger trigger)
    {
        TrieNode? node = Forward;
        foreach (var unit in trigger.Folded.AsSpan()[..Math.Max(0, trigger.Folded.Length - 1)])
        {
            node = node.Child(unit);
            if (node is null) return false;
            if (node.Entries.Length > 0) return true;
        }
        return false;
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
        List<(string, ActiveTrigger)> backward = [], forward = [], off = [];
        var closing = ClosingKeys.None;
        var others = new Changes(Empty);
        foreach (var snippet in snippets)
        {
            var triggers = TriggersOf(snippet);
            bySnippet.Add(snippet.Id, triggers);
            foreach (var trigger in triggers)
            {
                if (trigger.Trigger is not Trigger.Abbreviation)
                {
                    others.Add(trigger);
                    continue;
                }
                if (!trigger.Placed.Active)
                {
                    off.Add((Reversed(trigger), trigger));
                    continue;
                }
                backward.Add((Reversed(trigger), trigger));
                forward.Add((trigger.Folded, trigger));
                closing = closing.With(trigger.ClosingKeys);
            }
        }
        var rest = others.ToIndex();
        var building = Task.Run(() => TrieNode.Of(backward));
        var forwardTree = TrieNode.Of(forward);
        return new TriggerIndex(bySnippet.ToImmutable(), building.GetAwaiter().GetResult(), forwardTree, TrieNode.Of(off),
            rest.Patterns, rest.Hotkeys, closing.With(rest.AnyClosingKey));
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
        private readonly ImmutableArray<ActiveTrigger>.Builder patterns = start.Patterns.ToBuilder();
        private TrieNode backward = start.Backward;
        private TrieNode forward = start.Forward;
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
            bySnippet.ToImmutable(), backward, forward, off, patterns.ToImmutable(), hotkeys.ToImmutable(), closing);

        public void Add(ActiveTrigger trigger)
        {
            if (trigger.Trigger is Trigger.Abbreviation)
            {
                if (!trigger.Placed.Active)
                {
                    off = off.With(Reversed(trigger), trigger);
                    return;
                }
                backward = backward.With(Reversed(trigger), trigger);
                forward = forward.With(trigger.Folded, trigger);
                closing = closing.With(trigger.ClosingKeys);
            }
            if (!trigger.Placed.Active) return;
            if (trigger.Trigger is Trigger.Pattern)
            {
                patterns.Add(trigger);
                closing = closing.With(trigger.ClosingKeys);
            }
            if (trigger.Trigger is Trigger.Hotkey hotkey)
                hotkeys[hotkey.Chord.Value] = hotkeys.TryGetValue(hotkey.Chord.Value, out var others) ? others.Add(trigger) : [trigger];
        }

        private void Remove(ActiveTrigger trigger)
        {
            switch (trigger.Trigger)
            {
                case Trigger.Abbreviation when !trigger.Placed.Active:
                    off = off.Without(Reversed(trigger), trigger);
                    break;
                case Trigger.Abbreviation:
                    backward = backward.Without(Reversed(trigger), trigger);
                    forward = forward.Without(trigger.Folded, trigger);
                    break;
                case Trigger.Pattern:
                    patterns.Remove(trigger);
                    break;
                case Trigger.Hotkey hotkey when hotkeys.TryGetValue(hotkey.Chord.Value, out var others):
                    hotkeys[hotkey.Chord.Value] = others.Remove(trigger);
                    break;
            }
        }
    }

    private static ImmutableArray<ActiveTrigger> TriggersOf(PlacedSnippet snippet) =>
        [.. snippet.Snippet.Triggers.Select(trigger => new ActiveTrigger(snippet, trigger))];

    private static string Reversed(ActiveTrigger trigger) => string.Create(trigger.Folded.Length, trigger.Folded, static (units, folded) =>
    {
        folded.CopyTo(units);
        units.Reverse();
    });
}
