using DashSprout.Core.Libraries;

namespace DashSprout.Core.Mirroring;

/// <summary>
/// Merges single things of a shared library, part by part. What was changed on both sides otherwise is named, and stays
/// here as it is here.
/// </summary>
internal static class SharedParts
{
    public const string Rules = "rules",
        Defaults = "defaults";

    /// <summary>The library itself; without a state before, both are taken for changed.</summary>
    public static SharedRoot Of(SharedRoot? before, SharedRoot theirs, SharedRoot mine, ICollection<string> conflicts)
    {
        var part = new Parting(before is not null, conflicts);
        return new SharedRoot(
            part.Of(SnippetParts.Name, before?.Name, theirs.Name, mine.Name),
            part.Of(SnippetParts.Switch, before?.Enabled ?? false, theirs.Enabled, mine.Enabled),
            part.Of(Rules, before?.Rules, theirs.Rules, mine.Rules)
        );
    }

    /// <summary>A folder or snippet.</summary>
    public static SharedEntry Of(
        SharedEntry? before,
        SharedEntry theirs,
        SharedEntry mine,
        ICollection<string> conflicts
    )
    {
        switch (theirs, mine)
        {
            case (SharedFolder there, SharedFolder here):
                var was = before as SharedFolder;
                var part = new Parting(was is not null, conflicts);
                return here with
                {
                    FolderName = part.Of(SnippetParts.Name, was?.FolderName, there.FolderName, here.FolderName),
                    Enabled = part.Of(SnippetParts.Switch, was?.Enabled ?? false, there.Enabled, here.Enabled),
                    Defaults = part.Of(Defaults, was?.Defaults, there.Defaults, here.Defaults),
                };
            case (SharedSnippet there, SharedSnippet here):
                if (before is not SharedSnippet known)
                {
                    foreach (
                        var differing in SnippetParts
                            .Differing(there.Snippet, here.Snippet)
                            .Where(part => part.Key != SnippetParts.Tags)
                    )
                        conflicts.Add(differing.Key);
                    return here with
                    {
                        Snippet = here.Snippet with
                        {
                            Tags = SnippetTags.Merge(
                                EquatableList<string>.Empty,
                                there.Snippet.Tags,
                                here.Snippet.Tags
                            ),
                        },
                    };
                }
                var (merged, parts) = SnippetMerge.Of(known.Snippet, there.Snippet, here.Snippet);
                var triggers = parts.Any(name => name.StartsWith(SnippetParts.Triggers, StringComparison.Ordinal));
                foreach (
                    var name in parts.Where(name => !name.StartsWith(SnippetParts.Triggers, StringComparison.Ordinal))
                )
                    conflicts.Add(name);
                // What sets it off is decided as a whole where it is not clear.
                if (triggers)
                    conflicts.Add(SnippetParts.Triggers);
                return here with { Snippet = triggers ? merged with { Triggers = here.Snippet.Triggers } : merged };
            default:
                return mine;
        }
    }

    /// <summary>Whether a part is the same in both.</summary>
    public static bool Same(SharedEntry one, SharedEntry other, string part) => Take(one, other, part).Says(one);

    /// <summary>A thing with one part of another.</summary>
    public static SharedEntry Take(SharedEntry to, SharedEntry from, string part) =>
        (to, from) switch
        {
            (SharedFolder here, SharedFolder there) => part switch
            {
                SnippetParts.Name => here with { FolderName = there.FolderName },
                SnippetParts.Switch => here with { Enabled = there.Enabled },
                Defaults => here with { Defaults = there.Defaults },
                _ => here,
            },
            (SharedSnippet here, SharedSnippet there) => here with
            {
                Snippet = SnippetParts.Of(part).Take(here.Snippet, there.Snippet),
            },
            _ => to,
        };

    /// <summary>The library itself with one part of another.</summary>
    public static SharedRoot Take(SharedRoot to, SharedRoot from, string part) =>
        part switch
        {
            SnippetParts.Name => to with { Name = from.Name },
            SnippetParts.Switch => to with { Enabled = from.Enabled },
            Rules => to with { Rules = from.Rules },
            _ => to,
        };

    private readonly struct Parting(bool known, ICollection<string> conflicts)
    {
        public T Of<T>(string name, T? before, T theirs, T mine)
        {
            if (Equals(theirs, mine) || (known && Equals(before, theirs)))
                return mine;
            if (known && Equals(before, mine))
                return theirs;
            conflicts.Add(name);
            return mine;
        }
    }
}
