using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;

namespace DashSprout.Server.Libraries;

/// <summary>The tree at one moment with the index over its triggers. Immutable.</summary>
internal sealed record LibrarySnapshot(LibraryTree Tree, TriggerIndex Index)
{
    public static LibrarySnapshot Empty { get; } = new(LibraryTree.Empty, TriggerIndex.Empty);

    public static LibrarySnapshot Of(LibraryTree tree) => new(tree, Placement.Index(tree));

    /// <summary>The snapshot after a change; throws when the change is no good one.</summary>
    public LibrarySnapshot With(Change change) =>
        Tree.With(change) is var next ? new LibrarySnapshot(next, Placement.Follow(Index, Tree, next, change)) : this;

    public PlacedSnippet Placed(long snippetId) => Placement.Of(Tree, Tree.Get<SnippetItem>(snippetId));
}
