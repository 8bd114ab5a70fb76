using DashSprout.Core.Triggers;

namespace DashSprout.Core.Libraries;

/// <summary>A change of one trigger: nothing before when it is added, nothing after when it is taken away.</summary>
public sealed record TriggerEdit(Trigger? Before, Trigger? After);

/// <summary>
/// Makes a change of a snippet, part by part, when the snippet has become another one meanwhile: name, switch, note,
/// privacy, delivery, tags, body, plain twin, and each trigger for itself.
/// </summary>
public static class SnippetMerge
{
    /// <summary>The names of the parts, as saving and history use them.</summary>
    public const string Name = "name",
        Switch = "enabled",
        Note = "note",
        Private = "private",
        Delivery = "delivery",
        Text = "body",
        Twin = "twin",
        Triggers = "triggers",
        Tags = "tags";

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
        T Part<T>(string name, T was, T wanted, T now)
        {
            if (Equals(was, wanted) || Equals(wanted, now))
                return now;
            if (Equals(was, now))
                return wanted;
            conflicts.Add(name);
            return now;
        }
        static (DeliveryWay Way, bool Leave, LinkWriting Links) Way(Snippet of) =>
            (of.Delivery, of.LeaveOnClipboard, of.Links);
        var delivery = Part(Delivery, Way(before), Way(after), Way(current));
        var merged = new Snippet(
            Part(Name, before.Name, after.Name, current.Name),
            Part(Switch, before.Enabled, after.Enabled, current.Enabled),
            Part(Note, before.Note, after.Note, current.Note),
            Part(Private, before.Private, after.Private, current.Private),
            delivery.Way,
            delivery.Leave,
            Part(Text, before.Body, after.Body, current.Body),
            Merge(current.Triggers, triggers, conflicts),
            Part(Twin, before.Twin, after.Twin, current.Twin),
            delivery.Links
        )
        {
            Tags = SnippetTags.Merge(before.Tags, after.Tags, current.Tags),
        };
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

    /// <summary>The names of the parts in which two states of a snippet differ.</summary>
    public static IReadOnlyList<string> Differences(Snippet one, Snippet other) =>
        [
            .. one.Name != other.Name ? [Name] : Array.Empty<string>(),
            .. one.Enabled != other.Enabled ? [Switch] : Array.Empty<string>(),
            .. one.Note != other.Note ? [Note] : Array.Empty<string>(),
            .. one.Private != other.Private ? [Private] : Array.Empty<string>(),
            .. (one.Delivery, one.LeaveOnClipboard, one.Links) != (other.Delivery, other.LeaveOnClipboard, other.Links)
                ? [Delivery]
                : Array.Empty<string>(),
            .. one.Body != other.Body ? [Text] : Array.Empty<string>(),
            .. one.Twin != other.Twin ? [Twin] : Array.Empty<string>(),
            .. !one.Triggers.Equals(other.Triggers) ? [Triggers] : Array.Empty<string>(),
            .. !one.Tags.Equals(other.Tags) ? [Tags] : Array.Empty<string>(),
        ];

    /// <summary>A snippet with one part of another.</summary>
    public static Snippet Take(Snippet to, Snippet from, string part) =>
        part switch
        {
            Name => to with { Name = from.Name },
            Switch => to with { Enabled = from.Enabled },
            Note => to with { Note = from.Note },
            Private => to with { Private = from.Private },
            Delivery => to with
            {
                Delivery = from.Delivery,
                LeaveOnClipboard = from.LeaveOnClipboard,
                Links = from.Links,
            },
            Text => to with { Body = from.Body },
            Twin => to with { Twin = from.Twin },
            Triggers => to with { Triggers = from.Triggers },
            Tags => to with { Tags = from.Tags },
            _ => throw new ArgumentOutOfRangeException(nameof(part), part, "There is no such part."),
        };

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
                conflicts.Add($"{Triggers}[{place}]");
        }
        return new(merged);
    }

    private static List<Trigger> Without(IReadOnlyList<Trigger> some, IReadOnlyList<Trigger> others)
    {
        var left = others.ToList();
        return [.. some.Where(trigger => !left.Remove(trigger))];
    }
}
