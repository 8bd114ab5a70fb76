namespace DashSprout.Core.Libraries;

/// <summary>
/// Where things of one kind stand side by side. Positions have gaps: what is put between two others leaves those as
/// they are, until there is no room left and all are placed anew.
/// </summary>
internal static class Arranging
{
    /// <summary>
    /// Puts items among others and gives back all whose position is another one then, the new ones among them. The list
    /// holds them afterwards.
    /// </summary>
    /// <param name="at">The place of the first.</param>
    public static IReadOnlyList<Item> Insert(List<Item> beside, int at, IReadOnlyList<Item> items, long parent)
    {
        var above = at > 0 ? beside[at - 1].Slot.Position : (long?)null;
        var below = at < beside.Count ? beside[at].Slot.Position : (long?)null;
        beside.InsertRange(at, items);
        if (Room(above, below, items.Count) is var (first, step))
        {
            for (var place = 0; place < items.Count; place++)
                beside[at + place] = items[place] with { Slot = new Slot(parent, first + place * step) };
            return beside.GetRange(at, items.Count);
        }
        var changed = new List<Item>();
        for (var place = 0; place < beside.Count; place++)
        {
            var item = beside[place];
            var placed = item with { Slot = new Slot(parent, (place + 1) * Slot.Step) };
            var stays = placed.Slot == item.Slot && (place < at || place >= at + items.Count);
            if (stays)
                continue;
            beside[place] = placed;
            changed.Add(placed);
        }
        return changed;
    }

    /// <summary>The first position and the step for some items between two; null when there is no room.</summary>
    private static (long First, long Step)? Room(long? above, long? below, int count)
    {
        if (below is null)
            return ((above ?? 0) + Slot.Step, Slot.Step);
        if (above is null)
            return (below.Value - count * Slot.Step, Slot.Step);
        var step = (below.Value - above.Value) / (count + 1);
        return step >= 1 ? (above.Value + step, step) : null;
    }
}
