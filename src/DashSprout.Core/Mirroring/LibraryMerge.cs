using DashSprout.Core.Libraries;

namespace DashSprout.Core.Mirroring;

/// <summary>What a merge comes to.</summary>
/// <param name="Here">What this machine is to hold: in a conflict, its own.</param>
/// <param name="Conflicts">What was changed on both sides otherwise.</param>
/// <param name="Notes">What else the user should know, as sentences.</param>
public sealed record MergedLibrary(
    SharedLibrary Here,
    IReadOnlyList<MirrorConflict> Conflicts,
    IReadOnlyList<string> Notes
);

/// <summary>
/// Merges what a library became on two machines, against the last state that both knew: by snippet and part. What one
/// side deleted and the other changed stays. What both added under one name in one place is one thing. Without a state
/// before, nothing is deleted, and whatever differs is a conflict.
/// </summary>
public static class LibraryMerge
{
    /// <summary>Merges.</summary>
    /// <param name="open">Conflicts from before that nobody has decided: they stay until both sides are the
    /// same.</param>
    /// <param name="outdated">Whether theirs lacks what is known: then it settles no conflict.</param>
    public static MergedLibrary Of(
        SharedLibrary? before,
        SharedLibrary theirs,
        SharedLibrary mine,
        IReadOnlySet<MirrorConflict>? open = null,
        bool outdated = false
    ) => new Merging(before, theirs, mine, open ?? new HashSet<MirrorConflict>(), outdated).Do();

    /// <summary>A library with what another has in a conflict.</summary>
    public static SharedLibrary Take(SharedLibrary to, SharedLibrary from, MirrorConflict conflict)
    {
        if (conflict.Key == SharedLibrary.Top)
            return to with { Root = SharedParts.Take(to.Root, from.Root, conflict.Part) };
        return from.Entries.FirstOrDefault(entry => entry.Key == conflict.Key) is not { } other
            ? to
            : to with
            {
                Entries = new(
                    to.Entries.Select(entry =>
                        entry.Key == conflict.Key ? SharedParts.Take(entry, other, conflict.Part) : entry
                    )
                ),
            };
    }

    /// <summary>
    /// What a file is to hold: what is held here, without what is private; in a conflict what it holds already, so that
    /// nothing is overwritten until somebody has chosen.
    /// </summary>
    public static SharedLibrary Outward(
        SharedLibrary here,
        SharedLibrary theirs,
        IReadOnlyCollection<MirrorConflict> conflicts
    )
    {
        if (conflicts.Count == 0)
            return here.Outward();
        var there = theirs.Entries.ToDictionary(entry => entry.Key);
        var parts = conflicts.ToLookup(conflict => conflict.Key, conflict => conflict.Part);
        SharedEntry Held(SharedEntry entry) =>
            there.TryGetValue(entry.Key, out var other)
                ? parts[entry.Key].Aggregate(entry, (made, part) => SharedParts.Take(made, other, part))
                : entry;
        var root = parts[SharedLibrary.Top]
            .Aggregate(here.Root, (made, part) => SharedParts.Take(made, theirs.Root, part));
        return (
            here with
            {
                Root = root,
                Entries = new(SharedOrder.Unique([.. here.Entries.Select(Held)], there)),
            }
        ).Outward();
    }

    /// <summary>
    /// The keys that things here get so that they are one with what lies under the same name in the same place there:
    /// both were added since the state that both knew.
    /// </summary>
    /// <param name="elsewhere">Keys that other files have, which stay.</param>
    public static IReadOnlyDictionary<string, string> Adopted(
        SharedLibrary? before,
        SharedLibrary theirs,
        SharedLibrary mine,
        IReadOnlySet<string>? elsewhere = null
    )
    {
        var known = (before?.Entries ?? EquatableList<SharedEntry>.Empty)
            .Select(entry => entry.Key)
            .Concat(before?.Hidden ?? EquatableList<string>.Empty)
            .ToHashSet();
        var here = mine.Entries.Select(entry => entry.Key).ToHashSet();
        var free = new Dictionary<(string, bool, string), string>();
        foreach (var entry in theirs.Entries)
            if (!known.Contains(entry.Key) && !here.Contains(entry.Key))
                free.TryAdd(Place(entry.Parent, entry), entry.Key);
        var there = theirs.Entries.Select(entry => entry.Key).Concat(theirs.Hidden).ToHashSet();
        var adopted = new Dictionary<string, string>();
        foreach (var entry in mine.Entries)
            if (
                !known.Contains(entry.Key)
                && !there.Contains(entry.Key)
                && elsewhere?.Contains(entry.Key) != true
                && free.Remove(Place(adopted.GetValueOrDefault(entry.Parent, entry.Parent), entry), out var key)
            )
                adopted[entry.Key] = key;
        return adopted;

        static (string, bool, string) Place(string parent, SharedEntry entry) =>
            (parent, entry is SharedFolder, entry.Name.ToUpperInvariant());
    }

