using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Documents;

/// <summary>A library as a library file and the API write it; anything left out takes its default.</summary>
public sealed record LibraryDocument(
    string? Name = null,
    bool Enabled = true,
    IReadOnlyList<string>? ClosingKeys = null,
    bool CapsLockShouts = false,
    bool BackspaceTakesBack = false,
    IReadOnlyList<FolderDocument>? Folders = null,
    IReadOnlyList<SnippetDocument>? Snippets = null,
    DefaultsDocument? Defaults = null
)
{
    /// <summary>The document of a library with all that is in it, without what is as usual.</summary>
    public static LibraryDocument Of(Library library) =>
        Of(library.Name, library.Enabled, library.Rules) with
        {
            Folders = [.. library.Folders.Select(FolderDocument.Of)],
            Snippets = [.. library.Snippets.Select(snippet => SnippetDocument.Of(snippet).Shortened())],
        };

    /// <summary>The document of a library by itself.</summary>
    public static LibraryDocument Of(string name, bool enabled, LibraryRules rules) =>
        new(
            name,
            enabled,
            KeyLists.Write(rules.ClosingKeys, Core.Triggers.ClosingKeys.Default),
            rules.CapsLockShouts,
            rules.BackspaceTakesBack,
            Defaults: rules.Defaults is { } defaults ? DefaultsDocument.Of(defaults) : null
        );

    /// <summary>Checks the document.</summary>
    public Library ToLibrary() =>
        new(
            Names.Check("name", Name),
            Enabled,
            ToRules(),
            FolderDocument.ToFolders(Folders, depth: 1),
            SnippetDocument.ToSnippets(Snippets)
        );

    /// <summary>Checks the rules alone.</summary>
    public LibraryRules ToRules() =>
        new(
            KeyLists.Read("closingKeys", ClosingKeys) ?? Core.Triggers.ClosingKeys.Default,
            CapsLockShouts,
            BackspaceTakesBack,
            DefaultsDocument.Read(Defaults)
        );
}

/// <summary>A folder as a library file writes it.</summary>
/// <param name="Key">What it is known by on several machines; in mirror files only.</param>
public sealed record FolderDocument(
    string? Name = null,
    IReadOnlyList<FolderDocument>? Folders = null,
    IReadOnlyList<SnippetDocument>? Snippets = null,
    bool Enabled = true,
    DefaultsDocument? Defaults = null,
    string? Key = null
)
{
    /// <summary>The document of a folder with all that is in it, without what is as usual.</summary>
    public static FolderDocument Of(Folder folder) =>
        new(
            folder.Name,
            [.. folder.Folders.Select(Of)],
            [.. folder.Snippets.Select(snippet => SnippetDocument.Of(snippet).Shortened())],
            folder.Enabled,
            folder.Defaults is { } defaults ? DefaultsDocument.Of(defaults) : null
        );

    /// <summary>The document of a folder by itself.</summary>
    public static FolderDocument Of(FolderItem folder) =>
        Of(
            new Folder(
                folder.Name,
                EquatableList<Folder>.Empty,
                EquatableList<Snippet>.Empty,
                folder.Enabled,
                folder.Defaults
            )
        );

    internal static EquatableList<Folder> ToFolders(IReadOnlyList<FolderDocument?>? documents, int depth)
    {
        if (documents is { Count: > 0 } && depth > LibraryTree.MaxDepth)
            throw new InvalidInputException(
                "folders",
                $"Folders nest deeper than {LibraryTree.MaxDepth}. Move some of them up."
            );
        var folders = (documents ?? []).ParseEach("folders", document => new Folder(
            Names.Check("name", document.Name),
            ToFolders(document.Folders, depth + 1),
            SnippetDocument.ToSnippets(document.Snippets),
            document.Enabled,
            DefaultsDocument.Read(document.Defaults)
        ));
        Names.CheckUnique("folders", "folder", folders.Select(folder => folder.Name));
        return new(folders);
    }
}

