using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Server.Libraries;

namespace DashSprout.Server.Exchange;

/// <summary>What bringing a file in would change, and what becomes of its lines.</summary>
/// <param name="Same">Snippets that are here already as they are there.</param>
/// <param name="Notes">What to know of it besides.</param>
internal sealed record ImportPlan(Change Change, IReadOnlyList<ImportLine> Lines, int Same, IReadOnlyList<string> Notes)
{
    /// <summary>What bringing a file in would change, and what becomes of its lines.</summary>
    public static ImportPlan Of(LibraryTree now, long nextId, ImportContents contents)
    {
        if (contents is ImportContents.Given own)
        {
            var (change, notes) = own.Plan(now, nextId);
            return new ImportPlan(change, LinesOf(change), 0, notes);
        }
        if (contents is ImportContents.Whole whole)
        {
            var (change, missing) = Importing.Of(now, whole.Libraries, whole.Options.Replace, nextId);
            var lines = LinesOf(change);
            var same = whole.Libraries.Sum(library => library.AllSnippets().Count()) - lines.Count;
            return new ImportPlan(change, lines, same, missing);
        }
        var rows = (ImportContents.Rows)contents;
        var parent = rows.Options.ParentId ?? now.Libraries.FirstOrDefault()?.Id;
        // Where there is no library yet one is made for them.
        if (parent is null)
            return Into(
                LibraryTree.Empty.With(
                    Commands.AddLibrary(LibraryTree.Empty, nextId, SnippetEndpoints.FirstLibraryName)
                ),
                nextId,
                rows,
                newLibrary: true
            );
        return Into(now, nextId, rows with { Options = rows.Options with { ParentId = parent } }, newLibrary: false);
    }

    private static List<ImportLine> LinesOf(Change change) =>
        change
            .Items.SelectMany(item =>
                item.Below.Select(below => (item.Before, After: (Item?)below)).Append((item.Before, item.After))
            )
            // One that only comes to stand elsewhere among the others is the same.
            .Where(pair => pair.After is SnippetItem after && (pair.Before as SnippetItem)?.Snippet != after.Snippet)
            .Select(pair =>
                Line(0, pair.Before is null ? IncomingFate.Add : IncomingFate.Change, (SnippetItem)pair.After!)
            )
            .ToList();

    private static ImportPlan Into(LibraryTree now, long nextId, ImportContents.Rows rows, bool newLibrary)
    {
        var parent = newLibrary ? nextId++ : rows.Options.ParentId!.Value;
        var defaults = now.DefaultsIn(parent);
        var checkedRows = rows.Snippets.Select(row => row.Checked(defaults)).ToList();
        var same = rows.Options.SameName is null
            ? SameName.Change
            : Wording.Parse<SameName>("sameName", rows.Options.SameName);
        var (change, outcomes) = Incoming.Bring(
            now,
            nextId,
            parent,
            [.. checkedRows.Select(row => row.Snippet).OfType<IncomingSnippet>()],
            same
        );
        var wrong = checkedRows
            .Where(row => row.Snippet is null)
            .Select(row => new ImportLine(
                row.Row.Line,
                "wrong",
                row.Row.Snippet.Name ?? "",
                [.. (row.Row.Snippet.Triggers ?? []).Select(trigger => trigger.Text ?? "")],
                Cut(row.Row.Snippet.Text ?? ""),
                row.Row.Problem
            ));
        var lines = outcomes.Select(outcome => new ImportLine(
            outcome.Incoming.Line,
            Wording.Of(outcome.Fate),
            outcome.Name,
            [.. outcome.Incoming.Snippet.Triggers.Select(trigger => trigger.Text)],
            Cut(outcome.Incoming.Snippet.Preview()),
            null
        ));
        if (newLibrary)
        {
            var library = now.Get<LibraryItem>(parent);
            change = new Change(
                change.What,
                new ItemChange(null, library, new(change.Items.SelectMany(item => item.Below.Prepend(item.After!))))
            );
        }
        return new ImportPlan(change, [.. wrong, .. lines], 0, []);
    }

    private static ImportLine Line(int line, IncomingFate fate, SnippetItem item) =>
        new(
            line,
            Wording.Of(fate),
            item.Name,
            [.. item.Snippet.Triggers.Select(trigger => trigger.Text)],
            Cut(item.Snippet.Preview()),
            null
        );

    private static string Cut(string text) => Core.Text.Graphemes.Shortened(text, 80).ReplaceLineEndings(" ⏎ ");
}
