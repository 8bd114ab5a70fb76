using System.Collections.Immutable;
using DashSprout.Core.Engine;

namespace DashSprout.Core.Safety;

/// <summary>
/// All overlaps of an index, kept so that an edit costs only the triggers it can touch. Immutable: following an edit
/// gives a new map.
/// </summary>
public sealed class OverlapMap
{
    private const int CheckedAtATime = 256;
    private readonly TriggerIndex index;
    private readonly ImmutableDictionary<ActiveTrigger, ImmutableArray<Overlap>> byTrigger;

    private OverlapMap(TriggerIndex index, ImmutableDictionary<ActiveTrigger, ImmutableArray<Overlap>> byTrigger)
    {
        this.index = index;
        this.byTrigger = byTrigger;
    }

    /// <summary>The map of an index without triggers.</summary>
    public static OverlapMap Empty { get; } =
        new(TriggerIndex.Empty, ImmutableDictionary<ActiveTrigger, ImmutableArray<Overlap>>.Empty);

    /// <summary>Every overlap, in the order of the triggers.</summary>
    public IEnumerable<Overlap> All =>
        byTrigger.OrderBy(found => found.Key.Placed.Rank).SelectMany(found => found.Value);

    /// <summary>Finds all overlaps of an index.</summary>
    /// <param name="progress">Told the part that is done, from 0 to 1.</param>
    public static OverlapMap Of(
        TriggerIndex index,
        IProgress<double>? progress = null,
        CancellationToken cancellation = default
    ) => Empty.Follow(index, progress, cancellation);

    /// <summary>The map of a changed index; only the triggers that the change can touch are typed again.</summary>
    public OverlapMap Follow(
        TriggerIndex next,
        IProgress<double>? progress = null,
        CancellationToken cancellation = default
    )
    {
        var (gone, came) = next.Since(index);
        if (gone.Count == 0 && came.Count == 0)
            return this;
        var changed = gone.Concat(came).Where(trigger => trigger.Placed.Active).ToList();
        var beginners = changed.ToDictionary(
            trigger => trigger,
            trigger => next.HasOneThatBegins(trigger) || index.HasOneThatBegins(trigger)
        );
        var touched = came.Where(trigger => trigger.Placed.Active).ToHashSet();
        // With many changes, asking each pair costs more than typing all again.
        var all = changed.Count > 200;
        foreach (var other in next.All)
            if (
                other.Placed.Active
                && (
                    all
                    || changed.Exists(trigger =>
                        !ReferenceEquals(other, trigger)
                        && OverlapSearch.MayBeBeatenBy(other, trigger, beginners[trigger])
                    )
                )
            )
                touched.Add(other);

        var search = new OverlapSearch(next);
        var map = byTrigger.ToBuilder();
        map.RemoveRange(gone);
        var done = 0;
        foreach (var trigger in touched)
        {
            if (done++ % CheckedAtATime == 0)
            {
                cancellation.ThrowIfCancellationRequested();
                progress?.Report((double)done / touched.Count);
            }
            var found = search.Losing(trigger).ToImmutableArray();
            if (found.IsEmpty)
                map.Remove(trigger);
            else
                map[trigger] = found;
        }
        progress?.Report(1);
        return new OverlapMap(next, map.ToImmutable());
    }
}
