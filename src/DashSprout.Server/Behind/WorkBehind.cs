using System.Threading.Channels;
using DashSprout.Store.Files;

namespace DashSprout.Server.Behind;

/// <summary>How a piece of work stands.</summary>
internal enum WorkState
{
    /// <summary>It waits for its time, or to be asked.</summary>
    Waiting,

    /// <summary>It is at work.</summary>
    Working,

    /// <summary>It failed last time and is tried again.</summary>
    Failing,
}

/// <summary>How a piece of work stands, for a person.</summary>
/// <param name="LastAt">When it last did its work; null when it has not yet.</param>
/// <param name="Failures">How often it has failed in a row.</param>
/// <param name="Fault">Why it failed last, and what to do; null when it did not.</param>
/// <param name="NextAt">When it is tried again after it failed.</param>
internal sealed record WorkReport(
    WorkState State,
    DateTimeOffset? LastAt,
    TimeSpan Took,
    int Failures,
    string? Fault,
    DateTimeOffset? NextAt
);

/// <summary>
/// A piece of work that runs behind: in rounds, at its times and when it is asked. Whatever goes wrong in a round ends
/// neither the work nor the program: the round is tried again after a pause that grows, and the reason is kept in
/// words. One round runs at a time.
/// </summary>
/// <param name="name">What a person calls it.</param>
/// <param name="what">What it does, in a sentence.</param>
/// <param name="every">How often it has a round without being asked; null for never.</param>
/// <param name="round">A round; null for work that somebody waits for and that begins when they ask: that one says
/// itself how it went (<see cref="Did"/>, <see cref="Failed"/>).</param>
internal sealed class WorkBehind(string name, string what, TimeSpan? every, Func<CancellationToken, Task>? round)
{
    /// <summary>So many failures in a row are said to the user.</summary>
    private const int Told = 3;

    private static readonly TimeSpan FirstPause = TimeSpan.FromSeconds(1),
        LongestPause = TimeSpan.FromMinutes(10);

    private readonly Channel<bool> asked = Channel.CreateBounded<bool>(
        new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite }
    );
    private readonly Lock gate = new();
    private WorkReport report = new(WorkState.Waiting, null, TimeSpan.Zero, 0, null, null);

    public string Name => name;

    public string What => what;

    /// <summary>How long it waits for more to come after it was asked.</summary>
    public TimeSpan Settling { get; init; }

    /// <summary>What is to be done once more when the program ends.</summary>
    public Func<Task>? Last { get; init; }

    public WorkReport Report
    {
        get
        {
            lock (gate)
                return report;
        }
    }

    /// <summary>What is to be said to the user; null while all is well, or may be well again soon.</summary>
    public string? Notice =>
        Report is { Failures: >= Told, Fault: { } fault } now
            ? $"{name} failed {now.Failures} times in a row and is tried again: {fault}"
            : null;

    /// <summary>Asks for a round as soon as it can be; many who ask at once get one.</summary>
    public void Ask() => asked.Writer.TryWrite(true);

    /// <summary>Runs rounds until the program ends, the first at once. Never throws.</summary>
    public async Task Run(TimeProvider clock, ILogger log, string folder, CancellationToken stopping)
    {
        if (round is null)
            return;
        Ask();
        await using var timer = every is { } period ? clock.CreateTimer(_ => Ask(), null, period, period) : null;
        try
        {
            while (!stopping.IsCancellationRequested)
            {
                if (Report.NextAt is { } next && next - clock.GetUtcNow() is { Ticks: > 0 } pause)
                    await Task.Delay(pause, clock, stopping);
                else
                    await asked.Reader.ReadAsync(stopping);
                if (Settling > TimeSpan.Zero)
                    await Task.Delay(Settling, clock, stopping);
                // Those who asked meanwhile get this round.
                asked.Reader.TryRead(out _);
                await Guarded(round, clock, log, folder, stopping);
            }
        }
        catch (OperationCanceledException)
        {
            // The program ends.
        }
        if (Last is { } last)
            await Guarded(_ => last(), clock, log, folder, CancellationToken.None);
    }

    /// <summary>Work that was asked for has been done.</summary>
    public void Did(DateTimeOffset at, TimeSpan took) =>
        Say(_ => new WorkReport(WorkState.Waiting, at, took, 0, null, null));

    /// <summary>Work that was asked for went wrong.</summary>
    public void Failed(string fault) =>
        Say(now => now with { State = WorkState.Failing, Failures = now.Failures + 1, Fault = fault });

    private async Task Guarded(
        Func<CancellationToken, Task> work,
        TimeProvider clock,
        ILogger log,
        string folder,
        CancellationToken stopping
    )
    {
        var began = clock.GetTimestamp();
        Say(now => now with { State = WorkState.Working });
        try
        {
            await Task.Run(() => work(stopping), CancellationToken.None);
            Say(_ => new WorkReport(WorkState.Waiting, clock.GetUtcNow(), clock.GetElapsedTime(began), 0, null, null));
        }
        catch (OperationCanceledException) when (stopping.IsCancellationRequested)
        {
            Say(now => now with { State = WorkState.Waiting });
        }
        catch (Exception exception)
        {
            var pause = FirstPause * Math.Pow(2, Math.Min(Report.Failures, 20));
            Say(now =>
                now with
                {
                    State = WorkState.Failing,
                    Failures = now.Failures + 1,
                    Fault = Words(exception, folder),
                    NextAt = clock.GetUtcNow() + (pause < LongestPause ? pause : LongestPause),
                }
            );
            // Neither texts nor names of the user's are in what is logged.
            log.LogError("{Work} failed with {Fault} {Place}", name, exception.GetType().Name, exception.StackTrace);
        }
    }

    private static string Words(Exception exception, string folder) =>
        StorageFault.Words(exception, folder)
        ?? $"Something went wrong that nobody expected ({exception.GetType().Name}). Restart the program; if it comes "
            + "back, tell whoever looks after the program what stands here.";

    private void Say(Func<WorkReport, WorkReport> next)
    {
        lock (gate)
            report = next(report);
    }
}

/// <summary>Something that has work to do behind.</summary>
internal interface IWorksBehind
{
    IEnumerable<WorkBehind> Works { get; }
}
