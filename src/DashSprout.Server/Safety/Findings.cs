using DashSprout.Core.Safety;
using DashSprout.Store.Features;

namespace DashSprout.Server.Safety;

/// <summary>The worst grade and the overlaps of one snippet.</summary>
internal sealed record Finding(MisfireGrade Grade, int Overlaps, bool Beaten)
{
    public static Finding None { get; } = new(MisfireGrade.Quiet, 0, false);
}

/// <summary>What is known of the snippets now.</summary>
internal sealed record FindingsNow(BoardState State, IReadOnlyDictionary<long, Finding> BySnippet)
{
    /// <summary>What is known of one; null when it was not judged yet.</summary>
    public Finding? Of(long snippetId) =>
        BySnippet.TryGetValue(snippetId, out var found) ? found
        : State == BoardState.Ready ? Finding.None
        : null;
}

/// <summary>What the board found, snippet by snippet.</summary>
internal sealed class Findings(SafetyBoard board, SafetyStore store)
{
    private (
        SafetyBoard.Result? Result,
        IReadOnlySet<IgnoredOverlap> Ignored,
        IReadOnlyDictionary<long, Finding> BySnippet
    ) known = (null, new HashSet<IgnoredOverlap>(), new Dictionary<long, Finding>());

    public FindingsNow Now()
    {
        var (state, _, result) = board.Look();
        var ignored = store.Ignored();
        if (!ReferenceEquals(known.Result, result) || !known.Ignored.SetEquals(ignored))
            known = (result, ignored, Gather(result, ignored));
        return new FindingsNow(state, known.BySnippet);
    }

    private static Dictionary<long, Finding> Gather(SafetyBoard.Result result, IReadOnlySet<IgnoredOverlap> ignored)
    {
        var found = new Dictionary<long, Finding>();
        Finding Of(long id) => found.GetValueOrDefault(id, Finding.None);
        // The worst come first.
        foreach (var forecast in result.Forecasts)
            found.TryAdd(forecast.Trigger.Placed.Id, Finding.None with { Grade = forecast.Grade });
        foreach (var overlap in result.Overlaps.All)
        {
            var (winner, loser) = (overlap.Winner?.Placed.Id, overlap.Loser.Placed.Id);
            if (
                ignored.Contains(
                    new IgnoredOverlap(
                        Core.Wording.Of(overlap.Kind),
                        winner ?? 0,
                        overlap.Winner?.Trigger.Text ?? overlap.Loser.Trigger.Text,
                        loser,
                        overlap.Loser.Trigger.Text
                    )
                )
            )
                continue;
            if (winner is { } id)
                found[id] = Of(id) with { Overlaps = Of(id).Overlaps + 1 };
            found[loser] = Of(loser) with { Overlaps = Of(loser).Overlaps + (winner == loser ? 0 : 1), Beaten = true };
        }
        return found;
    }
}
