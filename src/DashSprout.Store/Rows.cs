using System.Text.Json;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Store;

internal sealed class LibraryRow
{
    public long Id { get; init; }
    public int Position { get; init; }
    public int Version { get; init; }
    public string Name { get; init; } = "";
    public bool Enabled { get; init; }
    public string? ClosingKeys { get; init; }
    public bool CapsLockShouts { get; init; }
    public bool BackspaceTakesBack { get; init; }

    public StoredLibrary ToStored() => new(Id, Position, Version, Name, Enabled, new LibraryRules(
        Lists.Keys(ClosingKeys) ?? Core.Triggers.ClosingKeys.Default, CapsLockShouts, BackspaceTakesBack));

    public static object Values(string name, bool enabled, LibraryRules rules) => new
    {
        name,
        nameKey = name.ToUpperInvariant(),
        enabled,
        closingKeys = rules.ClosingKeys.Equals(Core.Triggers.ClosingKeys.Default) ? null : Lists.Text(rules.ClosingKeys),
        capsLockShouts = rules.CapsLockShouts,
        backspaceTakesBack = rules.BackspaceTakesBack,
    };
}

internal sealed class FolderRow
{
    public long Id { get; init; }
    public int Version { get; init; }
    public int Position { get; init; }
    public long LibraryId { get; init; }
    public long? ParentId { get; init; }
    public string Name { get; init; } = "";

    public StoredFolder ToStored() => new(Id, Version, Position, new Place(LibraryId, ParentId), Name);
}

internal sealed class SnippetRow
{
    public long Id { get; init; }
    public int Version { get; init; }
    public int Position { get; init; }
    public long LibraryId { get; init; }
    public long? FolderId { get; init; }
    public string Name { get; init; } = "";
    public bool Enabled { get; init; }
    public string Note { get; init; } = "";
    public bool Private { get; init; }
    public string Delivery { get; init; } = "";
    public bool LeaveOnClipboard { get; init; }
    public string BodyKind { get; init; } = "";
    public string Body { get; init; } = "";

    public StoredSnippet ToStored(EquatableList<Trigger> triggers) => new(Id, Version, Position, new Place(LibraryId, FolderId), new Snippet(
        Name, Enabled, Note, Private, Wording.Parse<DeliveryWay>("delivery", Delivery), LeaveOnClipboard,
        BodyKind == "html" ? new Body.Html(Body) : new Body.Plain(Body),
        triggers));

    public static object Values(Snippet snippet) => new
    {
        snippet.Name,
        nameKey = snippet.Name.ToUpperInvariant(),
        snippet.Enabled,
        snippet.Note,
        snippet.Private,
        delivery = Wording.Of(snippet.Delivery),
        snippet.LeaveOnClipboard,
        bodyKind = snippet.Body is Body.Html ? "html" : "plain",
        body = snippet.Body.Source,
        words = Sketch.Of(snippet.Body),
    };
}

internal sealed class TriggerRow
{
    public long SnippetId { get; init; }
    public int Position { get; init; }
    public string Kind { get; init; } = "";
    public string Text { get; init; } = "";
    public string? Timing { get; init; }
    public string? LeftEdge { get; init; }
    public string? LetterCase { get; init; }
    public bool? KeepClosingKey { get; init; }
    public string? ClosingKeys { get; init; }
    public bool? GivesWay { get; init; }
    public string ScopeMode { get; init; } = "everywhere";
    public string ScopeApps { get; init; } = "[]";

    public static TriggerRow Of(long snippetId, int position, Trigger trigger)
    {
        var rules = (trigger as Trigger.Abbreviation)?.Rules ?? (trigger as Trigger.Pattern)?.Rules;
        var (mode, apps) = trigger.Scope switch
        {
            Scope.OnlyIn only => ("only-in", Lists.Text(only.Apps)),
            Scope.NotIn not => ("not-in", Lists.Text(not.Apps)),
            _ => ("everywhere", "[]"),
        };
        return new TriggerRow
        {
            SnippetId = snippetId,
            Position = position,
            Kind = trigger switch { Trigger.Abbreviation => "abbreviation", Trigger.Pattern => "pattern", _ => "hotkey" },
            Text = trigger.Text,
            Timing = rules is null ? null : Wording.Of(rules.Timing),
            LeftEdge = rules is null ? null : Wording.Of(rules.LeftEdge),
            LetterCase = rules is null ? null : Wording.Of(rules.Case),
            KeepClosingKey = rules?.KeepClosingKey,
            ClosingKeys = rules?.ClosingKeys is { } keys ? Lists.Text(keys) : null,
            GivesWay = rules?.GivesWay,
            ScopeMode = mode,
            ScopeApps = apps,
        };
    }

    public Trigger ToTrigger()
    {
        Scope scope = ScopeMode switch
        {
            "only-in" => new Scope.OnlyIn(Lists.Read(ScopeApps)),
            "not-in" => new Scope.NotIn(Lists.Read(ScopeApps)),
            _ => Scope.Everywhere,
        };
        return Kind switch
        {
            "abbreviation" => Trigger.Abbreviation.Stored(Text, ToRules(), scope),
            "pattern" => new Trigger.Pattern(Text, ToRules(), scope),
            _ => new Trigger.Hotkey(Text, scope),
        };
    }

    private TypingRules ToRules() => new(
        Wording.Parse<Timing>("timing", Timing!),
        Wording.Parse<LeftEdge>("leftEdge", LeftEdge!),
        Wording.Parse<LetterCase>("case", LetterCase!),
        KeepClosingKey!.Value,
        Lists.Keys(ClosingKeys),
        GivesWay!.Value);
}

/// <summary>Lists of short texts kept as JSON in a column.</summary>
internal static class Lists
{
    public static string Text(ClosingKeys keys) => Text(keys.Keys.Select(key => key.Value));

    public static string Text(IEnumerable<string> values) => JsonSerializer.Serialize(values);

    public static EquatableList<string> Read(string text) => new(JsonSerializer.Deserialize<string[]>(text)!);

    public static ClosingKeys? Keys(string? text) => text is null ? null : ClosingKeys.Parse("closingKeys", Read(text));
}