    private sealed class Merging(
        SharedLibrary? before,
        SharedLibrary theirs,
        SharedLibrary mine,
        IReadOnlySet<MirrorConflict> open,
        bool outdated
    )
    {
        private readonly Dictionary<string, SharedEntry> was = ByKey(before);
        private readonly Dictionary<string, SharedEntry> there = ByKey(theirs);
        private readonly Dictionary<string, SharedEntry> here = ByKey(mine);
        private readonly HashSet<string> wasHidden = (before?.Hidden ?? EquatableList<string>.Empty).ToHashSet();
        private readonly HashSet<string> hiddenThere = theirs.Hidden.ToHashSet();
        private readonly Dictionary<string, SharedEntry> merged = [];
        private readonly List<MirrorConflict> conflicts = [];
        private readonly List<string> notes = [];

        public MergedLibrary Do()
        {
            foreach (
                var key in theirs
                    .Entries.Select(entry => entry.Key)
                    .Concat(mine.Entries.Select(entry => entry.Key))
                    .Distinct()
            )
                if (One(key) is { } entry)
                    merged[key] = entry;
            KeepHolders();
            SharedOrder.Mend(merged, there);
            var root = Root();
            var arranged = SharedOrder.Arrange(merged, before, theirs, mine);
            return new MergedLibrary(
                new SharedLibrary(
                    root,
                    new(SharedOrder.Unique(arranged, there)),
                    new(theirs.Hidden.Union(mine.Hidden))
                ),
                conflicts,
                notes
            );
        }

        private SharedEntry? One(string key) =>
            (here.GetValueOrDefault(key), there.GetValueOrDefault(key)) switch
            {
                (null, { } added) => Added(added),
                ({ } own, null) => hiddenThere.Contains(key) ? HiddenThere(own) : Gone(own),
                ({ } own, { } other) => Both(key, own, other),
                _ => null,
            };

        /// <summary>Something that is only there: new, or deleted here.</summary>
        private SharedEntry? Added(SharedEntry other)
        {
            if (!was.TryGetValue(other.Key, out var known))
                return other;
            // One that is undecided holds what others wrote and nobody here has chosen.
            if (known == other && !open.Any(conflict => conflict.Key == other.Key))
                return null;
            notes.Add($"The {other.Title} was deleted here and changed on another machine: it is back.");
            return other;
        }

        /// <summary>Something that is only here: new, or deleted there.</summary>
        private SharedEntry? Gone(SharedEntry own)
        {
            if (!was.TryGetValue(own.Key, out var known))
                return own;
            if (known == own)
                return null;
            notes.Add($"The {own.Title} was deleted on another machine and changed here: it stays.");
            return own;
        }

        /// <summary>Something that others hold and do not tell; whoever shows it again decides for all.</summary>
        private SharedEntry HiddenThere(SharedEntry own) =>
            own is SharedSnippet { Snippet.Private: false } snippet && !wasHidden.Contains(own.Key)
                ? snippet with
                {
                    Snippet = PrivateName.Hide(snippet.Snippet with { Private = true }, name => IsTaken(own, name)),
                }
                : own;

        private bool IsTaken(SharedEntry own, string name) =>
            mine
                .Entries.Concat(theirs.Entries)
                .Any(other =>
                    other.Parent == own.Parent && other.Name.Equals(name, StringComparison.OrdinalIgnoreCase)
                );

        private SharedEntry Both(string key, SharedEntry own, SharedEntry other)
        {
            var known = was.GetValueOrDefault(key);
            // What was private on both sides and is shown there now is shown here too; what it says is compared as if
            // it were new.
            if (known is null && own is SharedSnippet { Snippet.Private: true } secret && wasHidden.Contains(key))
                own = secret with { Snippet = secret.Snippet with { Private = false } };
            // Where nothing is known of before, the more careful of the two holds.
            if (known is null && own is SharedSnippet { Snippet.Private: true } && other is SharedSnippet bare)
                other = bare with { Snippet = bare.Snippet with { Private = true } };
            var parts = new List<string>();
            var entry = SharedParts.Of(known, other, own, parts);
            foreach (
                var (_, part, _) in open.Where(conflict =>
                    conflict.Key == key
                    && !parts.Contains(conflict.Part)
                    && (outdated || !SharedParts.Same(own, other, conflict.Part))
                )
            )
            {
                parts.Add(part);
                entry = SharedParts.Take(entry, own, part);
            }
            conflicts.AddRange(parts.Select(part => new MirrorConflict(key, part)));
            var place = known is not null && known.Parent == other.Parent ? own.Parent : other.Parent;
            return entry with { Parent = place };
        }

        private SharedRoot Root()
        {
            var parts = new List<string>();
            var root = SharedParts.Of(before?.Root, theirs.Root, mine.Root, parts);
            foreach (
                var (_, part, _) in open.Where(conflict =>
                    conflict.Key == SharedLibrary.Top
                    && !parts.Contains(conflict.Part)
                    && (outdated || SharedParts.Take(mine.Root, theirs.Root, conflict.Part) != mine.Root)
                )
            )
            {
                parts.Add(part);
                root = SharedParts.Take(root, mine.Root, part);
            }
            conflicts.AddRange(parts.Select(part => new MirrorConflict(SharedLibrary.Top, part)));
            return root;
        }

        /// <summary>
        /// A folder that one side deleted stays while something lies in it that the other put there or changed.
        /// </summary>
        private void KeepHolders()
        {
            var open = new Queue<SharedEntry>(merged.Values.ToList());
            while (open.TryDequeue(out var entry))
            {
                if (entry.Parent == SharedLibrary.Top || merged.ContainsKey(entry.Parent))
                    continue;
                if (
                    (
                        here.GetValueOrDefault(entry.Parent)
                        ?? there.GetValueOrDefault(entry.Parent)
                        ?? was.GetValueOrDefault(entry.Parent)
                    )
                    is not SharedFolder holder
                )
                    continue;
                merged[holder.Key] = holder;
                open.Enqueue(holder);
                notes.Add(
                    $"The {holder.Title} was deleted on one machine while something came into it on another: it stays."
                );
            }
        }

        private static Dictionary<string, SharedEntry> ByKey(SharedLibrary? library) =>
            (library?.Entries ?? EquatableList<SharedEntry>.Empty).ToDictionary(entry => entry.Key);
    }
}
