using DashSprout.Server.Behind;
using Microsoft.Extensions.Logging.Abstractions;
using Microsoft.Extensions.Time.Testing;

namespace DashSprout.Server.Tests;

/// <summary>Work behind goes on whatever happens in it, and says how it stands.</summary>
public sealed class WorkBehindTests
{
    private readonly FakeTimeProvider clock = new();

    [Fact]
    public async Task A_round_that_throws_is_tried_again_after_pauses_that_grow_and_told_in_words()
    {
        var rounds = 0;
        var faults = 4;
        using var tried = new SemaphoreSlim(0);
        using var stopping = new CancellationTokenSource();
        var work = new WorkBehind("The tide table", "Counts the tides.", null, _ =>
        {
            rounds++;
            tried.Release();
            return rounds <= faults ? throw new NotImplementedException("what somebody typed") : Task.CompletedTask;
        });
        var running = work.Run(clock, NullLogger.Instance, "/data", stopping.Token);
        foreach (var pause in (int[])[1, 2, 4, 8])
        {
            await tried.WaitAsync(Patience.Token);
            await Until(() => work.Report.State == WorkState.Failing && work.Report.NextAt is not null);
            // Time goes on by ticks while the round is waited for (Pass), so that it may have failed some ticks ago.
            var next = clock.GetUtcNow().AddSeconds(pause);
            Assert.InRange(work.Report.NextAt!.Value, next.AddMilliseconds(-10), next);
            // Whoever asks meanwhile waits for the pause too.
            work.Ask();
            Assert.Equal(work.Report.Failures >= 3, work.Notice is not null);
            await Pass(TimeSpan.FromSeconds(pause), () => tried.CurrentCount > 0);
        }
        Assert.DoesNotContain("typed", work.Report.Fault, StringComparison.Ordinal);
        await tried.WaitAsync(Patience.Token);
        await Until(() => work.Report is { State: WorkState.Waiting, Failures: 0, LastAt: not null });
        Assert.Null(work.Notice);
        await stopping.CancelAsync();
        await running;
    }

    [Fact]
    public async Task Many_who_ask_at_once_get_one_round_and_no_two_rounds_run_at_once()
    {
        var (rounds, inside, most) = (0, 0, 0);
        using var may = new SemaphoreSlim(0);
        using var stopping = new CancellationTokenSource();
        var work = new WorkBehind("The tide table", "Counts the tides.", null, async _ =>
        {
            most = Math.Max(most, Interlocked.Increment(ref inside));
            await may.WaitAsync(Patience.Token);
            Interlocked.Decrement(ref inside);
            Interlocked.Increment(ref rounds);
        });
        var running = work.Run(clock, NullLogger.Instance, "/data", stopping.Token);
        await Until(() => work.Report.State == WorkState.Working);
        await Task.WhenAll(Enumerable.Range(0, 50).Select(_ => Task.Run(work.Ask)));
        may.Release(2);
        await Until(() => rounds == 2 && work.Report.State == WorkState.Waiting);
        Assert.Equal((2, 1), (rounds, most));
        await stopping.CancelAsync();
        await running;
    }

    [Fact]
    public async Task It_comes_round_by_itself_and_once_more_at_the_end()
    {
        var (rounds, last) = (0, 0);
        using var stopping = new CancellationTokenSource();
        var work = new WorkBehind("The tide table", "Counts the tides.", TimeSpan.FromHours(1), _ =>
        {
            rounds++;
            return Task.CompletedTask;
        })
        {
            Last = () =>
            {
                last++;
                return Task.CompletedTask;
            },
        };
        var running = work.Run(clock, NullLogger.Instance, "/data", stopping.Token);
        await Until(() => rounds == 1 && work.Report.State == WorkState.Waiting);
        clock.Advance(TimeSpan.FromHours(1));
        await Until(() => rounds == 2 && work.Report.State == WorkState.Waiting);
        await stopping.CancelAsync();
        await running;
        Assert.Equal((2, 1), (rounds, last));
    }

    /// <summary>Lets time pass until something has come of it: a timer may be set a moment later than it is due.</summary>
    private async Task Pass(TimeSpan time, Func<bool> come)
    {
        clock.Advance(time);
        await Until(() =>
        {
            if (!come())
                clock.Advance(TimeSpan.FromTicks(1));
            return come();
        });
    }

    private static Task Until(Func<bool> holds) => Patience.Until(holds);
}
