using System.Text.Json;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Exchange.Files;

namespace DashSprout.Exchange.Tables;

/// <summary>How a table is read.</summary>
/// <param name="Heading">Whether its first record names the columns.</param>
/// <param name="Columns">What each column holds, by <see cref="TableColumn.Id"/>; null for what is passed over.</param>
public sealed record TableShape(char Separator, bool Heading, IReadOnlyList<string?> Columns);

/// <summary>A table as snippets.</summary>
/// <param name="Head">The names of its columns, as they stand there or by their places.</param>
/// <param name="First">Its first records, as they stand there.</param>
/// <param name="Pictures">The pictures in its bodies.</param>
public sealed record TableContents(
    IReadOnlyList<string> Head,
    IReadOnlyList<IReadOnlyList<string>> First,
    IReadOnlyList<IncomingRow> Rows,
    IReadOnlyList<PlaceRow> Places,
    IReadOnlyList<PictureData> Pictures
);

/// <summary>A library or folder that a table tells something of besides its snippets.</summary>
public sealed record PlaceRow(int Line, string Library, IReadOnlyList<string> Folders, bool Enabled, string Rules);

/// <summary>
/// Snippets as a table with a record each: what was written by <see cref="SnippetTableWriter"/>, and tables from
/// elsewhere whose columns are told apart. A record without a text that has the name of the one above it is another
/// trigger of that.
/// </summary>
public static class SnippetTable
{
    /// <summary>How many records are read at most.</summary>
    public const int MostRows = 100_000;

    private const int MostColumns = 500,
        ShownRows = 6,
        LookedAt = 50;

    /// <summary>How a table is most likely meant.</summary>
    public static TableShape ShapeOf(string text)
    {
        var separator = DelimitedText.SeparatorOf(text);
        var first = DelimitedText.Read(text, separator).Take(LookedAt).Select(row => row.Cells).ToList();
        if (first.Count == 0)
            throw new InvalidInputException("file", "There is nothing in the file.");
        if (first.Max(cells => cells.Count) is > MostColumns and var many)
            throw new InvalidInputException(
                "file",
                $"A record has {many} cells; {MostColumns} are allowed. Is this a table?"
            );
        var named = first[0].Select(cell => TableColumn.Of(cell)?.Id).ToList();
        // A heading names at least two columns, or all there are.
        if (named.Count(id => id is not null) >= Math.Min(2, named.Count))
            return new TableShape(separator, true, Once(named));
        return new TableShape(separator, false, Guessed(first));
    }

    /// <summary>Reads a table in a shape.</summary>
    public static TableContents Read(string text, TableShape shape, CancellationToken cancellation = default)
    {
        var records = DelimitedText
            .Read(text, shape.Separator)
            .Take(MostRows + 2)
            .TakeWhile(_ => !cancellation.IsCancellationRequested)
            .ToList();
        cancellation.ThrowIfCancellationRequested();
        if (records.Count > MostRows + 1)
            throw new InvalidInputException("file", $"The file has more than {MostRows} records. Divide it.");
        var heading = shape.Heading ? records.FirstOrDefault()?.Cells : null;
        var widest = Math.Max(
            shape.Columns.Count,
            records.Take(LookedAt).Select(record => record.Cells.Count).DefaultIfEmpty(0).Max()
        );
        IReadOnlyList<string> head =
        [
            .. Enumerable
                .Range(0, widest)
                .Select(at => heading?.ElementAtOrDefault(at) is { Length: > 0 } name ? name : $"Column {at + 1}"),
        ];
        var rows = new List<IncomingRow>();
        var places = new List<PlaceRow>();
        var pictures = new List<PictureData>();
        foreach (var record in records.Skip(shape.Heading ? 1 : 0))
        {
            cancellation.ThrowIfCancellationRequested();
            var cells = new RecordCells(record, shape.Columns);
            try
            {
                if (record.Problem is { } problem)
                    rows.Add(Broken(cells, problem));
                else if (cells.PlaceOnly() is { } place)
                    places.Add(place);
                else if (rows is [.., var above] && cells.IsMoreOf(above))
                    rows[^1] = WithTrigger(above, cells);
                else
                    rows.Add(Row(cells, pictures));
            }
            catch (InvalidInputException exception)
            {
                rows.Add(Broken(cells, exception.Message));
            }
        }
        return new TableContents(
            head,
            [.. records.Skip(shape.Heading ? 1 : 0).Take(ShownRows).Select(record => record.Cells)],
            rows,
            places,
            pictures
        );
    }

    /// <summary>The libraries of a table that names one in each record.</summary>
    public static IReadOnlyList<Library> ToLibraries(TableContents contents)
    {
        var wrong = contents.Rows.FirstOrDefault(row => row.Problem is not null);
        if (wrong is not null)
            throw new InvalidInputException("file", $"Line {wrong.Line}: {wrong.Problem}");
        var places = new PlacesInTable();
        PlaceInTable Place(string library, IReadOnlyList<string> folders)
        {
            var place = places.At(library);
            foreach (var name in folders)
                place = place.Folders.At(name);
            return place;
        }
        // In the order of the file, which is theirs.
        var told = contents
            .Places.Select(place => (place.Line, Tell: (Action)(() => Place(place.Library, place.Folders).Take(place))))
            .Concat(
                contents.Rows.Select(row =>
                    (row.Line, Tell: (Action)(() => Place(row.Library!, row.Folders).Snippets.Add(row.Snippet)))
                )
            );
        foreach (var (_, tell) in told.OrderBy(one => one.Line))
            tell();
        return LibraryFile.ToLibraries([.. places.InOrder.Select(place => place.ToLibrary())]);
    }

