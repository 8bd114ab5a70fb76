using DashSprout.Core;
using DashSprout.Core.Finding;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Documents;
using DashSprout.Server.Engine;
using DashSprout.Server.Libraries;
using DashSprout.Server.Safety;
using DashSprout.Server.Settings;

namespace DashSprout.Server.Rows;

/// <summary>What the table shows: the tree, what a filter leaves of it, or the snippets sorted by a column.</summary>
/// <param name="Closed">Libraries and folders whose contents are not shown; of no account with a filter or
/// sorted.</param>
/// <param name="Sort"><c>name</c>, <c>trigger</c>, <c>text</c>, <c>misfires</c>, <c>overlaps</c>, <c>on</c>,
/// <c>changed</c>, <c>last-used</c> or <c>uses</c>; null for the tree.</param>
public sealed record TableView(
    IReadOnlyList<long> Closed,
    string Filter = "",
    string? Sort = null,
    bool Descending = false
);

/// <summary>Which rows of the table are wanted.</summary>
/// <param name="Find">An item whose place in the table is wanted too; what it lies in counts as open.</param>
public sealed record RowsRequest(TableView View, int From, int Count, long? Find = null);

/// <summary>Rows of the table.</summary>
/// <param name="Total">How many rows there are in all.</param>
/// <param name="Snippets">How many snippets there are, or the filter leaves.</param>
/// <param name="Board">Whether grades and overlaps are <c>ready</c>, still <c>working</c>, <c>stopped</c> or
/// <c>failed</c>.</param>
/// <param name="FoundAt">The place of what was to be found; null when it is not in the table.</param>
/// <param name="Problem">What of the filter could not be read and is left out; null when all could.</param>
public sealed record RowsAnswer(
    int Total,
    int Snippets,
    int From,
    IReadOnlyList<TableRow> Rows,
    string Board,
    int? FoundAt,
    string? Problem
);

/// <summary>A library, folder or snippet in the table.</summary>
/// <param name="ParentAt">The place of the row it lies in; -1 for libraries.</param>
/// <param name="Active">Whether its triggers work.</param>
/// <param name="Snippets">How many snippets lie in a library or folder.</param>
/// <param name="Grade">The worst misfire grade of its triggers; null while it is not known.</param>
/// <param name="Beaten">Whether another trigger wins over one of its own.</param>
/// <param name="Where">The way to it, where the table is no tree.</param>
/// <param name="Uses">How often it went off.</param>
public sealed record TableRow(
    long Id,
    string Kind,
    string Name,
    int Depth,
    int ParentAt,
    long LibraryId,
    long ParentId,
    bool Enabled,
    bool Active,
    bool Open,
    int Snippets,
    string Preview,
    IReadOnlyList<TriggerSketch> Triggers,
    string? Grade,
    int Overlaps,
    bool Beaten,
    IReadOnlyList<string> Tags,
    bool Private,
    string Where,
    int Uses,
    DateTimeOffset? LastUsed,
    DateTimeOffset? Changed
);

/// <summary>What the table shows of a trigger; no scope when it works everywhere.</summary>
public sealed record TriggerSketch(string Kind, string Text, string? Timing, string? Case, ScopeDocument? Scope)
{
    internal static TriggerSketch Of(Trigger trigger)
    {
        var document = TriggerDocument.Of(trigger);
        return new(
            document.Kind!,
            document.Text!,
            document.Timing,
            document.Case,
            document.Scope is { Mode: "everywhere" } ? null : document.Scope
        );
    }
}

/// <summary>The rows from one place of the table to another, both of them with it.</summary>
/// <param name="OnlySnippets">Whether libraries and folders are passed over.</param>
public sealed record RowRangeRequest(TableView View, int From, int To, bool OnlySnippets = false);

/// <summary>A filter as far as it is typed.</summary>
public sealed record FilterRequest(string Filter);

internal static class RowEndpoints
{
    private const int MostRows = 500;

    public static void MapRows(this IEndpointRouteBuilder api)
    {
        api.MapPost("/libraries/rows", (RowsRequest request, Tables tables) =>
        {
            var (list, problem, board) = tables.Of(request.View, request.Find);
            var from = Math.Clamp(request.From, 0, list.Rows.Count);
            var at = request.Find is { } id ? list.Rows.FindIndex(row => row.Item.Id == id) : -1;
            return new RowsAnswer(
                list.Rows.Count,
                list.Snippets,
                from,
                [.. list.Rows.Skip(from).Take(Math.Clamp(request.Count, 0, MostRows)).Select(list.Row)],
                Wording.Of(board),
                at < 0 ? null : at,
                problem
            );
        });

        api.MapPost("/libraries/rows/ids", (RowRangeRequest request, Tables tables) =>
        {
            var rows = tables.Of(request.View, null).List.Rows;
            var (from, to) = (Math.Min(request.From, request.To), Math.Max(request.From, request.To));
            return rows.Skip(from)
                .Take(to - Math.Max(from, 0) + 1)
                .Where(row => !request.OnlySnippets || row.Item is SnippetItem)
                .Select(row => row.Item.Id)
                .ToArray();
        });

        api.MapPost("/libraries/filter", (FilterRequest request, LibraryService libraryService) =>
            FilterText.Suggest(request.Filter, libraryService.Tree)
        );
    }
}

/// <summary>Makes the lists of rows; the same list serves one page after another.</summary>
internal sealed class Tables(
    LibraryService libraryService,
    Findings findings,
    FiringLog firings,
    ChangeTimes times,
    RenderContextSource contexts
)
{
    private volatile Kept? last;

    public (RowList List, string? Problem, BoardState Board) Of(TableView view, long? find)
    {
        var now = libraryService.Tree;
        var closed = view.Closed.ToHashSet();
        if (find is { } wanted && now.Find(wanted) is { } item)
        {
            closed.ExceptWith(now.FoldersOf(item).Select(folder => folder.Id));
            closed.Remove(now.LibraryOf(item).Id);
        }
        var sort = view.Sort is null ? (RowColumn?)null : Wording.Parse<RowColumn>("sort", view.Sort);
        var found = findings.Now();
        var at = contexts.Now().Now;
        // Which rows there are may depend on the day, on uses and on what the board found.
        var stamp = (
            at.Date,
            view.Filter.Trim(),
            sort,
            view.Descending,
            view.Filter.Trim().Length > 0 || sort is not null ? (firings.Uses, found.BySnippet) : default
        );
        if (
            last is not { } kept
            || !ReferenceEquals(kept.Of, now)
            || !kept.Closed.SetEquals(closed)
            || !kept.Stamp.Equals(stamp)
            || kept.State != found.State
        )
        {
            var filter = SnippetFilter.Parse(view.Filter, at);
            last = kept = new Kept(
                now,
                closed,
                stamp,
                found.State,
                filter.Problem,
                new RowList(
                    now,
                    new RowWish(closed, filter, sort, view.Descending),
                    new RowKnowledge(found, firings.Use, () => times.Of(now))
                )
            );
        }
        return (kept.List, kept.Problem, found.State);
    }

    private sealed record Kept(
        LibraryTree Of,
        HashSet<long> Closed,
        object Stamp,
        BoardState State,
        string? Problem,
        RowList List
    );
}
