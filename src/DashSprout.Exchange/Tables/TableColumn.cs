namespace DashSprout.Exchange.Tables;

/// <summary>What a column of a table can hold, by the names of the library file.</summary>
/// <param name="Label">Its name for the user.</param>
/// <param name="OtherNames">How its head may be named too, in lower case without signs.</param>
public sealed record TableColumn(string Id, string Label, IReadOnlyList<string> OtherNames)
{
    /// <summary>All of them, in the order in which they are written.</summary>
    public static IReadOnlyList<TableColumn> All { get; } =
    [
        new("library", "Library", []),
        new("folder", "Folder", ["folders", "path", "category"]),
        new("name", "Name", ["title", "label", "subject"]),
        new("enabled", "On", ["on", "active"]),
        new("kind", "Kind of trigger", ["triggerkind"]),
        new("trigger", "Set off by", ["abbreviation", "abbr", "code", "short", "setoffby", "key"]),
        new("timing", "Timing", ["goesoff"]),
        new("leftEdge", "Left edge", ["edge"]),
        new("case", "Letter case", ["lettercase"]),
        new("keepClosingKey", "Closing key stays", []),
        new("closingKeys", "Closing keys", []),
        new("givesWay", "Gives way", []),
        new("scope", "Works", ["scopemode"]),
        new("apps", "Applications", ["applications"]),
        new("text", "Text", ["content", "long", "longform", "phrase", "value", "whatgoesin", "message"]),
        new("body", "Body (HTML)", ["html", "richtext"]),
        new("twin", "Has a plain twin", []),
        new("twinText", "Plain twin", ["plaintwin"]),
        new("twinBody", "Plain twin (HTML)", []),
        new("links", "Links", []),
        new("note", "Note", ["comment", "description", "remarks", "notes"]),
        new("tags", "Tags", ["tag", "keywords", "labels"]),
        new("private", "Private", []),
        new("delivery", "Goes in", []),
        new("leaveOnClipboard", "Stays on the clipboard", []),
        new("rules", "Rules of the place", []),
    ];

    /// <summary>The column that a head names; null when it names none.</summary>
    public static TableColumn? Of(string head)
    {
        var plain = new string([.. head.Where(char.IsLetterOrDigit)]).ToLowerInvariant();
        return All.FirstOrDefault(column =>
            column.Id.Equals(plain, StringComparison.OrdinalIgnoreCase) || column.OtherNames.Contains(plain)
        );
    }
}
