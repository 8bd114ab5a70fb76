using System.Text;

namespace DashSprout.Core;

/// <summary>
/// The written form of the kinds this program knows: <c>Timing.AtOnce</c> is written <c>at-once</c>,
/// in files, in the API and in messages alike.
/// </summary>
public static class Wording
{
    /// <summary>The written form of one kind.</summary>
    public static string Of<T>(T kind)
        where T : struct, Enum => Table<T>.Written[kind];

    /// <summary>Reads a kind; an unknown word is an error that lists the known ones.</summary>
    public static T Parse<T>(string field, string word)
        where T : struct, Enum =>
        Table<T>.Kinds.TryGetValue(word, out var kind)
            ? kind
            : throw new InvalidInputException(
                field,
                $"“{word}” is not known here. Use one of: {string.Join(", ", Table<T>.Kinds.Keys)}."
            );

    private static string Kebab(string name)
    {
        var text = new StringBuilder();
        foreach (var letter in name)
        {
            if (char.IsUpper(letter) && text.Length > 0)
                text.Append('-');
            text.Append(char.ToLowerInvariant(letter));
        }
        return text.ToString();
    }

    private static class Table<T>
        where T : struct, Enum
    {
        public static readonly Dictionary<T, string> Written = Enum.GetValues<T>()
            .ToDictionary(kind => kind, kind => Kebab(kind.ToString()));

        public static readonly Dictionary<string, T> Kinds = Written.ToDictionary(
            pair => pair.Value,
            pair => pair.Key,
            StringComparer.Ordinal
        );
    }
}
