namespace DashSprout.Core;

/// <summary>Work on many things of one kind, side by side where there are enough of them to be worth it.</summary>
internal static class ParallelRanges
{
    /// <summary>From how many things on several threads are worth their while.</summary>
    public const int Fewest = 2000;

    /// <summary>Works on all places from 0 up to but without a count, in ranges.</summary>
    public static void For(int count, Action<int, int> work)
    {
        if (count <= Fewest)
        {
            work(0, count);
            return;
        }
        var parts = Math.Min(Environment.ProcessorCount, 8);
        Parallel.For(0, parts, part =>
            work((int)((long)count * part / parts), (int)((long)count * (part + 1) / parts))
        );
    }
}
