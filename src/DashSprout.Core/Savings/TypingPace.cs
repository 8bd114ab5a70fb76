namespace DashSprout.Core.Savings;

/// <summary>
/// How fast somebody types, as counts: how many characters, and how long they took. What was typed is not known here.
/// </summary>
/// <param name="Keys">Characters that followed another one soon enough.</param>
/// <param name="Milliseconds">The time between those.</param>
public readonly record struct TypingPace(long Keys, long Milliseconds)
{
    /// <summary>A longer time between two keys is thinking, not typing (common practice).</summary>
    public const int LongestPauseMs = 2000;

    /// <summary>Characters to a word (common practice).</summary>
    public const int WordLength = 5;

    /// <summary>
    /// The pace that is taken until enough was typed: 40 words a minute (from memory: what untrained typists reach).
    /// </summary>
    public static TypingPace Usual { get; } = new(40 * WordLength, 60_000);

    /// <summary>How much must have been typed for it to say something.</summary>
    public const int FewestKeys = 500;

    /// <summary>Whether enough was typed.</summary>
    public bool IsMeasured => Keys >= FewestKeys && Milliseconds > 0;

    /// <summary>Words a minute.</summary>
    public double WordsPerMinute => Milliseconds == 0 ? 0 : 60_000.0 * Keys / Milliseconds / WordLength;

    /// <summary>How many minutes some keys take at this pace.</summary>
    public double MinutesFor(long keys) => Keys == 0 ? 0 : (double)keys * Milliseconds / Keys / 60_000;

    /// <summary>Both together.</summary>
    public static TypingPace operator +(TypingPace one, TypingPace other) =>
        new(one.Keys + other.Keys, one.Milliseconds + other.Milliseconds);
}

/// <summary>
/// Measures a pace from the moments of typed characters. Several threads may tell it; it allocates nothing.
/// </summary>
public sealed class PaceMeter
{
    private long last = long.MinValue;
    private long keys;
    private long milliseconds;

    /// <summary>A character was typed.</summary>
    /// <param name="atMs">When, in milliseconds from any fixed moment.</param>
    public void Typed(long atMs)
    {
        var before = Interlocked.Exchange(ref last, atMs);
        if (before == long.MinValue)
            return;
        var between = atMs - before;
        // Clocks of two keyboards know nothing of each other.
        if (between is < 0 or > TypingPace.LongestPauseMs)
            return;
        Interlocked.Increment(ref keys);
        Interlocked.Add(ref milliseconds, between);
    }

    /// <summary>Gives back what was taken and could not be kept.</summary>
    public void Add(TypingPace pace)
    {
        Interlocked.Add(ref keys, pace.Keys);
        Interlocked.Add(ref milliseconds, pace.Milliseconds);
    }

    /// <summary>What was measured since the last time.</summary>
    public TypingPace Take() => new(Interlocked.Exchange(ref keys, 0), Interlocked.Exchange(ref milliseconds, 0));
}
