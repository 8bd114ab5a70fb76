using DashSprout.Server.Libraries;
using DashSprout.Server.Safety;
using DashSprout.Server.Settings;
using DashSprout.Server.Typing;
using DashSprout.Store;

namespace DashSprout.Server.Backups;

/// <summary>Puts a backup in the place of everything there is, and reads everything anew.</summary>
internal sealed class Restoring(
    BackupStore backups,
    ChangeLog log,
    Catalog catalog,
    EngineSwitch engineSwitch,
    FiringLog firings,
    Surroundings surroundings,
    WordLists lists,
    TimeProvider clock
)
{
    /// <summary>Restores a backup; what was there before is a backup of its own then.</summary>
    public Backup Restore(string name, string what)
    {
        Backup? before = null;
        catalog.Meanwhile(() =>
        {
            // Looked for first: a backup that is not there is no reason to make another one.
            backups.PathOf(name);
            before = backups.Make(BackupReason.BeforeRestore, clock.GetUtcNow());
            backups.Restore(name);
            log.Restored(what, before.Name, clock.GetUtcNow());
        });
        catalog.Open();
        engineSwitch.Open();
        firings.Open();
        surroundings.Open();
        lists.Open();
        return before!;
    }
}
