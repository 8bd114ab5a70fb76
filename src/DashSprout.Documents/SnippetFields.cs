using DashSprout.Core.Libraries;

namespace DashSprout.Documents;

/// <summary>
/// How one part of a snippet is written into a document and read from it. With <see cref="SnippetParts"/> this is all
/// there is to say of a part; <see cref="SnippetReader"/> reads the same members once more, for speed alone.
/// </summary>
/// <param name="Key">The part's, as <see cref="SnippetParts"/> has it.</param>
/// <param name="Write">A document with what a snippet has of it, in full. Here and in reading nothing is copied when
/// nothing changes, since libraries of very many snippets go through.</param>
/// <param name="Read">A snippet with what a document says of it; throws
/// <see cref="Core.InvalidInputException"/>.</param>
/// <param name="Said">The members that say it, to be compared as they are written.</param>
/// <param name="Shorten">A document without it, where it is as usual; null where it always stands.</param>
public sealed record SnippetFields(
    string Key,
    Func<SnippetDocument, Snippet, SnippetDocument> Write,
    Func<Snippet, SnippetDocument, Snippet> Read,
    Func<SnippetDocument, object?> Said,
    Func<SnippetDocument, SnippetDocument>? Shorten = null
)
{
    private static readonly string Automatic = Core.Wording.Of(DeliveryWay.Automatic),
        AsSet = Core.Wording.Of(LinkWriting.AsSet);

    /// <summary>All parts, in the order in which they are read, so that the first fault is told first.</summary>
    public static IReadOnlyList<SnippetFields> All { get; } =
    [
        new(
            SnippetParts.Name,
            (to, of) => to with { Name = of.Name },
            (to, from) => to with { Name = Names.Check("name", from.Name) },
            document => document.Name
        ),
        new(
            SnippetParts.Switch,
            (to, of) => to.Enabled == of.Enabled ? to : to with { Enabled = of.Enabled },
            (to, from) => to.Enabled == from.Enabled ? to : to with { Enabled = from.Enabled },
            document => document.Enabled
        ),
        new(
            SnippetParts.Note,
            (to, of) => to with { Note = of.Note },
            (to, from) => from.ToNote() is var note && note == to.Note ? to : to with { Note = note },
            document => document.Note ?? "",
            document => document.Note is "" ? document with { Note = null } : document
        ),
        new(
            SnippetParts.Private,
            (to, of) => to.Private == of.Private ? to : to with { Private = of.Private },
            (to, from) => to.Private == from.Private ? to : to with { Private = from.Private },
            document => document.Private
        ),
        new(
            SnippetParts.Delivery,
            (to, of) =>
                to with
                {
                    Delivery = Core.Wording.Of(of.Delivery),
                    LeaveOnClipboard = of.LeaveOnClipboard,
                    Links = Core.Wording.Of(of.Links),
                },
            (to, from) =>
                (from.ToDelivery(), from.LeaveOnClipboard, from.ToLinks())
                == (to.Delivery, to.LeaveOnClipboard, to.Links)
                    ? to
                    : to with
                    {
                        Delivery = from.ToDelivery(),
                        LeaveOnClipboard = from.LeaveOnClipboard,
                        Links = from.ToLinks(),
                    },
            document => (document.Delivery ?? Automatic, document.LeaveOnClipboard, document.Links ?? AsSet),
            document =>
                document with
                {
                    Delivery = document.Delivery == Automatic ? null : document.Delivery,
                    Links = document.Links == AsSet ? null : document.Links,
                }
        ),
        new(
            SnippetParts.Text,
            (to, of) => to with { Body = TwinDocument.Of(of.Body).Body, Text = TwinDocument.Of(of.Body).Text },
            (to, from) => to with { Body = from.ToBody() },
            document => new TwinDocument(document.Body, document.Text)
        ),
        new(
            SnippetParts.Twin,
            (to, of) =>
                of.Twin is null && to.Twin is null
                    ? to
                    : to with
                    {
                        Twin = of.Twin is { } twin ? TwinDocument.Of(twin) : null,
                    },
            (to, from) => from.ToTwin() is var twin && twin == to.Twin ? to : to with { Twin = twin },
            document => document.Twin
        ),
        new(
            SnippetParts.Triggers,
            (to, of) => to with { Triggers = [.. of.Triggers.Select(TriggerDocument.Of)] },
            (to, from) => to with { Triggers = from.ToTriggers() },
            document => new Core.EquatableList<TriggerDocument>(document.Triggers ?? []),
            document =>
                document with
                {
                    Triggers = [.. (document.Triggers ?? []).Select(trigger => trigger.Shortened())],
                }
        ),
        new(
            SnippetParts.Tags,
            (to, of) => to with { Tags = of.Tags },
            (to, from) => from.ToTags() is var tags && tags == to.Tags ? to : to with { Tags = tags },
            document => new Core.EquatableList<string>(document.Tags ?? []),
            document => document.Tags is { Count: 0 } ? document with { Tags = null } : document
        ),
    ];

    /// <summary>Whether two documents say the same of this part, as they are written.</summary>
    public bool Same(SnippetDocument one, SnippetDocument other) => Equals(Said(one), Said(other));
}
