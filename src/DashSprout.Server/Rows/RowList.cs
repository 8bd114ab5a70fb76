using DashSprout.Core;
using DashSprout.Core.Finding;
using DashSprout.Core.Libraries;
using DashSprout.Core.Safety;
using DashSprout.Server.Libraries;
using DashSprout.Server.Safety;

namespace DashSprout.Server.Rows;

/// <summary>By what the table is sorted; without it, it is the tree in its own order.</summary>
internal enum RowColumn
{
    Name,
    Trigger,
    Text,
    Rules,
    Misfires,
    Overlaps,
    On,
    Changed,
    LastUsed,
    Uses,
}

/// <summary>What is known beside the tree when a table is made.</summary>
internal sealed record RowKnowledge(
    FindingsNow Findings,
    Func<long, (int Fired, DateTimeOffset LastAt)?> UseOf,
    Func<IReadOnlyDictionary<long, DateTimeOffset>> ChangedAt
);

/// <summary>Which rows a table has.</summary>
/// <param name="Closed">Libraries and folders whose contents are not shown; of no account with a filter or
/// sorted.</param>
internal sealed record RowWish(HashSet<long> Closed, SnippetFilter Filter, RowColumn? Sort, bool Descending);

/// <summary>
/// The rows of the table in their order: the tree without what is closed; with a filter what it leaves and what that
/// lies in; sorted, the snippets alone. Several requests read one list at once: once it is made nothing in it changes.
/// </summary>
internal sealed class RowList
{
    private readonly LibraryTree now;
    private readonly RowWish wish;
    private readonly RowKnowledge known;

    /// <summary>How many snippets the filter leaves in each library and folder.</summary>
    private readonly Dictionary<long, int> counts = [];

    public RowList(LibraryTree now, RowWish wish, RowKnowledge known)
    {
        this.now = now;
        this.wish = wish;
        this.known = known;
        if (wish.Sort is { } column)
            Rows =
            [
                .. Sorted(now.Libraries.SelectMany(now.Within).OfType<SnippetItem>().Where(Keeps), column)
                    .Select(item => new PlacedRow(item, 0, -1)),
            ];
        else
            foreach (var library in now.Libraries)
            {
                CountIn(library);
                Add(library, 0, -1);
            }
    }

    public List<PlacedRow> Rows { get; } = [];

    /// <summary>How many snippets the filter leaves.</summary>
    public int Snippets => wish.Sort is null ? now.Libraries.Sum(library => counts[library.Id]) : Rows.Count;

    public TableRow Row(PlacedRow row)
    {
        var item = row.Item;
        var library = now.LibraryOf(item);
        var snippet = (item as SnippetItem)?.Snippet;
        var enabled = snippet?.Enabled ?? (item as LibraryItem)?.Enabled ?? (item as FolderItem)?.Enabled ?? true;
        var active = library.Enabled && enabled && now.OffFolderOf(item) is null;
        var finding = snippet is not null && active ? known.Findings.Of(item.Id) : null;
        var use = snippet is null ? null : known.UseOf(item.Id);
        return new TableRow(
            item.Id,
            Wording.Of(item.Kind),
            item.Name,
            row.Depth,
            row.ParentAt,
            library.Id,
            item.Slot.Parent,
            enabled,
            active,
            snippet is null && !IsClosed(item),
            snippet is null ? counts[item.Id] : 0,
            item is SnippetItem of ? SnippetWords.Beginning(now, of) : "",
            snippet is null ? [] : [.. snippet.Triggers.Select(TriggerSketch.Of)],
            finding is null ? null : Wording.Of(finding.Grade),
            finding?.Overlaps ?? 0,
            finding?.Beaten ?? false,
            snippet?.Tags ?? EquatableList<string>.Empty,
            snippet?.Private ?? false,
            wish.Sort is null
                ? ""
                : string.Join(" › ", [library.Name, .. now.FoldersOf(item).Select(folder => folder.Name)]),
            use?.Fired ?? 0,
            use?.LastAt,
            known.ChangedAt().TryGetValue(item.Id, out var changed) ? changed : null
        );
    }

