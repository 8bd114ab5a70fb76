using DashSprout.Core.Libraries;
using DashSprout.Store;

namespace DashSprout.Server.Libraries;

/// <summary>When each item was saved last, read when somebody wants to know and kept until something changes.</summary>
internal sealed class ChangeTimes(ItemStore items)
{
    private (Catalogue? Of, IReadOnlyDictionary<long, DateTimeOffset> Times) known = (
        null,
        new Dictionary<long, DateTimeOffset>()
    );

    public IReadOnlyDictionary<long, DateTimeOffset> Of(Catalogue now)
    {
        var (of, times) = known;
        if (ReferenceEquals(of, now))
            return times;
        known = (now, times = items.SavedAt());
        return times;
    }
}
