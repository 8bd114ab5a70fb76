using DashSprout.Core.Libraries;
using DashSprout.Store.Items;

namespace DashSprout.Server.Libraries;

/// <summary>
/// The libraries in use. A change is tried on the tree and its index first, then goes to disk, then holds for
/// whoever types. Changes are made one at a time; readers take the snapshot that holds now and never wait.
/// </summary>
internal sealed class LibraryService(ItemStore items, ChangeLog log, TimeProvider clock)
{
    private readonly Lock gate = new();
    private volatile LibrarySnapshot snapshot = LibrarySnapshot.Empty;
    private long nextId = 1;

    public LibrarySnapshot Snapshot => snapshot;

    public LibraryTree Tree => snapshot.Tree;

    /// <summary>The first id that was never used, as it is now.</summary>
    public long NextId
    {
        get
        {
            lock (gate)
                return nextId;
        }
    }

    /// <summary>What stands in the store and cannot be used.</summary>
    public IReadOnlyList<SetAsideItem> SetAside { get; private set; } = [];

    /// <summary>Told after each change, on the thread that made it.</summary>
    public event Action? Changed;

    /// <summary>Told after a change that brought snippets in which the search may not have seen yet.</summary>
    public event Action? CameIn;

    /// <summary>Reads everything; to be called at the start.</summary>
    public void Open()
    {
        lock (gate)
            Read();
        Changed?.Invoke();
    }

    /// <summary>
    /// Puts another store in the place of this one while nobody can make a change, and reads it. Nothing is planned on
    /// what was and written into what is, and ids go on where they were.
    /// </summary>
    /// <param name="replace">Is told the first id that was never used.</param>
    public void Replace(Action<long> replace)
    {
        lock (gate)
        {
            replace(nextId);
            Read();
        }
    }

    /// <summary>Tells that everything has become another one.</summary>
    public void TellReplaced()
    {
        Changed?.Invoke();
        CameIn?.Invoke();
    }

    /// <summary>Makes a change and gives it back; one that changes nothing is not written.</summary>
    /// <param name="command">Says what is to change, from the tree that holds now and the first free id.</param>
    /// <param name="fromFile">Whether the user brought it from elsewhere, so that what it opens is shown first.</param>
    public Change Do(Func<LibraryTree, long, Change> command, bool fromFile = false) =>
        Do((now, id) => (command(now, id), null), fromFile, out _);

    /// <summary>The same, for whoever must know whether anything else was done since.</summary>
    /// <param name="command">The change, and what is to be on disk together with it, or when it changes nothing.</param>
    /// <param name="after">What there was right after it.</param>
    public Change Do(
        Func<LibraryTree, long, (Change Change, Alongside? Alongside)> command,
        bool fromFile,
        out LibraryTree after
    )
    {
        Change change;
        lock (gate)
        {
            (change, var alongside) = command(snapshot.Tree, nextId);
            after = snapshot.Tree;
            if (change.Items.Count == 0)
            {
                if (alongside is not null)
                    log.Make(alongside);
                return change;
            }
            var next = snapshot.With(change);
            log.Make(change, fromFile, clock.GetUtcNow(), alongside);
            Publish(next, change);
            after = next.Tree;
        }
        Tell(change);
        return change;
    }

    /// <summary>Says whether a change could be made, by throwing what making it would throw.</summary>
    public void Try(Func<LibraryTree, long, Change> command)
    {
        lock (gate)
            snapshot.Tree.With(command(snapshot.Tree, nextId));
    }

    /// <summary>
    /// Undoes a change, or does it again; throws <see cref="ConflictException"/> with the reason when that cannot be.
    /// </summary>
    public void SetUndone(long id, bool undone)
    {
        Change turned;
        lock (gate)
        {
            var (logged, change) = log.Find(id);
            if (logged.Undone == undone)
                throw new ConflictException(undone ? "This is undone already." : "This is done already.");
            turned = change.On(snapshot.Tree, undone, item => items.Fetch(item.Id));
            var next = snapshot.With(turned);
            log.SetUndone(id, turned, undone, clock.GetUtcNow());
            Publish(next, turned);
        }
        Tell(turned);
    }

    /// <summary>Brings something back from the bin to where it was.</summary>
    public void Restore(long id) =>
        Do(
            (now, _) =>
            {
                var back = items.Fetch(id) ?? throw new MissingItemException(id, "item in the bin");
                if (back.After!.Slot.Parent != Slot.Root && now.Find(back.After.Slot.Parent) is null)
                    throw new ConflictException(
                        $"What the {back.After.Title} lay in is in the bin itself. Bring that back first."
                    );
                return new Change($"Brought the {back.After.Title} back from the bin", back);
            }
        );

    private void Read()
    {
        var loaded = items.Load();
        (var tree, SetAside) = loaded.ToTree();
        nextId = Math.Max(nextId, loaded.NextId);
        snapshot = LibrarySnapshot.Of(tree);
    }

    private void Tell(Change change)
    {
        Changed?.Invoke();
        if (change.Items.Count(item => item.Before is null) > 1 || change.Items.Any(item => item.Below.Count > 0))
            CameIn?.Invoke();
    }

    private void Publish(LibrarySnapshot next, Change change)
    {
        nextId = Math.Max(nextId, change.Items.Select(item => item.HighestId).DefaultIfEmpty(0).Max() + 1);
        snapshot = next;
    }
}
