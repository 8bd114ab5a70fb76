using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Exchange.Files;
using DashSprout.Exchange.Lists;
using DashSprout.Exchange.Prose;
using DashSprout.Exchange.Tables;
using DashSprout.Exchange.Yaml;

namespace DashSprout.Server.Exchange;

/// <summary>What kind of file is brought in.</summary>
internal enum ImportKind
{
    LibraryFile,
    Yaml,
    Table,
    List,
    Contacts,
    Documents,
}

/// <summary>What a file holds: whole libraries, or snippets that come to a place.</summary>
/// <param name="Options">How it was read.</param>
/// <param name="Table">The first records of a table.</param>
internal abstract record ImportContents(ImportOptions Options, ImportTable? Table, IReadOnlyList<PictureData> Pictures)
{
    internal sealed record Whole(
        ImportOptions Options,
        ImportTable? Table,
        IReadOnlyList<PictureData> Pictures,
        IReadOnlyList<Library> Libraries
    ) : ImportContents(Options, Table, Pictures);

    /// <summary>Something that says itself what it would change.</summary>
    /// <param name="Plan">The change, from the tree that holds now and the first free id, and what else there is
    /// to say.</param>
    /// <param name="Done">What is done once the change has been made.</param>
    internal sealed record Given(
        ImportOptions Options,
        Func<LibraryTree, long, (Change Change, IReadOnlyList<string> Notes)> Plan,
        Action<Change> Done
    ) : ImportContents(Options, null, []);

    internal sealed record Rows(
        ImportOptions Options,
        ImportTable? Table,
        IReadOnlyList<PictureData> Pictures,
        IReadOnlyList<IncomingRow> Snippets
    ) : ImportContents(Options, Table, Pictures);
}

/// <summary>Reads files to bring in.</summary>
internal static class ImportReading
{
    private static readonly IReadOnlyList<ColumnChoice> Choices =
    [
        .. TableColumn.All.Select(column => new ColumnChoice(column.Id, column.Label)),
    ];

    /// <summary>What a file is, by what it begins with and by its name.</summary>
    public static ImportKind KindOf(string name, ReadOnlySpan<byte> bytes)
    {
        var beginning = System
            .Text.Encoding.UTF8.GetString(bytes[..Math.Min(bytes.Length, 512)])
            .TrimStart('\uFEFF')
            .TrimStart();
        if (beginning.StartsWith("BEGIN:VCARD", StringComparison.OrdinalIgnoreCase))
            return ImportKind.Contacts;
        return Path.GetExtension(name).ToLowerInvariant() switch
        {
            ".json" => ImportKind.LibraryFile,
            ".yaml" or ".yml" => ImportKind.Yaml,
            ".vcf" => ImportKind.Contacts,
            ".md" or ".markdown" or ".html" or ".htm" => ImportKind.Documents,
            ".csv" or ".tsv" or ".tab" => ImportKind.Table,
            _ => beginning.StartsWith('{') ? ImportKind.LibraryFile
            : beginning.Contains('\t', StringComparison.Ordinal) ? ImportKind.Table
            : ImportKind.List,
        };
    }

