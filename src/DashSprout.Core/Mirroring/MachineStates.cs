namespace DashSprout.Core.Mirroring;

/// <summary>
/// Which states of a library something knows: how many states each machine has written, all of which are known. Known
/// as a version vector (Parker and others, “Detection of Mutual Inconsistency in Distributed Systems”, 1983). Clocks
/// play no part in it.
/// </summary>
public sealed class MachineStates : IEquatable<MachineStates>
{
    private readonly SortedDictionary<string, int> written;
    private readonly IReadOnlyDictionary<string, string> marks;

    /// <summary>Makes it of the number of states by machine.</summary>
    /// <param name="marks">The mark of the last state of each machine, where it is told.</param>
    public MachineStates(
        IEnumerable<KeyValuePair<string, int>> written,
        IReadOnlyDictionary<string, string>? marks = null
    )
    {
        this.written = new SortedDictionary<string, int>(
            written.Where(pair => pair.Value > 0).ToDictionary(pair => pair.Key, pair => pair.Value),
            StringComparer.Ordinal
        );
        this.marks = marks ?? new Dictionary<string, string>();
    }

    /// <summary>No state is known.</summary>
    public static MachineStates None { get; } = new([]);

    /// <summary>The number of states by machine, ordered by machine.</summary>
    public IReadOnlyDictionary<string, int> Written => written;

    /// <summary>How many states there are in all.</summary>
    public long Sum => written.Values.Sum(count => (long)count);

    /// <summary>How many states a machine has written.</summary>
    public int Of(string machine) => written.GetValueOrDefault(machine);

    /// <summary>
    /// What the last state of a machine is marked with: two states of one number with other marks come from two machines
    /// that go by one name. Null where nothing is told; it is no part of what is compared.
    /// </summary>
    public string? MarkOf(string machine) => marks.GetValueOrDefault(machine);

    /// <summary>Whether everything that another knows is known here.</summary>
    public bool Knows(MachineStates other) => other.written.All(pair => Of(pair.Key) >= pair.Value);

    /// <summary>What is known when both are.</summary>
    public MachineStates With(MachineStates other) =>
        new(
            written
                .Keys.Union(other.written.Keys)
                .Select(machine => KeyValuePair.Create(machine, Math.Max(Of(machine), other.Of(machine)))),
            marks
                .Keys.Union(other.marks.Keys)
                .Select(machine => (machine, mark: (other.Of(machine) > Of(machine) ? other : this).MarkOf(machine)))
                .Where(pair => pair.mark is not null)
                .ToDictionary(pair => pair.machine, pair => pair.mark!)
        );

    /// <summary>The same with a count for one machine.</summary>
    /// <param name="mark">What that state is marked with.</param>
    public MachineStates With(string machine, int count, string? mark = null) =>
        With(
            new MachineStates(
                [KeyValuePair.Create(machine, count)],
                mark is null ? null : new Dictionary<string, string> { [machine] = mark }
            )
        );

    /// <summary>
    /// The same without the machines whose last state is marked otherwise by another: what goes by their names comes from
    /// two machines, and nothing is certain of it.
    /// </summary>
    internal MachineStates AgreedWith(MachineStates other) =>
        new(
            written.Where(pair =>
                other.Of(pair.Key) != pair.Value
                || MarkOf(pair.Key) is not { } mark
                || (other.MarkOf(pair.Key) ?? mark) == mark
            ),
            marks
        );

    /// <summary>The same where a machine has another name for its states above a number.</summary>
    internal MachineStates Parted(string machine, string name, int common)
    {
        var count = Of(machine);
        if (count <= common)
            return this;
        var (kept, told) = (new Dictionary<string, int>(written), new Dictionary<string, string>(marks));
        (kept[machine], kept[name]) = (common, Of(name) + count - common);
        if (told.Remove(machine, out var mark))
            told[name] = mark;
        return new MachineStates(kept, told);
    }

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
