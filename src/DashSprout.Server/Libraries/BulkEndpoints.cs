using DashSprout.Core.Libraries;
using DashSprout.Documents;

namespace DashSprout.Server.Libraries;

/// <summary>Libraries, folders and snippets that something is done with at once.</summary>
public sealed record BulkItems(IReadOnlyList<long> Ids);

/// <summary>Switches all of them.</summary>
public sealed record BulkSwitch(IReadOnlyList<long> Ids, bool Enabled);

/// <summary>Moves all of them into a library or folder.</summary>
/// <param name="ParentId">The library or folder; null for libraries, which are moved among each other.</param>
/// <param name="Before">The one in front of which they come; null for the end.</param>
public sealed record BulkMove(IReadOnlyList<long> Ids, long? ParentId = null, long? Before = null);

/// <summary>What of all their snippets is to change; what is left out stays.</summary>
/// <param name="ClosingKeys">Their own closing keys.</param>
/// <param name="LibraryKeys">Whether they take the closing keys of their library instead.</param>
public sealed record BulkRules(
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
    internal BulkEdit ToEdit()
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
        return new BulkEdit(
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
public sealed record BulkDone(string What, int Count);

internal static class BulkEndpoints
{
    public static void MapMany(this IEndpointRouteBuilder api)
    {
        api.MapPost("/bulk/switch", (BulkSwitch many, LibraryService libraryService) =>
            Done(libraryService, (now, _) => BulkCommands.Switch(now, Distinct(many.Ids), many.Enabled))
        );
        api.MapPost("/bulk/move", (BulkMove many, LibraryService libraryService) =>
            Done(libraryService, (now, _) =>
                BulkCommands.Move(now, Distinct(many.Ids), many.ParentId ?? Slot.Root, many.Before)
            )
        );
        api.MapPost("/bulk/rules", (BulkRules many, LibraryService libraryService) =>
            Done(libraryService, (now, _) => BulkCommands.Edit(now, Distinct(many.Ids), many.ToEdit()))
        );
        api.MapPost("/bulk/duplicate", (BulkItems many, LibraryService libraryService) =>
            Done(libraryService, (now, nextId) => BulkCommands.Duplicate(now, nextId, Distinct(many.Ids)))
        );
        api.MapPost("/bulk/delete", (BulkItems many, LibraryService libraryService) =>
            Done(libraryService, (now, _) => BulkCommands.Delete(now, Distinct(many.Ids)))
        );
        api.MapGet("/tags", (LibraryService libraryService) =>
            libraryService
                .Tree.Snippets.SelectMany(item => item.Snippet.Tags)
                .Distinct(StringComparer.OrdinalIgnoreCase)
                .Order(StringComparer.OrdinalIgnoreCase)
                .ToArray()
        );
    }

    private static HashSet<long> Distinct(IReadOnlyList<long> ids) => [.. ids];

    private static BulkDone Done(LibraryService libraryService, Func<LibraryTree, long, Change> command)
    {
        var change = libraryService.Do(command);
        return new BulkDone(change.What, change.Items.Count);
    }
}
