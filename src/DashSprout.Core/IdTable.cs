using System.Collections;

namespace DashSprout.Core;

/// <summary>
/// A persistent table of values by id, made for ids that were given one after another: an edit copies the chunk it is
/// in and shares the rest. Reading is two look-ups, and a table of a hundred thousand is built in a few milliseconds.
/// </summary>
public sealed class IdTable<T> : IEnumerable<(long Id, T Value)>
    where T : class
{
    private const int Bits = 8;
    private const int Size = 1 << Bits;

    private readonly T?[]?[] chunks;

    private IdTable(T?[]?[] chunks, int count)
    {
        this.chunks = chunks;
        Count = count;
    }

    /// <summary>The table without values.</summary>
    public static IdTable<T> Empty { get; } = new([], 0);

    /// <summary>How many values there are.</summary>
    public int Count { get; }

    /// <summary>An id above all that have a value.</summary>
    public long Above => (long)chunks.Length << Bits;

    /// <summary>The value of an id; null when there is none.</summary>
    public T? Find(long id) => Find(chunks, id);

    /// <summary>A copy that can be edited; this one stays as it is.</summary>
    public IdTableBuilder ToBuilder() => new(this);

    /// <inheritdoc/>
    public IEnumerator<(long Id, T Value)> GetEnumerator()
    {
        for (var chunk = 0; chunk < chunks.Length; chunk++)
        {
            if (chunks[chunk] is not { } values)
                continue;
            for (var at = 0; at < Size; at++)
                if (values[at] is { } value)
                    yield return (((long)chunk << Bits) + at, value);
        }
    }

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    private static T? Find(T?[]?[] chunks, long id)
    {
        var chunk = id >> Bits;
        return (ulong)chunk < (ulong)chunks.Length && chunks[chunk] is { } values ? values[id & (Size - 1)] : null;
    }

    /// <summary>A table in the making.</summary>
    public sealed class IdTableBuilder
    {
        private readonly HashSet<T?[]> own = new(ReferenceEqualityComparer.Instance);
        private T?[]?[] chunks;
        private int count;

        internal IdTableBuilder(IdTable<T> from)
        {
            chunks = [.. from.chunks];
            count = from.Count;
        }

        /// <summary>Puts a value in; whatever had the id goes.</summary>
        public T this[long id]
        {
            set => Put(id, value);
        }

        /// <summary>The value of an id; null when there is none.</summary>
        public T? Find(long id) => IdTable<T>.Find(chunks, id);

        /// <summary>Puts a value in; throws <see cref="ArgumentException"/> when the id has one.</summary>
        public void Add(long id, T value)
        {
            if (Find(id) is not null)
                throw new ArgumentException($"There are two of the id {id}.", nameof(id));
            Put(id, value);
        }

        /// <summary>Takes a value out, if there is one.</summary>
        public void Remove(long id)
        {
            if (Find(id) is not null)
                Put(id, null);
        }

        /// <summary>The table; the builder is not to be used any more.</summary>
        public IdTable<T> ToTable() => new(chunks, count);

        private void Put(long id, T? value)
        {
            ArgumentOutOfRangeException.ThrowIfNegative(id);
            var chunk = (int)Math.Min(id >> Bits, Array.MaxLength);
            if (chunk >= chunks.Length)
                Array.Resize(ref chunks, Math.Max(chunk + 1, chunks.Length * 2));
            var values = chunks[chunk] ?? new T?[Size];
            if (own.Add(values) && chunks[chunk] is not null)
                own.Add(values = (T?[])values.Clone());
            chunks[chunk] = values;
            ref var place = ref values[id & (Size - 1)];
            count += (value is null ? 0 : 1) - (place is null ? 0 : 1);
            place = value;
        }
    }
}
