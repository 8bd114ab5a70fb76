namespace DashSprout.Server.Safety;

/// <summary>A text to replay.</summary>
public sealed record ReplayRequest(string Text, string? App = null);

/// <summary>What would have gone off in a text, by trigger.</summary>
public sealed record ReplayAnswer(int Words, int Places, IReadOnlyList<ReplayGroup> Groups);

/// <summary>All places of one trigger; at most 100 are shown.</summary>
/// <param name="Forecast">What is forecast for ordinary text; null for what has no forecast.</param>
public sealed record ReplayGroup(
    TriggerName Trigger,
    int Count,
    double Per10kWords,
    double? Forecast,
    IReadOnlyList<ReplayPlace> Places
);

/// <summary>A place with what stands around it; the offset counts graphemes.</summary>
public sealed record ReplayPlace(int Offset, string Before, string Match, string After);
