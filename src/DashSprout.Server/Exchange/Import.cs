using DashSprout.Core;

namespace DashSprout.Server.Exchange;

/// <summary>How far looking at a file has come.</summary>
internal enum ImportState
{
    Working,
    Ready,
    Stopped,
    Failed,
}

/// <summary>A file on the desk.</summary>
internal sealed class Import(
    string id,
    string name,
    long opened,
    Func<ImportOptions, CancellationToken, Task<ImportContents>> read
)
{
    public string Id { get; } = id;

    public string Name { get; } = name;

    public long Opened { get; } = opened;

    public Func<ImportOptions, CancellationToken, Task<ImportContents>> Read { get; } = read;

    public CancellationTokenSource? Work { get; set; }

    public ImportState State { get; set; }

    public double Progress { get; set; }

    public string? Problem { get; set; }

    public required ImportOptions Options { get; set; }

    public ImportTable? Table { get; set; }

    public ImportContents? Contents { get; set; }

    public ImportPreview? Preview { get; set; }

    /// <summary>Stops looking at it; it stays, and what was read of it can be brought in.</summary>
    public void Stop()
    {
        Work?.Cancel();
        if (State == ImportState.Working)
            State = ImportState.Stopped;
    }

    public ImportAnswer Answer() =>
        new(
            Id,
            Name,
            Wording.Of(State),
            Math.Round(Progress, 3),
            Problem,
            Options,
            Table,
            State == ImportState.Ready ? Preview : null
        );
}
