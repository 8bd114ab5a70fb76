using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Exchange;

namespace DashSprout.Server.Libraries;

/// <summary>Saves a snippet part by part: what cannot be saved is said and holds nothing else back.</summary>
internal sealed class SnippetSaving(Catalogue now, SnippetItem item)
{
    private readonly List<UnsavedPart> unsaved = [];

    public (Change Change, IReadOnlyList<UnsavedPart> Unsaved) Save(SnippetEdit edit)
    {
        var (before, after) = (edit.Before, edit.After);
        var was = new Snippet(
            before.Name ?? item.Name,
            before.Enabled,
            before.Note ?? "",
            before.Private,
            Way(before),
            before.LeaveOnClipboard,
            Known(before.Body, before.Text),
            item.Snippet.Triggers,
            before.Twin is { } twin ? Known(twin.Body, twin.Text) : null,
            before.ToLinks()
        )
        {
            Tags = before.Tags is { } known ? new(known) : Core.EquatableList<string>.Empty,
        };
        var wanted = was with
        {
            Name =
                after.Name is null || after.Name == before.Name
                    ? was.Name
                    : Part(SnippetMerge.Name, was.Name, () => Names.Check("name", after.Name)),
            Enabled = after.Enabled,
            Note = after.Note == before.Note ? was.Note : Part(SnippetMerge.Note, was.Note, after.ToNote),
            Private = after.Private,
            Delivery =
                after.Delivery == before.Delivery
                    ? was.Delivery
                    : Part(SnippetMerge.Delivery, was.Delivery, after.ToDelivery),
            LeaveOnClipboard = after.LeaveOnClipboard,
            Tags = (after.Tags ?? []).SequenceEqual(before.Tags ?? [])
                ? was.Tags
                : Part(SnippetMerge.Tags, was.Tags, after.ToTags),
            Links = after.Links == before.Links ? was.Links : Part(SnippetMerge.Delivery, was.Links, after.ToLinks),
            Body =
                (after.Body, after.Text) == (before.Body, before.Text)
                    ? was.Body
                    : Part(SnippetMerge.Text, was.Body, () =>
                        now.Inward(item.Snippet with { Body = after.ToBody() }).Body
                    ),
            Twin =
                after.Twin == before.Twin
                    ? was.Twin
                    : Part(SnippetMerge.Twin, was.Twin, () =>
                        now.Inward(item.Snippet with { Twin = after.ToTwin() }).Twin
                    ),
        };
        var (merged, conflicts) = SnippetMerge.Of(
            was,
            wanted,
            item.Snippet,
            Triggers(edit.Triggers ?? [], out var places)
        );
        foreach (var conflict in conflicts)
            unsaved.Add(
                new UnsavedPart(
                    places.GetValueOrDefault(conflict, conflict),
                    "It was changed elsewhere meanwhile. Choose which of the two to keep.",
                    true
                )
            );
        if (edit.FreeName && merged.Name != item.Name && Sibling(merged) is not null)
            merged = merged with { Name = Commands.FreeName(now, item.Slot.Parent, merged.Name, item) };
        return (Commands.ChangeSnippet(now, item.Id, Fitting(merged)), unsaved);
    }

    /// <summary>The snippet without the parts that do not go together with what else there is.</summary>
    private Snippet Fitting(Snippet merged)
    {
        if (merged.Name != item.Name && Sibling(merged) is { } same)
        {
            unsaved.Add(
                new UnsavedPart(
                    SnippetMerge.Name,
                    $"A snippet named “{same.Name}” is here already. Choose another name.",
                    false
                )
            );
            merged = merged with { Name = item.Name };
        }
        if (merged.Triggers.Count > SnippetDocument.MaxTriggers)
        {
            unsaved.Add(
                new UnsavedPart(
                    SnippetMerge.Triggers,
                    $"There are {merged.Triggers.Count} triggers; {SnippetDocument.MaxTriggers} are allowed. "
                        + "Take some away.",
                    false
                )
            );
            merged = merged with { Triggers = item.Snippet.Triggers };
        }
        return merged with
        {
            Body = Part(SnippetMerge.Text, item.Snippet.Body, () => Checked(merged.Body, item.Snippet.Body)),
            Twin = merged.Twin is { } twin
                ? Part(SnippetMerge.Twin, item.Snippet.Twin, () => Checked(twin, item.Snippet.Twin))
                : null,
        };
    }

    private Item? Sibling(Snippet named)
    {
        var renamed = item with { Snippet = named };
        return now.Inside(item.Slot.Parent)
            .FirstOrDefault(other => other.Id != item.Id && other.SharesNameWith(renamed));
    }

    private Body Checked(Body body, Body? kept)
    {
        if (body != kept)
            Commands.Check(now, item with { Snippet = item.Snippet with { Body = body, Twin = null } });
        return body;
    }

    private List<TriggerEdit> Triggers(IReadOnlyList<TriggerChange> changes, out Dictionary<string, string> places)
    {
        var edits = new List<TriggerEdit>();
        places = [];
        for (var at = 0; at < changes.Count; at++)
        {
            try
            {
                var edit = new TriggerEdit(changes[at].Before?.ToStored(), changes[at].After?.ToTrigger());
                places[$"{SnippetMerge.Triggers}[{edits.Count}]"] = $"{SnippetMerge.Triggers}[{at}]";
                edits.Add(edit);
            }
            catch (InvalidInputException exception)
            {
                unsaved.Add(new UnsavedPart($"{SnippetMerge.Triggers}[{at}]", exception.Message, false));
            }
        }
        return edits;
    }

    private T Part<T>(string part, T otherwise, Func<T> read)
    {
        try
        {
            return read();
        }
        catch (InvalidInputException exception)
        {
            unsaved.Add(new UnsavedPart(part, exception.Message, false));
            return otherwise;
        }
    }

    /// <summary>The body as the page knew it: it came from here, so it is compared as it is.</summary>
    private static Body Known(string? markup, string? text) =>
        markup is null ? new Body.Plain(text ?? "") : new Body.Html(markup);

    private static DeliveryWay Way(SnippetDocument document) => document.ToDelivery();
}
