using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Exchange.Files;

namespace DashSprout.Exchange.Tables;

/// <summary>The cells of a record by what they hold.</summary>
internal sealed class RecordCells(DelimitedRow record, IReadOnlyList<string?> columns)
{
    /// <summary>The part that a column holds; none for the name, by which a snippet is known.</summary>
    private static readonly Dictionary<string, string> PartOf = SnippetParts
        .All.Where(part => part.Key != SnippetParts.Name)
        .SelectMany(part => part.Columns.Select(column => KeyValuePair.Create(column, part.Key)))
        .ToDictionary();

    public int Line => record.Line;

    /// <summary>What is wrong when there are more cells than columns.</summary>
    public string? Extra =>
        record.Cells.Skip(columns.Count).Any(cell => cell.Length > 0)
            ? $"There are {record.Cells.Count} cells here and {columns.Count} columns. A text that holds the "
                + "separator stands in quotation marks."
            : null;

    /// <summary>A cell; null when there is no such column, empty when nothing stands there.</summary>
    public string? Of(string column)
    {
        for (var at = 0; at < columns.Count; at++)
            if (columns[at] == column)
                return record.Cells.ElementAtOrDefault(at) ?? "";
        return null;
    }

    /// <summary>Whether it tells another trigger of the snippet above.</summary>
    public bool IsMoreOf(IncomingRow above) =>
        Said("trigger") is not null
        && Said("text") is null
        && Said("body") is null
        && above.Problem is null
        && Said("name") is { } name
        && name.Trim().Equals(above.Snippet.Name, StringComparison.OrdinalIgnoreCase)
        && Said("library") == above.Library
        && Folders().SequenceEqual(above.Folders);

    /// <summary>The library or folder it tells of, when it tells of no snippet.</summary>
    public PlaceRow? PlaceOnly() =>
        Said("library") is { } library
        && Said("name") is null
        && Said("trigger") is null
        && Said("text") is null
        && Said("body") is null
            ? new PlaceRow(Line, library, Folders(), YesNo("enabled") ?? true, Said("rules") ?? "")
            : null;

    public IncomingRow ToRow(List<PictureData> pictures)
    {
        var body = Said("body") is { } markup ? InlinePictures.Take(markup, pictures) : null;
        var twinBody = Said("twinBody") is { } plain ? InlinePictures.Take(plain, pictures) : null;
        var text = body is null ? Of("text") ?? "" : null;
        var twin =
            twinBody is not null ? new TwinDocument(twinBody)
            : Said("twinText") is { } twinText ? new TwinDocument(Text: twinText)
            : YesNo("twin") == true ? new TwinDocument(Text: "")
            : null;
        var triggers = Triggers();
        var name = Said("name")?.Trim() is { Length: > 0 } said
            ? said
            : (YesNo("private") == true ? null : NameFrom(text ?? ""))
                ?? triggers.Select(trigger => trigger.Text).FirstOrDefault();
        if (name is null)
            throw new InvalidInputException("", "There is neither a name nor a text nor a trigger here.");
        return new IncomingRow(
            Line,
            Said("library"),
            Folders(),
            new SnippetDocument(
                name,
                YesNo("enabled") ?? true,
                Said("note"),
                YesNo("private") ?? false,
                Said("delivery"),
                YesNo("leaveOnClipboard") ?? false,
                body,
                text,
                triggers,
                twin,
                Said("links"),
                Said("tags")?.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            ),
            [.. columns.OfType<string>().Select(column => PartOf.GetValueOrDefault(column)).OfType<string>().Distinct()]
        );
    }

    public IReadOnlyList<TriggerDocument> Triggers()
    {
        if (Said("trigger") is not { } text)
            return [];
        var kind = Said("kind") ?? "abbreviation";
        // What is typed has no white space around it; a chord may end with a space.
        if (kind == "abbreviation")
            text = text.Trim();
        var keys = Of("closingKeys") is not { Length: > 0 } list
            ? null
            : list.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Where(key => key != "none")
                .Select(key => key == "Space" ? " " : key)
                .ToList();
        var apps = Said("apps")?.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        return
        [
            new TriggerDocument(
                kind,
                text,
                Said("timing"),
                Said("leftEdge"),
                Said("case"),
                YesNo("keepClosingKey"),
                keys,
                YesNo("givesWay"),
                Said("scope") is { } mode ? new ScopeDocument(mode, apps ?? [])
                    : apps is null ? null
                    : new ScopeDocument("only-in", apps)
            ),
        ];
    }

    private string? Said(string column) => Of(column) is { Length: > 0 } cell ? cell : null;

    private IReadOnlyList<string> Folders()
    {
        var way = Said("folder")?.Split('/', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            ?? [];
        return way.Length <= LibraryTree.MaxDepth
            ? way
            : throw new InvalidInputException(
                "folder",
                $"The folders nest {way.Length} deep; {LibraryTree.MaxDepth} are allowed. Move some of them up."
            );
    }

    private bool? YesNo(string column) =>
        Said(column)?.Trim().ToLowerInvariant() switch
        {
            null => null,
            "true" or "yes" or "1" or "on" or "x" => true,
            "false" or "no" or "0" or "off" => false,
            var other => throw new InvalidInputException("", $"“{other}” under “{column}” is neither yes nor no."),
        };

    /// <summary>A name from a text: its first words.</summary>
    private static string? NameFrom(string text) => SuggestedName.Of(text);
}
