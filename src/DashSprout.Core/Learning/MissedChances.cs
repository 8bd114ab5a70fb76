namespace DashSprout.Core.Learning;

/// <summary>How often a snippet's text was typed in full.</summary>
/// <param name="Keys">Keys that its trigger would have saved.</param>
public sealed record MissedChance(long SnippetId, int Times, long Keys, DateTimeOffset LastAt);

/// <summary>
/// The texts that were typed in full although a snippet has them, as counts. Several threads may tell it.
/// </summary>
public sealed class MissedChances
{
    /// <summary>How long nothing more is said of a snippet, once something was.</summary>
    public static TimeSpan Quiet { get; } = TimeSpan.FromHours(1);

    private readonly Lock gate = new();
    private readonly Dictionary<long, MissedChance> bySnippet = [];
    private readonly Dictionary<long, DateTimeOffset> saidAt = [];

    /// <summary>All of them.</summary>
    public IReadOnlyList<MissedChance> All
    {
        get
        {
            lock (gate)
                return [.. bySnippet.Values];
        }
    }

    /// <summary>
    /// Counts one; says whether it is to be shown: at most once an hour for each snippet. A clock that was set back
    /// keeps nothing quiet for longer.
    /// </summary>
    public bool Add(long snippetId, int keys, DateTimeOffset now)
    {
        lock (gate)
        {
            var known = bySnippet.GetValueOrDefault(snippetId) ?? new MissedChance(snippetId, 0, 0, now);
            bySnippet[snippetId] = new MissedChance(snippetId, known.Times + 1, known.Keys + keys, now);
            if (saidAt.TryGetValue(snippetId, out var said) && now >= said && now - said < Quiet)
                return false;
            saidAt[snippetId] = now;
            return true;
        }
    }

    /// <summary>Takes over counts that were kept.</summary>
    public void Restore(IEnumerable<MissedChance> kept)
    {
        lock (gate)
            foreach (var chance in kept)
                bySnippet[chance.SnippetId] = chance;
    }

    /// <summary>Forgets some.</summary>
    public void Forget(Func<MissedChance, bool> isGone)
    {
        lock (gate)
            foreach (var gone in bySnippet.Values.Where(isGone).ToList())
            {
                bySnippet.Remove(gone.SnippetId);
                saidAt.Remove(gone.SnippetId);
            }
    }
}
