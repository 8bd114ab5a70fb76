using System.Diagnostics;

namespace DashSprout.Bench;

/// <summary>Many timings of one thing, sorted.</summary>
internal sealed class Timings(double[] nanoseconds)
{
    private readonly double[] sorted = [.. nanoseconds.Order()];

    public double Median => At(0.5);

    /// <summary>The timing that a part of all stays under.</summary>
    public double At(double part) => sorted[Math.Min((int)(sorted.Length * part), sorted.Length - 1)];

    /// <summary>Times an action again and again after warming it up.</summary>
    public static Timings Of(int times, Action action)
    {
        for (var round = 0; round < Math.Max(times / 4, 3); round++)
            action();
        var taken = new double[times];
        for (var round = 0; round < times; round++)
        {
            var start = Stopwatch.GetTimestamp();
            action();
            taken[round] = Stopwatch.GetElapsedTime(start).TotalNanoseconds;
        }
        return new Timings(taken);
    }

    public static string Show(double nanoseconds) =>
        nanoseconds switch
        {
            < 1_000 => $"{nanoseconds:0} ns",
            < 1_000_000 => $"{nanoseconds / 1_000:0.00} µs",
            < 1_000_000_000 => $"{nanoseconds / 1_000_000:0.00} ms",
            _ => $"{nanoseconds / 1_000_000_000:0.00} s",
        };
}
