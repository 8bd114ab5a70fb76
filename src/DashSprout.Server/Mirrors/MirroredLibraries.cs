using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;
using DashSprout.Exchange.Pages;
using DashSprout.Server.Behind;
using DashSprout.Server.Data;
using DashSprout.Server.Hosting;
using DashSprout.Server.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Features;
using DashSprout.Store.Items;

namespace DashSprout.Server.Mirrors;

/// <summary>
/// The mirrored libraries. A little after something changed here, and when a file changed there, both meet; a folder is
/// also looked at every other second, since not every disk tells of its changes.
/// </summary>
internal sealed class MirroredLibraries : IHeldData, IWorksBehind, IDisposable
{
    private static readonly TimeSpan Round = TimeSpan.FromSeconds(2),
        Settling = TimeSpan.FromMilliseconds(300);

    private readonly LibraryService libraryService;
    private readonly MirrorStore store;
    private readonly MediaStore media;
    private readonly DataFolder data;
    private readonly TimeProvider clock;
    private readonly WorkBehind plan;
    private readonly Lock gate = new();
    private readonly Dictionary<string, MirrorFolder> folders = [];
    private readonly Dictionary<string, FileSystemWatcher> watchers = [];
    private List<MirroredLibrary>? mirrored;
    private LibraryTree? pocketOf;

    public MirroredLibraries(
        LibraryService libraryService,
        MirrorStore store,
        MediaStore media,
        DataFolder data,
        TimeProvider clock
    )
    {
        (this.libraryService, this.store, this.media, this.data, this.clock) = (
            libraryService,
            store,
            media,
            data,
            clock
        );
        plan = new WorkBehind(
            "Mirror folders",
            "Brings in what other machines have changed, and writes what has changed here.",
            Round,
            _ =>
            {
                SyncAll();
                return Task.CompletedTask;
            }
        )
        {
            Settling = Settling,
        };
        libraryService.Changed += plan.Ask;
        Works = [plan];
    }

    public IEnumerable<WorkBehind> Works { get; }

    public void Open() { }

    /// <summary>
    /// What is known of the folders stays as it was, so that going back is a change like any other, and is not undone
    /// by what the folders have.
    /// </summary>
    public void Replace(Action replace)
    {
        lock (gate)
        {
            // What was not looked at yet is read while it is still there.
            var before = All().ToList();
            foreach (var mirror in before)
                mirror.Look();
            replace();
            foreach (
                var record in store
                    .All()
                    .Where(record => before.All(mirror => mirror.Record.LibraryId != record.LibraryId))
            )
                store.Forget(record.LibraryId);
            mirrored = [.. before.Where(mirror => libraryService.Tree.Find(mirror.Record.LibraryId) is LibraryItem)];
            foreach (var mirror in mirrored)
                mirror.KeepAgain();
        }
    }

    /// <summary>What should be said of all of them together; null when all is well.</summary>
    public string? Notice()
    {
        lock (gate)
        {
            var undecided = All().Sum(mirror => mirror.Record.Undecided.Count);
            var faults = All().Count(mirror => mirror.Condition == MirrorCondition.Fault);
            return undecided > 0
                    ? $"{undecided} {(undecided == 1 ? "part was" : "parts were")} changed on two machines at "
                        + "once: choose what is to hold, under Settings, Mirror folders."
                : faults > 0 ? "A mirror folder cannot be used as it is: see Settings, Mirror folders."
                : null;
        }
    }

    public IReadOnlyList<MirrorAnswer> Answers()
    {
        lock (gate)
            return [.. All().Select(Answer)];
    }

    /// <summary>What lies in a folder.</summary>
    public MirrorLookAnswer Look(string path)
    {
        lock (gate)
        {
            var folder = Checked(path);
            var files = folder.Files(MirroredLibrary.NewKey);
            var taken = All().Select(mirror => mirror.Record.Key).ToHashSet();
            var found = files
                .Where(file => file.Contents is { } contents && (contents.Key is null || !taken.Contains(contents.Key)))
                .Select(file =>
                {
                    var library = file.Contents!.State.Library;
                    return new FoundLibrary(
                        file.Name,
                        library.Root.Name,
                        library.Entries.Count(entry => entry is SharedSnippet),
                        Named(library.Root.Name)?.Id
                    );
                });
            return new MirrorLookAnswer(
                folder.Path,
                [.. found],
                [.. files.Select(file => file.Problem).OfType<string>()]
            );
        }
    }

