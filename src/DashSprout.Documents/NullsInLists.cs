using System.Collections;
using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;

namespace DashSprout.Documents;

/// <summary>
/// Refuses <c>null</c> where a list or dictionary has values: a JSON reader takes it for any of them, and nobody behind
/// it expects that. Only where the type of the entries says that they may be missing, they may.
/// </summary>
public static class NullsInLists
{
    /// <summary>A modifier for a resolver of types: looks at the lists of each object once it is read.</summary>
    public static void Refuse(JsonTypeInfo type)
    {
        if (type.Kind != JsonTypeInfoKind.Object)
            return;
        var lists = type.Properties.Where(property => property.Get is not null && MayHoldNull(property)).ToList();
        if (lists.Count == 0)
            return;
        var before = type.OnDeserialized;
        type.OnDeserialized = read =>
        {
            before?.Invoke(read);
            foreach (var property in lists)
                Check(property.Name, property.Get!(read));
        };
    }

    /// <summary>What is wrong with a list or dictionary that was read; throws when an entry is null.</summary>
    private static void Check(string name, object? list)
    {
        if (list is IDictionary dictionary)
        {
            foreach (DictionaryEntry entry in dictionary)
                if (entry.Value is null)
                    throw new NullEntryException($"{name}.{entry.Key}");
        }
        else if (list is IEnumerable entries)
        {
            var at = 0;
            foreach (var entry in entries)
            {
                if (entry is null)
                    throw new NullEntryException($"{name}[{at}]");
                at++;
            }
        }
    }

    /// <summary>Whether it is a list or dictionary of what can be null and may not be.</summary>
    private static bool MayHoldNull(JsonPropertyInfo property)
    {
        var type = property.PropertyType;
        if (type == typeof(string) || !type.IsGenericType || !typeof(IEnumerable).IsAssignableFrom(type))
            return false;
        if (type.GetGenericArguments()[^1].IsValueType)
            return false;
        return property.AttributeProvider is not PropertyInfo declared
            || new NullabilityInfoContext().Create(declared).GenericTypeArguments[^1].ReadState
                != NullabilityState.Nullable;
    }
}

/// <summary>An entry of a list or dictionary is null.</summary>
/// <param name="entry">Which one, within the object that holds the list.</param>
public sealed class NullEntryException(string entry)
    : JsonException($"“{entry}” is null here. Give it a value, or leave it out.")
{
    /// <summary>Which one, within the object that holds the list: <c>snippets[3]</c>.</summary>
    public string Entry { get; } = entry;
}
