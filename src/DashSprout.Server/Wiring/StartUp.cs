using DashSprout.Core.Libraries;
using DashSprout.Server.Data;
using DashSprout.Server.Demo;
using DashSprout.Server.Hosting;
using DashSprout.Server.Libraries;
using DashSprout.Server.Typing;
using DashSprout.Store.Data;
using DashSprout.Store.Files;
using DashSprout.Store.Items;
using Microsoft.AspNetCore.SignalR;
using Microsoft.Data.Sqlite;

namespace DashSprout.Server.Wiring;

/// <summary>Opens the data and makes everything ready before the first request.</summary>
internal static class StartUp
{
    /// <summary>What the program ends with when it cannot start; the reason is on the error stream, in words.</summary>
    public const int CannotStart = 2;

    private const string FirstLibrary = "My snippets";

    /// <summary>Throws <see cref="UnusableDataException"/> when the data folder cannot be used.</summary>
    public static async Task Open(IServiceProvider services, StartOptions options)
    {
        T Get<T>()
            where T : notnull => services.GetRequiredService<T>();
        var folder = Get<DataFolder>();
        try
        {
            var libraryService = Get<LibraryService>();
            Read(libraryService, folder, Get<TimeProvider>());
            Get<DataSession>().Open();
            LinkReferences(libraryService);
            if (options.Demo)
                await DemoData.LoadOnce(libraryService, Get<SettingStore>(), Get<MediaStore>());
            // The place for the first snippet is there.
            else if (libraryService.Tree.Count == 0 && folder.IsNew)
                libraryService.Do((now, id) => Commands.AddLibrary(now, id, FirstLibrary));
            var hub = Get<IHubContext<TypingHub>>();
            libraryService.Changed += () => _ = hub.Clients.All.SendAsync("changed");
        }
        catch (Exception exception) when (StorageFault.Words(exception, folder.Path) is not null)
        {
            throw new UnusableDataException(
                $"The data in {folder.Path} cannot be opened. {StorageFault.Words(exception, folder.Path)}",
                exception
            );
        }
    }

    /// <summary>Reads everything while the file is looked through; from a damaged one nothing is taken.</summary>
    private static void Read(LibraryService libraryService, DataFolder folder, TimeProvider clock)
    {
        try
        {
            libraryService.Open();
        }
        catch (SqliteException exception) when (StorageFault.IsDamage(exception))
        {
            // Looking through the file says the same; then it is set aside.
            if (!folder.TurnedOutDamaged(clock.GetUtcNow()))
                throw;
            libraryService.Open();
            return;
        }
        if (folder.TurnedOutDamaged(clock.GetUtcNow()))
            libraryService.Open();
    }

    /// <summary>
    /// References that an older program kept as paths become identities, so that renaming breaks them no more.
    /// </summary>
    private static void LinkReferences(LibraryService libraryService)
    {
        var now = libraryService.Tree;
        var linked = now
            .Snippets.Select(item => (Old: item, New: now.Inward(item.Snippet)))
            .Where(pair => !ReferenceEquals(pair.Old.Snippet.Body, pair.New.Body))
            .Select(pair => new ItemChange(
                pair.Old,
                pair.Old with
                {
                    Snippet = pair.New,
                    Version = pair.Old.Version + 1,
                }
            ))
            .ToList();
        if (linked.Count > 0)
            libraryService.Do((_, _) => new Change("Linked snippets that put in others", linked));
    }
}
