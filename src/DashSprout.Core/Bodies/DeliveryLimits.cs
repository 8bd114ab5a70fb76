using NodaTime;

namespace DashSprout.Core.Bodies;

/// <summary>
/// How long one delivery may hold a field: pauses and key presses are bounded, so that no snippet keeps a keyboard to
/// itself.
/// </summary>
public static class DeliveryLimits
{
    /// <summary>The most that the pauses of a text add up to.</summary>
    public static readonly Duration MostWaiting = Duration.FromSeconds(10);

    /// <summary>The most keys that a text presses.</summary>
    public const int MostPresses = 1000;

    /// <summary>Refuses a text that is about to go in and waits or presses more than is allowed.</summary>
    internal static void Check(Flow flow)
    {
        var pieces = flow.Leaves.SelectMany(leaf => leaf.Pieces).ToList();
        var waiting = pieces.OfType<Piece.Wait>().Aggregate(Duration.Zero, (sum, wait) => sum + wait.For);
        if (
            Problem(waiting.TotalSeconds, pieces.OfType<Piece.KeyPress>().Sum(press => (long)press.Times)) is
            { } problem
        )
            throw new RenderingException(problem);
    }

    /// <summary>Why pauses and key presses are too many; null when they are not.</summary>
    internal static string? Problem(double seconds, long presses) =>
        seconds > MostWaiting.TotalSeconds
            ? $"The pauses add up to {seconds:0.#} s; {MostWaiting.TotalSeconds:0} s are allowed, since nothing "
                + "can be typed meanwhile. Make them shorter."
        : presses > MostPresses ? $"It presses {presses:N0} keys; {MostPresses:N0} are allowed. Press fewer."
        : null;
}
