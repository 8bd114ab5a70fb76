using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;

namespace DashSprout.Server.Libraries;

/// <summary>A snippet with where it lies. Other snippets in its body are named by identity (<c>#42</c>).</summary>
/// <param name="OffFolder">The outermost folder that is off among those it lies in; null when all are on.</param>
/// <param name="Defaults">What a new trigger begins with there.</param>
public sealed record SnippetAnswer(
    long Id,
    int Version,
    long ParentId,
    LibraryNode Library,
    IReadOnlyList<string> Folders,
    string? OffFolder,
    string Path,
    SnippetDocument Snippet,
    DefaultsDocument Defaults
);

/// <summary>A snippet to add at the end of a library or folder.</summary>
/// <param name="ParentId">The library or folder; null for the first library, which is made when there is none.</param>
/// <param name="Snippet">Without a name it gets a free one; what it leaves out of delivery and triggers is as the place
/// says.</param>
/// <param name="FreeName">Whether a name that is taken gets a number behind it.</param>
public sealed record NewSnippet(SnippetDocument Snippet, long? ParentId = null, bool FreeName = false);

/// <summary>
/// What changed of a snippet on a page. Each part that differs between before and after is saved for itself; parts that
/// did not change may be left out on both sides.
/// </summary>
/// <param name="Before">The snippet as the page knew it; its triggers are of no account.</param>
/// <param name="After">The snippet as the page has it now; its triggers are of no account.</param>
/// <param name="FreeName">Whether a name that is taken gets a number behind it.</param>
public sealed record SnippetEdit(
    SnippetDocument Before,
    SnippetDocument After,
    IReadOnlyList<TriggerChange>? Triggers = null,
    bool FreeName = false
);

/// <summary>
/// A trigger that changed on a page: nothing before for a new one, nothing after for one that was taken away.
/// </summary>
public sealed record TriggerChange(TriggerDocument? Before = null, TriggerDocument? After = null);

/// <summary>What came of saving: the snippet as it is kept now, and the parts that could not be saved.</summary>
/// <param name="Said">What the user should know of it; null for nothing.</param>
public sealed record SnippetSaved(SnippetAnswer Now, IReadOnlyList<UnsavedPart> Unsaved, string? Said = null);

/// <summary>A part that was not saved.</summary>
/// <param name="Part"><c>name</c>, <c>enabled</c>, <c>note</c>, <c>private</c>, <c>delivery</c>, <c>body</c> or
/// <c>triggers[n]</c>, n being its place among the changes.</param>
/// <param name="Conflict">Whether it was changed elsewhere meanwhile; the answer's snippet holds what is there.</param>
public sealed record UnsavedPart(string Part, string Why, bool Conflict);

internal static class SnippetEndpoints
{
    internal const string NewName = "New snippet";
    internal const string FirstLibraryName = "My snippets";

    public static void MapSnippets(this IEndpointRouteBuilder api)
    {
        api.MapGet("/snippets/{id:long}", (long id, LibraryService libraryService) =>
            Answer(libraryService.Tree, libraryService.Tree.Get<SnippetItem>(id))
        );

        // What a snippet would be that is not made yet: its place, and what its triggers begin with.
        api.MapGet("/snippets/new", (long? parentId, LibraryService libraryService) =>
        {
            var now = libraryService.Tree;
            var parent = parentId ?? now.Libraries.FirstOrDefault()?.Id;
            if (parent is not null && now.Get<Item>(parent.Value) is SnippetItem beside)
                parent = beside.Slot.Parent;
            var library = parent is { } id
                ? now.LibraryOf(now.Get<Item>(id))
                : new LibraryItem(0, new Slot(Slot.Root, 0), FirstLibraryName, true, LibraryRules.Default);
            var item = new SnippetItem(
                0,
                new Slot(library.Id == 0 ? 0 : parent!.Value, 0),
                0,
                new SnippetDocument(NewName, Text: "").ToSnippet()
            );
            return library.Id == 0
                ? new SnippetAnswer(
                    0,
                    0,
                    0,
                    LibraryNode.Of(library, []),
                    [],
                    null,
                    $"{library.Name}/{NewName}",
                    SnippetDocument.Of(item.Snippet),
                    new DefaultsDocument()
                )
                : Answer(now, item);
        });

        api.MapPost("/snippets", (NewSnippet given, LibraryService libraryService) =>
        {
            var parent = given.ParentId ?? FirstLibrary(libraryService);
            var change = libraryService.Do(
                (now, id) =>
                {
                    var document = given.Snippet;
                    if (document.Name is null || given.FreeName)
                        document = document with { Name = Commands.FreeName(now, parent, document.Name ?? NewName) };
                    return Commands.AddSnippet(
                        now,
                        id,
                        parent,
                        InvalidInputException.Within("snippet", document.Under(now.DefaultsIn(parent)).ToSnippet)
                    );
                }
            );
            return TypedResults.Ok(
                Answer(libraryService.Tree, libraryService.Tree.Get<SnippetItem>(change.Items[0].Id))
            );
        });

        api.MapPatch("/snippets/{id:long}", (long id, SnippetEdit edit, LibraryService libraryService) =>
        {
            IReadOnlyList<UnsavedPart> unsaved = [];
            var done = libraryService.Do(
                (now, _) =>
                {
                    (var change, unsaved) = new SnippetSaving(now, now.Get<SnippetItem>(id)).Save(edit);
                    return change;
                }
            );
            return TypedResults.Ok(
                new SnippetSaved(
                    Answer(libraryService.Tree, libraryService.Tree.Get<SnippetItem>(id)),
                    unsaved,
                    Said(done)
                )
            );
        });
    }

    public static SnippetAnswer Answer(LibraryTree now, SnippetItem item)
    {
        var library = now.LibraryOf(item);
        return new SnippetAnswer(
            item.Id,
            item.Version,
            item.Slot.Parent,
            LibraryNode.Of(library, []),
            [.. now.FoldersOf(item).Select(folder => folder.Name)],
            now.OffFolderOf(item)?.Name,
            now.PathOf(item),
            SnippetDocument.Of(item.Snippet),
            DefaultsDocument.Of(now.DefaultsIn(item.Slot.Parent))
        );
    }

    private static string? Said(Change change) =>
        change.Items
            is [
                {
                    Before: SnippetItem { Snippet.Private: false } was,
                    After: SnippetItem { Snippet.Private: true } now
                },
            ]
        && now.Name.StartsWith(PrivateName.Neutral, StringComparison.Ordinal)
        && was.Name != now.Name
            ? $"Its name told how its text begins, so it is called “{now.Name}” now."
            : null;

    internal static long FirstLibrary(LibraryService libraryService) =>
        libraryService.Tree.Libraries.FirstOrDefault()?.Id
        ?? libraryService.Do((now, id) => Commands.AddLibrary(now, id, FirstLibraryName)).Items[0].Id;
}
