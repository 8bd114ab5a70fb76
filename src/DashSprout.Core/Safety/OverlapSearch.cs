using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Safety;

/// <summary>
/// Finds overlaps by asking the engine: each trigger's own keys are typed with all triggers there, and whatever goes
/// off in its stead is the winner, provided that the trigger does go off once the winner is taken away. So a claim is
/// never wrong, and its witness is what the engine did.
/// </summary>
public sealed class OverlapSearch
{
    private readonly TriggerIndex index;
    private readonly List<string> apps;
    private readonly bool heedsCase;
    private readonly TypingEngine engine;
    private readonly Dictionary<(string Keys, string App), Witness> witnesses = [];
    private TriggerIndex stage;

    /// <summary>
    /// How many triggers that would beat one are taken away, one after the other, to see whether it goes off then; behind
    /// so many it is asked with nothing else there.
    /// </summary>
    private const int MostWinners = 10;

    private const int MostSpellings = 100;

    /// <summary>Prepares a search among the active triggers of an index.</summary>
    public OverlapSearch(TriggerIndex index)
    {
        this.index = index;
        stage = index;
        // One engine for all that is typed here: it begins anew with each focus.
        engine = new TypingEngine(() => stage);
        heedsCase = index.All.Any(trigger => trigger is { Placed.Active: true, Rules.Case: LetterCase.Exact });
        apps =
        [
            "",
            .. index
                .All.SelectMany(trigger =>
                    trigger.Trigger.Scope switch
                    {
                        Scope.OnlyIn only => only.Apps,
                        Scope.NotIn not => not.Apps,
                        _ => EquatableList<string>.Empty,
                    }
                )
                .Distinct()
                .Order(StringComparer.Ordinal),
        ];
    }

    /// <summary>All overlaps, in the order of the triggers.</summary>
    public IReadOnlyList<Overlap> All(IProgress<double>? progress = null, CancellationToken cancellation = default) =>
        [.. OverlapMap.Of(index, progress, cancellation).All];

    /// <summary>The overlaps that one trigger is part of, as winner or loser.</summary>
    public IReadOnlyList<Overlap> Of(ActiveTrigger trigger)
    {
        if (!trigger.Placed.Active)
            return [];
        var overlaps = Losing(trigger).ToList();
        var givenWayTo = index.HasOneThatBegins(trigger);
        foreach (var other in index.All)
            if (!ReferenceEquals(other, trigger) && other.Placed.Active && MayBeBeatenBy(other, trigger, givenWayTo))
                overlaps.AddRange(Losing(other).Where(overlap => ReferenceEquals(overlap.Winner, trigger)));
        return overlaps;
    }

    /// <summary>
    /// Whether the second could keep the first from going off; cheap, and true too often rather than too seldom.
    /// </summary>
    /// <param name="givenWayTo">Whether a shorter one may give way to the second, which matters where it only
    /// begins.</param>
    internal static bool MayBeBeatenBy(ActiveTrigger other, ActiveTrigger trigger, bool givenWayTo) =>
        trigger.Trigger is Trigger.Pattern
        || other.Trigger is Trigger.Pattern
        || (
            trigger.Trigger is Trigger.Hotkey one
                ? other.Trigger is Trigger.Hotkey two && one.Chord == two.Chord
                : ReachesInto(other, trigger.Folded, givenWayTo)
        );

    /// <summary>
    /// Whether a text stands in what one types for a trigger, its closing keys included, or begins there.
    /// </summary>
    private static bool ReachesInto(ActiveTrigger trigger, string folded, bool beginningCounts)
    {
        if (Meet(trigger.Folded))
            return true;
        foreach (var closing in trigger.ClosingKeys.Keys)
        {
            if (!folded.Contains(closing.Text, StringComparison.OrdinalIgnoreCase))
                continue;
            var end = CaseFolding.Fold(closing.Text);
            if (Meet(trigger.Folded + end) || Meet(trigger.Folded + end + end))
                return true;
        }
        return false;

        bool Meet(string typed)
        {
            if (!beginningCounts)
                return typed.Contains(folded, StringComparison.Ordinal);
            for (var start = 0; start < typed.Length; start++)
            {
                var length = Math.Min(typed.Length - start, folded.Length);
                if (typed.AsSpan(start, length).SequenceEqual(folded.AsSpan(0, length)))
                    return true;
            }
            return false;
        }
    }

