using DashSprout.Core.Engine;
using DashSprout.Core.Safety;
using DashSprout.Core.Triggers;
using DashSprout.Server.Behind;
using DashSprout.Server.Hosting;
using DashSprout.Server.Libraries;

namespace DashSprout.Server.Safety;

/// <summary>Whether the board is up to date.</summary>
internal enum BoardState
{
    Ready,
    Working,
    Stopped,
    Failed,
}

/// <summary>
/// Overlaps and forecasts of everything stored, worked out in the background whenever somebody looks and something has
/// changed. An edit costs only what it touches: forecasts depend on a trigger's own rules, and overlaps follow the
/// index.
/// </summary>
internal sealed class SafetyBoard(
    LibraryService libraryService,
    WordLists lists,
    TimeProvider clock,
    ILogger<SafetyBoard> log
) : IWorksBehind
{
    private readonly WorkBehind watched = new(
        "Overlaps and forecasts",
        "Works out what gets in each other's way and what would go off by accident, when somebody looks.",
        null,
        null
    );
    private readonly Lock gate = new();
    private Result result = Result.Nothing;
    private Work? work;

    public IEnumerable<WorkBehind> Works => [watched];

    /// <summary>What is known now; work on what is not begins at once, and goes on while other things change.</summary>
    public (BoardState State, double Progress, Result Result) Look(bool again = false)
    {
        lock (gate)
        {
            var index = libraryService.Snapshot.Index;
            var words = lists.Current;
            if (ReferenceEquals(result.Index, index) && ReferenceEquals(result.Words, words))
                return (BoardState.Ready, 1, result);
            // What is under way for an older index is finished first: the rest is a small step from there.
            var stale =
                work is null
                || !ReferenceEquals(work.Words, words)
                || (work.Ended && !ReferenceEquals(work.Index, index));
            if (stale || (again && work!.Ended))
                Begin(index, words);
            return (work!.State, work.Progress, result);
        }
    }

    /// <summary>Stops what is going on; what was known before stays.</summary>
    public void Stop()
    {
        lock (gate)
            work?.Stop();
    }

    private void Begin(TriggerIndex index, WordList words)
    {
        work?.Stop();
        var (mine, before) = (new Work(index, words), result);
        work = mine;
        _ = Task.Run(() => Do(mine, before));
    }

    private void Do(Work mine, Result before)
    {
        using var _ = mine;
        var began = clock.GetTimestamp();
        try
        {
            var overlaps = before.Overlaps.Follow(mine.Index, mine.Part(0, 0.4), mine.Cancellation);
            var known = ReferenceEquals(before.Words, mine.Words) ? before.Judged : [];
            var judged = Judge(mine, known);
            lock (gate)
            {
                mine.Finish(BoardState.Ready);
                if (ReferenceEquals(work, mine))
                    result = new Result(mine.Index, mine.Words, overlaps, judged);
            }
            watched.Did(clock.GetUtcNow(), clock.GetElapsedTime(began));
        }
        catch (OperationCanceledException)
        {
            // Somebody stopped it, or the words are others now; what was known before still stands.
            mine.Finish(BoardState.Stopped);
        }
        catch (Exception exception)
        {
            mine.Finish(BoardState.Failed);
            watched.Failed($"It broke off ({exception.GetType().Name}). Look at the safety view again.");
            log.LogError(
                "Working out overlaps and forecasts failed with {Fault} {Place}",
                exception.GetType().Name,
                exception.StackTrace
            );
        }
    }

    private static Dictionary<Rules, Judgement> Judge(Work mine, Dictionary<Rules, Judgement> known)
    {
        var judged = new Dictionary<Rules, Judgement>();
        var open = new List<PlacedSnippet>();
        foreach (var trigger in mine.Index.All)
        {
            if (!trigger.Placed.Active || trigger.Rules is null || judged.ContainsKey(Rules.Of(trigger)))
                continue;
            if (known.TryGetValue(Rules.Of(trigger), out var before))
            {
                judged[Rules.Of(trigger)] = before;
                continue;
            }
            judged[Rules.Of(trigger)] = Judgement.Open;
            open.Add(
                trigger.Placed with
                {
                    Id = open.Count,
                    Snippet = trigger.Placed.Snippet with { Triggers = new([trigger.Trigger]) },
                }
            );
        }
        foreach (var forecast in Forecast.Of(TriggerIndex.Of(open), mine.Words, mine.Part(0.4, 1), mine.Cancellation))
            judged[Rules.Of(forecast.Trigger)] = new Judgement(forecast.Per10kWords, forecast.Words);
        return judged;
    }

    /// <summary>All that a forecast depends on.</summary>
    internal readonly record struct Rules(Trigger Trigger, ClosingKeys ClosingKeys)
    {
        public static Rules Of(ActiveTrigger trigger) => new(trigger.Trigger, trigger.ClosingKeys);
    }

    internal sealed record Judgement(double Per10kWords, IReadOnlyList<MisfireWord> Words)
    {
        public static Judgement Open { get; } = new(0, []);
    }

    /// <summary>What was worked out, and for which index and words.</summary>
    internal sealed record Result(
        TriggerIndex Index,
        WordList? Words,
        OverlapMap Overlaps,
        Dictionary<Rules, Judgement> Judged
    )
    {
        public static Result Nothing { get; } = new(TriggerIndex.Empty, null, OverlapMap.Empty, []);

        /// <summary>The forecasts of the active triggers, the worst first.</summary>
        public IEnumerable<MisfireForecast> Forecasts =>
            Index
                .All.Where(trigger => trigger.Placed.Active && trigger.Rules is not null)
                .Select(trigger => (Trigger: trigger, Judgement: Judged[Rules.Of(trigger)]))
                .Select(found => new MisfireForecast(found.Trigger, found.Judgement.Per10kWords, found.Judgement.Words))
                .OrderByDescending(forecast => forecast.Per10kWords)
                .ThenBy(forecast => forecast.Trigger.Placed.Rank);
    }

    /// <summary>One piece of work, for one index and one word list.</summary>
    private sealed class Work : IDisposable
    {
        private readonly CancellationTokenSource cancelling = new();
        private double progress;
        private int state = (int)BoardState.Working;

        public Work(TriggerIndex index, WordList words)
        {
            Index = index;
            Words = words;
            Cancellation = cancelling.Token;
        }

        public TriggerIndex Index { get; }

        public WordList Words { get; }

        /// <summary>Taken while its source is there: the token outlives it.</summary>
        public CancellationToken Cancellation { get; }

        public double Progress => Volatile.Read(ref progress);

        public BoardState State => (BoardState)Volatile.Read(ref state);

        public bool Ended => State != BoardState.Working;

        public void Finish(BoardState how) => Interlocked.CompareExchange(ref state, (int)how, (int)BoardState.Working);

        public void Stop()
        {
            Finish(BoardState.Stopped);
            try
            {
                cancelling.Cancel();
            }
            catch (ObjectDisposedException)
            {
                // It had ended already.
            }
        }

        public void Dispose() => cancelling.Dispose();

        public IProgress<double> Part(double from, double to) =>
            new ProgressTold(value => Volatile.Write(ref progress, from + value * (to - from)));
    }
}
