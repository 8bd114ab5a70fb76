namespace DashSprout.Core.Learning;

/// <summary>Two texts that are nearly the same.</summary>
/// <param name="Alike">How much of both they share, from 0 to 1.</param>
public readonly record struct NearPair(long One, long Other, double Alike);

/// <summary>
/// Finds texts that are nearly the same: the resemblance of Broder, “On the resemblance and containment of documents” (1997), the share of runs of words that two texts have in common.
/// </summary>
public static class NearlySame
{
    /// <summary>From what resemblance on two texts are nearly the same.</summary>
    public const double Fewest = 0.6;

    private const int Run = 2, FewestWords = 4;

    /// <summary>A run of words that so many texts have says nothing of them.</summary>
    private const int MostSharing = 50;

    /// <summary>The pairs that are nearly the same, the most alike first.</summary>
    /// <param name="texts">Texts by the id of what they are of.</param>
    public static IReadOnlyList<NearPair> Pairs(IEnumerable<(long Id, string Text)> texts, int most, CancellationToken cancel = default)
    {
        var runs = new Dictionary<ulong, List<int>>();
        var (ids, sizes) = (new List<long>(), new List<int>());
        foreach (var (id, text) in texts)
        {
            cancel.ThrowIfCancellationRequested();
            var found = RunsOf(text);
            if (found.Count == 0) continue;
            foreach (var run in found)
            {
                if (!runs.TryGetValue(run, out var sharing)) runs.Add(run, sharing = []);
                if (sharing.Count <= MostSharing) sharing.Add(ids.Count);
            }
            ids.Add(id);
            sizes.Add(found.Count);
        }
        var shared = new Dictionary<(int, int), int>();
        foreach (var sharing in runs.Values.Where(sharing => sharing.Count is > 1 and <= MostSharing))
        {
            cancel.ThrowIfCancellationRequested();
            for (var one = 0; one < sharing.Count; one++)
                for (var other = one + 1; other < sharing.Count; other++)
                    shared[(sharing[one], sharing[other])] = shared.GetValueOrDefault((sharing[one], sharing[other])) + 1;
        }
        return
        [
            .. shared.Select(pair => new NearPair(ids[pair.Key.Item1], ids[pair.Key.Item2], (double)pair.Value / (sizes[pair.Key.Item1] + sizes[pair.Key.Item2] - pair.Value)))
                .Where(pair => pair.Alike >= Fewest).OrderByDescending(pair => pair.Alike).ThenBy(pair => pair.One).ThenBy(pair => pair.Other).Take(most),
        ];
    }

    private static HashSet<ulong> RunsOf(string text)
    {
        var words = TypedLine.WordsOf(text).ConvertAll(word => WordCode.Of(text.AsSpan()[word]));
        var runs = new HashSet<ulong>();
        if (words.Count < FewestWords) return runs;
        for (var at = 0; at + Run <= words.Count; at++) runs.Add(words.Skip(at).Take(Run).Aggregate(WordCode.None, WordCode.And));
        return runs;
    }
}
