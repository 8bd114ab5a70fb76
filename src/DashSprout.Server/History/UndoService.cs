using DashSprout.Server.Data;
using DashSprout.Server.Libraries;
using DashSprout.Store.Items;

namespace DashSprout.Server.History;

/// <summary>Undoes changes and does them again; a restored backup is undone by the backup made before it.</summary>
internal sealed class UndoService(LibraryService libraryService, DataSession session)
{
    public UndoAnswer SetUndone(LoggedChange change, bool undone)
    {
        if (change.Backup is { } backup)
            session.Restore(backup, $"Undone: {change.What}");
        else
            libraryService.SetUndone(change.Id, undone);
        return new UndoAnswer(change.What);
    }
}
