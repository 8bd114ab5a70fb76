using DashSprout.Core.Libraries;
using DashSprout.Store;

namespace DashSprout.Server.Libraries;

/// <summary>When each item was saved last, read when somebody wants to know and kept until something changes.</summary>
internal sealed class ChangeTimes(ItemStore items)
{
    private volatile Known? last;

    public IReadOnlyDictionary<long, DateTimeOffset> Of(Catalogue now)
    {
        if (last is { } known && ReferenceEquals(known.Of, now))
            return known.Times;
        var times = items.SavedAt();
        last = new Known(now, times);
        return times;
    }

    /// <summary>Both together, so that no reader sees the one without the other.</summary>
    private sealed record Known(Catalogue Of, IReadOnlyDictionary<long, DateTimeOffset> Times);
}
