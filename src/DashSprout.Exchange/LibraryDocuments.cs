using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Exchange;

/// <summary>A library as a library file and the API write it; anything left out takes its default.</summary>
public sealed record LibraryDocument(
    string? Name = null,
    bool Enabled = true,
    IReadOnlyList<string>? ClosingKeys = null,
    bool CapsLockShouts = false,
    bool BackspaceTakesBack = false,
    IReadOnlyList<FolderDocument>? Folders = null,
    IReadOnlyList<SnippetDocument>? Snippets = null,
    DefaultsDocument? Defaults = null)
{
    /// <summary>The document of a library with all that is in it, without what is as usual.</summary>
    public static LibraryDocument Of(Library library) => Of(library.Name, library.Enabled, library.Rules) with
    {
        Folders = [.. library.Folders.Select(FolderDocument.Of)],
        Snippets = [.. library.Snippets.Select(snippet => SnippetDocument.Of(snippet).Shortened())],
    };

    /// <summary>The document of a library by itself.</summary>
    public static LibraryDocument Of(string name, bool enabled, LibraryRules rules) => new(
        name, enabled, KeyLists.Write(rules.ClosingKeys, Core.Triggers.ClosingKeys.Default), rules.CapsLockShouts, rules.BackspaceTakesBack,
        Defaults: rules.Defaults is { } defaults ? DefaultsDocument.Of(defaults) : null);

    /// <summary>Checks the document.</summary>
    public Library ToLibrary() => new(
        Names.Check("name", Name),
        Enabled,
        ToRules(),
        FolderDocument.ToFolders(Folders, depth: 1),
        SnippetDocument.ToSnippets(Snippets));

    /// <summary>Checks the rules alone.</summary>
    public LibraryRules ToRules() => new(
        KeyLists.Read("closingKeys", ClosingKeys) ?? Core.Triggers.ClosingKeys.Default, CapsLockShouts, BackspaceTakesBack, DefaultsDocument.Read(Defaults));
}

/// <summary>A folder as a library file writes it.</summary>
public sealed record FolderDocument(
    string? Name = null, IReadOnlyList<FolderDocument>? Folders = null, IReadOnlyList<SnippetDocument>? Snippets = null, bool Enabled = true,
    DefaultsDocument? Defaults = null)
{
    /// <summary>The document of a folder with all that is in it, without what is as usual.</summary>
    public static FolderDocument Of(Folder folder) => new(
        folder.Name, [.. folder.Folders.Select(Of)], [.. folder.Snippets.Select(snippet => SnippetDocument.Of(snippet).Shortened())], folder.Enabled,
        folder.Defaults is { } defaults ? DefaultsDocument.Of(defaults) : null);

    /// <summary>The document of a folder by itself.</summary>
    public static FolderDocument Of(FolderItem folder) => Of(new Folder(folder.Name, EquatableList<Folder>.Empty, EquatableList<Snippet>.Empty, folder.Enabled, folder.Defaults));

    internal static EquatableList<Folder> ToFolders(IReadOnlyList<FolderDocument?>? documents, int depth)
    {
        if (documents is { Count: > 0 } && depth > Catalogue.MaxDepth)
            throw new InvalidInputException("folders", $"Folders nest deeper than {Catalogue.MaxDepth}. Move some of them up.");
        var folders = (documents ?? []).ParseEach("folders", document => new Folder(
            Names.Check("name", document.Name), ToFolders(document.Folders, depth + 1), SnippetDocument.ToSnippets(document.Snippets), document.Enabled,
            DefaultsDocument.Read(document.Defaults)));
        Names.CheckUnique("folders", "folder", folders.Select(folder => folder.Name));
        return new(folders);
    }
}

