using DashSprout.Core.Libraries;
using DashSprout.Store;

namespace DashSprout.Server.Libraries;

/// <summary>
/// The libraries in use. A change is tried on the catalogue and its index first, then goes to disk, then holds for
/// whoever types. Changes are made one at a time; readers take the shelf that holds now and never wait.
/// </summary>
internal sealed class Catalog(ItemStore items, ChangeLog log, TimeProvider clock)
{
    private readonly Lock gate = new();
    private volatile Shelf shelf = Shelf.Empty;
    private long nextId = 1;

    public Shelf Shelf => shelf;

    public Catalogue Catalogue => shelf.Catalogue;

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

    /// <summary>Told when everything has been read anew.</summary>
    public event Action? Opened;

    /// <summary>Told after each change, on the thread that made it.</summary>
    public event Action? Changed;

    /// <summary>Told after a change that brought snippets in which the search may not have seen yet.</summary>
    public event Action? CameIn;

    /// <summary>Reads everything; to be called at the start, and when the whole store has become another one.</summary>
    public void Open()
    {
        lock (gate)
        {
            var loaded = items.Load();
            (var catalogue, SetAside) = loaded.ToCatalogue();
            nextId = loaded.NextId;
            shelf = Shelf.Of(catalogue);
        }
        Opened?.Invoke();
        Changed?.Invoke();
        CameIn?.Invoke();
    }

    /// <summary>Makes a change and gives it back; one that changes nothing is not written.</summary>
    /// <param name="command">Says what is to change, from the catalogue that holds now and the first free id.</param>
    /// <param name="fromFile">Whether the user brought it from elsewhere, so that what it opens is shown first.</param>
    public Change Do(Func<Catalogue, long, Change> command, bool fromFile = false)
    {
        Change change;
        lock (gate)
        {
            change = command(shelf.Catalogue, nextId);
            if (change.Items.Count == 0)
                return change;
            var next = shelf.With(change);
            log.Make(change, fromFile, clock.GetUtcNow());
            Publish(next, change);
        }
        Tell(change);
        return change;
    }

    /// <summary>Says whether a change could be made, by throwing what making it would throw.</summary>
    public void Try(Func<Catalogue, long, Change> command)
    {
        lock (gate)
            shelf.Catalogue.With(command(shelf.Catalogue, nextId));
    }

    /// <summary>
    /// Undoes a change, or does it again; throws <see cref="ConflictException"/> with the reason when that cannot be.
    /// </summary>
    public void Turn(long id, bool back)
    {
        Change turned;
        lock (gate)
        {
            var (logged, change) = log.Find(id);
            if (logged.Undone == back)
                throw new ConflictException(back ? "This is undone already." : "This is done already.");
            turned = change.On(shelf.Catalogue, back, item => items.Fetch(item.Id));
            var next = shelf.With(turned);
            log.Turn(id, turned, back, clock.GetUtcNow());
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
                if (back.After!.Slot.Parent != Slot.Shelf && now.Find(back.After.Slot.Parent) is null)
                    throw new ConflictException(
                        $"What the {back.After.Title} lay in is in the bin itself. Bring that back first."
                    );
                return new Change($"Brought the {back.After.Title} back from the bin", back);
            }
        );

    /// <summary>Does something while nobody can make a change.</summary>
    public void Meanwhile(Action work)
    {
        lock (gate)
            work();
    }

    private void Tell(Change change)
    {
        Changed?.Invoke();
        if (change.Items.Count(item => item.Before is null) > 1 || change.Items.Any(item => item.Below.Count > 0))
            CameIn?.Invoke();
    }

    private void Publish(Shelf next, Change change)
    {
        nextId =
            change.Items.SelectMany(item => item.Below.Append(item.After ?? item.Before!)).Max(item => item.Id + 1)
                is var highest
            && highest > nextId
                ? highest
                : nextId;
        shelf = next;
    }
}
