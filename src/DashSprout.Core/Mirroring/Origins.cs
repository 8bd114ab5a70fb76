namespace DashSprout.Core.Mirroring;

/// <summary>
/// Which state brought an entry to what it says: the machine that wrote it, and the number of that state. Whoever knows
/// that state has taken in what the entry says. Known as a dot (Preguiça and others, “Dotted Version Vectors”, 2010).
/// </summary>
public readonly record struct Origin(string Machine, int State)
{
    /// <summary>Whether somebody who knows some states has taken in what the entry says.</summary>
    public bool IsKnownTo(MachineStates states) => states.Of(Machine) >= State;
}

/// <summary>
/// Where what this machine has comes from, while it meets the files of a mirror folder. With it a merge tells which side
/// has nothing that the other has not taken in, also where no state is remembered that both knew.
/// </summary>
internal sealed class Origins
{
    private readonly Dictionary<string, Origin> ours = [];

    /// <param name="last">What the file held after the last sync; what is still so here comes from there.</param>
    public Origins(MirrorState? last, SharedLibrary here)
    {
        if (last is null)
            return;
        var then = last.Library.Entries.ToDictionary(entry => entry.Key);
        foreach (var entry in here.Entries)
            if (last.Origins.TryGetValue(entry.Key, out var origin) && then.GetValueOrDefault(entry.Key) == entry)
                ours[entry.Key] = origin;
    }

    /// <summary>The state that a merge goes by, with what one side has taken in of the other.</summary>
    /// <param name="before">The latest that both knew as a whole.</param>
    /// <param name="heard">The states that are known here.</param>
    /// <param name="undecided">The keys of what somebody has to decide: that was seen and not taken in.</param>
    public SharedLibrary? Base(
        SharedLibrary? before,
        MirrorState theirs,
        SharedLibrary here,
        MachineStates heard,
        IReadOnlySet<string> undecided
    )
    {
        if (before is null)
            return null;
        var (hereHeard, theirHeard) = (heard.AgreedWith(theirs.States), theirs.States.AgreedWith(heard));
        var taken = new Dictionary<string, SharedEntry>();
        foreach (var entry in theirs.Library.Entries)
            if (theirs.Origins.TryGetValue(entry.Key, out var origin) && origin.IsKnownTo(hereHeard))
                taken[entry.Key] = entry;
        foreach (var entry in here.Entries)
            if (ours.TryGetValue(entry.Key, out var origin) && origin.IsKnownTo(theirHeard))
                taken.TryAdd(entry.Key, entry);
        foreach (var key in undecided)
            taken.Remove(key);
        var entries = before.Entries.Select(entry => taken.Remove(entry.Key, out var known) ? known : entry).ToList();
        return before with { Entries = new([.. entries, .. taken.Values]) };
    }

    /// <summary>Follows a merge with one of the files.</summary>
    public void Merged(SharedLibrary before, MirrorState theirs, SharedLibrary after, MachineStates heard)
    {
        var (own, there) = (
            before.Entries.ToDictionary(entry => entry.Key),
            theirs.Library.Entries.ToDictionary(entry => entry.Key)
        );
        var hereHeard = heard.AgreedWith(theirs.States);
        foreach (var entry in after.Entries)
            if (
                there.GetValueOrDefault(entry.Key) == entry
                && theirs.Origins.TryGetValue(entry.Key, out var origin)
                && !origin.IsKnownTo(hereHeard)
            )
                ours[entry.Key] = origin;
            else if (own.GetValueOrDefault(entry.Key) != entry)
                ours.Remove(entry.Key);
    }

    /// <summary>The origins of what a file is to hold, where they are known.</summary>
    public Dictionary<string, Origin> Of(SharedLibrary there, SharedLibrary here)
    {
        var own = here.Entries.ToDictionary(entry => entry.Key);
        return there
            .Entries.Where(entry => ours.ContainsKey(entry.Key) && own.GetValueOrDefault(entry.Key) == entry)
            .ToDictionary(entry => entry.Key, entry => ours[entry.Key]);
    }
}
