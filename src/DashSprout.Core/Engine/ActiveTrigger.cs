using DashSprout.Core.Libraries;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>Where a snippet stands among all others: positions from the library down; lower wins.</summary>
public sealed class Rank(params int[] places) : IComparable<Rank>
{
    /// <inheritdoc/>
    public int CompareTo(Rank? other) => places.AsSpan().SequenceCompareTo(other is null ? [] : other.Places);

    private ReadOnlySpan<int> Places => places;
}

/// <summary>A snippet with all that the engine must know of its surroundings.</summary>
/// <param name="Id">Identifies the snippet among those given to one index.</param>
/// <param name="Library">The library's name.</param>
/// <param name="LibraryEnabled">Whether the library is on.</param>
/// <param name="Rules">The library's rules.</param>
/// <param name="Folders">Names of the folders it lies in.</param>
/// <param name="Rank">Its priority.</param>
/// <param name="Snippet">The snippet itself.</param>
public sealed record PlacedSnippet(
    long Id, string Library, bool LibraryEnabled, LibraryRules Rules, EquatableList<string> Folders, Rank Rank, Snippet Snippet)
{
    /// <summary>Whether its triggers work.</summary>
    public bool Active => LibraryEnabled && Snippet.Enabled;

    /// <summary>The path by which other snippets refer to it.</summary>
    public string Path => string.Join('/', [Library, .. Folders, Snippet.Name]);

    /// <summary>A snippet that is not in any library yet and comes after all others.</summary>
    public static PlacedSnippet Unplaced(string name) => new(
        long.MaxValue, "", true, LibraryRules.Default, EquatableList<string>.Empty, new Rank(int.MaxValue),
        new Snippet(name, true, "", false, DeliveryWay.Automatic, false, new Bodies.Body.Plain(""), EquatableList<Trigger>.Empty));

    /// <summary>Places every snippet of some libraries, in their order; ids count from 0.</summary>
    public static IEnumerable<PlacedSnippet> All(IEnumerable<Library> libraries)
    {
        var id = 0;
        var place = 0;
        foreach (var library in libraries)
        {
            place++;
            foreach (var (path, snippet) in library.AllSnippets())
                yield return new PlacedSnippet(id, library.Name, library.Enabled, library.Rules, path, new Rank(place, id++), snippet);
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
        Rules = trigger switch
        {
            Trigger.Abbreviation abbreviation => abbreviation.Rules,
            Trigger.Pattern pattern => pattern.Rules,
            _ => null,
        };
        ClosingKeys = Rules is { Timing: not Timing.AtOnce } rules ? rules.ClosingKeys ?? placed.Rules.ClosingKeys : ClosingKeys.None;
        if (trigger is not Trigger.Abbreviation) return;
        Folded = CaseFolding.Fold(trigger.Text);
        Length = Graphemes.Count(trigger.Text);
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

    /// <summary>An abbreviation's length in grapheme clusters.</summary>
    internal int Length { get; }

    /// <inheritdoc/>
    public override string ToString() => $"{Trigger.Text} → {Placed.Library}/{Placed.Snippet.Name}";
}