    /// <summary>Begins to mirror libraries, and meets their files.</summary>
    public void Add(NewMirrors wanted)
    {
        lock (gate)
        {
            var folder = Checked(wanted.Folder);
            if (folder.Fault() is { } fault)
                throw new InvalidInputException("folder", fault);
            if (wanted.LibraryIds.Count + wanted.Files.Count == 0)
                throw new InvalidInputException("libraryIds", "Nothing is chosen. Choose at least one library.");
            var files = folder.Files(MirroredLibrary.NewKey);
            foreach (var file in wanted.Files)
                Join(folder, files.FirstOrDefault(one => one.Name == file), file, wanted.Pocket);
            foreach (var id in wanted.LibraryIds)
            {
                var library = libraryService.Tree.Get<LibraryItem>(id);
                if (All().Any(mirror => mirror.Record.LibraryId == id))
                    continue;
                var same = files.FirstOrDefault(file =>
                    file.Contents is { } contents
                    && contents.State.Library.Root.Name.Equals(library.Name, StringComparison.OrdinalIgnoreCase)
                    && All().All(mirror => mirror.Record.Key != contents.Key)
                );
                Begin(
                    new MirrorRecord(
                        id,
                        folder.Path,
                        same?.Name ?? folder.FreeName(library.Name),
                        same?.Contents?.Key ?? MirroredLibrary.NewKey(),
                        wanted.Pocket,
                        [],
                        []
                    ),
                    folder
                );
            }
            WritePocket(always: true);
        }
    }

    /// <summary>Stops mirroring a library; its file stays.</summary>
    public void Remove(long libraryId)
    {
        lock (gate)
        {
            var mirror = Get(libraryId);
            store.Forget(libraryId);
            All().Remove(mirror);
        }
    }

    public void Decide(long libraryId, MirrorDecision decision)
    {
        lock (gate)
            Get(libraryId)
                .Decide(new MirrorConflict(decision.Key, decision.Part, decision.Source), decision.Seen, decision.Keep);
    }

    public void WriteAnew(long libraryId)
    {
        lock (gate)
            Get(libraryId).WriteAnew();
    }

    /// <summary>
    /// Chooses whether the pocket file is written beside a library's file; all of its folder have one.
    /// </summary>
    public void Choose(long libraryId, MirrorChange change)
    {
        lock (gate)
        {
            var folder = Get(libraryId).Record.Folder;
            foreach (var mirror in All().Where(mirror => mirror.Record.Folder == folder))
                mirror.Choose(change);
            WritePocket(always: true);
        }
    }

    /// <summary>Meets all files at once.</summary>
    public void SyncAll(bool always = false)
    {
        lock (gate)
        {
            foreach (var mirror in All())
            {
                mirror.Sync(always);
                Watch(mirror.Record.Folder);
            }
            WritePocket(always);
        }
    }

    public void Dispose()
    {
        libraryService.Changed -= plan.Ask;
        foreach (var watcher in watchers.Values)
            watcher.Dispose();
    }

    private List<MirroredLibrary> All() =>
        mirrored ??= [.. store.All().Select(record => Of(record, Folder(record.Folder)))];

    private MirroredLibrary Of(MirrorRecord record, MirrorFolder folder) =>
        new(record, folder, libraryService, store, media, data, clock);

    private MirrorFolder Folder(string path) =>
        folders.TryGetValue(path, out var folder)
            ? folder
            : folders[path] = new MirrorFolder(path, () => data.Machine.Id);

    private MirroredLibrary Get(long libraryId) =>
        All().FirstOrDefault(mirror => mirror.Record.LibraryId == libraryId)
        ?? throw new MissingItemException(libraryId, "mirrored library");

    private void Begin(MirrorRecord record, MirrorFolder folder)
    {
        store.Keep(record);
        var mirror = Of(record, folder);
        All().Add(mirror);
        mirror.Sync(always: true);
        Watch(folder.Path);
    }

