using System.Collections.Immutable;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>
/// All triggers, arranged for matching: a persistent snapshot. An edit makes a new index that shares nearly everything
/// with the old one, so the engine follows a saved snippet without a pause however many there are.
/// </summary>
public sealed class TriggerIndex
{
    private readonly IdTable<ActiveTrigger[]> bySnippet;
    private readonly LaterTrie off;

    private TriggerIndex(
        IdTable<ActiveTrigger[]> bySnippet,
        TrieNode backward,
        TrieNode forward,
        TrieNode forwardExact,
        LaterTrie off,
        PatternSet atOncePatterns,
        PatternSet closingPatterns,
        ImmutableDictionary<string, ImmutableArray<ActiveTrigger>> hotkeys,
        ClosingKeys anyClosingKey
    )
    {
        this.bySnippet = bySnippet;
        Backward = backward;
        Forward = forward;
        ForwardExact = forwardExact;
        this.off = off;
        AtOncePatterns = atOncePatterns;
        ClosingPatterns = closingPatterns;
        Hotkeys = hotkeys;
        AnyClosingKey = anyClosingKey;
    }

    /// <summary>The index without triggers.</summary>
    public static TriggerIndex Empty { get; } =
        new(
            IdTable<ActiveTrigger[]>.Empty,
            TrieNode.Empty,
            TrieNode.Empty,
            TrieNode.Empty,
            LaterTrie.Empty,
            PatternSet.Empty,
            PatternSet.Empty,
            ImmutableDictionary.Create<string, ImmutableArray<ActiveTrigger>>(StringComparer.Ordinal),
            ClosingKeys.None
        );

    /// <summary>Active abbreviations spelled from their last unit to their first.</summary>
    internal TrieNode Backward { get; }

    /// <summary>
    /// Active abbreviations of either case, folded and spelled forwards, to find the longer ones that a text begins.
    /// </summary>
    internal TrieNode Forward { get; }

    /// <summary>The same for those of exact case, as they are written.</summary>
    internal TrieNode ForwardExact { get; }

    /// <summary>Abbreviations that are switched off, spelled backwards; read by the trace only.</summary>
    internal TrieNode Off => off.Tree;

    /// <summary>Active patterns that go off at once.</summary>
    internal PatternSet AtOncePatterns { get; }

    /// <summary>Active patterns that go off on closing keys.</summary>
    internal PatternSet ClosingPatterns { get; }

    /// <summary>Whether any pattern is active.</summary>
    internal bool HasPatterns => !AtOncePatterns.IsEmpty || !ClosingPatterns.IsEmpty;

    /// <summary>Active hotkeys by chord.</summary>
    internal ImmutableDictionary<string, ImmutableArray<ActiveTrigger>> Hotkeys { get; }

    /// <summary>
    /// At least every key that closes a word for some trigger; it may still hold keys of removed ones.
    /// </summary>
    internal ClosingKeys AnyClosingKey { get; }

    /// <summary>Every trigger, active or not, in no particular order.</summary>
    public IEnumerable<ActiveTrigger> All => bySnippet.SelectMany(found => found.Value);

    /// <summary>An id that no snippet in here has, nor any above it.</summary>
    public long FreeId => bySnippet.Above;

    /// <summary>The triggers of one snippet, in its order.</summary>
    public IReadOnlyList<ActiveTrigger> TriggersOf(long snippetId) => bySnippet.Find(snippetId) ?? [];

    /// <summary>Whether a shorter active abbreviation begins a trigger's text, whatever the case rules say.</summary>
    internal bool HasOneThatBegins(ActiveTrigger trigger)
    {
        for (var length = 1; length < trigger.Folded.Length; length++)
            if (Spelled(trigger.Folded.AsSpan(0, length)).Length > 0)
                return true;
        return false;
    }

    /// <summary>The active abbreviations that are spelled like this, folded, whatever the case rules say.</summary>
    internal ActiveTrigger[] Spelled(ReadOnlySpan<char> folded)
    {
        TrieNode? node = Backward;
        for (var at = folded.Length - 1; at >= 0 && node is not null; at--)
            node = node.Child(folded[at]);
        return node?.Entries ?? [];
    }

    /// <summary>
    /// The triggers that are not in this index any more, and those that are new in it, since an older one.
    /// </summary>
    internal (IReadOnlyList<ActiveTrigger> Gone, IReadOnlyList<ActiveTrigger> Came) Since(TriggerIndex older)
    {
        return (NotIn(older, this), NotIn(this, older));

        static List<ActiveTrigger> NotIn(TriggerIndex some, TriggerIndex other)
        {
            var found = new List<ActiveTrigger>();
            foreach (var (id, triggers) in some.bySnippet)
                if (!ReferenceEquals(other.bySnippet.Find(id), triggers))
                    found.AddRange(triggers);
            return found;
        }
    }

    /// <summary>Whether a trigger, as an object, is still part of this index.</summary>
    internal bool Contains(ActiveTrigger trigger) =>
        bySnippet.Find(trigger.Placed.Id) is { } triggers && Array.IndexOf(triggers, trigger) >= 0;

    /// <summary>Builds an index.</summary>
    public static TriggerIndex Of(IEnumerable<PlacedSnippet> snippets) => Empty.Change([], snippets);

