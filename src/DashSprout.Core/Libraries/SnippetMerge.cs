using DashSprout.Core.Triggers;

namespace DashSprout.Core.Libraries;

/// <summary>A change of one trigger: nothing before when it is added, nothing after when it is taken away.</summary>
public sealed record TriggerEdit(Trigger? Before, Trigger? After);

/// <summary>
/// Makes a change of a snippet, part by part, when the snippet has become another one meanwhile; each trigger is a part
/// for itself.
/// </summary>
public static class SnippetMerge
{
    /// <summary>
    /// The current snippet with what changed from before to after; parts that changed otherwise meanwhile stay as they
    /// are and are named.
    /// </summary>
    public static (Snippet Merged, IReadOnlyList<string> Conflicts) Of(Snippet before, Snippet after, Snippet current)
    {
        var (merged, conflicts) = Of(before, after, current, TriggerEdits(before.Triggers, after.Triggers));
        // Their order is a change too, where nothing else of them is undecided.
        var ordered =
            before.Triggers.Equals(current.Triggers)
            || (!before.Triggers.Equals(after.Triggers) && TriggerEdits(merged.Triggers, after.Triggers).Count == 0);
        return (ordered ? merged with { Triggers = after.Triggers } : merged, conflicts);
    }

    /// <summary>
    /// The same with the changes of the triggers said one by one; those that conflict are named <c>triggers[n]</c> by
    /// their place among the changes.
    /// </summary>
    public static (Snippet Merged, IReadOnlyList<string> Conflicts) Of(
        Snippet before,
        Snippet after,
        Snippet current,
        IReadOnlyList<TriggerEdit> triggers
    )
    {
        var conflicts = new List<string>();
        var merged = current;
        foreach (var part in SnippetParts.All)
        {
            if (part.Key == SnippetParts.Triggers)
                merged = merged with { Triggers = Merge(current.Triggers, triggers, conflicts) };
            else if (part.Merge(before, after, merged) is { } changed)
                merged = changed;
            else
                conflicts.Add(part.Key);
        }
        return (merged, conflicts);
    }

    /// <summary>
    /// What changed between two lists of triggers: those that only one of them has, paired in their order.
    /// </summary>
    public static IReadOnlyList<TriggerEdit> TriggerEdits(IReadOnlyList<Trigger> before, IReadOnlyList<Trigger> after)
    {
        var gone = Without(before, after);
        var came = Without(after, before);
        return
        [
            .. Enumerable
                .Range(0, Math.Max(gone.Count, came.Count))
                .Select(at => new TriggerEdit(gone.ElementAtOrDefault(at), came.ElementAtOrDefault(at))),
        ];
    }

    private static EquatableList<Trigger> Merge(
        EquatableList<Trigger> current,
        IReadOnlyList<TriggerEdit> edits,
        List<string> conflicts
    )
    {
        if (edits.Count == 0)
            return current;
        var merged = current.ToList();
        for (var place = 0; place < edits.Count; place++)
        {
            var (before, after) = edits[place];
            var at = before is null ? -1 : merged.IndexOf(before);
            if (at >= 0 && after is not null)
                merged[at] = after;
            else if (at >= 0)
                merged.RemoveAt(at);
            else if (after is not null && merged.Contains(after))
                continue;
            else if (before is null && after is not null)
                merged.Add(after);
            else if (after is not null)
                conflicts.Add($"{SnippetParts.Triggers}[{place}]");
        }
        return new(merged);
    }

    private static List<Trigger> Without(IReadOnlyList<Trigger> some, IReadOnlyList<Trigger> others)
    {
        var left = others.ToList();
        return [.. some.Where(trigger => !left.Remove(trigger))];
    }
}
