using System.Collections.Concurrent;
using System.Threading.Channels;
using DashSprout.Core.Engine;
using DashSprout.Core.Finding;
using DashSprout.Server.Behind;
using DashSprout.Server.Data;
using DashSprout.Store.Features;

namespace DashSprout.Server.Engine;

/// <summary>
/// Counts firings and take-backs per trigger. What was typed is not kept, and nobody who types waits for the disk.
/// </summary>
internal sealed class FiringLog : IHeldData, IWorksBehind
{
    /// <summary>More than come while a disk is full for a day; then the eldest are not counted.</summary>
    private const int MostWaiting = 100_000;

    private readonly SafetyStore store;
    private readonly TimeProvider clock;
    private readonly WorkBehind counting;
    private readonly Lock gate = new();
    private readonly Channel<FiringRecord> counts = Channel.CreateBounded<FiringRecord>(
        new BoundedChannelOptions(MostWaiting) { SingleReader = true, FullMode = BoundedChannelFullMode.DropOldest }
    );
    private List<FiringRecord> writing = [];

    private readonly ConcurrentDictionary<long, (int Fired, FadingUse Use)> uses = new();

    private long counted;

    public FiringLog(SafetyStore store, TimeProvider clock)
    {
        (this.store, this.clock) = (store, clock);
        counting = new WorkBehind(
            "The record of firings",
            "Counts on disk what went off and what was taken back; what was typed is not kept.",
            null,
            _ => Count()
        )
        {
            Last = Count,
        };
    }

    public IEnumerable<WorkBehind> Works => [counting];

    /// <summary>Counts on with each use, so that one can see whether there were any since.</summary>
    public long Uses => Volatile.Read(ref counted);

    public void Open()
    {
        uses.Clear();
        foreach (var (id, fired, use) in store.Uses())
            uses[id] = (fired, use);
    }

    public void Replace(Action replace)
    {
        lock (gate)
        {
            replace();
            Open();
        }
    }

    /// <summary>How often and when last a snippet went off; null when it never did.</summary>
    public (int Fired, DateTimeOffset LastAt)? Use(long snippetId) =>
        uses.TryGetValue(snippetId, out var known) ? (known.Fired, known.Use.LastAt) : null;

    /// <summary>How much a snippet is used now: often and lately counts most.</summary>
    public double Weight(long snippetId, DateTimeOffset now) =>
        uses.TryGetValue(snippetId, out var known) ? known.Use.At(now) : 0;

    public void Fired(ActiveTrigger trigger)
    {
        var now = clock.GetUtcNow();
        Interlocked.Increment(ref counted);
        uses.AddOrUpdate(trigger.Placed.Id, (1, new FadingUse(1, now)), (_, before) =>
            (before.Fired + 1, before.Use.Used(now))
        );
        Write(new FiringRecord(trigger.Placed.Id, trigger.Trigger.Text, 1, 0, now));
    }

    public void TakenBack(ActiveTrigger trigger) =>
        Write(new FiringRecord(trigger.Placed.Id, trigger.Trigger.Text, 0, 1, clock.GetUtcNow()));

    private void Write(FiringRecord count)
    {
        counts.Writer.TryWrite(count);
        counting.Ask();
    }

    private Task Count()
    {
        lock (gate)
        {
            while (writing.Count < MostWaiting && counts.Reader.TryRead(out var count))
                writing.Add(count);
            if (writing.Count > 0)
                store.Count(writing);
            writing = [];
        }
        return Task.CompletedTask;
    }
}
