using System.Threading.Channels;
using DashSprout.Core.Engine;
using DashSprout.Store;

namespace DashSprout.Server.Typing;

/// <summary>
/// Counts firings and take-backs per trigger. What was typed is not kept, and nobody who types waits for the disk.
/// </summary>
internal sealed class FiringLog(SafetyStore store, TimeProvider clock, ILogger<FiringLog> log) : BackgroundService
{
    private readonly Channel<FiringRecord> counts = Channel.CreateUnbounded<FiringRecord>(new UnboundedChannelOptions { SingleReader = true });

    public void Fired(ActiveTrigger trigger) => counts.Writer.TryWrite(new FiringRecord(trigger.Placed.Id, trigger.Trigger.Text, 1, 0, clock.GetUtcNow()));

    public void TakenBack(ActiveTrigger trigger) => counts.Writer.TryWrite(new FiringRecord(trigger.Placed.Id, trigger.Trigger.Text, 0, 1, clock.GetUtcNow()));

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
            while (counts.Reader.TryRead(out var count)) some.Add(count);
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
