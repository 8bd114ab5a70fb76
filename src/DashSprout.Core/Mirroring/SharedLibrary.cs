using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Core.Mirroring;

/// <summary>
/// A library as several machines have it: everything in it has a key that is the same on all of them. Bodies refer to
/// others in it by key (<c>/3f9a</c>: no path begins with a slash), and to those in other libraries by path.
/// </summary>
/// <param name="Entries">Folders and snippets, the outer before the inner, in their order. Of private snippets a file
/// holds the key alone.</param>
/// <param name="Hidden">The keys of private snippets, of which nothing else is told.</param>
public sealed record SharedLibrary(SharedRoot Root, EquatableList<SharedEntry> Entries, EquatableList<string> Hidden)
{
    /// <summary>The parent of what lies in no folder, and the key by which conflicts name the library itself.</summary>
    public const string Top = "";

    /// <summary>The library without anything in it.</summary>
    public SharedLibrary Emptied() => new(Root, EquatableList<SharedEntry>.Empty, EquatableList<string>.Empty);

    /// <summary>The library as a file may tell it: of private snippets the key alone.</summary>
    public SharedLibrary Outward()
    {
        var secret = Entries
            .OfType<SharedSnippet>()
            .Where(entry => entry.Snippet.Private)
            .Select(entry => entry.Key)
            .ToHashSet();
        var shown = Entries.Where(entry => !secret.Contains(entry.Key)).ToList();
        var keys = shown.Select(entry => entry.Key).ToHashSet();
        return new SharedLibrary(
            Root,
            new(shown),
            new(Hidden.Concat(secret).Where(key => !keys.Contains(key)).Distinct().Order(StringComparer.Ordinal))
        );
    }

    /// <summary>The body with references by key instead of those that a function finds.</summary>
    internal static Snippet Rewrite(Snippet snippet, Func<string, string> target) =>
        snippet.WithBodies(body => References.Rewrite(body, target));
}

/// <summary>What is said of a shared library itself.</summary>
public sealed record SharedRoot(string Name, bool Enabled, LibraryRules Rules);

/// <summary>A folder or snippet in a shared library.</summary>
/// <param name="Parent">The key of the folder it lies in; <see cref="SharedLibrary.Top"/> for none.</param>
public abstract record SharedEntry(string Key, string Parent)
{
    /// <summary>Its name.</summary>
    public abstract string Name { get; }

    /// <summary>What it is and its name, for the user.</summary>
    public string Title => this is SharedFolder ? $"folder “{Name}”" : $"snippet “{Name}”";

    /// <summary>The same under another name.</summary>
    internal abstract SharedEntry Named(string name);

    /// <summary>Whether both say the same, wherever they lie.</summary>
    internal bool Says(SharedEntry other) => this with { Parent = other.Parent } == other;
}

/// <summary>A folder in a shared library.</summary>
public sealed record SharedFolder(string Key, string Parent, string FolderName, bool Enabled, TriggerDefaults? Defaults)
    : SharedEntry(Key, Parent)
{
    /// <inheritdoc/>
    public override string Name => FolderName;

    internal override SharedEntry Named(string name) => this with { FolderName = name };
}

/// <summary>A snippet in a shared library.</summary>
public sealed record SharedSnippet(string Key, string Parent, Snippet Snippet) : SharedEntry(Key, Parent)
{
    /// <inheritdoc/>
    public override string Name => Snippet.Name;

    internal override SharedEntry Named(string name) => this with { Snippet = Snippet with { Name = name } };
}

/// <summary>
/// A part of something that was changed on two machines at once; an empty key stands for the library itself.
/// </summary>
/// <param name="Part">A part as <see cref="SnippetParts"/> names it; <c>rules</c> for those of the library,
/// <c>defaults</c> for those of a folder.</param>
/// <param name="Source">The copy that has it otherwise; empty for the mirror file itself.</param>
public readonly record struct MirrorConflict(string Key, string Part, string Source = "");

/// <summary>
/// That what is here is to hold in a conflict, against what somebody saw on the other side: another state of it is
/// undecided again.
/// </summary>
/// <param name="Seen">The states of the file that they saw, as <see cref="MachineStates"/> writes them.</param>
public readonly record struct MirrorVerdict(MirrorConflict Conflict, string Seen);
