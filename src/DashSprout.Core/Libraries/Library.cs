using DashSprout.Core.Bodies;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Libraries;

/// <summary>
/// A named, ordered shelf of snippets with a switch. The order of libraries is their priority: higher wins.
/// Inside a library or folder its folders come before its own snippets, as the table shows them.
/// </summary>
public sealed record Library(
    string Name,
    bool Enabled,
    LibraryRules Rules,
    EquatableList<Folder> Folders,
    EquatableList<Snippet> Snippets)
{
    /// <summary>All snippets with the names of the folders they lie in, in priority order.</summary>
    public IEnumerable<(EquatableList<string> Path, Snippet Snippet)> AllSnippets()
    {
        foreach (var found in Folders.SelectMany(folder => folder.AllSnippets([]))) yield return found;
        foreach (var snippet in Snippets) yield return (EquatableList<string>.Empty, snippet);
    }
}

/// <summary>What a library decides for its triggers.</summary>
/// <param name="ClosingKeys">The keys that end a word here.</param>
/// <param name="CapsLockShouts">With Caps Lock on, texts of <see cref="LetterCase.Either"/> go in in capitals.</param>
/// <param name="BackspaceTakesBack">Backspace right after a firing takes it back; meant for corrections.</param>
public sealed record LibraryRules(ClosingKeys ClosingKeys, bool CapsLockShouts = false, bool BackspaceTakesBack = false)
{
    /// <summary>The rules of a new library.</summary>
    public static LibraryRules Default { get; } = new(ClosingKeys.Default);
}

/// <summary>A place inside a library; folders nest.</summary>
public sealed record Folder(string Name, EquatableList<Folder> Folders, EquatableList<Snippet> Snippets)
{
    internal IEnumerable<(EquatableList<string> Path, Snippet Snippet)> AllSnippets(IReadOnlyList<string> above)
    {
        EquatableList<string> path = new([.. above, Name]);
        foreach (var found in Folders.SelectMany(folder => folder.AllSnippets(path))) yield return found;
        foreach (var snippet in Snippets) yield return (path, snippet);
    }
}

/// <summary>How a text reaches the application.</summary>
public enum DeliveryWay
{
    /// <summary>Short plain text as keystrokes, everything else through the clipboard where the field allows it.</summary>
    Automatic,

    /// <summary>As keystrokes.</summary>
    Keystrokes,

    /// <summary>Through the clipboard.</summary>
    Clipboard,
}

/// <summary>A name, a body, and any number of triggers.</summary>
public sealed record Snippet(
    string Name,
    bool Enabled,
    string Note,
    bool Private,
    DeliveryWay Delivery,
    bool LeaveOnClipboard,
    Body Body,
    EquatableList<Trigger> Triggers);