    private bool IsFiltered => !wish.Filter.IsEmpty;

    private bool IsClosed(Item item) => !IsFiltered && wish.Closed.Contains(item.Id);

    private void Add(Item item, int depth, int parentAt)
    {
        if (IsFiltered && (item is SnippetItem snippet ? !Keeps(snippet) : counts[item.Id] == 0))
            return;
        var at = Rows.Count;
        Rows.Add(new PlacedRow(item, depth, parentAt));
        if (item is SnippetItem || IsClosed(item))
            return;
        foreach (var inner in now.Inside(item.Id))
            Add(inner, depth + 1, at);
    }

    private int CountIn(Item holder) =>
        counts[holder.Id] = now.Inside(holder.Id)
            .Sum(inner =>
                inner is SnippetItem snippet
                    ? Keeps(snippet)
                        ? 1
                        : 0
                    : CountIn(inner)
            );

    private bool Keeps(SnippetItem item)
    {
        if (!IsFiltered)
            return true;
        var finding = known.Findings.Of(item.Id);
        return wish.Filter.Keeps(
            new FilterSubject(
                now,
                item,
                SnippetWords.Folded(item),
                finding?.Grade,
                finding?.Overlaps ?? 0,
                finding?.Beaten ?? false,
                known.UseOf(item.Id)?.LastAt,
                known.ChangedAt().GetValueOrDefault(item.Id)
            )
        );
    }

    /// <summary>Equal ones stay in the order of the tree.</summary>
    private IEnumerable<SnippetItem> Sorted(IEnumerable<SnippetItem> items, RowColumn column) =>
        column switch
        {
            RowColumn.Name => By(items, item => item.Name, StringComparer.CurrentCultureIgnoreCase),
            RowColumn.Trigger => By(
                items,
                item => item.Snippet.Triggers.Count == 0 ? "\uFFFF" : item.Snippet.Triggers[0].Text,
                StringComparer.CurrentCultureIgnoreCase
            ),
            RowColumn.Text => By(
                items,
                item => SnippetWords.Beginning(now, item),
                StringComparer.CurrentCultureIgnoreCase
            ),
            RowColumn.Rules => By(items, RulesOf),
            RowColumn.Misfires => By(items, item => known.Findings.Of(item.Id)?.Grade ?? MisfireGrade.Quiet),
            RowColumn.Overlaps => By(items, item =>
                known.Findings.Of(item.Id) is { } found ? (found.Beaten, found.Overlaps) : default
            ),
            RowColumn.On => By(items, item => item.Snippet.Enabled),
            RowColumn.Changed => By(items, item => known.ChangedAt().GetValueOrDefault(item.Id)),
            RowColumn.LastUsed => By(items, item => known.UseOf(item.Id)?.LastAt ?? DateTimeOffset.MinValue),
            _ => By(items, item => known.UseOf(item.Id)?.Fired ?? 0),
        };

    /// <summary>
    /// When it goes off, then its letter case, then where it works; what has no rules of typing comes last.
    /// </summary>
    private static (int Timing, int Case, int Edge, int Scope) RulesOf(SnippetItem item) =>
        item.Snippet.Triggers switch
        {
            [{ Typing: { } rules } trigger, ..] => (
                (int)rules.Timing,
                (int)rules.Case,
                (int)rules.LeftEdge,
                trigger.Scope == Core.Triggers.Scope.Everywhere ? 0 : 1
            ),
            [] => (int.MaxValue, 0, 0, 0),
            _ => (int.MaxValue - 1, 0, 0, 0),
        };

    private IEnumerable<SnippetItem> By<T>(
        IEnumerable<SnippetItem> items,
        Func<SnippetItem, T> key,
        IComparer<T>? comparer = null
    ) => wish.Descending ? items.OrderByDescending(key, comparer) : items.OrderBy(key, comparer);
}

/// <summary>An item in the table.</summary>
/// <param name="ParentAt">The place of the row it lies in; -1 for what lies in none.</param>
internal readonly record struct PlacedRow(Item Item, int Depth, int ParentAt);
