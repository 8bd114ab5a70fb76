namespace DashSprout.Core.Finding;

/// <summary>
/// How much something is used, where each use counts half as much after a week: exponential decay as in Cormode,
/// Shkapenyuk, Srivastava and Xu, “Forward Decay: A Practical Time Decay Model for Streaming Systems” (ICDE 2009). One
/// number is kept, whatever the number of uses.
/// </summary>
/// <param name="Weight">What the uses counted at the time of the last one.</param>
/// <param name="LastAt">When it was used last.</param>
public readonly record struct FadingUse(double Weight, DateTimeOffset LastAt)
{
    /// <summary>After how long a use counts half.</summary>
    public static TimeSpan HalfLife { get; } = TimeSpan.FromDays(7);

    /// <summary>What the uses count at a moment; a clock that went back makes nothing count more.</summary>
    public double At(DateTimeOffset now) => Weight * Math.Pow(0.5, Math.Max(0, (now - LastAt) / HalfLife));

    /// <summary>One use more.</summary>
    public FadingUse Used(DateTimeOffset now) => new(At(now) + 1, now > LastAt ? now : LastAt);

    /// <summary>The uses of both.</summary>
    public static FadingUse operator +(FadingUse one, FadingUse other)
    {
        var last = one.LastAt > other.LastAt ? one.LastAt : other.LastAt;
        return new FadingUse(one.At(last) + other.At(last), last);
    }
}
