namespace DashSprout.Core.Learning;

/// <summary>Two texts that are nearly the same.</summary>
/// <param name="Alike">How much of both they share, from 0 to 1.</param>
public readonly record struct NearPair(long One, long Other, double Alike);

/// <summary>
/// Finds texts that are nearly the same: the resemblance of Broder, “On the resemblance and containment of documents”
/// (1997), the share of runs of words that two texts have in common. Only texts are compared that share one of their
/// first runs in a fixed order, as those that are alike enough must (Bayardo, Ma and Srikant, “Scaling Up All Pairs
/// Similarity Search”, 2007).
/// </summary>
public static class NearlySame
{
    /// <summary>From what resemblance on two texts are nearly the same.</summary>
    public const double Fewest = 0.6;

    private const int Run = 2,
        FewestWords = 4;

    /// <summary>
    /// With how many others a text is compared, the latest first, so that a thousand equal ones are not compared a
    /// million times.
    /// </summary>
    private const int MostCompared = 60;

    /// <summary>The pairs that are nearly the same, the most alike first.</summary>
    /// <param name="texts">Texts by the id of what they are of.</param>
    public static IReadOnlyList<NearPair> Pairs(
        IEnumerable<(long Id, string Text)> texts,
        int most,
        CancellationToken cancel = default
    )
    {
        var known = new List<(long Id, ulong[] Runs)>();
        // The text that came last with a run, and for each of a text's first runs the one before.
        var last = new Dictionary<ulong, int>();
        var before = new List<(int Text, int Before)>();
        var pairs = new List<NearPair>();
        var compared = new HashSet<int>();
        foreach (var (id, text) in texts)
        {
            cancel.ThrowIfCancellationRequested();
            var runs = RunsOf(text);
            if (runs.Length == 0)
                continue;
            compared.Clear();
            foreach (var run in runs.AsSpan(0, runs.Length - (int)Math.Ceiling(Fewest * runs.Length) + 1))
            {
                var at = last.GetValueOrDefault(run, -1);
                for (var link = at; link >= 0 && compared.Count < MostCompared; link = before[link].Before)
                    if (
                        compared.Add(before[link].Text)
                        && Alike(runs, known[before[link].Text].Runs) is var alike
                        && alike >= Fewest
                    )
                        pairs.Add(new NearPair(known[before[link].Text].Id, id, alike));
                last[run] = before.Count;
                before.Add((known.Count, at));
            }
            known.Add((id, runs));
        }
        return
        [
            .. pairs
                .OrderByDescending(pair => pair.Alike)
                .ThenBy(pair => pair.One)
                .ThenBy(pair => pair.Other)
                .Take(most),
        ];
    }

    /// <summary>
    /// The runs of a text in ascending order, each once; none of a text that is too short to say anything.
    /// </summary>
    private static ulong[] RunsOf(string text)
    {
        var words = TypedLine.WordsOf(text);
        if (words.Count < FewestWords)
            return [];
        var codes = words.ConvertAll(word => WordCode.Of(text.AsSpan()[word]));
        var runs = new ulong[codes.Count - Run + 1];
        for (var at = 0; at < runs.Length; at++)
            runs[at] = WordCode.And(WordCode.And(WordCode.None, codes[at]), codes[at + 1]);
        Array.Sort(runs);
        var kept = 0;
        foreach (var run in runs)
            if (kept == 0 || runs[kept - 1] != run)
                runs[kept++] = run;
        return runs[..kept];
    }

    private static double Alike(ulong[] one, ulong[] other)
    {
        var (shared, at, beside) = (0, 0, 0);
        while (at < one.Length && beside < other.Length)
        {
            if (one[at] == other[beside])
                shared++;
            var (forward, sideward) = (one[at] <= other[beside], one[at] >= other[beside]);
            if (forward)
                at++;
            if (sideward)
                beside++;
        }
        return (double)shared / (one.Length + other.Length - shared);
    }
}
