using NodaTime;

namespace DashSprout.Core.Bodies;

/// <summary>
/// How long one delivery may hold a field: pauses and key presses are bounded, so that no snippet keeps a keyboard to itself.
/// </summary>
public static class DeliveryLimits
{
    /// <summary>The most that the pauses of a text add up to.</summary>
    public static readonly Duration MostWaiting = Duration.FromSeconds(10);

    /// <summary>The most keys that a text presses.</summary>
    public const int MostPresses = 1000;

    /// <summary>Refuses a body that could wait or press more than is allowed, the snippets inside it included.</summary>
    /// <param name="findSnippet">Finds the snippets inside; what is missing counts nothing.</param>
    public static void Check(BodyTree tree, Func<string, Body?> findSnippet)
    {
        var (waiting, presses) = Sum(tree, findSnippet, []);
        if (Problem(waiting, presses) is { } problem) throw new InvalidInputException("body", problem);
    }

    /// <summary>Refuses a text that is about to go in and waits or presses more than is allowed.</summary>
    internal static void Check(Flow flow)
    {
        var pieces = flow.Leaves.SelectMany(leaf => leaf.Pieces).ToList();
        var waiting = pieces.OfType<Piece.Wait>().Aggregate(Duration.Zero, (sum, wait) => sum + wait.For);
        if (Problem(waiting, pieces.OfType<Piece.KeyPress>().Sum(press => (long)press.Times)) is { } problem) throw new RenderingException(problem);
    }

    private static (Duration Waiting, long Presses) Sum(BodyTree tree, Func<string, Body?> findSnippet, IReadOnlyList<string> inside)
    {
        var (waiting, presses) = (Duration.Zero, 0L);
        foreach (var inline in tree.Inlines())
        {
            if (inline is Inline.Wait wait) waiting += wait.For;
            if (inline is Inline.KeyPress press) presses += press.Times;
            if (inline is not Inline.Reference { Target: var target } || inside.Contains(target) || findSnippet(target) is not Body.Html inner) continue;
            var more = Sum(inner.Tree, findSnippet, [.. inside, target]);
            (waiting, presses) = (waiting + more.Waiting, presses + more.Presses);
            // Snippets that hold each other many times over grow without bound; the answer is known long before.
            if (presses > MostPresses || waiting > MostWaiting) break;
        }
        return (waiting, presses);
    }

    private static string? Problem(Duration waiting, long presses) =>
        waiting > MostWaiting
            ? $"The pauses add up to {waiting.TotalSeconds:0.#} s; {MostWaiting.TotalSeconds:0} s are allowed, since nothing can be typed meanwhile. Make them shorter."
        : presses > MostPresses ? $"It presses {presses:N0} keys; {MostPresses:N0} are allowed. Press fewer."
        : null;
}
