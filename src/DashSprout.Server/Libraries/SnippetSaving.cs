using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;

namespace DashSprout.Server.Libraries;

/// <summary>Saves a snippet part by part: what cannot be saved is said and holds nothing else back.</summary>
internal sealed class SnippetSaving(LibraryTree now, SnippetItem item)
{
    private readonly List<UnsavedPart> unsaved = [];

    public (Change Change, IReadOnlyList<UnsavedPart> Unsaved) Save(SnippetEdit edit)
    {
        var (before, after) = (edit.Before, edit.After);
        var was = Known(before);
        var wanted = was;
        // Triggers are told one by one; a name that is left out stays.
        var named = after with { Name = after.Name ?? before.Name };
        foreach (var part in SnippetFields.All)
            if (part.Key != SnippetParts.Triggers && !part.Same(before, named))
                wanted = Part(part.Key, wanted, () => now.Inward(part.Read(wanted, named)));
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
                    SnippetParts.Name,
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
                    SnippetParts.Triggers,
                    $"There are {merged.Triggers.Count} triggers; {SnippetDocument.MaxTriggers} are allowed. "
                        + "Take some away.",
                    false
                )
            );
            merged = merged with { Triggers = item.Snippet.Triggers };
        }
        return merged with
        {
            Body = Part(SnippetParts.Text, item.Snippet.Body, () => Checked(merged.Body, item.Snippet.Body)),
            Twin = merged.Twin is { } twin
                ? Part(SnippetParts.Twin, item.Snippet.Twin, () => Checked(twin, item.Snippet.Twin))
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
                places[$"{SnippetParts.Triggers}[{edits.Count}]"] = $"{SnippetParts.Triggers}[{at}]";
                edits.Add(edit);
            }
            catch (InvalidInputException exception)
            {
                unsaved.Add(new UnsavedPart($"{SnippetParts.Triggers}[{at}]", exception.Message, false));
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

    /// <summary>
    /// The snippet as the page knew it: it came from here, so its bodies are compared as they are, and a name that is
    /// left out is the one it has.
    /// </summary>
    private Snippet Known(SnippetDocument before)
    {
        var known = item.Snippet with
        {
            Body = Known(before.Body, before.Text),
            Twin = before.Twin is { } twin ? Known(twin.Body, twin.Text) : null,
        };
        return SnippetFields
            .All.Where(part => part.Key is not (SnippetParts.Text or SnippetParts.Twin or SnippetParts.Triggers))
            .Where(part => part.Key != SnippetParts.Name || before.Name is not null)
            .Aggregate(known, (snippet, part) => Told(snippet, () => part.Read(snippet, before)));

        // What could not be kept today was kept all the same: it counts as what is here.
        static Snippet Told(Snippet here, Func<Snippet> read)
        {
            try
            {
                return read();
            }
            catch (InvalidInputException)
            {
                return here;
            }
        }
    }

    private static Body Known(string? markup, string? text) =>
        markup is null ? new Body.Plain(text ?? "") : new Body.Html(markup);
}
