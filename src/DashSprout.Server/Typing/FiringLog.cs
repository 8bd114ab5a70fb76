using System.Collections.Concurrent;
using System.Threading.Channels;
using DashSprout.Core.Engine;
using DashSprout.Core.Finding;
using DashSprout.Store;

namespace DashSprout.Server.Typing;

/// <summary>
/// Counts firings and take-backs per trigger. What was typed is not kept, and nobody who types waits for the disk.
/// </summary>
internal sealed class FiringLog(SafetyStore store, TimeProvider clock, ILogger<FiringLog> log) : BackgroundService
{
    private readonly Channel<FiringRecord> counts = Channel.CreateUnbounded<FiringRecord>(
        new UnboundedChannelOptions { SingleReader = true }
    );

    private readonly ConcurrentDictionary<long, (int Fired, FadingUse Use)> uses = new();

    private long counted;

    /// <summary>Counts on with each use, so that one can see whether there were any since.</summary>
    public long Uses => Volatile.Read(ref counted);

    public void Open()
    {
        uses.Clear();
        foreach (var (id, fired, use) in store.Uses())
            uses[id] = (fired, use);
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
        counts.Writer.TryWrite(new FiringRecord(trigger.Placed.Id, trigger.Trigger.Text, 1, 0, now));
    }

    public void TakenBack(ActiveTrigger trigger) =>
        counts.Writer.TryWrite(new FiringRecord(trigger.Placed.Id, trigger.Trigger.Text, 0, 1, clock.GetUtcNow()));

    public override Task StopAsync(CancellationToken cancellationToken)
    {
        // What is counted already is written before the program ends.
        counts.Writer.TryComplete();
        return ExecuteTask ?? Task.CompletedTask;
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (await counts.Reader.WaitToReadAsync(CancellationToken.None))
        {
            var some = new List<FiringRecord>();
            while (counts.Reader.TryRead(out var count))
                some.Add(count);
            try
            {
                store.Count(some);
            }
            catch (Microsoft.Data.Sqlite.SqliteException exception)
            {
                log.LogError(exception, "Counting firings failed; {Count} are lost", some.Count);
            }
        }
    }
}
