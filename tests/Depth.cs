using System.Globalization;

namespace DashSprout.Tests;

/// <summary>
/// How much of a long row of random trials a test makes: a part of it each time, since each time has other trials, and
/// all of it or more where <c>DASH_SPROUT_DEPTH</c> says how many in a hundred.
/// </summary>
internal static class Depth
{
    private static readonly int Percent = int.Parse(
        Environment.GetEnvironmentVariable("DASH_SPROUT_DEPTH") ?? "25",
        CultureInfo.InvariantCulture
    );

    /// <summary>Of how many trials in a row one is made, so that the part of them is made that is wanted now.</summary>
    public static int Step => Math.Max(1, 100 / Math.Clamp(Percent, 1, 100));

    /// <summary>How many trials of a whole row are made now; at least ten.</summary>
    public static int Of(int whole) => Math.Max(Math.Min(whole, 10), (int)((long)whole * Percent / 100));
}
