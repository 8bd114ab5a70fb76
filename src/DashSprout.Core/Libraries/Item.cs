namespace DashSprout.Core.Libraries;

/// <summary>What lies in a tree.</summary>
public enum ItemKind
{
    /// <summary>A library.</summary>
    Library,

    /// <summary>A folder.</summary>
    Folder,

    /// <summary>A snippet.</summary>
    Snippet,
}

/// <summary>
/// Where an item lies: in which library or folder, and where among what lies there. Positions have gaps, so that
/// something moved between two others leaves those as they are; of two that are the same the lower id comes first.
/// </summary>
/// <param name="Parent">The id of the library or folder; <see cref="Root"/> for libraries.</param>
public readonly record struct Slot(long Parent, long Position)
{
    /// <summary>What libraries lie on.</summary>
    public const long Root = 0;

    /// <summary>How far apart things are placed.</summary>
    public const long Step = 1 << 20;
}

/// <summary>
/// A library, folder or snippet by itself: with where it lies, and without what lies in it. Ids are never used twice.
/// </summary>
public abstract record Item(long Id, Slot Slot)
{
    /// <summary>What it is.</summary>
    public abstract ItemKind Kind { get; }

    /// <summary>Its name.</summary>
    public abstract string Name { get; }

    /// <summary>What it is and its name, for the user.</summary>
    public string Title => $"{Wording.Of(Kind)} “{Name}”";

    /// <summary>
    /// Whether two items could not lie side by side: of one kind and one name, whatever the letter case.
    /// </summary>
    public bool SharesNameWith(Item other) =>
        Kind == other.Kind && Name.Equals(other.Name, StringComparison.OrdinalIgnoreCase);
}

/// <summary>A library without what lies in it.</summary>
public sealed record LibraryItem(long Id, Slot Slot, string LibraryName, bool Enabled, LibraryRules Rules)
    : Item(Id, Slot)
{
    /// <inheritdoc/>
    public override ItemKind Kind => ItemKind.Library;

    /// <inheritdoc/>
    public override string Name => LibraryName;
}

/// <summary>A folder without what lies in it.</summary>
/// <param name="Defaults">What new triggers begin with in it; null where nothing is said.</param>
public sealed record FolderItem(
    long Id,
    Slot Slot,
    string FolderName,
    bool Enabled = true,
    TriggerDefaults? Defaults = null
) : Item(Id, Slot)
{
    /// <inheritdoc/>
    public override ItemKind Kind => ItemKind.Folder;

    /// <inheritdoc/>
    public override string Name => FolderName;
}

/// <summary>A snippet where it lies.</summary>
/// <param name="Version">Counts the changes of its content, from 1.</param>
public sealed record SnippetItem(long Id, Slot Slot, int Version, Snippet Snippet) : Item(Id, Slot)
{
    /// <inheritdoc/>
    public override ItemKind Kind => ItemKind.Snippet;

    /// <inheritdoc/>
    public override string Name => Snippet.Name;
}

/// <summary>Thrown when an item is not there, or no longer.</summary>
public sealed class MissingItemException(long id, string what = "item") : Exception($"There is no {what} {id}.");

/// <summary>
/// Thrown when something cannot be done because something else changed in between; the message says what.
/// </summary>
public sealed class ConflictException(string message) : Exception(message);
