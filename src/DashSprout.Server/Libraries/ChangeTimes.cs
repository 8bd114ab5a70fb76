using DashSprout.Core.Libraries;
using DashSprout.Store.Items;

namespace DashSprout.Server.Libraries;

/// <summary>When each item was saved last, read when somebody wants to know and kept until something changes.</summary>
internal sealed class ChangeTimes(ItemStore items)
{
    private volatile ReadTimes? last;

    public IReadOnlyDictionary<long, DateTimeOffset> Of(LibraryTree now)
    {
        if (last is { } read && ReferenceEquals(read.Of, now))
            return read.Times;
        var times = items.SavedAt();
        last = new ReadTimes(now, times);
        return times;
    }

    /// <summary>Both together, so that no reader sees the one without the other.</summary>
    private sealed record ReadTimes(LibraryTree Of, IReadOnlyDictionary<long, DateTimeOffset> Times);
}
