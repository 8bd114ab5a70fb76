namespace DashSprout.Core.Learning;

/// <summary>The words of private texts, by their codes: what is typed like them is never learned.</summary>
public sealed class PrivateWords
{
    /// <summary>So many words of a private text in their order are enough to know it.</summary>
    private const int Together = 3;

    private readonly HashSet<ulong> known = [];

    /// <summary>No private texts.</summary>
    public static PrivateWords None { get; } = new([]);

    /// <summary>The words of some texts.</summary>
    public PrivateWords(IEnumerable<string> texts)
    {
        foreach (var text in texts)
        {
            var words = TypedLine.WordsOf(text).ConvertAll(word => WordCode.Of(text.AsSpan()[word]));
            var length = Math.Min(Together, words.Count);
            for (var at = 0; at + length <= words.Count && length > 0; at++)
                known.Add(words.Skip(at).Take(length).Aggregate(WordCode.None, WordCode.And));
        }
    }

    /// <summary>Marks words that are a private text, or three words of one.</summary>
    /// <param name="words">The codes of the words of a line.</param>
    public void Mark(ReadOnlySpan<ulong> words, Span<bool> secret)
    {
        if (known.Count == 0)
            return;
        for (var at = 0; at < words.Length; at++)
        {
            var code = WordCode.None;
            for (var length = 1; length <= Together && at + length <= words.Length; length++)
            {
                code = WordCode.And(code, words[at + length - 1]);
                if (known.Contains(code))
                    secret.Slice(at, length).Fill(true);
            }
        }
    }

    /// <summary>Whether a text holds any of them.</summary>
    public bool AreIn(string text)
    {
        var words = TypedLine.WordsOf(text).ConvertAll(word => WordCode.Of(text.AsSpan()[word]));
        var secret = new bool[words.Count];
        Mark(System.Runtime.InteropServices.CollectionsMarshal.AsSpan(words), secret);
        return secret.Contains(true);
    }
}