    /// <summary>Reads a file; throws <see cref="InvalidInputException"/> when that cannot be.</summary>
    public static async Task<ImportContents> Read(
        string name,
        byte[] bytes,
        ImportOptions options,
        CancellationToken cancellation
    )
    {
        var kind = options.Kind is null ? KindOf(name, bytes) : Wording.Parse<ImportKind>("kind", options.Kind);
        options = options with { Kind = Wording.Of(kind) };
        if (kind == ImportKind.LibraryFile)
        {
            using var stream = new MemoryStream(bytes);
            return WholeOf(options, await LibraryFile.Read(stream, cancellation));
        }
        var decoded = TextFile.Decode(bytes, options.Encoding);
        options = options with { Encoding = decoded.Encoding };
        switch (kind)
        {
            case ImportKind.Yaml:
                return WholeOf(options, await YamlFile.Read(decoded.Text, cancellation));
            case ImportKind.Contacts:
                var sign = options.Sign ?? ContactFile.UsualSign;
                if (sign.Length is 0 or > 4 || sign.Any(char.IsWhiteSpace))
                    throw new InvalidInputException(
                        "sign",
                        "The sign in front of the abbreviations is one to four characters without white space."
                    );
                return new ImportContents.Rows(
                    options with
                    {
                        Sign = sign,
                    },
                    null,
                    [],
                    ContactFile.Read(decoded.Text, sign, cancellation)
                );
            case ImportKind.Documents:
                return Documents([new NamedText(name, decoded.Text)], options, cancellation);
            case ImportKind.List:
                return new ImportContents.Rows(
                    options,
                    null,
                    [],
                    [
                        .. PlainList
                            .Read(decoded.Text, SnippetTable.MostRows, cancellation)
                            .Select(line => new IncomingRow(
                                line.Line,
                                null,
                                [],
                                new SnippetDocument(
                                    SuggestedName.Of(line.Text) ?? line.Code,
                                    Text: line.Text,
                                    Triggers: line.Code.Length == 0
                                        ? []
                                        : [new TriggerDocument("abbreviation", line.Code)]
                                ),
                                [SnippetParts.Text, SnippetParts.Triggers],
                                line.Problem
                            )),
                    ]
                );
            default:
                return Table(decoded.Text, options, cancellation);
        }
    }

    /// <summary>Reads several texts.</summary>
    public static ImportContents Documents(
        IReadOnlyList<NamedText> files,
        ImportOptions options,
        CancellationToken cancellation
    )
    {
        var pictures = new List<PictureData>();
        return new ImportContents.Rows(
            options with
            {
                Kind = Wording.Of(ImportKind.Documents),
            },
            null,
            pictures,
            DocumentFiles.Read(files, pictures, cancellation)
        );
    }

    private static ImportContents Table(string text, ImportOptions options, CancellationToken cancellation)
    {
        var guessed = SnippetTable.ShapeOf(text);
        var separator =
            options.Separator is null ? guessed.Separator
            : options.Separator is [var sign] && DelimitedText.Separators.Contains(sign) ? sign
            : throw new InvalidInputException("separator", "The separator is one of , ; | and the tab.");
        var shape = new TableShape(
            separator,
            options.Heading ?? guessed.Heading,
            options.Columns is null
                ? guessed.Columns
                : [.. options.Columns.Select(column => column.Length == 0 ? null : column)]
        );
        if (
            shape.Columns.FirstOrDefault(column =>
                column is not null && TableColumn.All.All(known => known.Id != column)
            ) is
            { } unknown
        )
            throw new InvalidInputException(
                "columns",
                $"“{unknown}” is nothing that a column can hold. Use one of: "
                    + $"{string.Join(", ", TableColumn.All.Select(column => column.Id))}."
            );
        var contents = SnippetTable.Read(text, shape, cancellation);
        options = options with
        {
            Separator = separator.ToString(),
            Heading = shape.Heading,
            Columns =
            [
                .. Enumerable.Range(0, contents.Head.Count).Select(at => shape.Columns.ElementAtOrDefault(at) ?? ""),
            ],
        };
        var table = new ImportTable(contents.Head, contents.First, Choices);
        var named =
            contents.Rows.Count > 0
            && shape.Columns.Contains("library")
            && contents.Rows.All(row => row.Problem is null && row.Library is not null);
        return named || (contents.Rows.Count == 0 && contents.Places.Count > 0)
            ? new ImportContents.Whole(options, table, contents.Pictures, SnippetTable.ToLibraries(contents))
            : new ImportContents.Rows(options, table, contents.Pictures, contents.Rows);
    }

    private static ImportContents.Whole WholeOf(ImportOptions options, LibraryFileContents file) =>
        new(options, null, [.. file.Pictures.Values], file.WithOwnPictures());
}
