using System.Text.Json;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Exchange.Files;

namespace DashSprout.Exchange.Tables;

/// <summary>Writes libraries as a table that <see cref="SnippetTable"/> reads again, pictures in the bodies.</summary>
public static class SnippetTableWriter
{
    /// <summary>The table, with a heading.</summary>
    public static string Write(IEnumerable<Library> libraries, Func<string, PictureData?> picture)
    {
        IEnumerable<IReadOnlyDictionary<string, string>> records = libraries.SelectMany(library =>
            Of(library, picture)
        );
        return DelimitedText.Write(
            records
                .Select(record =>
                    (IReadOnlyList<string>)
                        [.. TableColumn.All.Select(column => record.GetValueOrDefault(column.Id, ""))]
                )
                .Prepend([.. TableColumn.All.Select(column => column.Id)])
        );
    }

    private static IEnumerable<Dictionary<string, string>> Of(Library library, Func<string, PictureData?> picture)
    {
        var rules = LibraryDocument.Of(library.Name, true, library.Rules) with { Name = null };
        return Place(
            library.Name,
            [],
            library.Enabled,
            JsonSerializer.Serialize(rules, Compact),
            library.Folders,
            library.Snippets,
            picture
        );
    }

    private static IEnumerable<Dictionary<string, string>> Place(
        string library,
        IReadOnlyList<string> way,
        bool enabled,
        string rules,
        IEnumerable<Folder> folders,
        IEnumerable<Snippet> snippets,
        Func<string, PictureData?> picture
    )
    {
        var head = new Dictionary<string, string> { ["library"] = library, ["folder"] = string.Join('/', way) };
        // A place stands for itself where its snippets do not tell all of it.
        var inner = folders.ToList();
        var own = snippets.ToList();
        if (!enabled || rules != "{}" || (inner.Count == 0 && own.Count == 0))
            yield return new(head) { ["enabled"] = YesNo(enabled), ["rules"] = rules == "{}" ? "" : rules };
        foreach (var folder in inner)
        {
            var said = FolderDocument.Of(
                folder with
                {
                    Folders = Core.EquatableList<Folder>.Empty,
                    Snippets = Core.EquatableList<Snippet>.Empty,
                    Enabled = true,
                }
            ) with
            {
                Name = null,
            };
            foreach (
                var record in Place(
                    library,
                    [.. way, folder.Name],
                    folder.Enabled,
                    JsonSerializer.Serialize(said, Compact),
                    folder.Folders,
                    folder.Snippets,
                    picture
                )
            )
                yield return record;
        }
        foreach (var snippet in own)
        foreach (var record in Records(head, snippet, picture))
            yield return record;
    }

    private static readonly JsonSerializerOptions Compact = new(LibraryFile.Json) { WriteIndented = false };

    private static IEnumerable<Dictionary<string, string>> Records(
        Dictionary<string, string> head,
        Snippet snippet,
        Func<string, PictureData?> picture
    )
    {
        var document = SnippetDocument.Of(snippet).Shortened();
        var record = new Dictionary<string, string>(head)
        {
            ["name"] = snippet.Name,
            ["enabled"] = YesNo(snippet.Enabled),
            ["text"] = document.Text ?? "",
            ["body"] = document.Body is { } body ? InlinePictures.Put(body, picture) : "",
            ["twin"] = document.Twin is { } ? "yes" : "",
            ["twinText"] = document.Twin?.Text ?? "",
            ["twinBody"] = document.Twin?.Body is { } twin ? InlinePictures.Put(twin, picture) : "",
            ["links"] = document.Links ?? "",
            ["note"] = snippet.Note,
            ["tags"] = string.Join(", ", snippet.Tags),
            ["private"] = snippet.Private ? "yes" : "",
            ["delivery"] = document.Delivery ?? "",
            ["leaveOnClipboard"] = snippet.LeaveOnClipboard ? "yes" : "",
        };
        var triggers = document.Triggers ?? [];
        if (triggers.Count == 0)
            yield return record;
        foreach (var (trigger, at) in triggers.Select((trigger, at) => (trigger, at)))
        {
            var own = at == 0 ? record : new Dictionary<string, string>(head) { ["name"] = snippet.Name };
            own["kind"] = trigger.Kind ?? "";
            own["trigger"] = trigger.Text ?? "";
            own["timing"] = trigger.Timing ?? "";
            own["leftEdge"] = trigger.LeftEdge ?? "";
            own["case"] = trigger.Case ?? "";
            own["keepClosingKey"] = trigger.KeepClosingKey is { } keep ? YesNo(keep) : "";
            own["closingKeys"] =
                trigger.ClosingKeys is not { } keys ? ""
                : keys.Count == 0 ? "none"
                : string.Join(' ', keys.Select(key => key == " " ? "Space" : key));
            own["givesWay"] = trigger.GivesWay is { } gives ? YesNo(gives) : "";
            own["scope"] = trigger.Scope?.Mode ?? "";
            own["apps"] = string.Join(", ", trigger.Scope?.Apps ?? []);
            yield return own;
        }
    }

    private static string YesNo(bool value) => value ? "yes" : "no";
}
