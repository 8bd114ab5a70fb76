using System.Collections.Concurrent;
using DashSprout.Core.Hosting;
using DashSprout.Core.Savings;
using DashSprout.Server.Behind;
using DashSprout.Server.Data;
using DashSprout.Server.Settings;
using DashSprout.Store.Features;

namespace DashSprout.Server.Savings;

/// <summary>
/// Counts what firings save, and how fast is typed. Nobody who types waits for the disk, and no text is kept.
/// </summary>
internal sealed class SavingsLog : IHeldData, IWorksBehind
{
    private const int MostWaiting = 100_000;

    private static readonly TimeSpan Round = TimeSpan.FromSeconds(20);

    private readonly SavingsStore store;
    private readonly RenderContextSource contexts;
    private readonly ConcurrentQueue<SavingsCount> counts = new();
    private readonly Lock gate = new();
    private (IReadOnlyList<SavingsCount> Counts, TypingPace Pace)? deleted;

    public SavingsLog(SavingsStore store, RenderContextSource contexts)
    {
        (this.store, this.contexts) = (store, contexts);
        Works =
        [
            new WorkBehind("Savings", "Adds up by day what firings save, and how fast is typed.", Round, _ => Written())
            {
                Last = Written,
            },
        ];
    }

    public IEnumerable<WorkBehind> Works { get; }

    /// <summary>Hears when characters are typed.</summary>
    public PaceMeter Pace { get; } = new();

    private DateOnly Today => contexts.Now().Now.Date.ToDateOnly();

    /// <summary>Counts a firing that has come to its end.</summary>
    public void Count(Ended ended)
    {
        // What was taken back saved nothing after all.
        var (saving, sign) = ended is { Outcome: Outcome.TakenBack, Undone: { } undone }
            ? (Saving.Of(undone), -1)
            : (Saving.Of(ended), 1);
        if (ended.Outcome is not (Outcome.Inserted or Outcome.TakenBack))
            return;
        if (counts.Count >= MostWaiting)
            counts.TryDequeue(out _);
        counts.Enqueue(
            new SavingsCount(
                Today,
                ended.Firing.Trigger.Placed.Id,
                ended.App,
                sign > 0 ? 1 : 0,
                sign > 0 ? 0 : 1,
                sign * saving.Keys,
                sign * saving.Characters,
                sign * saving.Fields
            )
        );
    }

    /// <summary>All counts and the pace, those included that are not on disk yet.</summary>
    public (IReadOnlyList<SavingsCount> Counts, TypingPace Pace) All()
    {
        Write();
        return (store.All(), store.Pace());
    }

    /// <summary>
    /// Deletes everything that was counted; <see cref="Restore"/> brings it back until the program ends.
    /// </summary>
    public void Delete()
    {
        Write();
        lock (gate)
            deleted = store.Delete();
    }

    /// <summary>Brings back what was deleted last.</summary>
    public void Restore()
    {
        lock (gate)
        {
            if (deleted is not { } gone)
                return;
            store.Add(gone.Counts, Today, gone.Pace);
            deleted = null;
        }
    }

    public void Open() { }

    public void Replace(Action replace)
    {
        lock (gate)
        {
            replace();
            deleted = null;
        }
    }

    private Task Written()
    {
        Write();
        return Task.CompletedTask;
    }

    private void Write()
    {
        lock (gate)
        {
            var some = counts.ToList();
            var pace = Pace.Take();
            if (some.Count == 0 && pace.Keys == 0)
                return;
            try
            {
                store.Add([.. some.GroupBy(count => (count.Day, count.SnippetId, count.App)).Select(Sum)], Today, pace);
            }
            catch
            {
                Pace.Add(pace);
                throw;
            }
            for (var at = 0; at < some.Count; at++)
                counts.TryDequeue(out _);
        }
    }

    private static SavingsCount Sum(IGrouping<(DateOnly Day, long SnippetId, string App), SavingsCount> group) =>
        new(
            group.Key.Day,
            group.Key.SnippetId,
            group.Key.App,
            group.Sum(count => count.Expansions),
            group.Sum(count => count.TakenBack),
            group.Sum(count => count.Keys),
            group.Sum(count => count.Characters),
            group.Sum(count => count.Fields)
        );
}