    /// <summary>
    /// What comes of typing one trigger's own keys: the overlaps that it loses, and patterns that it beats.
    /// </summary>
    internal IEnumerable<Overlap> Losing(ActiveTrigger loser)
    {
        if (loser.Trigger is Trigger.Hotkey hotkey)
            return LosingHotkey(loser, hotkey);
        return loser.Trigger is Trigger.Abbreviation ? LosingAbbreviation(loser) : [];
    }

    private IEnumerable<Overlap> LosingHotkey(ActiveTrigger loser, Trigger.Hotkey hotkey)
    {
        if (TakenChords.OwnerOf(hotkey.Chord.Value) is { } owner)
            yield return new Overlap(
                OverlapKind.TakenHotkey,
                null,
                owner,
                loser,
                new Witness([new RehearsalStep.Press(hotkey.Chord)], "", "")
            );
        foreach (var overlap in Beaten(loser, [hotkey.Chord], _ => OverlapKind.SameHotkey))
            yield return overlap;
    }

    private List<Overlap> LosingAbbreviation(ActiveTrigger loser)
    {
        var overlaps = new List<Overlap>();
        var closings = loser.Rules!.Timing == Timing.AtOnce ? [] : loser.ClosingKeys.Keys;
        var meetsInside = index.HasPatterns || Meets(loser, loser.Folded, 1);
        foreach (var typed in Spellings(loser))
        {
            Key[] letters = [.. Key.ForText(typed)];
            if (loser.Rules.Timing == Timing.AtOnce && meetsInside)
                Add(letters);
            foreach (var closing in closings)
            {
                Key[] end = loser.Rules.Timing == Timing.DoubleClosingKey ? [closing, closing] : [closing];
                if (
                    meetsInside
                    || Meets(
                        loser,
                        string.Concat([loser.Folded, .. end.Select(key => CaseFolding.Fold(key.Text))]),
                        loser.Folded.Length + 1
                    )
                )
                    Add([.. letters, .. end]);
            }
        }
        return overlaps;

        void Add(Key[] keys)
        {
            foreach (var overlap in Beaten(loser, keys, firing => KindOf(firing, loser)))
                if (
                    !overlaps.Exists(known =>
                        ReferenceEquals(known.Winner, overlap.Winner) && ReferenceEquals(known.Loser, overlap.Loser)
                    )
                )
                    overlaps.Add(overlap);
        }
    }

    /// <summary>
    /// Every spelling that a case rule tells apart: as it is written, in small letters, with a capital first, in
    /// capitals, and as others that spell the same are written.
    /// </summary>
    private IEnumerable<string> Spellings(ActiveTrigger loser)
    {
        var text = loser.Trigger.Text;
        if (!heedsCase || loser.Rules!.Case == LetterCase.Exact)
            return [text];
        var small = text.ToLowerInvariant();
        return index
            .Spelled(loser.Folded)
            .Take(MostSpellings)
            .Select(entry => entry.Trigger.Text)
            .Prepend(text.ToUpperInvariant())
            .Prepend(CapitalShapes.FirstInTitleCase(small, System.Globalization.CultureInfo.InvariantCulture, out _))
            .Prepend(small)
            .Prepend(text)
            .Where(spelling => spelling.Length == text.Length)
            .Distinct();
    }

    /// <summary>
    /// Whether another abbreviation ends in a text, at a position or behind it; most triggers meet nobody.
    /// </summary>
    private bool Meets(ActiveTrigger trigger, string folded, int from)
    {
        for (var end = from; end <= folded.Length; end++)
        {
            TrieNode? node = index.Backward;
            for (var at = end - 1; at >= 0; at--)
            {
                node = node.Child(folded[at]);
                if (node is null)
                    break;
                foreach (var entry in node.Entries)
                    if (!ReferenceEquals(entry, trigger))
                        return true;
            }
        }
        return false;
    }

    /// <summary>
    /// What goes off instead of the loser on its keys: of several that would, the one that does go off with all of them
    /// there. It wins only if the loser goes off once all that beat it are taken away.
    /// </summary>
    private List<Overlap> Beaten(ActiveTrigger loser, Key[] keys, Func<Firing, OverlapKind> kindOf)
    {
        var overlaps = new List<Overlap>();
        foreach (var app in apps.Where(loser.Trigger.Scope.Admits))
        {
            if (First(index, keys, app) is not { } winner)
                continue;
            if (!ReferenceEquals(winner.Trigger, loser) && WouldGoOff(loser, winner, keys, app))
                overlaps.Add(new Overlap(kindOf(winner), winner.Trigger, null, loser, Show(keys, app)));
            else if (ReferenceEquals(winner.Trigger, loser) && loser.Trigger is not Trigger.Hotkey)
                overlaps.AddRange(Covered(loser, keys, app));
            if (overlaps.Count > 0)
                break;
        }
        return overlaps;
    }

