using DashSprout.Core.Libraries;
using DashSprout.Documents;

namespace DashSprout.Server.Libraries;

/// <summary>Libraries, folders and snippets that something is done with at once.</summary>
public sealed record ManyItems(IReadOnlyList<long> Ids);

/// <summary>Switches all of them.</summary>
public sealed record ManySwitch(IReadOnlyList<long> Ids, bool Enabled);

/// <summary>Moves all of them into a library or folder.</summary>
/// <param name="ParentId">The library or folder; null for libraries, which are moved among each other.</param>
/// <param name="Before">The one in front of which they come; null for the end.</param>
public sealed record ManyMove(IReadOnlyList<long> Ids, long? ParentId = null, long? Before = null);

/// <summary>What of all their snippets is to change; what is left out stays.</summary>
/// <param name="ClosingKeys">Their own closing keys.</param>
/// <param name="LibraryKeys">Whether they take the closing keys of their library instead.</param>
public sealed record ManyRules(
    IReadOnlyList<long> Ids,
    string? Timing = null,
    string? LeftEdge = null,
    string? Case = null,
    bool? KeepClosingKey = null,
    IReadOnlyList<string>? ClosingKeys = null,
    bool LibraryKeys = false,
    ScopeDocument? Scope = null,
    string? Delivery = null,
    IReadOnlyList<string>? MoreTags = null,
    IReadOnlyList<string>? FewerTags = null
)
{
    internal ManyEdit ToEdit()
    {
        var said = new DefaultsDocument(
            Timing,
            LeftEdge,
            Case,
            KeepClosingKey,
            LibraryKeys ? null : ClosingKeys,
            Scope,
            Delivery
        ).ToDefaults();
        return new ManyEdit(
            said.Timing,
            said.LeftEdge,
            said.Case,
            said.KeepClosingKey,
            LibraryKeys ? new KeysToGive(null)
                : said.ClosingKeys is { } own ? new KeysToGive(own)
                : null,
            said.Scope,
            said.Delivery
        )
        {
            MoreTags = SnippetTags.Check("moreTags", MoreTags ?? []),
            FewerTags = SnippetTags.Check("fewerTags", FewerTags ?? []),
        };
    }
}

/// <summary>What was done with many: in words, and with how many of them.</summary>
public sealed record ManyDone(string What, int Count);

internal static class ManyEndpoints
{
    public static void MapMany(this IEndpointRouteBuilder api)
    {
        api.MapPost("/many/switch", (ManySwitch many, Catalog catalog) =>
            Done(catalog, (now, _) => ManyCommands.Switch(now, Distinct(many.Ids), many.Enabled))
        );
        api.MapPost("/many/move", (ManyMove many, Catalog catalog) =>
            Done(catalog, (now, _) =>
                ManyCommands.Move(now, Distinct(many.Ids), many.ParentId ?? Slot.Shelf, many.Before)
            )
        );
        api.MapPost("/many/rules", (ManyRules many, Catalog catalog) =>
            Done(catalog, (now, _) => ManyCommands.Edit(now, Distinct(many.Ids), many.ToEdit()))
        );
        api.MapPost("/many/duplicate", (ManyItems many, Catalog catalog) =>
            Done(catalog, (now, nextId) => ManyCommands.Duplicate(now, nextId, Distinct(many.Ids)))
        );
        api.MapPost("/many/delete", (ManyItems many, Catalog catalog) =>
            Done(catalog, (now, _) => ManyCommands.Delete(now, Distinct(many.Ids)))
        );
        api.MapGet("/tags", (Catalog catalog) =>
            catalog
                .Catalogue.Snippets.SelectMany(item => item.Snippet.Tags)
                .Distinct(StringComparer.OrdinalIgnoreCase)
                .Order(StringComparer.OrdinalIgnoreCase)
                .ToArray()
        );
    }

    private static HashSet<long> Distinct(IReadOnlyList<long> ids) => [.. ids];

    private static ManyDone Done(Catalog catalog, Func<Catalogue, long, Change> command)
    {
        var change = catalog.Do(command);
        return new ManyDone(change.What, change.Items.Count);
    }
}
