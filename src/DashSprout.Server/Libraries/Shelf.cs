using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;

namespace DashSprout.Server.Libraries;

/// <summary>The catalogue at one moment with the index over its triggers. Immutable.</summary>
internal sealed record Shelf(Catalogue Catalogue, TriggerIndex Index)
{
    public static Shelf Empty { get; } = new(Catalogue.Empty, TriggerIndex.Empty);

    public static Shelf Of(Catalogue catalogue) => new(catalogue, Placement.Index(catalogue));

    /// <summary>The shelf after a change; throws when the change is no good one.</summary>
    public Shelf With(Change change) =>
        Catalogue.With(change) is var next ? new Shelf(next, Placement.Follow(Index, Catalogue, next, change)) : this;

    public PlacedSnippet Placed(long snippetId) => Placement.Of(Catalogue, Catalogue.Get<SnippetItem>(snippetId));
}