    private static IncomingRow Row(RecordCells cells, List<PictureData> pictures)
    {
        if (cells.Extra is { } extra)
            throw new InvalidInputException("", extra);
        return cells.ToRow(pictures);
    }

    private static IncomingRow WithTrigger(IncomingRow above, RecordCells cells)
    {
        // One more than are allowed is enough to be told so.
        if (above.Snippet.Triggers is { Count: > SnippetDocument.MaxTriggers })
            return above;
        try
        {
            return above with
            {
                Snippet = above.Snippet with { Triggers = [.. above.Snippet.Triggers ?? [], .. cells.Triggers()] },
            };
        }
        catch (InvalidInputException exception)
        {
            return above with { Problem = $"Line {cells.Line}: {exception.Message}" };
        }
    }

    private static IncomingRow Broken(RecordCells cells, string problem) =>
        new(
            cells.Line,
            null,
            [],
            new SnippetDocument(
                cells.Of("name"),
                Text: cells.Of("text"),
                Triggers: cells.Of("trigger") is { Length: > 0 } typed
                    ? [new TriggerDocument("abbreviation", typed)]
                    : []
            ),
            [],
            problem
        );

    /// <summary>Each column holds something else: of two that seem the same the first is it.</summary>
    private static IReadOnlyList<string?> Once(IReadOnlyList<string?> ids) =>
        [.. ids.Select((id, at) => id is not null && ids.Take(at).Contains(id) ? null : id)];

    /// <summary>
    /// Without a heading: what is shortest and nearly always one word is the trigger, what is longest the text, and
    /// what lies in front of them the name.
    /// </summary>
    private static IReadOnlyList<string?> Guessed(IReadOnlyList<IReadOnlyList<string>> first)
    {
        var columns = first.Max(cells => cells.Count);
        var ids = new string?[columns];
        double Length(int at) => first.Average(cells => cells.ElementAtOrDefault(at)?.Length ?? 0);
        bool IsWord(string? cell) => cell is { Length: > 0 and <= 64 } && !cell.Any(char.IsWhiteSpace);
        // Some lines may be wrong.
        var words = Enumerable
            .Range(0, columns)
            .Where(at => first.Count(cells => IsWord(cells.ElementAtOrDefault(at))) >= 0.7 * first.Count)
            .ToList();
        var trigger = words.Count > 0 ? words.MinBy(Length) : -1;
        var text = Enumerable
            .Range(0, columns)
            .Where(at => at != trigger)
            .DefaultIfEmpty(-1)
            .MaxBy(at => at < 0 ? 0 : Length(at));
        if (trigger >= 0)
            ids[trigger] = "trigger";
        if (text >= 0)
            ids[text] = "text";
        var name = Enumerable.Range(0, columns).Where(at => ids[at] is null).Select(at => (int?)at).FirstOrDefault();
        if (name is { } at)
            ids[at] = "name";
        return ids;
    }

    /// <summary>Libraries or folders side by side, in the order in which they are told first.</summary>
    private sealed class PlacesInTable
    {
        private readonly Dictionary<string, PlaceInTable> byName = new(StringComparer.OrdinalIgnoreCase);
        private readonly List<PlaceInTable> inOrder = [];

        public IReadOnlyList<PlaceInTable> InOrder => inOrder;

        public PlaceInTable At(string name)
        {
            if (byName.TryGetValue(name, out var known))
                return known;
            inOrder.Add(byName[name] = new PlaceInTable(name));
            return inOrder[^1];
        }
    }

    private sealed class PlaceInTable(string name)
    {
        private PlaceRow? told;

        public PlacesInTable Folders { get; } = new();

        public List<SnippetDocument> Snippets { get; } = [];

        public void Take(PlaceRow row) => told = row;

        public LibraryDocument ToLibrary() =>
            Rules(new LibraryDocument()) with
            {
                Name = name,
                Enabled = told?.Enabled ?? true,
                Folders = [.. Folders.InOrder.Select(folder => folder.ToFolder())],
                Snippets = Snippets,
            };

        private FolderDocument ToFolder() =>
            Rules(new FolderDocument()) with
            {
                Name = name,
                Enabled = told?.Enabled ?? true,
                Folders = [.. Folders.InOrder.Select(folder => folder.ToFolder())],
                Snippets = Snippets,
            };

        private T Rules<T>(T usual)
        {
            if (told is not { Rules.Length: > 0 })
                return usual;
            try
            {
                return JsonSerializer.Deserialize<T>(told.Rules, LibraryFile.Json) ?? usual;
            }
            catch (JsonException exception)
            {
                throw new InvalidInputException(
                    "file",
                    $"Line {told.Line}, rules: {LibraryFile.InvalidJson(exception).Message}"
                );
            }
        }
    }
}
