using System.Security.Cryptography;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;
using DashSprout.Server.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Features;
using DashSprout.Store.Files;
using DashSprout.Store.Items;

namespace DashSprout.Server.Mirrors;

/// <summary>
/// One library and its file: reads what others changed, writes what changed here. Used by one thread at a time.
/// </summary>
internal sealed class MirroredLibrary(
    MirrorRecord record,
    MirrorFolder folder,
    LibraryService libraryService,
    MirrorStore store,
    MediaStore media,
    DataFolder data,
    TimeProvider clock
)
{
    private const int MostNotes = 20;

    private readonly List<string> notes = [];
    private IReadOnlyList<MirrorState>? known;
    private OwnName? name;
    private Dictionary<long, string>? keys;
    private bool keysChanged;
    private bool awaitsPictures;
    private (LibraryTree? Tree, string Files) met = (null, "");
    private IReadOnlyList<FolderFile> files = [];

    public MirrorRecord Record { get; private set; } = record;

    public MirrorCondition Condition { get; private set; }

    public string Words { get; private set; } = "";

    /// <summary>Whether its file cannot be read.</summary>
    public bool Unreadable { get; private set; }

    public IReadOnlyList<string> Notes => notes;

    /// <summary>Meets the folder, unless nothing has changed on either side since the last time.</summary>
    public void Sync(bool always = false)
    {
        try
        {
            SyncOnce(always);
        }
        catch (Exception exception) when (exception is IOException or UnauthorizedAccessException)
        {
            Say(
                MirrorCondition.Fault,
                folder.Fault() ?? $"The folder {folder.Path} cannot be used: {exception.Message}"
            );
        }
        catch (Exception exception)
            when (exception is InvalidInputException or ConflictException or MissingItemException)
        {
            Say(MirrorCondition.Fault, $"What the folder has cannot be taken in: {exception.Message}");
        }
    }

    /// <summary>What is undecided, with what both sides have.</summary>
    public IEnumerable<(MirrorConflict Conflict, SharedLibrary Here, MirrorState There)> Undecided()
    {
        if (Record.Undecided.Count == 0 || Shared() is not { } here)
            yield break;
        foreach (var conflict in Record.Undecided)
            if (Theirs(conflict.Source) is { } there)
                yield return (conflict, here, there);
    }

    /// <summary>The item of a key; null when there is none.</summary>
    public long? IdOf(string key) =>
        Keys().FirstOrDefault(pair => pair.Value == key) is { Key: > 0 and var id }
        && libraryService.Tree.Find(id) is not null
            ? id
            : null;

    /// <summary>Decides a conflict.</summary>
    public void Decide(MirrorConflict conflict, string seen, string keep)
    {
        if (
            !Record.Undecided.Contains(conflict)
            || Theirs(conflict.Source) is not var (states, theirs)
            || states.ToString() != seen
        )
            throw new ConflictException("This is decided already, or the other side has changed it. Look at it again.");
        if (keep is not ("here" or "there" or "both"))
            throw new InvalidInputException("keep", $"“{keep}” is not known here. Use one of: here, there, both.");
        if (keep == "both")
            AddTheirs(conflict, theirs);
        if (keep == "there")
            Change((here, _) => LibraryMerge.Take(here, theirs, conflict));
        Record = Record with
        {
            Undecided = [.. Record.Undecided.Where(other => other != conflict)],
            Decided = keep == "there" ? Record.Decided : [.. Record.Decided, new MirrorVerdict(conflict, seen)],
        };
        store.Keep(Record);
        Sync(always: true);
    }

    /// <summary>Sets the file that cannot be read aside, and writes what is here.</summary>
    public void WriteAnew()
    {
        if (!Unreadable)
            throw new ConflictException("The file can be read. Nothing was done.");
        Note($"The file that could not be read is kept as {folder.SetAside(Record.File, data, clock.GetUtcNow())}.");
        Sync(always: true);
    }

    /// <summary>Keeps in the store what is known, which has become another one.</summary>
    public void KeepAgain()
    {
        met = (null, "");
        store.Forget(Record.LibraryId);
        store.Keep(Record, Keys(), [], known ?? []);
    }

    /// <summary>Reads what the store knows of it.</summary>
    public void Look()
    {
        Keys();
        known ??= store.States(Record.LibraryId);
        name ??= OwnName.Of(data.Machine.Id, known);
    }

    public void Choose(MirrorChange change)
    {
        Record = Record with { Pocket = change.Pocket };
        store.Keep(Record);
    }

    private void SyncOnce(bool always)
    {
        if (libraryService.Tree.Find(Record.LibraryId) is not LibraryItem)
        {
            Say(MirrorCondition.Waiting, "The library is in the bin. Its file stays as it is.");
            return;
        }
        if (!folder.IsThere)
        {
            met = (null, "");
            Say(
                MirrorCondition.Waiting,
                $"The folder {folder.Path} is not there. What changes here goes there when it is back."
            );
            return;
        }
        files = folder.Files(NewKey);
        var seen = string.Join('\n', files.Select(file => $"{file.Name} {file.Stamp}"));
        if (!always && !awaitsPictures && ReferenceEquals(met.Tree, libraryService.Tree) && met.Files == seen)
            return;
        if (Found() is not { } found)
            return;
        Unreadable = false;
        var merged = files;
        var (plan, after) = Bring(found);
        Write(plan, found.Count == 0);
        files = folder.Files(NewKey);
        Unsettled(plan, found);
        // Something that came while this was done was not looked at yet: it is met the next time.
        met = files.All(file =>
            merged.Any(one => one.Name == file.Name && one.Stamp == file.Stamp) || folder.Wrote(file)
        )
            ? (after, string.Join('\n', files.Select(file => $"{file.Name} {file.Stamp}")))
            : (null, "");
    }

    /// <summary>The file and copies of it; null when the file cannot be used, which is said.</summary>
    private IReadOnlyList<FoundMirror>? Found()
    {
        var own = files.Where(file => file.Contents?.Key == Record.Key).ToList();
        // A copy with marks in it is nobody's copy: it stays until somebody has mended it.
        foreach (var marked in own.Where(file => file.Name != Record.File && file.Contents!.Other is not null).ToList())
        {
            own.Remove(marked);
            Note($"The copy “{marked.Name}” has the conflict marks of a version control. Mend it, or take it away.");
        }
        var named = files.FirstOrDefault(file => file.Name == Record.File);
        if (named is { Tangled: true })
        {
            // Whatever another machine has that is not in the file it writes again when it meets a file that lacks it.
            Note(
                $"A version control has mixed both sides of “{Record.File}” so that neither can be read. It "
                    + "is written anew; as it was it is kept as "
                    + $"{folder.SetAside(Record.File, data, clock.GetUtcNow())}."
            );
            named = null;
        }
        if (named?.Problem is { } problem)
        {
            Unreadable = true;
            Say(MirrorCondition.Fault, problem);
            return null;
        }
        if (named is not null && named.Contents?.Key is { } other && other != Record.Key && own.Count == 0)
        {
            Say(
                MirrorCondition.Fault,
                $"“{Record.File}” holds another library now. Move it away, or stop mirroring this library."
            );
            return null;
        }
        // A file by the right name is it; otherwise somebody gave it another name.
        var proper =
            named is not null && (named.Contents?.Key is null || named.Contents.Key == Record.Key)
                ? named
                : own.FirstOrDefault();
        if (proper is not null && proper.Name != Record.File)
        {
            Note($"“{Record.File}” is called “{proper.Name}” now.");
            Record = Record with { File = proper.Name };
        }
        return proper?.Contents is not { } contents
            ? []
            :
            [
                new FoundMirror("", contents.State, contents.Other),
                .. own.Where(file => file != proper).Select(file => new FoundMirror(file.Name, file.Contents!.State)),
            ];
    }

    /// <summary>Merges what was found with what is here, and makes it so here.</summary>
    /// <returns>What came of it, and the tree right after.</returns>
    private (SyncPlan Plan, LibraryTree After) Bring(IReadOnlyList<FoundMirror> found)
    {
        Look();
        var (kept, before) = (known!, name!);
        // Another library may have found meanwhile that there is a copy of this machine.
        var machine =
            before.Machine != data.Machine.Id ? data.Machine.Id
            : before.HasCopy(kept, found) ? MachineIdentity.NewId()
            : before.Machine;
        var own = machine == before.Machine ? kept : before.Parted(kept, found, machine);
        SyncPlan? plan = null;
        IReadOnlyList<MirrorState> states = [];
        var record = Record;
        TakePictures(found);
        try
        {
            libraryService.Do(
                (now, nextId) =>
                {
                    var library = now.Get<LibraryItem>(Record.LibraryId);
                    var mine = SharedMapping.Of(now, library, KeyOf);
                    // A file that is gone is as it was known last.
                    var there =
                        found.Count > 0
                            ? found
                            :
                            [
                                new FoundMirror(
                                    "",
                                    own.MaxBy(state => state.States.Sum)
                                        ?? new MirrorState(MachineStates.None, mine.Outward())
                                ),
                            ];
                    plan = SyncPlan.Of(
                        machine,
                        own,
                        there,
                        mine,
                        Record.Undecided.ToHashSet(),
                        Record.Decided,
                        CopyName(),
                        MachineIdentity.NewId()
                    );
                    foreach (var (id, key) in Keys().ToList())
                        if (plan.Keys.TryGetValue(key, out var other))
                            SetKey(id, other);
                    var idOf = now.Within(library).Skip(1).ToDictionary(item => KeyOf(item.Id), item => item.Id);
                    var (change, added) = SharedMapping.Change(now, library, plan.Here, idOf, nextId);
                    foreach (var (key, id) in added)
                        SetKey(id, key);
                    states = SyncPlan.Remember(own, plan);
                    record = Settled(plan);
                    return (change, store.Keeping(record, keysChanged ? Keys() : null, kept, states));
                },
                fromFile: true,
                out var after
            );
            foreach (var note in plan!.Notes)
                Note(note);
            (Record, known, keysChanged) = (record, states, false);
            if (machine != data.Machine.Id)
                data.Machine.Take(machine);
            if (machine != before.Machine)
                name = OwnName.Of(machine, states);
            return (plan, after);
        }
        catch
        {
            // Nothing of it was kept: what was kept before is read again.
            (keys, known, keysChanged) = (null, null, false);
            throw;
        }
    }

    /// <summary>What is known of the mirror after a sync.</summary>
    private MirrorRecord Settled(SyncPlan plan) =>
        Record with
        {
            Undecided = plan.Conflicts,
            Decided =
            [
                .. Record.Decided.Where(verdict =>
                    verdict.Conflict.Source.Length > 0 && !plan.Done.Contains(verdict.Conflict.Source)
                ),
            ],
        };

    /// <summary>
    /// Takes the pictures that are not here yet; those that whatever carries the folder brings later are looked for
    /// until they are there.
    /// </summary>
    private void TakePictures(IReadOnlyList<FoundMirror> found)
    {
        var missing = found
            .SelectMany(file => file.State.Library.Entries)
            .OfType<SharedSnippet>()
            .SelectMany(entry => entry.Snippet.Bodies)
            .SelectMany(PictureData.In)
            .Distinct()
            .Where(id => media.Get(id) is null)
            .ToList();
        var come = missing.Select(folder.Picture).OfType<PictureData>().ToList();
        if (come.Count > 0)
            media.Add(come);
        awaitsPictures = come.Count < missing.Count;
        if (awaitsPictures)
            Note("A picture has not come yet, or is not in the folder.");
    }

    /// <summary>
    /// Writes what the file is to hold. What both sides know then is on disk already, so that a machine that is killed in
    /// between knows its own hand in what it finds.
    /// </summary>
    private void Write(SyncPlan plan, bool gone)
    {
        if ((plan.Write ?? (gone ? plan.Learned[^1] : null)) is { } write)
        {
            foreach (
                var id in write
                    .Library.Entries.OfType<SharedSnippet>()
                    .SelectMany(entry => entry.Snippet.Bodies)
                    .SelectMany(PictureData.In)
                    .Distinct()
            )
                if (media.Get(id) is { } picture)
                    folder.WritePicture(picture);
            // The other side of a conflict is safe before the file loses it.
            if (plan.Beside is { } beside)
                folder.Write(beside.Name, Record.Key, beside.State);
            folder.Write(Record.File, Record.Key, write);
        }
        foreach (var copy in plan.Done)
        {
            folder.Delete(copy);
            Note($"What the copy “{copy}” had is in the library now; the copy is gone.");
        }
    }

    private void Unsettled(SyncPlan plan, IReadOnlyList<FoundMirror> found)
    {
        if (plan.Conflicts.Count > 0)
            Say(
                MirrorCondition.Undecided,
                plan.Conflicts.Count == 1
                    ? "One part was changed on two machines at once. Choose what is to hold."
                    : $"{plan.Conflicts.Count} parts were changed on two machines at once. Choose what is to hold."
            );
        else
            Say(MirrorCondition.InStep, "");
        if (found is [{ Other: not null }, ..])
            Note(
                "The file had the conflict marks of a version control. Both sides were merged, and the marks are gone."
            );
    }

    private void AddTheirs(MirrorConflict conflict, SharedLibrary theirs)
    {
        if (
            theirs.Entries.FirstOrDefault(entry => entry.Key == conflict.Key) is not SharedSnippet snippet
            || IdOf(conflict.Key) is not { } id
        )
            throw new InvalidInputException("keep", "Only of a snippet both can be kept. Choose one of the two.");
        libraryService.Do(
            (now, nextId) =>
            {
                var item = now.Get<SnippetItem>(id);
                // It is what they have, whole and where they have it; since it answers to the same keys, it is off.
                var copy = snippet.Snippet.WithBodies(body =>
                    References.Rewrite(body, target =>
                        target.StartsWith('/') && IdOf(target[1..]) is { } other ? References.To(other) : target
                    )
                );
                var place = snippet.Parent == SharedLibrary.Top ? Record.LibraryId : IdOf(snippet.Parent);
                return Commands.AddSnippets(now, nextId, place ?? item.Slot.Parent, [copy with { Enabled = false }]);
            },
            fromFile: true
        );
    }

    private void Change(Func<SharedLibrary, LibraryTree, SharedLibrary> wanted) =>
        libraryService.Do(
            (now, nextId) =>
            {
                var library = now.Get<LibraryItem>(Record.LibraryId);
                var here = SharedMapping.Of(now, library, KeyOf);
                return SharedMapping
                    .Change(
                        now,
                        library,
                        wanted(here, now),
                        now.Within(library).Skip(1).ToDictionary(item => KeyOf(item.Id), item => item.Id),
                        nextId
                    )
                    .Change;
            },
            fromFile: true
        );

    private SharedLibrary? Shared() =>
        libraryService.Tree.Find(Record.LibraryId) is LibraryItem library
            ? SharedMapping.Of(libraryService.Tree, library, KeyOf)
            : null;

    private MirrorState? Theirs(string source) =>
        files.FirstOrDefault(file => file.Name == (source.Length == 0 ? Record.File : source))?.Contents?.State;

    private Dictionary<long, string> Keys() => keys ??= new(store.Keys(Record.LibraryId));

    private string KeyOf(long id)
    {
        if (!Keys().TryGetValue(id, out var key))
            SetKey(id, key = NewKey());
        return key;
    }

    private void SetKey(long id, string key)
    {
        Keys()[id] = key;
        keysChanged = true;
    }

    private string CopyName()
    {
        // Two machines never make the same file.
        var stem = $"{Path.GetFileNameWithoutExtension(Record.File)} (other side {data.Machine.Id[..6]}";
        return Enumerable
            .Range(1, int.MaxValue)
            .Select(number => number == 1 ? $"{stem}).json" : $"{stem} {number}).json")
            .First(name => files.All(file => !file.Name.Equals(name, StringComparison.OrdinalIgnoreCase)));
    }

    internal static string NewKey() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(6));

    private void Say(MirrorCondition condition, string words) => (Condition, Words) = (condition, words);

    private void Note(string note)
    {
        if (notes.LastOrDefault() == note)
            return;
        notes.Add(note);
        if (notes.Count > MostNotes)
            notes.RemoveAt(0);
    }
}
