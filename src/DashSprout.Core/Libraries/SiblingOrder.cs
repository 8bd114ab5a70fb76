namespace DashSprout.Core.Libraries;

/// <summary>
/// The order of what lies side by side: folders come before snippets, then positions count, then ids.
/// </summary>
internal sealed class SiblingOrder : IComparer<Item>
{
    public int Compare(Item? x, Item? y)
    {
        var order = x!.Kind.CompareTo(y!.Kind);
        if (order == 0)
            order = x.Slot.Position.CompareTo(y.Slot.Position);
        return order == 0 ? x.Id.CompareTo(y.Id) : order;
    }

    public bool IsKept(List<Item> items)
    {
        for (var at = 1; at < items.Count; at++)
            if (Compare(items[at - 1], items[at]) > 0)
                return false;
        return true;
    }
}
