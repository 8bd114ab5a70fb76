using DashSprout.Core;
using DashSprout.Store.Data;

namespace DashSprout.Server.Behind;

/// <summary>
/// Runs everything that runs behind, and knows how it stands. Nothing that goes wrong there ends the program or ends
/// in silence.
/// </summary>
internal sealed class Supervisor(
    IEnumerable<IWorksBehind> workers,
    DataFolder folder,
    TimeProvider clock,
    ILogger<Supervisor> log
) : BackgroundService
{
    private readonly IReadOnlyList<WorkBehind> works = [.. workers.SelectMany(worker => worker.Works)];

    public IReadOnlyList<WorkBehind> Works => works;

    /// <summary>What the user should know of it.</summary>
    public IEnumerable<string> Notices => works.Select(work => work.Notice).OfType<string>();

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        // Starting comes first.
        await Task.Yield();
        await Task.WhenAll(works.Select(work => work.Run(clock, log, folder.Path, stoppingToken)));
    }
}

/// <summary>A piece of work that runs behind.</summary>
/// <param name="State"><c>waiting</c>, <c>working</c> or <c>failing</c>.</param>
/// <param name="LastAt">When it last did its work; null when it has not yet.</param>
/// <param name="TookMs">How long that took, in milliseconds.</param>
/// <param name="Fault">Why it failed last, and what to do; null when it did not.</param>
/// <param name="NextAt">When it is tried again after it failed.</param>
public sealed record WorkAnswer(
    string Name,
    string What,
    string State,
    DateTimeOffset? LastAt,
    double TookMs,
    int Failures,
    string? Fault,
    DateTimeOffset? NextAt
);

internal static class BehindEndpoints
{
    public static void MapBehind(this IEndpointRouteBuilder api) =>
        api.MapGet("/behind", (Supervisor supervisor) => supervisor
                .Works.Select(work =>
                {
                    var report = work.Report;
                    return new WorkAnswer(
                        work.Name,
                        work.What,
                        Wording.Of(report.State),
                        report.LastAt,
                        report.Took.TotalMilliseconds,
                        report.Failures,
                        report.Fault,
                        report.NextAt
                    );
                })
                .ToArray());
}

internal static class WorkServices
{
    /// <summary>Lets the supervisor run the work of something that is a service already.</summary>
    public static void AddWorkBehind<T>(this IServiceCollection services)
        where T : class, IWorksBehind => services.AddSingleton<IWorksBehind>(all => all.GetRequiredService<T>());
}