    private void Join(MirrorFolder folder, FolderFile? file, string name, bool pocket)
    {
        if (file?.Contents is not { } contents)
            throw new InvalidInputException(
                "files",
                file?.Problem ?? $"There is no file “{name}” in the folder any more. Look into it again."
            );
        if (contents.Key is { } known && All().Any(mirror => mirror.Record.Key == known))
            return;
        var root = contents.State.Library.Root;
        var here = Named(root.Name)?.Id
            ?? libraryService
                .Do(
                    (now, id) =>
                        new Change(
                            $"Added the library “{root.Name}” from its mirror folder",
                            new ItemChange(
                                null,
                                new LibraryItem(
                                    id,
                                    ((LibraryItem)Commands.AddLibrary(now, id, root.Name).Items[0].After!).Slot,
                                    root.Name,
                                    root.Enabled,
                                    root.Rules
                                )
                            )
                        ),
                    fromFile: true
                )
                .Items[0]
                .Id;
        Begin(
            new MirrorRecord(here, folder.Path, file.Name, contents.Key ?? MirroredLibrary.NewKey(), pocket, [], []),
            folder
        );
    }

    /// <summary>The library of a name that is not mirrored yet.</summary>
    private LibraryItem? Named(string name) =>
        libraryService.Tree.Libraries.FirstOrDefault(library =>
            library.Name.Equals(name, StringComparison.OrdinalIgnoreCase)
            && All().All(mirror => mirror.Record.LibraryId != library.Id)
        );

    /// <summary>
    /// Writes the pocket file of the libraries that lie in a folder, where it is wanted and they have changed.
    /// </summary>
    private void WritePocket(bool always)
    {
        if (!always && ReferenceEquals(pocketOf, libraryService.Tree))
            return;
        var left = false;
        foreach (var place in All().Where(mirror => mirror.Record.Pocket).GroupBy(mirror => mirror.Record.Folder))
        {
            var ids = place.Select(mirror => mirror.Record.LibraryId).ToHashSet();
            var folder = Folder(place.Key);
            if (!folder.IsThere)
                continue;
            try
            {
                folder.WriteChanged(
                    MirrorFolder.PocketName,
                    PocketFile.Write(
                        LibraryValues.Of(libraryService.Tree, library => library.Enabled && ids.Contains(library.Id))
                    )
                );
            }
            catch (Exception exception) when (exception is IOException or UnauthorizedAccessException)
            {
                // The libraries of this folder say what is wrong with it; the pocket file follows when it is right
                // again. Other folders get theirs.
                left = true;
            }
        }
        pocketOf = left ? null : libraryService.Tree;
    }

    private void Watch(string path)
    {
        if (watchers.ContainsKey(path) || !Directory.Exists(path))
            return;
        try
        {
            var watcher = new FileSystemWatcher(path, "*.json")
            {
                NotifyFilter = NotifyFilters.LastWrite | NotifyFilters.FileName | NotifyFilters.Size,
            };
            watcher.Changed += (_, _) => plan.Ask();
            watcher.Created += (_, _) => plan.Ask();
            watcher.Renamed += (_, _) => plan.Ask();
            watcher.Deleted += (_, _) => plan.Ask();
            watcher.EnableRaisingEvents = true;
            watchers[path] = watcher;
        }
        catch (IOException)
        {
            // This disk, or this system, tells of no changes: the folder is looked at every other second all the same.
        }
    }

    private MirrorFolder Checked(string path)
    {
        path = NamedFolder.Read("folder", path);
        if ($"{path}/".StartsWith($"{data.Path}/", StringComparison.Ordinal))
            throw new InvalidInputException(
                "folder",
                "This is where the program keeps its own data. Choose another folder."
            );
        return Folder(path);
    }

    private MirrorAnswer Answer(MirroredLibrary mirror)
    {
        var record = mirror.Record;
        var name = (libraryService.Tree.Find(record.LibraryId) as LibraryItem)?.Name
            ?? Path.GetFileNameWithoutExtension(record.File);
        return new MirrorAnswer(
            record.LibraryId,
            name,
            record.Folder,
            record.File,
            record.Pocket,
            Wording.Of(mirror.Condition),
            mirror.Words,
            mirror.Unreadable,
            [
                .. mirror
                    .Undecided()
                    .Select(found =>
                        MirrorWords.Of(found.Conflict, found.Here, found.There, mirror.IdOf(found.Conflict.Key))
                    ),
            ],
            [.. mirror.Notes]
        );
    }
}
