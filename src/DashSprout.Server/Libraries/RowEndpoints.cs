using System.Runtime.CompilerServices;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Exchange;
using DashSprout.Server.Safety;

namespace DashSprout.Server.Libraries;

/// <summary>Which rows of the table are wanted.</summary>
/// <param name="Closed">Libraries and folders whose contents are not shown.</param>
/// <param name="Find">An item whose place in the table is wanted too; what it lies in counts as open.</param>
public sealed record RowsRequest(IReadOnlyList<long> Closed, int From, int Count, long? Find = null);

/// <summary>Rows of the table.</summary>
/// <param name="Total">How many rows there are in all.</param>
/// <param name="Board">Whether grades and overlaps are <c>ready</c>, still <c>working</c>, <c>stopped</c> or <c>failed</c>.</param>
/// <param name="FoundAt">The place of what was to be found; null when it is not in the table.</param>
public sealed record RowsAnswer(int Total, int From, IReadOnlyList<TableRow> Rows, string Board, int? FoundAt);

/// <summary>A library, folder or snippet in the table.</summary>
/// <param name="ParentAt">The place of the row it lies in; -1 for libraries.</param>
/// <param name="Active">Whether its triggers work.</param>
/// <param name="Snippets">How many snippets lie in a library or folder.</param>
/// <param name="Grade">The worst misfire grade of its triggers; null while it is not known.</param>
/// <param name="Beaten">Whether another trigger wins over one of its own.</param>
public sealed record TableRow(
    long Id, string Kind, string Name, int Depth, int ParentAt, long LibraryId, long ParentId, bool Enabled, bool Active, bool Open, int Snippets,
    string FirstWords, IReadOnlyList<TriggerSketch> Triggers, string? Grade, int Overlaps, bool Beaten);

/// <summary>What the table shows of a trigger; no scope when it works everywhere.</summary>
public sealed record TriggerSketch(string Kind, string Text, string? Timing, string? Case, ScopeDocument? Scope)
{
    internal static TriggerSketch Of(Trigger trigger)
    {
        var document = TriggerDocument.Of(trigger);
        return new(document.Kind!, document.Text!, document.Timing, document.Case, document.Scope is { Mode: "everywhere" } ? null : document.Scope);
    }
}

internal static class RowEndpoints
{
    private const int FirstWordsLength = 90;
    private const int MostRows = 500;

    private static readonly ConditionalWeakTable<SnippetItem, string> Beginnings = [];

    private static volatile RowList? last;

    public static void MapRows(this IEndpointRouteBuilder api) => api.MapPost("/libraries/rows", (RowsRequest request, Catalog catalog, Findings findings) =>
    {
        var now = catalog.Catalogue;
        var closed = request.Closed.ToHashSet();
        if (request.Find is { } wanted && now.Find(wanted) is { } item)
        {
            closed.ExceptWith(now.FoldersOf(item).Select(folder => folder.Id));
            closed.Remove(now.LibraryOf(item).Id);
        }
        // The same list serves one page after another.
        var list = last is { } kept && kept.Serves(now, closed) ? kept : last = new RowList(now, closed);
        var found = findings.Now();
        var from = Math.Clamp(request.From, 0, list.Rows.Count);
        var rows = list.Rows.Skip(from).Take(Math.Clamp(request.Count, 0, MostRows)).Select(row => list.Row(row, found)).ToList();
        var at = request.Find is { } id ? list.Rows.FindIndex(row => row.Item.Id == id) : -1;
        return new RowsAnswer(list.Rows.Count, from, rows, Wording.Of(found.State), at < 0 ? null : at);
    });

    /// <summary>How a snippet begins. What holds others is told each time, since those may have been renamed.</summary>
    private static string FirstWords(Catalogue now, SnippetItem item) =>
        References.Any(item.Snippet.Body) ? Beginning(Sketch.Of(item.Snippet.Body, now.NameOf)) : Beginnings.GetValue(item, static item => Beginning(Sketch.Of(item.Snippet.Body)));

    private static string Beginning(string text)
    {
        var cut = text.AsSpan(0, Math.Min(text.Length, FirstWordsLength * 2)).ToString().ReplaceLineEndings(" ⏎ ");
        var end = Core.Text.Graphemes.Offset(cut, FirstWordsLength);
        return end < cut.Length ? cut[..end] + "…" : cut;
    }

    /// <summary>The rows of a table in their order, without what is closed.</summary>
    private sealed class RowList
    {
        private readonly Catalogue now;
        private readonly HashSet<long> closed;
        private readonly Dictionary<long, int> counts = [];

        public RowList(Catalogue now, HashSet<long> closed)
        {
            this.now = now;
            this.closed = closed;
            foreach (var library in now.Libraries) Add(library, 0, -1);
        }

        public List<(Item Item, int Depth, int ParentAt)> Rows { get; } = [];

        public bool Serves(Catalogue other, HashSet<long> others) => ReferenceEquals(now, other) && closed.SetEquals(others);

        public TableRow Row((Item Item, int Depth, int ParentAt) row, FindingsNow found)
        {
            var (item, depth, parentAt) = row;
            var library = now.LibraryOf(item);
            var snippet = (item as SnippetItem)?.Snippet;
            var enabled = snippet?.Enabled ?? (item as LibraryItem)?.Enabled ?? (item as FolderItem)?.Enabled ?? true;
            var active = library.Enabled && enabled && now.OffFolderOf(item) is null;
            var finding = snippet is not null && active ? found.Of(item.Id) : null;
            return new TableRow(
                item.Id, Wording.Of(item.Kind), item.Name, depth, parentAt, library.Id, item.Slot.Parent, enabled, active, snippet is null && !closed.Contains(item.Id),
                snippet is null ? Count(item) : 0, item is SnippetItem of ? FirstWords(now, of) : "", snippet is null ? [] : [.. snippet.Triggers.Select(TriggerSketch.Of)],
                finding is null ? null : Wording.Of(finding.Grade), finding?.Overlaps ?? 0, finding?.Beaten ?? false);
        }

        private void Add(Item item, int depth, int parentAt)
        {
            var at = Rows.Count;
            Rows.Add((item, depth, parentAt));
            if (item is SnippetItem || closed.Contains(item.Id)) return;
            foreach (var inner in now.Inside(item.Id)) Add(inner, depth + 1, at);
        }

        private int Count(Item holder)
        {
            if (!counts.TryGetValue(holder.Id, out var count))
                counts[holder.Id] = count = now.Inside(holder.Id).Sum(inner => inner is SnippetItem ? 1 : Count(inner));
            return count;
        }
    }
}
