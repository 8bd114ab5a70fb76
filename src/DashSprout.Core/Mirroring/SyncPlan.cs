namespace DashSprout.Core.Mirroring;

/// <summary>A state of a library that a file held, and which states it knows.</summary>
public sealed record MirrorState(MachineStates States, SharedLibrary Library)
{
    /// <summary>Where each entry comes from, by key, where that is told; no part of what is compared.</summary>
    public IReadOnlyDictionary<string, Origin> Origins { get; init; } = new Dictionary<string, Origin>();

    /// <inheritdoc/>
    public bool Equals(MirrorState? other) =>
        other is not null && States.Equals(other.States) && Library == other.Library;

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(States, Library);
}

/// <summary>A file as it was found.</summary>
/// <param name="Name">The name of a copy that a tool made; empty for the mirror file itself.</param>
/// <param name="Other">The other side of a file with a version control's conflict marks; what both sides have alike is
/// certain, all else is undecided.</param>
public sealed record FoundMirror(string Name, MirrorState State, SharedLibrary? Other = null);

/// <summary>What comes of it when a machine meets the files of a mirror folder.</summary>
/// <param name="Here">What this machine is to hold.</param>
/// <param name="Keys">New keys of things here, by the old ones: they are one with what others added.</param>
/// <param name="Learned">The states to remember: of what was found, and of what is written. The last one is what the
/// file holds then.</param>
/// <param name="Write">What the mirror file is to hold; null when it is right as it is.</param>
/// <param name="Beside">The other side of a conflict that somebody has to decide, to be kept as a copy.</param>
/// <param name="Done">The names of copies that nobody needs any more.</param>
/// <param name="Notes">What the user should know, as sentences.</param>
public sealed record SyncPlan(
    SharedLibrary Here,
    IReadOnlyDictionary<string, string> Keys,
    IReadOnlyList<MirrorState> Learned,
    MirrorState? Write,
    FoundMirror? Beside,
    IReadOnlyList<string> Done,
    IReadOnlyList<MirrorConflict> Conflicts,
    IReadOnlyList<string> Notes
)
{
    /// <summary>The most states that are remembered beside those that a machine may still go by.</summary>
    public const int Remembered = 10;

    /// <summary>
    /// Meets the files of one library. Each is merged against the latest state that both knew, so that an old file
    /// brings nothing old back and one that lacks a change of this machine takes none away.
    /// </summary>
    /// <param name="known">The states that are remembered; the last one is what the file held after the last
    /// plan.</param>
    /// <param name="files">The mirror file, and then copies of it that a file-synchronising tool made.</param>
    /// <param name="open">Conflicts that nobody has decided.</param>
    /// <param name="decided">Conflicts in which what is here is to hold.</param>
    /// <param name="copyName">What a copy is called that is made here; no file has that name.</param>
    /// <param name="mark">What a state is marked with that is written.</param>
    public static SyncPlan Of(
        string machine,
        IReadOnlyList<MirrorState> known,
        IReadOnlyList<FoundMirror> files,
        SharedLibrary mine,
        IReadOnlySet<MirrorConflict> open,
        IReadOnlyCollection<MirrorVerdict> decided,
        string copyName,
        string? mark = null
    )
    {
        var proper = files[0];
        var here = mine;
        var keys = new Dictionary<string, string>();
        var conflicts = new List<MirrorConflict>();
        var notes = new List<string>();
        var met = known.ToList();
        var latest = known.MaxBy(state => state.States.Sum)?.States ?? MachineStates.None;
        // Where there are marks in the file, its other side is as good as a copy.
        var marked = proper.Other is null
            ? null
            : new FoundMirror(copyName, new MirrorState(MachineStates.None, proper.Other));
        IEnumerable<FoundMirror> sides = marked is null ? files : [proper, marked, .. files.Skip(1)];
        var elsewhere = files
            .SelectMany(file => file.State.Library.Entries.Select(entry => entry.Key).Concat(file.State.Library.Hidden))
            .Concat(proper.Other?.Entries.Select(entry => entry.Key) ?? [])
            .ToHashSet();
        var heard = known.Aggregate(MachineStates.None, (all, state) => all.With(state.States));
        var origins = new Origins(known is [.., var last] ? last : null, here);
        var undecidedKeys = open.Concat(decided.Select(verdict => verdict.Conflict))
            .Select(conflict => conflict.Key)
            .ToHashSet();
        foreach (var side in sides)
        {
            var theirs = side.State.Library;
            var before =
                side == marked
                    ? Alike(proper)
                    : origins.Base(
                        MergeBase.Of(Before(met, side.State), theirs, here),
                        side.State,
                        here,
                        heard,
                        undecidedKeys
                    );
            foreach (var (old, key) in LibraryMerge.Adopted(before, theirs, here, elsewhere))
                keys[old] = key;
            here = Renamed(here, keys);
            HashSet<MirrorConflict> Of(IEnumerable<MirrorConflict> some) =>
                [
                    .. some.Where(conflict => conflict.Source == side.Name)
                        .Select(conflict =>
                            conflict with
                            {
                                Key = keys.GetValueOrDefault(conflict.Key, conflict.Key),
                                Source = "",
                            }
                        ),
                ];
            var undecided = Of(open);
            var merged = LibraryMerge.Of(before, theirs, here, undecided, outdated: !side.State.States.Knows(latest));
            origins.Merged(here, side.State, merged.Here, heard);
            here = merged.Here;
            var left = merged
                .Conflicts.Except(
                    Of(
                        decided
                            .Where(verdict => verdict.Seen == side.State.States.ToString())
                            .Select(verdict => verdict.Conflict)
                    )
                )
                .ToList();
            conflicts.AddRange(left.Select(conflict => conflict with { Source = side.Name }));
            undecidedKeys.UnionWith(merged.Conflicts.Select(conflict => conflict.Key));
            // A copy is known once nothing in it is undecided.
            if (side.Other is null && side != marked && (side.Name.Length == 0 || left.Count == 0))
            {
                met.Add(side.State);
                heard = heard.With(side.State.States);
            }
            notes.AddRange(merged.Notes);
        }
        var there = LibraryMerge.Outward(
            here,
            proper.State.Library,
            [.. conflicts.Where(conflict => conflict.Source.Length == 0)]
        );
        var done = files
            .Skip(1)
            .Select(file => file.Name)
            .Except(conflicts.Select(conflict => conflict.Source))
            .ToList();
        var states = files
            .Where(file => file.Name.Length == 0 || done.Contains(file.Name))
            .Aggregate(MachineStates.None, (all, file) => all.With(file.State.States));
        var beside =
            proper.Other is { } other && conflicts.Any(conflict => conflict.Source == copyName)
                ? new FoundMirror(
                    copyName,
                    new MirrorState(MachineStates.None, Undecided(there, proper.State.Library, other))
                )
                : null;
        var learned = met.Skip(known.Count).ToList();
        MirrorState? write = null;
        var told = origins.Of(there, here);
        // What was changed here and back again is told anew: whoever took in what it was meanwhile is to hear of it.
        var again = there.Entries.Any(entry =>
            proper.State.Origins.ContainsKey(entry.Key)
            && !told.ContainsKey(entry.Key)
            && !undecidedKeys.Contains(entry.Key)
        );
        if (
            proper.Other is not null
            || done.Count > 0
            || again
            || proper.State.Library.Outward() != there
            || states.Of(machine) == 0
        )
        {
            // A file may have been lost that this machine wrote: no number is given twice.
            var count = known.Select(state => state.States.Of(machine)).Append(states.Of(machine)).Max() + 1;
            write = new MirrorState(states.With(machine, count, mark), there)
            {
                Origins = there.Entries.ToDictionary(
                    entry => entry.Key,
                    entry =>
                        told.TryGetValue(entry.Key, out var origin) ? origin
                        : undecidedKeys.Contains(entry.Key)
                        && proper.State.Origins.TryGetValue(entry.Key, out var theirs)
                        && proper.State.Library.Entries.Contains(entry)
                            ? theirs
                        : new Origin(machine, count)
                ),
            };
        }
        learned.Remove(write ?? proper.State);
        learned.Add(write ?? proper.State);
        return new SyncPlan(here, keys, learned, write, beside, done, conflicts, notes);
    }

    /// <summary>The states to remember after a sync, with what the file holds then as the last one.</summary>
    public static IReadOnlyList<MirrorState> Remember(IReadOnlyList<MirrorState> known, SyncPlan plan) =>
        Thinned([.. known.Except(plan.Learned), .. plan.Learned]);

    /// <summary>
    /// The states worth remembering: the latest ones, the last one, and for each other machine the latest that it knew when it last
    /// wrote, since that is what it may go by. An older one than was known is no harm: it only leaves more to be
    /// decided by hand.
    /// </summary>
    private static IReadOnlyList<MirrorState> Thinned(IReadOnlyList<MirrorState> known)
    {
        var latest = known.OrderByDescending(state => state.States.Sum).ToList();
        var kept = latest.Take(Remembered).ToHashSet(ReferenceEqualityComparer.Instance);
        if (known.Count > 0)
            kept.Add(known[^1]);
        foreach (var machine in latest.SelectMany(state => state.States.Written.Keys).Distinct())
        {
            var written = latest.Max(state => state.States.Of(machine));
            var wrote = latest.Where(state => state.States.Of(machine) == written).MinBy(state => state.States.Sum)!;
            kept.Add(wrote);
            if (
                latest.FirstOrDefault(state => !ReferenceEquals(state, wrote) && wrote.States.Knows(state.States)) is
                { } before
            )
                kept.Add(before);
        }
        return [.. known.Where(kept.Contains).Distinct()];
    }

    /// <summary>
    /// The latest states that a file knows of those that are remembered, none of which knows another; a file that says
    /// nothing of states knows itself alone.
    /// </summary>
    private static IReadOnlyList<SharedLibrary> Before(IReadOnlyList<MirrorState> known, MirrorState file)
    {
        // What was met already, as it is now, brings nothing new, even where somebody wrote it by hand.
        if (file.States.Sum == 0 || known.Contains(file))
            return [.. known.Where(state => state == file).Take(1).Select(state => state.Library)];
        var common = known
            .Where(state => state.States.Sum > 0 && file.States.Knows(state.States))
            .OrderByDescending(state => state.States.Sum)
            .ToList();
        return
        [
            .. common
                .Where(state => common.TrueForAll(other => !IsBefore(state.States, other.States)))
                .Select(state => state.Library),
        ];
    }

    private static bool IsBefore(MachineStates one, MachineStates other) => other.Knows(one) && !one.Knows(other);

    /// <summary>What both sides of a file have alike: all else was never known to both.</summary>
    private static SharedLibrary Alike(FoundMirror file)
    {
        var other = file.Other!.Entries.ToHashSet();
        return file.Other with { Entries = new(file.State.Library.Entries.Where(other.Contains)) };
    }

    /// <summary>What the file will hold, with what the other side has otherwise than the first.</summary>
    private static SharedLibrary Undecided(SharedLibrary there, SharedLibrary one, SharedLibrary other)
    {
        var alike = one.Entries.ToHashSet();
        var differing = other.Entries.Where(entry => !alike.Contains(entry)).ToDictionary(entry => entry.Key);
        return there with
        {
            Root = other.Root,
            Entries = new(there.Entries.Select(entry => differing.GetValueOrDefault(entry.Key, entry))),
        };
    }

    private static SharedLibrary Renamed(SharedLibrary library, IReadOnlyDictionary<string, string> keys)
    {
        if (keys.Count == 0)
            return library;
        string Key(string key) => keys.GetValueOrDefault(key, key);
        string Target(string target) => target.StartsWith('/') ? $"/{Key(target[1..])}" : target;
        return library with
        {
            Entries = new(
                library.Entries.Select(entry =>
                    (
                        entry is SharedSnippet snippet
                            ? snippet with
                            {
                                Snippet = SharedLibrary.Rewrite(snippet.Snippet, Target),
                            }
                            : entry
                    ) with
                    {
                        Key = Key(entry.Key),
                        Parent = Key(entry.Parent),
                    }
                )
            ),
        };
    }
}
