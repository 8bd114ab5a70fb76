using DashSprout.Server.Behind;
using DashSprout.Server.Libraries;
using DashSprout.Store.Items;

namespace DashSprout.Server.Finding;

/// <summary>
/// Lets the search follow, in the background, what came in at once: the finder finds it by its content a little later.
/// </summary>
internal sealed class SearchCatchingUp : IWorksBehind
{
    public SearchCatchingUp(LibraryService libraryService, SnippetSearch search)
    {
        var work = new WorkBehind(
            "The finder's search",
            "Takes in the words of snippets that came in large numbers.",
            null,
            stopping =>
            {
                search.CatchUp(libraryService.Tree, stopping);
                return Task.CompletedTask;
            }
        );
        libraryService.CameIn += work.Ask;
        Works = [work];
    }

    public IEnumerable<WorkBehind> Works { get; }
}
