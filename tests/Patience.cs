using System.Diagnostics;

namespace DashSprout.Tests;

/// <summary>
/// How long a test waits for what it needs: long enough for a machine that is busy with other things, since a wait that
/// is over early costs nothing and one that is too short says nothing.
/// </summary>
internal static class Patience
{
    /// <summary>The longest wait: a minute for each process that wants a processor and has none, and one more.</summary>
    public static TimeSpan Longest
    {
        get
        {
            var load = File.Exists("/proc/loadavg")
                ? double.Parse(
                    File.ReadAllText("/proc/loadavg").Split(' ')[0],
                    System.Globalization.CultureInfo.InvariantCulture
                )
                : 0;
            return TimeSpan.FromMinutes(1 + Math.Clamp(load / Environment.ProcessorCount - 1, 0, 9));
        }
    }

    /// <summary>Is cancelled when the longest wait is over.</summary>
    public static CancellationToken Token => new CancellationTokenSource(Longest).Token;

    /// <summary>Waits until something holds; throws when it does not in the longest wait.</summary>
    public static Task Until(Func<bool> holds, string what = "what is waited for") =>
        Until(() => Task.FromResult(holds()), what);

    /// <summary>The same where it takes a while to ask.</summary>
    public static async Task Until(Func<Task<bool>> holds, string what = "what is waited for")
    {
        for (var began = Stopwatch.StartNew(); !await holds(); await Task.Delay(10))
            if (began.Elapsed > Longest)
                throw new TimeoutException($"It took over {Longest}: {what}.");
    }
}
