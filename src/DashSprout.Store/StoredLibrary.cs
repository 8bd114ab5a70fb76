using DashSprout.Core.Libraries;

namespace DashSprout.Store;

/// <summary>A library as it lies in the store, without what is in it.</summary>
public sealed record StoredLibrary(long Id, int Position, int Version, string Name, bool Enabled, LibraryRules Rules);

/// <summary>A folder as it lies in the store, without what is in it.</summary>
public sealed record StoredFolder(long Id, int Version, int Position, Place Place, string Name);

/// <summary>A snippet as it lies in the store.</summary>
public sealed record StoredSnippet(long Id, int Version, int Position, Place Place, Snippet Snippet);

/// <summary>Where a folder or snippet lies: in a library, or in a folder of it.</summary>
public readonly record struct Place(long LibraryId, long? FolderId);

/// <summary>What a store holds.</summary>
public sealed record Contents(
    IReadOnlyList<StoredLibrary> Libraries, IReadOnlyList<StoredFolder> Folders, IReadOnlyList<StoredSnippet> Snippets);

/// <summary>What a store keeps: three kinds of things that can be moved, deleted and restored.</summary>
public enum ItemKind
{
    /// <summary>A library.</summary>
    Library,

    /// <summary>A folder.</summary>
    Folder,

    /// <summary>A snippet.</summary>
    Snippet,
}

/// <summary>Thrown when an item is not there, or no longer.</summary>
public sealed class MissingItemException(ItemKind kind, long id) : Exception($"There is no {kind.ToString().ToLowerInvariant()} {id}.")
{
    /// <summary>What was looked for.</summary>
    public ItemKind Kind { get; } = kind;
}

/// <summary>Thrown when a save is based on an older version than the one that is kept.</summary>
public sealed class OutdatedVersionException(ItemKind kind, long id) : Exception($"The {kind.ToString().ToLowerInvariant()} {id} was changed elsewhere in the meantime.")
{
    /// <summary>What was to be saved.</summary>
    public ItemKind Kind { get; } = kind;

    /// <summary>Its id.</summary>
    public long Id { get; } = id;
}
