using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;

namespace DashSprout.Exchange.Files;

/// <summary>A snippet as a file of rows, contacts or texts tells it.</summary>
/// <param name="Line">Where it stands in the file, from 1.</param>
/// <param name="Library">The library it names; null when it names none.</param>
/// <param name="Folders">The folders it is to lie in, the outermost first.</param>
/// <param name="Parts">The parts that the file speaks of, by the keys of <see cref="SnippetParts"/>.</param>
/// <param name="Problem">Why it cannot be used; null when it can.</param>
public sealed record IncomingRow(
    int Line,
    string? Library,
    IReadOnlyList<string> Folders,
    SnippetDocument Snippet,
    IReadOnlyList<string> Parts,
    string? Problem = null
)
{
    /// <summary>The row with what is wrong with it, judged by what a place wants of new snippets.</summary>
    public (IncomingRow Row, IncomingSnippet? Snippet) Checked(TriggerDefaults defaults)
    {
        if (Problem is not null)
            return (this, null);
        try
        {
            EquatableList<string> folders = new(Folders.Select(name => Names.Check("folder", name)));
            if (folders.Count >= LibraryTree.MaxDepth)
                throw new InvalidInputException("folder", $"Folders nest deeper than {LibraryTree.MaxDepth}.");
            return (this, new IncomingSnippet(Line, folders, Snippet.Under(defaults).ToSnippet(), new(Parts)));
        }
        catch (InvalidInputException exception)
        {
            return (this with { Problem = exception.Message }, null);
        }
    }
}
