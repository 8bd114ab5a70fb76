using DashSprout.Core.Bodies;
using DashSprout.Core.Text;

namespace DashSprout.Core.Engine;

/// <summary>One time a trigger goes off.</summary>
/// <param name="Trigger">What went off.</param>
/// <param name="Typed">
/// The keys whose graphemes it removes: the abbreviation, its closing keys, and what was typed while it gave way.
/// </param>
/// <param name="PutBack">Keys of those that are put back behind the text.</param>
/// <param name="Capitals">How the typed capitals shape the text.</param>
/// <param name="Groups">A pattern's groups, the whole match first; empty for other triggers.</param>
public sealed record Firing(
    ActiveTrigger Trigger,
    EquatableList<Key> Typed,
    EquatableList<Key> PutBack,
    Capitals Capitals,
    EquatableList<string> Groups
);
