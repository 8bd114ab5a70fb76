using DashSprout.Server.Data;
using DashSprout.Server.Libraries;
using DashSprout.Store.Items;

namespace DashSprout.Server.History;

/// <summary>Undoes changes and does them again; a restored backup is undone by the backup made before it.</summary>
internal sealed class Turning(Catalog catalog, DataSession session)
{
    public Turned Turn(LoggedChange change, bool back)
    {
        if (change.Backup is { } backup)
            session.Restore(backup, $"Undone: {change.What}");
        else
            catalog.Turn(change.Id, back);
        return new Turned(change.What);
    }
}
