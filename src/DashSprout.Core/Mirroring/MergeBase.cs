using DashSprout.Core.Libraries;

namespace DashSprout.Core.Mirroring;

/// <summary>
/// The state that a merge goes by when several were known to both sides and none of them knows the others, as happens
/// when three machines write at once. The latest one is gone by, but where both sides have become something else than it
/// says, another of them may tell which side has not moved: what a machine finds of its own older text is then no change
/// of anybody's.
/// </summary>
internal static class MergeBase
{
    private static readonly string[] FolderParts = [SnippetParts.Name, SnippetParts.Switch, SharedParts.Defaults],
        RootParts = [SnippetParts.Name, SnippetParts.Switch, SharedParts.Rules];

    /// <summary>One library of all states that were known to both; null when there is none.</summary>
    /// <param name="bases">The latest first; none of them knows another.</param>
    public static SharedLibrary? Of(IReadOnlyList<SharedLibrary> bases, SharedLibrary theirs, SharedLibrary mine)
    {
        if (bases is not [var first, _, ..])
            return bases is [var only] ? only : null;
        var others = bases.Skip(1).Select(ByKey).ToList();
        var (there, here) = (ByKey(theirs), ByKey(mine));
        var entries = first.Entries.Select(entry => Entry(entry, others, there, here)).ToList();
        var known = entries.Select(entry => entry.Key).ToHashSet();
        foreach (var entry in bases.Skip(1).SelectMany(library => library.Entries))
            if (known.Add(entry.Key))
                entries.Add(entry);
        return first with
        {
            Root = Root(first.Root, [.. bases.Skip(1).Select(library => library.Root)], theirs.Root, mine.Root),
            Entries = new(entries),
        };
    }

    private static SharedEntry Entry(
        SharedEntry known,
        IReadOnlyList<Dictionary<string, SharedEntry>> others,
        Dictionary<string, SharedEntry> theirs,
        Dictionary<string, SharedEntry> mine
    )
    {
        if (!theirs.TryGetValue(known.Key, out var there) || !mine.TryGetValue(known.Key, out var here))
            return known;
        List<SharedEntry> seen = [.. others.Select(other => other.GetValueOrDefault(known.Key)).OfType<SharedEntry>()];
        var parts = known is SharedFolder ? FolderParts : SnippetParts.All.Select(part => part.Key);
        foreach (var part in parts)
            if (
                !SharedParts.Same(known, there, part)
                && !SharedParts.Same(known, here, part)
                && Still(
                    seen,
                    other => SharedParts.Same(other, there, part),
                    other => SharedParts.Same(other, here, part)
                )
                    is { } still
            )
                known = SharedParts.Take(known, still, part);
        if (
            known.Parent != there.Parent
            && known.Parent != here.Parent
            && Still(seen, other => other.Parent == there.Parent, other => other.Parent == here.Parent) is { } held
        )
            known = known with { Parent = held.Parent };
        return known;
    }

    private static SharedRoot Root(SharedRoot known, IReadOnlyList<SharedRoot> seen, SharedRoot there, SharedRoot here)
    {
        foreach (var part in RootParts)
        {
            bool Same(SharedRoot one, SharedRoot other) => SharedParts.Take(one, other, part) == one;
            if (
                !Same(known, there)
                && !Same(known, here)
                && Still(seen, other => Same(other, there), other => Same(other, here)) is { } still
            )
                known = SharedParts.Take(known, still, part);
        }
        return known;
    }

    /// <summary>The state in which one side still is, when only one of them is in any.</summary>
    private static T? Still<T>(IReadOnlyList<T> seen, Func<T, bool> isThere, Func<T, bool> isHere)
        where T : class
    {
        var (there, here) = (seen.FirstOrDefault(isThere), seen.FirstOrDefault(isHere));
        return there is null || here is null ? there ?? here : null;
    }

    private static Dictionary<string, SharedEntry> ByKey(SharedLibrary library) =>
        library.Entries.ToDictionary(entry => entry.Key);
}
