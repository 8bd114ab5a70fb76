using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Server.Libraries;
using DashSprout.Store.Items;

namespace DashSprout.Server.History;

/// <summary>A change in the list of the last hundred.</summary>
public sealed record ChangeAnswer(long Id, DateTimeOffset At, string What, bool Undone);

/// <summary>The last changes, the latest first, and which comes next.</summary>
/// <param name="NextToUndo">The change that Ctrl+Z undoes; null when there is none.</param>
/// <param name="NextToRedo">The change that Ctrl+Shift+Z does again; null when there is none.</param>
public sealed record ChangesAnswer(IReadOnlyList<ChangeAnswer> Changes, long? NextToUndo, long? NextToRedo);

/// <summary>What was undone or done again.</summary>
public sealed record UndoAnswer(string What);

/// <summary>A version of a snippet; the first is what it is now.</summary>
/// <param name="Changed">The parts in which it differs from the version before it.</param>
public sealed record VersionAnswer(
    int Version,
    DateTimeOffset SavedAt,
    IReadOnlyList<string> Changed,
    SnippetDocument Snippet
);

/// <summary>The version to go back to.</summary>
public sealed record VersionChoice(int Version);

/// <summary>Something in the bin.</summary>
public sealed record BinnedAnswer(
    long Id,
    string Kind,
    string Name,
    string Where,
    DateTimeOffset DeletedAt,
    int Snippets,
    int DaysLeft
);

internal static class HistoryEndpoints
{
    public static void MapHistory(this IEndpointRouteBuilder api)
    {
        api.MapGet("/changes", (ChangeLog log) =>
            new ChangesAnswer(
                [.. log.Last().Select(change => new ChangeAnswer(change.Id, change.At, change.What, change.Undone))],
                log.NextToUndo()?.Id,
                log.NextToRedo()?.Id
            )
        );

        api.MapPost("/changes/undo", (ChangeLog log, UndoService undoService) =>
            undoService.SetUndone(
                log.NextToUndo() ?? throw new ConflictException("There is nothing to undo."),
                undone: true
            )
        );

        api.MapPost("/changes/redo", (ChangeLog log, UndoService undoService) =>
            undoService.SetUndone(
                log.NextToRedo() ?? throw new ConflictException("There is nothing to do again."),
                undone: false
            )
        );

        api.MapPost("/changes/{id:long}/undo", (long id, ChangeLog log, UndoService undoService) =>
            undoService.SetUndone(log.Find(id).Logged, undone: true)
        );

        api.MapPost("/changes/{id:long}/redo", (long id, ChangeLog log, UndoService undoService) =>
            undoService.SetUndone(log.Find(id).Logged, undone: false)
        );

        api.MapGet("/snippets/{id:long}/versions", (long id, HistoryStore history, LibraryService libraryService) =>
        {
            libraryService.Tree.Get<SnippetItem>(id);
            var versions = history.Versions(id);
            return versions
                .Select(
                    (version, at) =>
                        new VersionAnswer(
                            version.Version,
                            version.SavedAt,
                            at + 1 < versions.Count
                                ?
                                [
                                    .. SnippetParts
                                        .Differing(versions[at + 1].Snippet, version.Snippet)
                                        .Select(part => part.Key),
                                ]
                                : [],
                            SnippetDocument.Of(version.Snippet)
                        )
                )
                .ToArray();
        });

        api.MapPost(
            "/snippets/{id:long}/restore",
            (long id, VersionChoice choice, HistoryStore history, LibraryService libraryService) =>
            {
                var version = history.Versions(id).FirstOrDefault(version => version.Version == choice.Version)
                    ?? throw new InvalidInputException(
                        "version",
                        $"There is no version {choice.Version} any more. Choose one of the list."
                    );
                // Its name may be another snippet's by now; the one it has stays then.
                libraryService.Do(
                    (now, _) =>
                    {
                        var item = now.Get<SnippetItem>(id);
                        var taken = now.Inside(item.Slot.Parent)
                            .Any(other =>
                                other.Id != id && other.SharesNameWith(item with { Snippet = version.Snippet })
                            );
                        var change = Commands.ChangeSnippet(
                            now,
                            id,
                            taken ? version.Snippet with { Name = item.Name } : version.Snippet
                        );
                        return change.Items.Count == 0
                            ? change
                            : change with
                            {
                                What = $"Went back to an earlier version of “{item.Name}”",
                            };
                    }
                );
                return SnippetEndpoints.Answer(libraryService.Tree, libraryService.Tree.Get<SnippetItem>(id));
            }
        );

        api.MapGet("/bin", (HistoryStore history) =>
            history
                .Bin()
                .Select(item => new BinnedAnswer(
                    item.Id,
                    Wording.Of(item.Kind),
                    item.Name,
                    item.Where,
                    item.DeletedAt,
                    item.Snippets,
                    item.DaysLeft
                ))
                .ToArray()
        );

        api.MapPost("/bin/{id:long}/restore", (long id, LibraryService libraryService) =>
        {
            libraryService.Restore(id);
            return TypedResults.NoContent();
        });

        api.MapDelete("/bin/{id:long}", (long id, HistoryStore history) =>
        {
            history.Discard(id);
            return TypedResults.NoContent();
        });
    }
}
