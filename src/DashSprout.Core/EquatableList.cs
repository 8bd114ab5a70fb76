using System.Collections;

namespace DashSprout.Core;

/// <summary>
/// An immutable list that is equal to another when its items are, so that records made of lists compare by value.
/// </summary>
public sealed class EquatableList<T>(IEnumerable<T> items) : IReadOnlyList<T>, IEquatable<EquatableList<T>>
{
    private readonly T[] items = [.. items];

    /// <summary>The list without items.</summary>
    public static EquatableList<T> Empty { get; } = new([]);

    /// <inheritdoc/>
    public int Count => items.Length;

    /// <inheritdoc/>
    public T this[int index] => items[index];

    /// <summary>Whether an item is in the list; allocates nothing.</summary>
    public bool Has(T item) => Array.IndexOf(items, item) >= 0;

    /// <inheritdoc/>
    public bool Equals(EquatableList<T>? other) => other is not null && items.AsSpan().SequenceEqual(other.items);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as EquatableList<T>);

    /// <inheritdoc/>
    public override int GetHashCode()
    {
        var hash = new HashCode();
        foreach (var item in items)
            hash.Add(item);
        return hash.ToHashCode();
    }

    /// <inheritdoc/>
    public IEnumerator<T> GetEnumerator() => ((IEnumerable<T>)items).GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();
}
