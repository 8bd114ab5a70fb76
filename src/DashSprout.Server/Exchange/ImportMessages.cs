using DashSprout.Server.Safety;

namespace DashSprout.Server.Exchange;

/// <summary>How a file is to be read and brought in; what is left out is found out, or as usual.</summary>
/// <param name="Kind"><c>library-file</c>, <c>yaml</c>, <c>table</c>, <c>list</c>, <c>contacts</c> or
/// <c>documents</c>.</param>
/// <param name="Separator">Of a table: one sign.</param>
/// <param name="Heading">Whether the first record of a table names its columns.</param>
/// <param name="Columns">What the columns of a table hold; empty for one that is passed over.</param>
/// <param name="Sign">What the abbreviations of contacts begin with.</param>
/// <param name="ParentId">The library or folder they come to; null for the first library, which is made when there is
/// none.</param>
/// <param name="SameName">What becomes of a snippet whose name is there: <c>change</c>, <c>number</c> or
/// <c>leave</c>.</param>
/// <param name="Replace">Whether a whole library takes the place of one of its name.</param>
public sealed record ImportOptions(
    string? Kind = null,
    string? Encoding = null,
    string? Separator = null,
    bool? Heading = null,
    IReadOnlyList<string>? Columns = null,
    string? Sign = null,
    long? ParentId = null,
    string? SameName = null,
    bool Replace = false
);

/// <summary>Several Markdown or HTML files.</summary>
public sealed record DocumentUpload(IReadOnlyList<UploadedText> Files);

/// <summary>A file by its name, with the folders it lies in.</summary>
public sealed record UploadedText(string Name, string Text);

/// <summary>A file that is looked at before it is brought in.</summary>
/// <param name="State"><c>working</c>, <c>ready</c>, <c>stopped</c> or <c>failed</c>.</param>
/// <param name="Problem">Why it cannot be brought in; null when it can.</param>
/// <param name="Options">How it is read.</param>
/// <param name="Preview">What would come of it, once it is ready.</param>
public sealed record ImportAnswer(
    string Id,
    string Name,
    string State,
    double Progress,
    string? Problem,
    ImportOptions Options,
    ImportTable? Table,
    ImportPreview? Preview
);

/// <summary>The first records of a table, and what its columns can hold.</summary>
public sealed record ImportTable(
    IReadOnlyList<string> Head,
    IReadOnlyList<IReadOnlyList<string>> First,
    IReadOnlyList<ColumnChoice> Choices
);

/// <summary>What a column can hold.</summary>
public sealed record ColumnChoice(string Id, string Label);

/// <summary>What an import would do.</summary>
/// <param name="Gone">How many snippets would go into the bin.</param>
/// <param name="Wrong">How many lines cannot be used.</param>
/// <param name="Lines">The lines that are wrong, then some of the others.</param>
/// <param name="Overlaps">How many overlaps it would make.</param>
/// <param name="Misfires">Its triggers that are not quiet, the worst first.</param>
/// <param name="Notes">What else is worth knowing.</param>
public sealed record ImportPreview(
    int Adds,
    int Changes,
    int Same,
    int Left,
    int Gone,
    int Wrong,
    IReadOnlyList<ImportLine> Lines,
    int Overlaps,
    IReadOnlyList<OverlapAnswer> SomeOverlaps,
    IReadOnlyList<MisfireAnswer> Misfires,
    IReadOnlyList<string> Notes
);

/// <summary>A snippet of a file.</summary>
/// <param name="Line">Where it stands; 0 where a file has no lines to tell.</param>
/// <param name="Fate"><c>add</c>, <c>change</c>, <c>same</c>, <c>leave</c> or <c>wrong</c>.</param>
public sealed record ImportLine(
    int Line,
    string Fate,
    string Name,
    IReadOnlyList<string> Triggers,
    string Preview,
    string? Problem
);
