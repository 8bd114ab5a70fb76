namespace DashSprout.Core.Learning;

/// <summary>What a word is among others of its line.</summary>
internal enum WordKind
{
    /// <summary>A word like others.</summary>
    Plain,

    /// <summary>A name, a number or a part of a date: what differs where a text comes back.</summary>
    Varying,

    /// <summary>Never learned.</summary>
    Secret,
}

/// <summary>A line that was typed, in words.</summary>
internal sealed class TypedLine
{
    private TypedLine(string text, List<Range> words, ulong[] codes, WordKind[] kinds) =>
        (Text, Words, Codes, Kinds) = (text, words, codes, kinds);

    /// <summary>The line.</summary>
    public string Text { get; }

    /// <summary>Where its words are.</summary>
    public IReadOnlyList<Range> Words { get; }

    /// <summary>The code of each word.</summary>
    public ulong[] Codes { get; }

    /// <summary>What each word is.</summary>
    public WordKind[] Kinds { get; }

    /// <summary>Reads a line.</summary>
    /// <param name="dateWords">Names of months and days, as they are written.</param>
    public static TypedLine Of(string text, SecretLook secrets, PrivateWords privates, IReadOnlySet<string> dateWords)
    {
        var words = WordsOf(text);
        var codes = new ulong[words.Count];
        var kinds = new WordKind[words.Count];
        var secret = new bool[words.Count];
        for (var at = 0; at < words.Count; at++)
            codes[at] = WordCode.Of(text.AsSpan()[words[at]]);
        secrets.Mark(text, words, secret);
        privates.Mark(codes, secret);
        var starts = true;
        for (var at = 0; at < words.Count; at++)
        {
            var word = text.AsSpan()[words[at]];
            kinds[at] =
                secret[at] ? WordKind.Secret
                : Varies(word[WordCode.Core(word)], starts, dateWords) ? WordKind.Varying
                : WordKind.Plain;
            starts = word[^1] is '.' or '!' or '?' or ':';
        }
        return new TypedLine(text, words, codes, kinds);
    }

    /// <summary>Where the words of a text are: what stands between white space.</summary>
    public static List<Range> WordsOf(ReadOnlySpan<char> text)
    {
        var words = new List<Range>();
        for (var at = 0; at < text.Length; )
        {
            while (at < text.Length && char.IsWhiteSpace(text[at]))
                at++;
            var start = at;
            while (at < text.Length && !char.IsWhiteSpace(text[at]))
                at++;
            if (at > start)
                words.Add(start..at);
        }
        return words;
    }

    private static bool Varies(ReadOnlySpan<char> word, bool starts, IReadOnlySet<string> dateWords)
    {
        foreach (var unit in word)
            if (char.IsDigit(unit))
                return true;
        if (dateWords is HashSet<string> set && set.GetAlternateLookup<ReadOnlySpan<char>>().Contains(word))
            return true;
        return !starts && word.Length > 1 && char.IsUpper(word[0]) && char.IsLower(word[1]);
    }
}
