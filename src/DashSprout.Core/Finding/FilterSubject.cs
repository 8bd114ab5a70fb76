using DashSprout.Core.Libraries;
using DashSprout.Core.Safety;

namespace DashSprout.Core.Finding;

/// <summary>A snippet as a filter looks at it.</summary>
/// <param name="Words">Its name, triggers, text, note and tags, folded; of a private snippet without what goes
/// in.</param>
/// <param name="Grade">The worst misfire grade of its triggers; null while it is not known.</param>
/// <param name="Overlaps">The overlaps it has a part in.</param>
/// <param name="Beaten">Whether another trigger wins over one of its own.</param>
/// <param name="LastUsed">When it went off last; null when it never did.</param>
public readonly record struct FilterSubject(
    LibraryTree Tree,
    SnippetItem Item,
    string Words,
    MisfireGrade? Grade,
    int Overlaps,
    bool Beaten,
    DateTimeOffset? LastUsed,
    DateTimeOffset ChangedAt
)
{
    /// <summary>The snippet itself.</summary>
    public Snippet Snippet => Item.Snippet;
}