    /// <summary>
    /// The index after some snippets were removed and others added; a changed snippet is in both lists.
    /// </summary>
    public TriggerIndex Change(IEnumerable<long> removed, IEnumerable<PlacedSnippet> added)
    {
        var changes = new Changes(this);
        foreach (var id in removed)
            changes.Remove(id);
        var placed = added as IReadOnlyList<PlacedSnippet> ?? [.. added];
        var triggers = new ActiveTrigger[placed.Count][];
        ParallelRanges.For(placed.Count, (from, to) =>
        {
            for (var at = from; at < to; at++)
                triggers[at] = TriggersOf(placed[at], bySnippet.Find(placed[at].Id) ?? []);
        });
        for (var at = 0; at < triggers.Length; at++)
            changes.Add(placed[at].Id, triggers[at]);
        return changes.ToIndex();
    }

    /// <summary>The index without one trigger; its snippet's other triggers stay.</summary>
    internal TriggerIndex Without(ActiveTrigger trigger)
    {
        var changes = new Changes(this);
        changes.RemoveOne(trigger);
        return changes.ToIndex();
    }

    /// <summary>An index in the making: edits are gathered and made together.</summary>
    private sealed class Changes(TriggerIndex start)
    {
        private readonly IdTable<ActiveTrigger[]>.IdTableBuilder bySnippet = start.bySnippet.ToBuilder();
        private readonly ImmutableDictionary<string, ImmutableArray<ActiveTrigger>>.Builder hotkeys =
            start.Hotkeys.ToBuilder();
        private readonly List<TrieEdit> backward = [],
            forward = [],
            forwardExact = [],
            off = [];
        private readonly List<ActiveTrigger> addedPatterns = [],
            removedPatterns = [];
        private ClosingKeys closing = start.AnyClosingKey;

        public void Add(long id, ActiveTrigger[] triggers)
        {
            bySnippet.Add(id, triggers);
            foreach (var trigger in triggers)
                Edit(trigger, added: true);
        }

        public void Remove(long id)
        {
            if (bySnippet.Find(id) is not { } triggers)
                return;
            bySnippet.Remove(id);
            foreach (var trigger in triggers)
                Edit(trigger, added: false);
        }

        public void RemoveOne(ActiveTrigger trigger)
        {
            bySnippet[trigger.Placed.Id] = Array.FindAll(bySnippet.Find(trigger.Placed.Id) ?? [], other =>
                !ReferenceEquals(other, trigger)
            );
            Edit(trigger, added: false);
        }

        public TriggerIndex ToIndex()
        {
            var beside = backward.Count > ParallelRanges.Fewest ? Task.Run(() => start.Backward.With(backward)) : null;
            var (nextForward, nextExact, nextOff) = (
                start.Forward.With(forward),
                start.ForwardExact.With(forwardExact),
                start.off.With(off)
            );
            return new TriggerIndex(
                bySnippet.ToTable(),
                beside is null ? start.Backward.With(backward) : beside.GetAwaiter().GetResult(),
                nextForward,
                nextExact,
                nextOff,
                Patterns(start.AtOncePatterns, IsAtOnce),
                Patterns(start.ClosingPatterns, pattern => !IsAtOnce(pattern)),
                hotkeys.ToImmutable(),
                closing
            );
        }

        private void Edit(ActiveTrigger trigger, bool added)
        {
            if (!trigger.Placed.Active)
            {
                if (trigger.Trigger is Trigger.Abbreviation)
                    off.Add(new(trigger.Backward, trigger, added));
                return;
            }
            if (added)
                closing = closing.With(trigger.ClosingKeys);
            switch (trigger.Trigger)
            {
                case Trigger.Abbreviation abbreviation:
                    backward.Add(new(trigger.Backward, trigger, added));
                    if (IsExact(trigger))
                        forwardExact.Add(new(abbreviation.Text, trigger, added));
                    else
                        forward.Add(new(trigger.Folded, trigger, added));
                    break;
                case Trigger.Pattern:
                    (added ? addedPatterns : removedPatterns).Add(trigger);
                    break;
                case Trigger.Hotkey hotkey:
                    var others = hotkeys.GetValueOrDefault(hotkey.Chord.Value, []);
                    others = added ? others.Add(trigger) : others.Remove(trigger);
                    if (others.IsEmpty)
                        hotkeys.Remove(hotkey.Chord.Value);
                    else
                        hotkeys[hotkey.Chord.Value] = others;
                    break;
            }
        }

        private PatternSet Patterns(PatternSet before, Func<ActiveTrigger, bool> belongs)
        {
            var set = before.Without(removedPatterns);
            var added = addedPatterns.Where(belongs).ToList();
            return added.Count == 0 ? set : set.With(added);
        }
    }

    private static bool IsExact(ActiveTrigger trigger) => trigger.Rules!.Case == LetterCase.Exact;

    private static bool IsAtOnce(ActiveTrigger trigger) => trigger.Rules!.Timing == Timing.AtOnce;

    private static ActiveTrigger[] TriggersOf(PlacedSnippet snippet, ActiveTrigger[] before)
    {
        var triggers = new ActiveTrigger[snippet.Snippet.Triggers.Count];
        for (var order = 0; order < triggers.Length; order++)
        {
            var trigger = snippet.Snippet.Triggers[order];
            triggers[order] =
                order < before.Length && ReferenceEquals(before[order].Trigger, trigger)
                    ? new ActiveTrigger(snippet, before[order])
                    : new ActiveTrigger(snippet, trigger, order);
        }
        return triggers;
    }
}
