using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Documents;

namespace DashSprout.Server.Libraries;

/// <summary>All libraries with their folders, in their order.</summary>
public sealed record LibraryTreeAnswer(IReadOnlyList<LibraryNode> Libraries);

/// <summary>A library in the tree.</summary>
/// <param name="ClosingKeys">Its closing keys; null for the default set.</param>
/// <param name="Defaults">What new snippets begin with in it, as far as it says so.</param>
public sealed record LibraryNode(
    long Id,
    string Name,
    bool Enabled,
    IReadOnlyList<string>? ClosingKeys,
    bool CapsLockShouts,
    bool BackspaceTakesBack,
    DefaultsDocument? Defaults,
    IReadOnlyList<FolderNode> Folders
)
{
    internal static LibraryNode Of(LibraryItem library, IReadOnlyList<FolderNode> folders)
    {
        var document = LibraryDocument.Of(library.Name, library.Enabled, library.Rules);
        return new(
            library.Id,
            library.Name,
            library.Enabled,
            document.ClosingKeys,
            document.CapsLockShouts,
            document.BackspaceTakesBack,
            document.Defaults,
            folders
        );
    }
}

/// <summary>A folder in the tree.</summary>
/// <param name="Defaults">What new snippets begin with in it, as far as it says so.</param>
/// <param name="Around">What they begin with in what it lies in.</param>
public sealed record FolderNode(
    long Id,
    string Name,
    bool Enabled,
    DefaultsDocument? Defaults,
    DefaultsDocument Around,
    IReadOnlyList<FolderNode> Folders
);

/// <summary>What a library is made with.</summary>
public sealed record NewLibrary(string? Name = null);

/// <summary>What of a library can be changed; what is left out stays.</summary>
/// <param name="OwnClosingKeys">Its closing keys; an empty list stands for the default set.</param>
/// <param name="Defaults">What new snippets begin with in it; an empty one says nothing any more.</param>
public sealed record LibraryChange(
    string? Name = null,
    bool? Enabled = null,
    IReadOnlyList<string>? OwnClosingKeys = null,
    bool? CapsLockShouts = null,
    bool? BackspaceTakesBack = null,
    DefaultsDocument? Defaults = null
);

/// <summary>What a folder is made with.</summary>
public sealed record NewFolder(long ParentId, string? Name = null);

/// <summary>What of a folder can be changed; what is left out stays.</summary>
/// <param name="Defaults">What new snippets begin with in it; an empty one says nothing any more.</param>
public sealed record FolderChange(string? Name = null, bool? Enabled = null, DefaultsDocument? Defaults = null);

/// <summary>The id of something that was made.</summary>
public sealed record Made(long Id);

/// <summary>Where something is moved: into a library or folder, in front of another item there or to the end.</summary>
/// <param name="ParentId">The library or folder; null for where it lies now.</param>
public sealed record Move(long? ParentId = null, long? Before = null);

/// <summary>One place up or down among its like.</summary>
public sealed record Shift(bool Up);

internal static class LibraryEndpoints
{
    public static void MapLibraries(this IEndpointRouteBuilder api)
    {
        api.MapGet("/libraries", (LibraryService libraryService) => Tree(libraryService.Tree));

        api.MapPost("/libraries", (NewLibrary given, LibraryService libraryService) =>
            MadeBy(libraryService, (now, id) => Commands.AddLibrary(now, id, given.Name ?? ""))
        );

        api.MapPatch("/libraries/{id:long}", (long id, LibraryChange change, LibraryService libraryService) =>
            Done(libraryService, now =>
            {
                var rules = now.Get<LibraryItem>(id).Rules;
                if (change.OwnClosingKeys is { } keys)
                    rules = rules with
                    {
                        ClosingKeys = keys.Count == 0 ? ClosingKeys.Default : ClosingKeys.Parse("ownClosingKeys", keys),
                    };
                rules = rules with
                {
                    CapsLockShouts = change.CapsLockShouts ?? rules.CapsLockShouts,
                    BackspaceTakesBack = change.BackspaceTakesBack ?? rules.BackspaceTakesBack,
                    Defaults = Read(change.Defaults) is { } said
                        ? said == TriggerDefaults.None
                            ? null
                            : said
                        : rules.Defaults,
                };
                return Commands.ChangeLibrary(now, id, change.Name, change.Enabled, rules);
            })
        );

        api.MapGet("/items/{id:long}/defaults", (long id, LibraryService libraryService) =>
            DefaultsDocument.Of(libraryService.Tree.DefaultsIn(libraryService.Tree.Get<Item>(id).Id))
        );

        api.MapPost("/folders", (NewFolder given, LibraryService libraryService) =>
            MadeBy(libraryService, (now, id) => Commands.AddFolder(now, id, given.ParentId, given.Name ?? ""))
        );

        api.MapPatch("/folders/{id:long}", (long id, FolderChange change, LibraryService libraryService) =>
            Done(libraryService, now =>
                Commands.ChangeFolder(now, id, change.Name, change.Enabled, Read(change.Defaults))
            )
        );

        api.MapDelete("/items/{id:long}", (long id, LibraryService libraryService) =>
            Done(libraryService, now => Commands.Delete(now, id))
        );

        api.MapPost("/items/{id:long}/move", (long id, Move move, LibraryService libraryService) =>
            Done(libraryService, now =>
                Commands.Move(now, id, move.ParentId ?? now.Get<Item>(id).Slot.Parent, move.Before)
            )
        );

        api.MapPost("/items/{id:long}/shift", (long id, Shift shift, LibraryService libraryService) =>
            Done(libraryService, now => Commands.Shift(now, id, shift.Up))
        );
    }

    internal static Made MadeBy(LibraryService libraryService, Func<LibraryTree, long, Change> command) =>
        new(libraryService.Do(command).Items[0].Id);

    private static IResult Done(LibraryService libraryService, Func<LibraryTree, Change> command)
    {
        libraryService.Do((now, _) => command(now));
        return TypedResults.NoContent();
    }

    private static TriggerDefaults? Read(DefaultsDocument? given) =>
        given is null ? null : InvalidInputException.Within("defaults", given.ToDefaults);

    private static LibraryTreeAnswer Tree(LibraryTree now)
    {
        return new LibraryTreeAnswer([
            .. now.Libraries.Select(library => LibraryNode.Of(library, Folders(library.Id))),
        ]);

        IReadOnlyList<FolderNode> Folders(long parent) =>
            [
                .. now.Inside(parent)
                    .OfType<FolderItem>()
                    .Select(folder => new FolderNode(
                        folder.Id,
                        folder.Name,
                        folder.Enabled,
                        folder.Defaults is { } said ? DefaultsDocument.Of(said) : null,
                        DefaultsDocument.Of(now.DefaultsIn(parent)),
                        Folders(folder.Id)
                    )),
            ];
    }
}
