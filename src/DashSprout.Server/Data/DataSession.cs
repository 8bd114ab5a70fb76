using DashSprout.Server.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Items;

namespace DashSprout.Server.Data;

/// <summary>
/// Something that holds in memory what the data file holds, or writes into it what it knows from there.
/// </summary>
internal interface IHeldData
{
    /// <summary>Reads it; to be called at the start.</summary>
    void Open();

    /// <summary>
    /// Lets the data file become another one while nothing here is read from it or written into it, then reads anew.
    /// What the user has consented to holds as it held before.
    /// </summary>
    void Replace(Action replace);
}

/// <summary>
/// The one owner of what a restore replaces: the data file and everything held of it. All of it is opened, and replaced
/// by a backup, as one, in the order in which the program names it; the tree, which everything else goes by, is
/// the innermost.
/// </summary>
internal sealed class DataSession(
    BackupStore backups,
    LibraryService libraryService,
    IEnumerable<IHeldData> held,
    TimeProvider clock
)
{
    private readonly IReadOnlyList<IHeldData> all = [.. held];
    private readonly Lock gate = new();

    /// <summary>Reads everything but the tree, which is read before.</summary>
    public void Open()
    {
        foreach (var one in all)
            one.Open();
    }

    /// <summary>
    /// Puts a backup in the place of everything there is, and reads everything anew; what was there before is a backup
    /// of its own then, and is given back.
    /// </summary>
    public Backup Restore(string name, string what)
    {
        Backup? before = null;
        lock (gate)
        {
            // Looked for first: a backup that is not there is no reason to make another one.
            backups.PathOf(name);
            Action replace = () =>
                libraryService.Replace(nextId =>
                {
                    before = backups.Make(BackupReason.BeforeRestore, clock.GetUtcNow());
                    backups.Restore(name, nextId, file =>
                        ChangeLog.Restored(file, what, before.Name, clock.GetUtcNow())
                    );
                });
            foreach (var one in all.Reverse())
            {
                var inner = replace;
                replace = () => one.Replace(inner);
            }
            replace();
        }
        libraryService.TellReplaced();
        return before!;
    }
}

internal static class HeldDataServices
{
    /// <summary>Lets the data session open and replace something that is a service already.</summary>
    public static void AddHeldData<T>(this IServiceCollection services)
        where T : class, IHeldData => services.AddSingleton<IHeldData>(all => all.GetRequiredService<T>());
}
