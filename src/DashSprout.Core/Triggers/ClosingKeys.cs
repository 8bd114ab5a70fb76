using System.Collections.Frozen;
using DashSprout.Core.Text;

namespace DashSprout.Core.Triggers;

/// <summary>
/// A set of keys that end a word and so set a trigger off. Never empty of meaning: it may be empty of keys.
/// </summary>
public sealed class ClosingKeys : IEquatable<ClosingKeys>
{
    private readonly ulong low;
    private readonly ulong high;
    private readonly FrozenSet<string> all;

    private ClosingKeys(IEnumerable<Key> keys)
    {
        Keys = [.. keys.Select(key => key.Closing).Distinct()];
        all = Keys.Select(key => key.Value).ToFrozenSet(StringComparer.Ordinal);
        foreach (var key in Keys)
        {
            var bit = Ascii(key);
            if (bit is >= 0 and < 64)
                low |= 1UL << bit;
            else if (bit >= 64)
                high |= 1UL << (bit - 64);
        }
        HoldsActingKeys = Contains(Key.Enter) || Contains(Key.Tab);
    }

    /// <summary>
    /// The set a library has unless it says otherwise: Space, Tab, Enter and the punctuation that ends words.
    /// </summary>
    public static ClosingKeys Default { get; } =
        new([Key.Typed(" "), Key.Tab, Key.Enter, .. Key.ForText(".,;:!?)]}\"'’”/-–—")]);

    /// <summary>A set without keys.</summary>
    public static ClosingKeys None { get; } = new([]);

    /// <summary>The keys, in the order they were given.</summary>
    public IReadOnlyList<Key> Keys { get; }

    /// <summary>Reads a list of <c>key</c> values; only keys that add to the typed tail can close a word.</summary>
    public static ClosingKeys Parse(string field, IReadOnlyList<string> values)
    {
        var keys = values.Select((value, at) => Key.Parse($"{field}[{at}]", value)).ToList();
        var wrong = keys.FindIndex(key => !key.AddsText);
        if (wrong >= 0)
            throw new InvalidInputException(
                $"{field}[{wrong}]",
                $"“{keys[wrong]}” cannot close a word. Closing keys are typed characters, Space, Tab and Enter."
            );
        return new ClosingKeys(keys);
    }

    /// <summary>
    /// Whether it holds a key that acts in many fields (Enter sends, Tab moves), so that such a key must be held back
    /// until it is decided.
    /// </summary>
    public bool HoldsActingKeys { get; }

    /// <summary>Whether the key is in the set; Shift+Enter counts as Enter.</summary>
    public bool Contains(in Key key) =>
        Ascii(key) is var bit and >= 0
            ? ((bit < 64 ? low >> bit : high >> (bit - 64)) & 1) != 0
            : all.Contains(key.Closing.Value);

    /// <summary>Both sets together.</summary>
    public ClosingKeys With(ClosingKeys other) =>
        Keys.Count == 0 ? other
        : ReferenceEquals(this, other) || other.Keys.All(key => Contains(key)) ? this
        : new ClosingKeys([.. Keys, .. other.Keys]);

    /// <inheritdoc/>
    public bool Equals(ClosingKeys? other) => other is not null && all.SetEquals(other.all);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as ClosingKeys);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(low, high);

    private static int Ascii(in Key key) =>
        key.Kind == KeyKind.Typed && key.Value.Length == 1 && key.Value[0] < 128 ? key.Value[0] : -1;
}
