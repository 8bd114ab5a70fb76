using DashSprout.Core.Bodies;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Libraries;

/// <summary>
/// What a snippet consists of, said once. A part more is an entry here, a member of <see cref="Snippet"/>, its reading
/// and writing in <c>SnippetFields</c> of the exchange and, where it is shown, <c>snippetParts.ts</c> in the page; a
/// test fails as long as one of them is missing.
/// </summary>
public static class SnippetParts
{
    /// <summary>The keys of the parts.</summary>
    public const string Name = "name",
        Switch = "enabled",
        Note = "note",
        Private = "private",
        Delivery = "delivery",
        Text = "body",
        Twin = "twin",
        Triggers = "triggers",
        Tags = "tags";

    /// <summary>All of them, in the order in which differences are told.</summary>
    public static IReadOnlyList<SnippetPart> All { get; } =
    [
        new SnippetPart<string>(
            Name,
            "name",
            of => of.Name,
            (of, name) => of with { Name = name },
            of => of.Name,
            (before, after) => $"Renamed the snippet “{before.Name}” to “{after.Name}”",
            ["name"],
            ["name"]
        ),
        new SnippetPart<bool>(
            Switch,
            "switch",
            of => of.Enabled,
            (of, on) => of with { Enabled = on },
            of => of.Enabled ? "on" : "off",
            (before, after) => $"Switched the snippet “{before.Name}” {(after.Enabled ? "on" : "off")}",
            ["enabled"],
            ["enabled"]
        ),
        new SnippetPart<string>(
            Note,
            "note",
            of => of.Note,
            (of, note) => of with { Note = note },
            of => of.Note,
            (_, after) => $"Changed the note of “{after.Name}”",
            ["note"],
            ["note"],
            Secret: true
        ),
        new SnippetPart<bool>(
            Private,
            "privacy",
            of => of.Private,
            (of, isPrivate) => of with { Private = isPrivate },
            of => of.Private ? "private" : "not private",
            (_, after) => $"Made the snippet “{after.Name}” {(after.Private ? "private" : "no longer private")}",
            ["private"],
            ["private"]
        ),
        new SnippetPart<(DeliveryWay Way, bool Leaves, LinkWriting Links)>(
            Delivery,
            "delivery",
            of => (of.Delivery, of.LeaveOnClipboard, of.Links),
            (of, value) => of with { Delivery = value.Way, LeaveOnClipboard = value.Leaves, Links = value.Links },
            of => Wording.Of(of.Delivery),
            (_, after) => $"Changed how “{after.Name}” goes in",
            ["delivery", "leaveOnClipboard", "links"],
            ["delivery", "leaveOnClipboard", "links"]
        ),
        new SnippetPart<Body>(
            Text,
            "text",
            of => of.Body,
            (of, body) => of with { Body = body },
            of => PreviewText.Of(of.Body),
            (_, after) => $"Changed what goes in with “{after.Name}”",
            ["body", "text"],
            ["text", "body"],
            Secret: true
        ),
        new SnippetPart<Body?>(
            Twin,
            "plain twin",
            of => of.Twin,
            (of, twin) => of with { Twin = twin },
            of => of.Twin is { } twin ? PreviewText.Of(twin) : "none",
            (_, after) => $"Changed the plain twin of “{after.Name}”",
            ["twin"],
            ["twin", "twinText", "twinBody"],
            Secret: true
        ),
        new SnippetPart<EquatableList<Trigger>>(
            Triggers,
            "triggers",
            of => of.Triggers,
            (of, triggers) => of with { Triggers = triggers },
            of => of.Triggers.Count == 0 ? "nothing" : string.Join(", ", of.Triggers.Select(trigger => trigger.Text)),
            (_, after) => $"Changed what sets “{after.Name}” off",
            ["triggers"],
            ["trigger"]
        ),
        new SnippetPart<EquatableList<string>>(
            Tags,
            "tags",
            of => of.Tags,
            (of, tags) => of with { Tags = tags },
            of => string.Join(", ", of.Tags),
            (_, after) => $"Changed the tags of “{after.Name}”",
            ["tags"],
            ["tags"],
            Merging: SnippetTags.Merge
        ),
    ];

    /// <summary>The part of a key; throws <see cref="ArgumentOutOfRangeException"/> where there is none.</summary>
    public static SnippetPart Of(string key) =>
        All.FirstOrDefault(part => part.Key == key)
        ?? throw new ArgumentOutOfRangeException(nameof(key), key, "There is no such part.");

    /// <summary>The members of a library file's snippet that nobody may read when it is private.</summary>
    public static IReadOnlySet<string> SecretFields { get; } =
        All.Where(part => part.Secret).SelectMany(part => part.Fields).ToHashSet();

    /// <summary>The parts in which two states of a snippet differ.</summary>
    public static IReadOnlyList<SnippetPart> Differing(Snippet one, Snippet other) =>
        [.. All.Where(part => !part.Same(one, other))];

    /// <summary>A snippet with some parts of another.</summary>
    public static Snippet Take(Snippet to, Snippet from, IEnumerable<string> keys) =>
        keys.Select(Of).Aggregate(to, (taken, part) => part.Take(taken, from));

    /// <summary>
    /// What is enough to speak of a snippet: its name and switches, as a new one would have everything else.
    /// </summary>
    public static Snippet InBrief(Snippet snippet) =>
        Take(Snippet.Named(snippet.Name), snippet, [Switch, Private, Delivery, Tags]);
}
