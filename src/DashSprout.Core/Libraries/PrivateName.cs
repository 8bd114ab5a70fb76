using DashSprout.Core.Bodies;

namespace DashSprout.Core.Libraries;

/// <summary>
/// Names of private snippets stay readable, so one that came from the text would tell of it: it gives way to a neutral
/// one.
/// </summary>
public static class PrivateName
{
    /// <summary>What a private snippet is called whose name would tell of its text.</summary>
    public const string Neutral = "Private snippet";

    /// <summary>Whether a name tells how a line of what goes in begins, as names made from texts do.</summary>
    public static bool Tells(Snippet snippet)
    {
        var name = snippet.Name.TrimEnd();
        // Two of one name have numbers behind it.
        var bare = name.TrimEnd("0123456789".ToCharArray()) is var cut && cut.EndsWith(' ') ? cut.TrimEnd() : name;
        string[] beginnings = [.. new[] { name, bare }.Select(one => one.TrimEnd('…')).Where(one => one.Length > 0)];
        return snippet
            .Bodies.SelectMany(body => PreviewText.Of(body).Split('\n'))
            .Select(line =>
                string.Join(' ', line.Replace('/', ' ').Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries))
            )
            .Any(line => beginnings.Any(beginning => line.StartsWith(beginning, StringComparison.OrdinalIgnoreCase)));
    }

    /// <summary>A snippet that has become private, under a name that tells nothing.</summary>
    /// <param name="isTaken">Whether another one beside it has a name.</param>
    public static Snippet Hide(Snippet snippet, Func<string, bool> isTaken) =>
        snippet.Private && Tells(snippet) ? snippet with { Name = Commands.Free(isTaken, Neutral) } : snippet;
}
