using DashSprout.Core.Libraries;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>
/// Where a snippet stands among all others: positions from the library down, then its own; lower wins.
/// </summary>
/// <param name="holders">The positions of what it lies in; shared by all that lie there.</param>
public sealed class Rank(long[] holders, long position, long id) : IComparable<Rank>
{
    private readonly long[] holders = holders;
    private readonly long position = position;
    private readonly long id = id;

    /// <inheritdoc/>
    public int CompareTo(Rank? other)
    {
        if (other is null)
            return 1;
        var order = ReferenceEquals(holders, other.holders) ? 0 : holders.AsSpan().SequenceCompareTo(other.holders);
        if (order == 0)
            order = position.CompareTo(other.position);
        return order == 0 ? id.CompareTo(other.id) : order;
    }
}

/// <summary>A snippet with all that the engine must know of its surroundings.</summary>
/// <param name="Id">Identifies the snippet among those given to one index.</param>
/// <param name="Library">The library's name.</param>
/// <param name="LibraryEnabled">Whether the library is on.</param>
/// <param name="Rules">The library's rules.</param>
/// <param name="Folders">Names of the folders it lies in.</param>
/// <param name="OffFolder">The outermost of them that is off; null when all are on.</param>
/// <param name="Rank">Its priority.</param>
/// <param name="Snippet">The snippet itself.</param>
public sealed record PlacedSnippet(
    long Id,
    string Library,
    bool LibraryEnabled,
    LibraryRules Rules,
    EquatableList<string> Folders,
    string? OffFolder,
    Rank Rank,
    Snippet Snippet
)
{
    /// <summary>Whether its triggers work.</summary>
    public bool Active => LibraryEnabled && OffFolder is null && Snippet.Enabled;

    /// <summary>The same with everything switched on.</summary>
    public PlacedSnippet SwitchedOn =>
        this with
        {
            LibraryEnabled = true,
            OffFolder = null,
            Snippet = Snippet with { Enabled = true },
        };

    /// <summary>The path by which other snippets refer to it.</summary>
    public string Path => string.Join('/', [Library, .. Folders, Snippet.Name]);

    /// <summary>The id of what is not kept; kept snippets have ids from 1 on.</summary>
    public const long Unkept = 0;

    /// <summary>A snippet that is not in any library yet and comes after all others.</summary>
    public static PlacedSnippet Unplaced(string name) =>
        new(
            Unkept,
            "",
            true,
            LibraryRules.Default,
            EquatableList<string>.Empty,
            null,
            new Rank([long.MaxValue], 0, 0),
            new Snippet(
                name,
                true,
                "",
                false,
                DeliveryWay.Automatic,
                false,
                new Bodies.Body.Plain(""),
                EquatableList<Trigger>.Empty
            )
        );

    /// <summary>The same with another text in it.</summary>
    public PlacedSnippet Holding(string text) =>
        this with
        {
            Snippet = Snippet with { Body = new Bodies.Body.Plain(text) },
        };

    /// <summary>Places every snippet of some libraries, in their order; ids count from 1.</summary>
    public static IEnumerable<PlacedSnippet> All(IEnumerable<Library> libraries)
    {
        var id = 1;
        var place = 0;
        foreach (var library in libraries)
        {
            long[] here = [place++];
            foreach (var (path, offFolder, snippet) in library.AllSnippets())
                yield return new PlacedSnippet(
                    id,
                    library.Name,
                    library.Enabled,
                    library.Rules,
                    path,
                    offFolder,
                    new Rank(here, id, id++),
                    snippet
                );
        }
    }
}

/// <summary>One trigger of one placed snippet, prepared for matching.</summary>
public sealed class ActiveTrigger
{
    internal ActiveTrigger(PlacedSnippet placed, Trigger trigger, int order = 0)
    {
        Placed = placed;
        Trigger = trigger;
        Order = order;
        Rules = trigger.Typing;
        ClosingKeys = ClosingKeysOf(placed, Rules);
        if (trigger is not Trigger.Abbreviation)
            return;
        Folded = CaseFolding.Fold(trigger.Text);
        Length = Graphemes.Count(trigger.Text);
        Backward = string.Create(Folded.Length, Folded, static (units, folded) =>
        {
            folded.CopyTo(units);
            units.Reverse();
        });
    }

    /// <summary>
    /// The same trigger of a snippet that stands elsewhere or is switched now; how it is spelled is known already.
    /// </summary>
    internal ActiveTrigger(PlacedSnippet placed, ActiveTrigger known)
    {
        Placed = placed;
        (Trigger, Order, Rules, Folded, Length, Backward) = (
            known.Trigger,
            known.Order,
            known.Rules,
            known.Folded,
            known.Length,
            known.Backward
        );
        ClosingKeys = ClosingKeysOf(placed, Rules);
    }

    /// <summary>The snippet it sets off.</summary>
    public PlacedSnippet Placed { get; }

    /// <summary>The trigger as defined.</summary>
    public Trigger Trigger { get; }

    /// <summary>Its place among its snippet's triggers; the first wins over the others.</summary>
    internal int Order { get; }

    /// <summary>Its rules when it is typed; null for a hotkey.</summary>
    public TypingRules? Rules { get; }

    /// <summary>The closing keys that hold for it: its own or its library's; none when it goes off at once.</summary>
    public ClosingKeys ClosingKeys { get; }

    /// <summary>An abbreviation's case-folded text; empty for other triggers.</summary>
    internal string Folded { get; } = "";

    /// <summary>The folded text from its last unit to its first.</summary>
    internal string Backward { get; } = "";

    /// <summary>An abbreviation's length in grapheme clusters.</summary>
    internal int Length { get; }

    private static ClosingKeys ClosingKeysOf(PlacedSnippet placed, TypingRules? rules) =>
        rules is { Timing: not Timing.AtOnce } ? rules.ClosingKeys ?? placed.Rules.ClosingKeys : ClosingKeys.None;

    /// <inheritdoc/>
    public override string ToString() => $"{Trigger.Text} → {Placed.Library}/{Placed.Snippet.Name}";
}
