using DashSprout.Core.Bodies;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Libraries;

/// <summary>
/// A named, ordered list of snippets with a switch. The order of libraries is their priority: higher wins.
/// Inside a library or folder its folders come before its own snippets, as the table shows them.
/// </summary>
public sealed record Library(
    string Name,
    bool Enabled,
    LibraryRules Rules,
    EquatableList<Folder> Folders,
    EquatableList<Snippet> Snippets
)
{
    /// <summary>All snippets with the names of the folders they lie in, in priority order.</summary>
    public IEnumerable<ShelvedSnippet> AllSnippets()
    {
        foreach (var found in Folders.SelectMany(folder => folder.AllSnippets([], null)))
            yield return found;
        foreach (var snippet in Snippets)
            yield return new ShelvedSnippet(EquatableList<string>.Empty, null, snippet);
    }

    /// <summary>The same without private snippets.</summary>
    public Library WithoutPrivate() =>
        this with
        {
            Folders = Folder.WithoutPrivate(Folders),
            Snippets = Folder.WithoutPrivate(Snippets),
        };
}

/// <summary>A snippet with what it lies in below its library.</summary>
/// <param name="Path">The names of the folders, the outermost first.</param>
/// <param name="OffFolder">The outermost of them that is off; null when all are on.</param>
public readonly record struct ShelvedSnippet(EquatableList<string> Path, string? OffFolder, Snippet Snippet);

/// <summary>What a library decides for its triggers.</summary>
/// <param name="ClosingKeys">The keys that end a word here.</param>
/// <param name="CapsLockShouts">With Caps Lock on, texts of <see cref="LetterCase.Either"/> go in in capitals.</param>
/// <param name="BackspaceTakesBack">Backspace right after a firing takes it back; meant for corrections.</param>
/// <param name="Defaults">What new triggers begin with; null where nothing is said.</param>
public sealed record LibraryRules(
    ClosingKeys ClosingKeys,
    bool CapsLockShouts = false,
    bool BackspaceTakesBack = false,
    TriggerDefaults? Defaults = null
)
{
    /// <summary>The rules of a new library.</summary>
    public static LibraryRules Default { get; } = new(ClosingKeys.Default);
}

/// <summary>A place inside a library, with a switch; folders nest.</summary>
/// <param name="Defaults">What new triggers begin with here; null where nothing is said, so that what it lies in
/// decides.</param>
public sealed record Folder(
    string Name,
    EquatableList<Folder> Folders,
    EquatableList<Snippet> Snippets,
    bool Enabled = true,
    TriggerDefaults? Defaults = null
)
{
    internal static EquatableList<Folder> WithoutPrivate(EquatableList<Folder> folders) =>
        new(
            folders.Select(folder =>
                folder with
                {
                    Folders = WithoutPrivate(folder.Folders),
                    Snippets = WithoutPrivate(folder.Snippets),
                }
            )
        );

    internal static EquatableList<Snippet> WithoutPrivate(EquatableList<Snippet> snippets) =>
        new(snippets.Where(snippet => !snippet.Private));

    internal IEnumerable<ShelvedSnippet> AllSnippets(IReadOnlyList<string> above, string? offAbove)
    {
        EquatableList<string> path = new([.. above, Name]);
        var off = offAbove ?? (Enabled ? null : Name);
        foreach (var found in Folders.SelectMany(folder => folder.AllSnippets(path, off)))
            yield return found;
        foreach (var snippet in Snippets)
            yield return new ShelvedSnippet(path, off, snippet);
    }
}

/// <summary>How a text reaches the application.</summary>
public enum DeliveryWay
{
    /// <summary>
    /// Short plain text as keystrokes, everything else through the clipboard where the field allows it.
    /// </summary>
    Automatic,

    /// <summary>As keystrokes.</summary>
    Keystrokes,

    /// <summary>Through the clipboard.</summary>
    Clipboard,
}

/// <summary>Whether the address of a link follows its words where there are no links.</summary>
public enum LinkWriting
{
    /// <summary>As the settings say.</summary>
    AsSet,

    /// <summary>The address follows the words.</summary>
    WithAddress,

    /// <summary>The words alone.</summary>
    WordsOnly,
}

/// <summary>A name, a body, and any number of triggers.</summary>
/// <param name="Twin">The plain twin: what goes into fields without formatting instead of the body; null when the body
/// does.</param>
/// <param name="Links">How links are written where there are none.</param>
public sealed record Snippet(
    string Name,
    bool Enabled,
    string Note,
    bool Private,
    DeliveryWay Delivery,
    bool LeaveOnClipboard,
    Body Body,
    EquatableList<Trigger> Triggers,
    Body? Twin = null,
    LinkWriting Links = LinkWriting.AsSet
)
{
    /// <summary>Words of its owner's by which it is found.</summary>
    public EquatableList<string> Tags { get; init; } = EquatableList<string>.Empty;

    /// <summary>A snippet of a name that puts nothing in yet, with everything as usual.</summary>
    public static Snippet Named(string name) =>
        new(
            name,
            Enabled: true,
            Note: "",
            Private: false,
            DeliveryWay.Automatic,
            LeaveOnClipboard: false,
            new Body.Plain(""),
            EquatableList<Trigger>.Empty
        );

    /// <summary>What stands for the text of a private snippet where it is not shown.</summary>
    public const string Hidden = "(private)";

    /// <summary>How its text looks at a glance, to whoever may be looking on: nothing of a private one.</summary>
    /// <param name="nameOf">What others in it are called.</param>
    public string Preview(Func<string, string>? nameOf = null) => Private ? Hidden : PreviewText.Of(Body, nameOf);

    /// <summary>All that it may put in.</summary>
    public IEnumerable<Body> Bodies => Twin is null ? [Body] : [Body, Twin];

    /// <summary>The same snippet with each of its bodies made into another.</summary>
    public Snippet WithBodies(Func<Body, Body> change)
    {
        var body = change(Body);
        var twin = Twin is null ? null : change(Twin);
        return ReferenceEquals(body, Body) && ReferenceEquals(twin, Twin)
            ? this
            : this with
            {
                Body = body,
                Twin = twin,
            };
    }
}
