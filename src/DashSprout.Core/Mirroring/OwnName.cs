namespace DashSprout.Core.Mirroring;

/// <summary>
/// What this machine is called in the states of a library. Where a machine was copied as a whole, two of them go by one
/// name until one finds states by it that it never wrote: then it takes another name for what it wrote since.
/// </summary>
/// <param name="Common">How many states by this name a copy may have as well: those that were there when the program
/// started, since a copy starts later.</param>
public sealed record OwnName(string Machine, int Common)
{
    /// <summary>The name with the states that are known now for common.</summary>
    public static OwnName Of(string machine, IReadOnlyList<MirrorState> known) => new(machine, Written(machine, known));

    /// <summary>Whether somebody else writes under this name.</summary>
    public bool HasCopy(IReadOnlyList<MirrorState> known, IReadOnlyList<FoundMirror> files) =>
        files.Any(file =>
            file.State.States.Of(Machine) > Written(Machine, known) || FirstOther(known, file.State.States) is not null
        );

    /// <summary>The states that are known, with another name for those that the copy has not.</summary>
    public IReadOnlyList<MirrorState> Parted(
        IReadOnlyList<MirrorState> known,
        IReadOnlyList<FoundMirror> files,
        string name
    )
    {
        var common = files.Select(file => FirstOther(known, file.State.States) - 1 ?? Common).Append(Common).Min();
        return [.. known.Select(state => Parted(state, name, common))];
    }

    private MirrorState Parted(MirrorState state, string name, int common) =>
        state with
        {
            States = state.States.Parted(Machine, name, common),
            Origins = state.Origins.ToDictionary(
                pair => pair.Key,
                pair =>
                    pair.Value.Machine == Machine && pair.Value.State > common
                        ? new Origin(name, state.States.Of(name) + pair.Value.State - common)
                        : pair.Value
            ),
        };

    /// <summary>The number of a state that the file marks otherwise than this machine did; null when there is none.</summary>
    private int? FirstOther(IReadOnlyList<MirrorState> known, MachineStates file) =>
        file.MarkOf(Machine) is { } theirs
        && known
            .Where(state => state.States.Of(Machine) == file.Of(Machine))
            .Select(state => state.States.MarkOf(Machine))
            .FirstOrDefault(mark => mark is not null)
            is { } ours
        && ours != theirs
            ? file.Of(Machine)
            : null;

    private static int Written(string machine, IReadOnlyList<MirrorState> known) =>
        known.Select(state => state.States.Of(machine)).DefaultIfEmpty(0).Max();
}
