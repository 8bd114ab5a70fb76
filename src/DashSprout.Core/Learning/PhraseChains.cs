namespace DashSprout.Core.Learning;

/// <summary>
/// Puts texts together again that are longer than phrases are: of such a text each phrase of the most words begins at
/// the second word of the one before, and came as often.
/// </summary>
internal sealed class PhraseChains
{
    /// <summary>How often a phrase must have come for each time that its neighbour did.</summary>
    private const double FewestShare = 0.8;

    private readonly Dictionary<ulong, Phrase> byBeginning = [];
    private readonly Dictionary<ulong, Phrase> byEnd = [];

    /// <summary>Chains of some phrases.</summary>
    public PhraseChains(IEnumerable<Phrase> phrases)
    {
        foreach (var phrase in phrases.OrderBy(phrase => phrase.Times))
        {
            if (phrase.Varies || Codes(phrase.Text) is not { Count: Phrase.MostWords } codes)
                continue;
            byBeginning[Together(codes.SkipLast(1))] = phrase;
            byEnd[Together(codes.Skip(1))] = phrase;
        }
    }

    /// <summary>The phrases of the text that a phrase is of, in their order.</summary>
    public IReadOnlyList<Phrase> Around(Phrase phrase)
    {
        var chain = new List<Phrase> { phrase };
        var length = phrase.Text.Length;
        while (Add(byEnd, codes => codes.SkipLast(1), chain[0]) is { } before)
            chain.Insert(0, before);
        while (Add(byBeginning, codes => codes.Skip(1), chain[^1]) is { } behind)
            chain.Add(behind);
        return chain;

        Phrase? Add(Dictionary<ulong, Phrase> neighbours, Func<List<ulong>, IEnumerable<ulong>> shared, Phrase last)
        {
            if (
                last.Varies
                || Codes(last.Text) is not { Count: Phrase.MostWords } codes
                || !neighbours.TryGetValue(Together(shared(codes)), out var next)
            )
                return null;
            if (
                chain.Contains(next)
                || Math.Min(next.Times, phrase.Times) < FewestShare * Math.Max(next.Times, phrase.Times)
            )
                return null;
            length += next.Text.Length - last.Text.Length + TypedLine.WordsOf(last.Text)[1].Start.Value;
            return length > Phrase.Longest ? null : next;
        }
    }

    private static List<ulong> Codes(string text) =>
        TypedLine.WordsOf(text).ConvertAll(word => WordCode.Of(text.AsSpan()[word]));

    private static ulong Together(IEnumerable<ulong> codes) => codes.Aggregate(WordCode.None, WordCode.And);
}