/// <summary>A snippet as a library file and the API write it: either <c>body</c> or <c>text</c> holds what goes in.</summary>
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
    IReadOnlyList<string>? Tags = null)
{
    /// <summary>How many triggers a snippet has at most.</summary>
    public const int MaxTriggers = 100;

    private const int MaxNote = 4000;
    private static readonly string Automatic = Wording.Of(DeliveryWay.Automatic);
    private static readonly string AsSet = Wording.Of(LinkWriting.AsSet);

    /// <summary>The document of a snippet.</summary>
    public static SnippetDocument Of(Snippet snippet) => new(
        snippet.Name,
        snippet.Enabled,
        snippet.Note,
        snippet.Private,
        Wording.Of(snippet.Delivery),
        snippet.LeaveOnClipboard,
        (snippet.Body as Body.Html)?.Markup,
        (snippet.Body as Body.Plain)?.Text,
        [.. snippet.Triggers.Select(TriggerDocument.Of)],
        snippet.Twin is { } twin ? TwinDocument.Of(twin) : null,
        Wording.Of(snippet.Links),
        snippet.Tags);

    /// <summary>The same without what is as usual and would be so when it is left out.</summary>
    public SnippetDocument Shortened() => this with
    {
        Links = Links == AsSet ? null : Links,
        Note = string.IsNullOrEmpty(Note) ? null : Note,
        Delivery = Delivery == Automatic ? null : Delivery,
        Triggers = [.. (Triggers ?? []).Select(trigger => trigger.Shortened())],
        Tags = Tags is { Count: > 0 } ? Tags : null,
    };

    /// <summary>Checks the document.</summary>
    public Snippet ToSnippet()
    {
        var triggers = (Triggers ?? []).ParseEach("triggers", document => document.ToTrigger());
        if (triggers.Count > MaxTriggers)
            throw new InvalidInputException("triggers", $"There are {triggers.Count} triggers; {MaxTriggers} are allowed.");
        return new Snippet(Names.Check("name", Name), Enabled, ToNote(), Private, ToDelivery(), LeaveOnClipboard, ToBody(), new(triggers), ToTwin(), ToLinks())
        {
            Tags = ToTags(),
        };
    }

    /// <summary>Checks the note alone.</summary>
    public string ToNote() => (Note ?? "").Length <= MaxNote
        ? Note ?? ""
        : throw new InvalidInputException("note", $"The note is longer than {MaxNote} characters. Shorten it.");

    /// <summary>Checks the way of delivery alone.</summary>
    public DeliveryWay ToDelivery() => Delivery is null ? DeliveryWay.Automatic : Wording.Parse<DeliveryWay>("delivery", Delivery);

    /// <summary>Checks the body alone.</summary>
    public Body ToBody() => TwinDocument.Parse(Body, Text);

    /// <summary>Checks the plain twin alone.</summary>
    public Body? ToTwin() => Twin is null ? null : InvalidInputException.Within("twin", Twin.ToBody);

    /// <summary>Checks alone how links are written.</summary>
    public LinkWriting ToLinks() => Links is null ? LinkWriting.AsSet : Wording.Parse<LinkWriting>("links", Links);

    /// <summary>Checks the tags alone.</summary>
    public EquatableList<string> ToTags() => Tags is { Count: > 0 } ? SnippetTags.Check("tags", Tags) : EquatableList<string>.Empty;

    /// <summary>What a new snippet in a place begins with where it does not say so itself.</summary>
    public SnippetDocument Under(TriggerDefaults defaults) => this with
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

/// <summary>A snippet's plain twin, what goes into fields without formatting instead of its body: either <c>body</c> or <c>text</c>.</summary>
public sealed record TwinDocument(string? Body = null, string? Text = null)
{
    internal static TwinDocument Of(Body body) => new((body as Body.Html)?.Markup, (body as Body.Plain)?.Text);

    /// <summary>Checks the document.</summary>
    public Body ToBody() => Parse(Body, Text);

    internal static Body Parse(string? body, string? text) =>
        body is not null && text is not null ? throw new InvalidInputException("text", "Both “body” and “text” are given. Keep one of them.")
        : body is not null ? Core.Bodies.Body.Html.Parse(body)
        : new Body.Plain(text ?? "");
}

/// <summary>What new snippets and their triggers begin with in a library or folder; what is left out is not said here.</summary>
public sealed record DefaultsDocument(
    string? Timing = null,
    string? LeftEdge = null,
    string? Case = null,
    bool? KeepClosingKey = null,
    IReadOnlyList<string>? ClosingKeys = null,
    ScopeDocument? Scope = null,
    string? Delivery = null)
{
    /// <summary>The document of some defaults.</summary>
    public static DefaultsDocument Of(TriggerDefaults defaults) => new(
        Word(defaults.Timing), Word(defaults.LeftEdge), Word(defaults.Case), defaults.KeepClosingKey,
        defaults.ClosingKeys is null ? null : [.. defaults.ClosingKeys.Keys.Select(key => key.Value)],
        defaults.Scope is null ? null : ScopeDocument.Of(defaults.Scope),
        Word(defaults.Delivery));

    /// <summary>Checks the document.</summary>
    public TriggerDefaults ToDefaults() => new(
        Parse<Timing>("timing", Timing), Parse<LeftEdge>("leftEdge", LeftEdge), Parse<LetterCase>("case", Case), KeepClosingKey,
        KeyLists.Read("closingKeys", ClosingKeys), Scope is null ? null : InvalidInputException.Within("scope", Scope.ToScope),
        Parse<DeliveryWay>("delivery", Delivery));

    /// <summary>Checks a document that may be missing; null when it says nothing.</summary>
    internal static TriggerDefaults? Read(DefaultsDocument? document) =>
        document is null ? null : InvalidInputException.Within("defaults", document.ToDefaults) is var said && said == TriggerDefaults.None ? null : said;

    private static string? Word<T>(T? value) where T : struct, Enum => value is { } some ? Wording.Of(some) : null;

    private static T? Parse<T>(string field, string? word) where T : struct, Enum => word is null ? null : Wording.Parse<T>(field, word);
}

/// <summary>The applications in which a trigger works.</summary>
public sealed record ScopeDocument(string? Mode = null, IReadOnlyList<string>? Apps = null)
{
    internal static ScopeDocument Of(Scope scope) => scope switch
    {
        Scope.OnlyIn only => new("only-in", only.Apps),
        Scope.NotIn not => new("not-in", not.Apps),
        _ => new("everywhere", []),
    };

    internal Scope ToScope() => Mode switch
    {
        null or "everywhere" => Scope.Everywhere,
        "only-in" => new Scope.OnlyIn(SomeApps()),
        "not-in" => new Scope.NotIn(SomeApps()),
        _ => throw new InvalidInputException("mode", $"“{Mode}” is not known here. Use one of: everywhere, only-in, not-in."),
    };

    private EquatableList<string> SomeApps() =>
        Apps is { Count: > 0 }
            ? new(Apps)
            : throw new InvalidInputException("apps", "No application is named. Name at least one, or let the trigger work everywhere.");
}

/// <summary>A trigger as a library file and the API write it; <c>kind</c> and <c>text</c> are required.</summary>
public sealed record TriggerDocument(
    string? Kind = null,
    string? Text = null,
    string? Timing = null,
    string? LeftEdge = null,
    string? Case = null,
    bool? KeepClosingKey = null,
    IReadOnlyList<string>? ClosingKeys = null,
    bool? GivesWay = null,
    ScopeDocument? Scope = null)
{
    /// <summary>The document of a trigger.</summary>
    public static TriggerDocument Of(Trigger trigger) => trigger switch
    {
        Trigger.Abbreviation abbreviation => Typed("abbreviation", trigger, abbreviation.Rules),
        Trigger.Pattern pattern => Typed("pattern", trigger, pattern.Rules),
        _ => new("hotkey", trigger.Text, Scope: ScopeDocument.Of(trigger.Scope)),
    };

    /// <summary>The same without what is as usual and would be so when it is left out.</summary>
    public TriggerDocument Shortened()
    {
        var everywhere = Scope is { Mode: "everywhere" } ? null : Scope;
        if (Timing is null || Text is null) return this with { Scope = everywhere };
        var timing = Wording.Parse<Timing>("timing", Timing);
        var usual = TypingRules.For(Text, timing);
        return this with
        {
            Timing = timing == Core.Triggers.Timing.ClosingKey ? null : Timing,
            LeftEdge = LeftEdge == Wording.Of(usual.LeftEdge) ? null : LeftEdge,
            Case = Case == Wording.Of(usual.Case) ? null : Case,
            KeepClosingKey = KeepClosingKey == usual.KeepClosingKey ? null : KeepClosingKey,
            GivesWay = GivesWay == usual.GivesWay ? null : GivesWay,
            Scope = everywhere,
        };
    }

    /// <summary>The same with what a place says where the trigger does not say so itself; the default edge of a text is always its own.</summary>
    public TriggerDocument Under(TriggerDefaults defaults)
    {
        var scope = Scope ?? (defaults.Scope is { } some ? ScopeDocument.Of(some) : null);
        if (Kind == "hotkey") return this with { Scope = scope };
        var said = DefaultsDocument.Of(defaults);
        return this with
        {
            Timing = Timing ?? said.Timing,
            LeftEdge = LeftEdge ?? said.LeftEdge,
            Case = Case ?? said.Case,
            // What stays behind belongs to when it goes off.
            KeepClosingKey = KeepClosingKey ?? (Timing is null ? said.KeepClosingKey : null),
            ClosingKeys = ClosingKeys ?? said.ClosingKeys,
            Scope = scope,
        };
    }

    /// <summary>The trigger as a store kept it.</summary>
    public Trigger ToStored() => Kind == "abbreviation" && Text is not null
        ? Trigger.Abbreviation.Stored(Text, ToRules(Text), Scope is null ? Core.Triggers.Scope.Everywhere : Scope.ToScope())
        : ToTrigger();

    /// <summary>Checks the document.</summary>
    public Trigger ToTrigger()
    {
        var text = Text ?? throw new InvalidInputException("text", "The text of the trigger is missing.");
        var scope = Scope is null ? Core.Triggers.Scope.Everywhere : InvalidInputException.Within("scope", Scope.ToScope);
        return Kind switch
        {
            "abbreviation" => new Trigger.Abbreviation(text, ToRules(text), scope),
            "pattern" => new Trigger.Pattern(text, ToRules(text), scope),
            "hotkey" => new Trigger.Hotkey(text, scope),
            _ => throw new InvalidInputException("kind", $"“{Kind}” is not known here. Use one of: abbreviation, pattern, hotkey."),
        };
    }

    private static TriggerDocument Typed(string kind, Trigger trigger, TypingRules rules) => new(
        kind, trigger.Text, Wording.Of(rules.Timing), Wording.Of(rules.LeftEdge), Wording.Of(rules.Case), rules.KeepClosingKey,
        rules.ClosingKeys is null ? null : [.. rules.ClosingKeys.Keys.Select(key => key.Value)], rules.GivesWay, ScopeDocument.Of(trigger.Scope));

    private TypingRules ToRules(string text)
    {
        var timing = Timing is null ? Core.Triggers.Timing.ClosingKey : Wording.Parse<Timing>("timing", Timing);
        var usual = TypingRules.For(text.Normalize(), timing);
        if ((LeftEdge ?? Case) is null && KeepClosingKey is null && ClosingKeys is null && GivesWay is null) return usual;
        return new TypingRules(
            timing,
            LeftEdge is null ? usual.LeftEdge : Wording.Parse<LeftEdge>("leftEdge", LeftEdge),
            Case is null ? usual.Case : Wording.Parse<LetterCase>("case", Case),
            KeepClosingKey ?? usual.KeepClosingKey,
            KeyLists.Read("closingKeys", ClosingKeys),
            GivesWay ?? usual.GivesWay);
    }
}

internal static class KeyLists
{
    public static ClosingKeys? Read(string field, IReadOnlyList<string>? values) =>
        values is null ? null : ClosingKeys.Parse(field, values);

    public static IReadOnlyList<string>? Write(ClosingKeys keys, ClosingKeys standard) =>
        keys.Equals(standard) ? null : [.. keys.Keys.Select(key => key.Value)];

    /// <summary>Parses every item of a list; the errors of one name its place, and a missing item is an error.</summary>
    public static List<TResult> ParseEach<T, TResult>(this IReadOnlyList<T?> items, string field, Func<T, TResult> parse) where T : class =>
        [.. items.Select((item, at) => InvalidInputException.Within($"{field}[{at}]",
            () => parse(item ?? throw new InvalidInputException("", "An entry is null here. Remove it."))))];
}