/// <summary>
/// A snippet as a library file and the API write it: either <c>body</c> or <c>text</c> holds what goes in.
/// </summary>
/// <param name="Key">What it is known by on several machines; in mirror files only.</param>
public sealed record SnippetDocument(
    string? Name = null,
    bool Enabled = true,
    string? Note = null,
    bool Private = false,
    string? Delivery = null,
    bool LeaveOnClipboard = false,
    string? Body = null,
    string? Text = null,
    IReadOnlyList<TriggerDocument>? Triggers = null,
    TwinDocument? Twin = null,
    string? Links = null,
    IReadOnlyList<string>? Tags = null,
    string? Key = null
)
{
    /// <summary>How many triggers a snippet has at most.</summary>
    public const int MaxTriggers = 100;

    private const int MaxNote = 4000;

    /// <summary>The document of a snippet.</summary>
    public static SnippetDocument Of(Snippet snippet) =>
        SnippetFields.All.Aggregate(new SnippetDocument(), (document, part) => part.Write(document, snippet));

    /// <summary>The same without what is as usual and would be so when it is left out.</summary>
    public SnippetDocument Shortened() =>
        SnippetFields.All.Aggregate(this, (document, part) => part.Shorten?.Invoke(document) ?? document);

    /// <summary>Checks the document.</summary>
    public Snippet ToSnippet() =>
        SnippetFields.All.Aggregate(Snippet.Named(""), (snippet, part) => part.Read(snippet, this));

    /// <summary>Checks the triggers alone.</summary>
    public EquatableList<Trigger> ToTriggers()
    {
        var triggers = (Triggers ?? []).ParseEach("triggers", document => document.ToTrigger());
        return triggers.Count <= MaxTriggers
            ? new(triggers)
            : throw new InvalidInputException(
                "triggers",
                $"There are {triggers.Count} triggers; {MaxTriggers} are allowed."
            );
    }

    /// <summary>Checks the note alone.</summary>
    public string ToNote() =>
        (Note ?? "").Length <= MaxNote
            ? Note ?? ""
            : throw new InvalidInputException("note", $"The note is longer than {MaxNote} characters. Shorten it.");

    /// <summary>Checks the way of delivery alone.</summary>
    public DeliveryWay ToDelivery() =>
        Delivery is null ? DeliveryWay.Automatic : Wording.Parse<DeliveryWay>("delivery", Delivery);

    /// <summary>Checks the body alone.</summary>
    public Body ToBody() => TwinDocument.Parse(Body, Text);

    /// <summary>Checks the plain twin alone.</summary>
    public Body? ToTwin() => Twin is null ? null : InvalidInputException.Within("twin", Twin.ToBody);

    /// <summary>Checks alone how links are written.</summary>
    public LinkWriting ToLinks() => Links is null ? LinkWriting.AsSet : Wording.Parse<LinkWriting>("links", Links);

    /// <summary>Checks the tags alone.</summary>
    public EquatableList<string> ToTags() =>
        Tags is { Count: > 0 } ? SnippetTags.Check("tags", Tags) : EquatableList<string>.Empty;

    /// <summary>What a new snippet in a place begins with where it does not say so itself.</summary>
    public SnippetDocument Under(TriggerDefaults defaults) =>
        this with
        {
            Delivery = Delivery ?? (defaults.Delivery is { } way ? Wording.Of(way) : null),
            Triggers = [.. (Triggers ?? []).Select(trigger => trigger?.Under(defaults)!)],
        };

    internal static EquatableList<Snippet> ToSnippets(IReadOnlyList<SnippetDocument?>? documents)
    {
        var snippets = (documents ?? []).ParseEach("snippets", document => document.ToSnippet());
        Names.CheckUnique("snippets", "snippet", snippets.Select(snippet => snippet.Name));
        return new(snippets);
    }
}

/// <summary>
/// A snippet's plain twin, what goes into fields without formatting instead of its body: either <c>body</c> or
/// <c>text</c>.
/// </summary>
public sealed record TwinDocument(string? Body = null, string? Text = null)
{
    internal static TwinDocument Of(Body body) => new((body as Body.Html)?.Markup, (body as Body.Plain)?.Text);

    /// <summary>Checks the document.</summary>
    public Body ToBody() => Parse(Body, Text);

    internal static Body Parse(string? body, string? text) =>
        body is not null && text is not null
            ? throw new InvalidInputException("text", "Both “body” and “text” are given. Keep one of them.")
        : body is not null ? Core.Bodies.Body.Html.Parse(body)
        : new Body.Plain(text ?? "");
}

/// <summary>
/// What new snippets and their triggers begin with in a library or folder; what is left out is not said here.
/// </summary>
public sealed record DefaultsDocument(
    string? Timing = null,
    string? LeftEdge = null,
    string? Case = null,
    bool? KeepClosingKey = null,
    IReadOnlyList<string>? ClosingKeys = null,
    ScopeDocument? Scope = null,
    string? Delivery = null
)
{
    /// <summary>The document of some defaults.</summary>
    public static DefaultsDocument Of(TriggerDefaults defaults) =>
        new(
            Word(defaults.Timing),
            Word(defaults.LeftEdge),
            Word(defaults.Case),
            defaults.KeepClosingKey,
            defaults.ClosingKeys is null ? null : [.. defaults.ClosingKeys.Keys.Select(key => key.Value)],
            defaults.Scope is null ? null : ScopeDocument.Of(defaults.Scope),
            Word(defaults.Delivery)
        );

    /// <summary>Checks the document.</summary>
    public TriggerDefaults ToDefaults() =>
        new(
            Parse<Timing>("timing", Timing),
            Parse<LeftEdge>("leftEdge", LeftEdge),
            Parse<LetterCase>("case", Case),
            KeepClosingKey,
            KeyLists.Read("closingKeys", ClosingKeys),
            Scope is null ? null : InvalidInputException.Within("scope", Scope.ToScope),
            Parse<DeliveryWay>("delivery", Delivery)
        );

    /// <summary>Checks a document that may be missing; null when it says nothing.</summary>
    internal static TriggerDefaults? Read(DefaultsDocument? document) =>
        document is null ? null
        : InvalidInputException.Within("defaults", document.ToDefaults) is var said && said == TriggerDefaults.None
            ? null
        : said;

    private static string? Word<T>(T? value)
        where T : struct, Enum => value is { } some ? Wording.Of(some) : null;

    private static T? Parse<T>(string field, string? word)
        where T : struct, Enum => word is null ? null : Wording.Parse<T>(field, word);
}