    /// <summary>Whether a trigger goes off on its keys without those that beat it.</summary>
    private bool WouldGoOff(ActiveTrigger loser, Firing winner, Key[] keys, string app)
    {
        var left = index;
        for (var beaten = 1; beaten < MostWinners; beaten++)
        {
            left = left.Without(winner.Trigger);
            if (First(left, keys, app) is not { } next)
                return false;
            if (ReferenceEquals(next.Trigger, loser))
                return true;
            winner = next;
        }
        return First(TriggerIndex.Of([Alone(loser)]), keys, app) is { Trigger.Trigger: var its }
            && its == loser.Trigger;
    }

    private static PlacedSnippet Alone(ActiveTrigger trigger) =>
        trigger.Placed with
        {
            Snippet = trigger.Placed.Snippet with { Triggers = new([trigger.Trigger]) },
        };

    /// <summary>Patterns that the abbreviation beats on its own keys.</summary>
    private IEnumerable<Overlap> Covered(ActiveTrigger winner, Key[] keys, string app)
    {
        if (!index.HasPatterns)
            yield break;
        var without = index.Without(winner);
        while (First(without, keys, app) is { Trigger: { Trigger: Trigger.Pattern } pattern })
        {
            yield return new Overlap(OverlapKind.PatternCoversAbbreviation, winner, null, pattern, Show(keys, app));
            without = without.Without(pattern);
        }
    }

    private static OverlapKind KindOf(Firing firing, ActiveTrigger loser)
    {
        var winner = firing.Trigger;
        if (winner.Trigger is Trigger.Pattern)
            return OverlapKind.PatternCoversAbbreviation;
        if (winner.Folded == loser.Folded)
            return OverlapKind.Same;
        if (winner.Rules!.Timing != Timing.AtOnce || !loser.Folded.Contains(winner.Folded, StringComparison.Ordinal))
            return OverlapKind.ClosedEarly;
        return loser.Folded.StartsWith(winner.Folded, StringComparison.Ordinal)
            ? OverlapKind.CutShort
            : OverlapKind.HiddenInside;
    }

    /// <summary>
    /// The first thing that goes off when the keys are typed from an empty field and nothing follows; null when nothing
    /// does.
    /// </summary>
    private Firing? First(TriggerIndex some, Key[] keys, string app)
    {
        stage = some;
        engine.Focus(app);
        foreach (var key in keys)
            if (engine.Press(new Keystroke(key)) is Decision.Fires fires)
                return Left(fires);
        return engine.Tick(TypingEngine.PauseMs) is Decision.Fires settled ? Left(settled) : null;

        Firing Left(Decision.Fires fires)
        {
            engine.LeaveAsTyped();
            return fires.Firing;
        }
    }

    /// <summary>
    /// What typing the keys comes to with all triggers there; the pause that it takes is part of the keys when it
    /// changes anything.
    /// </summary>
    private Witness Show(Key[] keys, string app)
    {
        var name = (string.Join(' ', keys.Select(key => key.Value)), app);
        return witnesses.TryGetValue(name, out var known) ? known : witnesses[name] = Typed(keys, app);
    }

    private Witness Typed(Key[] keys, string app)
    {
        List<RehearsalStep> typed = [.. keys.Select(key => new RehearsalStep.Press(key))];
        var result = Run(typed);
        if (result.Firings.Count > 0)
            return new Witness(typed, app, Shown(result));
        typed.Add(new RehearsalStep.Pause(TypingEngine.PauseMs));
        return new Witness(typed, app, Shown(Run(typed)));

        // What a private snippet puts in is nobody's to see here.
        static string Shown(RehearsalResult result) =>
            result.Firings.Any(firing => firing.Trigger.Placed.Snippet.Private) ? Snippet.Hidden : result.Text;

        RehearsalResult Run(IReadOnlyList<RehearsalStep> steps) =>
            Rehearsal.Run(
                index,
                steps,
                new RehearsalSetting(
                    app,
                    FieldKind.Plain,
                    false,
                    new RenderContext { FindSnippet = _ => new Body.Plain("") },
                    new Dictionary<string, string>()
                ),
                tracing: false
            );
    }
}
