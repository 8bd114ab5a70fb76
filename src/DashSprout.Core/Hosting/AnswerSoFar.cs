using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;

namespace DashSprout.Core.Hosting;

/// <summary>
/// What a host has come to while it answers one event; nothing is allocated until there is something to be done.
/// </summary>
internal struct AnswerSoFar
{
    private static readonly IReadOnlyList<DeliveryStep> NoSteps = [];
    private static readonly IReadOnlyList<Ended> NothingEnded = [];

    private List<DeliveryStep>? steps;
    private List<Ended>? ended;
    private int safeSteps;
    private int safeEnded;

    /// <summary>What is to be carried out.</summary>
    public readonly IReadOnlyList<DeliveryStep> Steps => steps ?? NoSteps;

    /// <summary>The firings that have come to their end.</summary>
    public readonly IReadOnlyList<Ended> Ended => ended ?? NothingEnded;

    /// <summary>Why something was not put in, in words for the user; null when nothing went wrong.</summary>
    public string? Problem { get; set; }

    /// <summary>What was done and why; null while nobody looks.</summary>
    public TraceEntry? Trace { get; set; }

    public void Add(DeliveryStep step) => (steps ??= []).Add(step);

    public void Add(Ended one) => (ended ??= []).Add(one);

    /// <summary>A reason more.</summary>
    public void Because(string reason, ActiveTrigger? trigger)
    {
        if (Trace is { } said)
            Trace = said with { Reasons = [.. said.Reasons, new TraceReason(reason, trigger)] };
    }

    /// <summary>What has been decided so far stays, whatever happens to what comes behind.</summary>
    public void Keep() => (safeSteps, safeEnded) = (steps?.Count ?? 0, ended?.Count ?? 0);

    /// <summary>Forgets what came after the last <see cref="Keep"/>.</summary>
    public readonly void GoBack()
    {
        steps?.RemoveRange(safeSteps, steps.Count - safeSteps);
        ended?.RemoveRange(safeEnded, ended.Count - safeEnded);
    }
}
