namespace DashSprout.Core.Mirroring;

/// <summary>
/// Which states of a library something knows: how many states each machine has written, all of which are known. Known
/// as a version vector (Parker and others, “Detection of Mutual Inconsistency in Distributed Systems”, 1983). Clocks
/// play no part in it.
/// </summary>
public sealed class MachineStates : IEquatable<MachineStates>
{
    private readonly SortedDictionary<string, int> written;

    /// <summary>Makes it of the number of states by machine.</summary>
    public MachineStates(IEnumerable<KeyValuePair<string, int>> written) =>
        this.written = new SortedDictionary<string, int>(
            written.Where(pair => pair.Value > 0).ToDictionary(pair => pair.Key, pair => pair.Value),
            StringComparer.Ordinal
        );

    /// <summary>No state is known.</summary>
    public static MachineStates None { get; } = new([]);

    /// <summary>The number of states by machine, ordered by machine.</summary>
    public IReadOnlyDictionary<string, int> Written => written;

    /// <summary>How many states there are in all.</summary>
    public long Sum => written.Values.Sum(count => (long)count);

    /// <summary>How many states a machine has written.</summary>
    public int Of(string machine) => written.GetValueOrDefault(machine);

    /// <summary>Whether everything that another knows is known here.</summary>
    public bool Knows(MachineStates other) => other.written.All(pair => Of(pair.Key) >= pair.Value);

    /// <summary>What is known when both are.</summary>
    public MachineStates With(MachineStates other) =>
        new(
            written
                .Keys.Union(other.written.Keys)
                .Select(machine => KeyValuePair.Create(machine, Math.Max(Of(machine), other.Of(machine))))
        );

    /// <summary>The same with a count for one machine.</summary>
    public MachineStates With(string machine, int count) =>
        With(new MachineStates([KeyValuePair.Create(machine, count)]));

    /// <inheritdoc/>
    public override string ToString() => string.Join(' ', written.Select(pair => $"{pair.Key}:{pair.Value}"));

    /// <inheritdoc/>
    public bool Equals(MachineStates? other) => other is not null && written.SequenceEqual(other.written);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as MachineStates);

    /// <inheritdoc/>
    public override int GetHashCode() =>
        written.Aggregate(0, (hash, pair) => HashCode.Combine(hash, pair.Key, pair.Value));
}
