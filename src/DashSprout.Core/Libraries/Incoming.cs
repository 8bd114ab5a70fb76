using DashSprout.Core.Bodies;

namespace DashSprout.Core.Libraries;

/// <summary>A snippet on its way in from a file.</summary>
/// <param name="Line">Where it stands in the file, from 1.</param>
/// <param name="Folders">The folders it is to lie in, the outermost first, below the place it is brought to.</param>
/// <param name="Parts">The parts of it that the file speaks of, by the names of <see cref="SnippetParts"/>; the others
/// stay where it changes one that is here.</param>
public sealed record IncomingSnippet(
    int Line,
    EquatableList<string> Folders,
    Snippet Snippet,
    EquatableList<string> Parts
);

/// <summary>What becomes of a snippet whose name is here already.</summary>
public enum SameName
{
    /// <summary>It changes the one that is here.</summary>
    Change,

    /// <summary>It is added with a number behind its name.</summary>
    Number,

    /// <summary>It is passed over.</summary>
    Leave,
}

/// <summary>What a snippet from a file comes to.</summary>
public enum IncomingFate
{
    /// <summary>It is added.</summary>
    Add,

    /// <summary>It changes one that is here.</summary>
    Change,

    /// <summary>The same is here already.</summary>
    Same,

    /// <summary>It is passed over, since its name is taken.</summary>
    Leave,
}

/// <summary>What becomes of a snippet from a file.</summary>
/// <param name="Name">The name it has then.</param>
public sealed record IncomingOutcome(IncomingSnippet Incoming, IncomingFate Fate, string Name);

/// <summary>
/// Brings snippets into a library or folder: the folders they name are made where they are not there.
/// </summary>
public static class Incoming
{
    /// <summary>The change that brings them in, and what becomes of each, in their order.</summary>
    /// <param name="nextId">The first id that was never used.</param>
    public static (Change Change, IReadOnlyList<IncomingOutcome> Outcomes) Bring(
        LibraryTree now,
        long nextId,
        long parent,
        IReadOnlyList<IncomingSnippet> incoming,
        SameName same
    )
    {
        var work = new Arriving(now, nextId, same);
        var outcomes = incoming.Select(one => work.Place(one, Commands.Holder(now, parent))).ToList();
        return (work.ToChange(), outcomes);
    }

    private sealed class Arriving(LibraryTree now, long nextId, SameName same)
    {
        private readonly Dictionary<(long Parent, string Name), FolderItem> folders = [];
        private readonly Dictionary<long, (Dictionary<string, SnippetItem?> Here, FreeNames Free)> names = [];
        private readonly Dictionary<(long Parent, ItemKind Kind), long> ends = [];
        private readonly List<Item> added = [];
        private readonly Dictionary<long, (SnippetItem Before, SnippetItem After)> changed = [];

        public IncomingOutcome Place(IncomingSnippet incoming, long parent)
        {
            foreach (var name in incoming.Folders)
                parent = FolderIn(parent, name);
            var (taken, free) = NamesIn(parent);
            var wanted = incoming.Snippet.Name;
            if (!taken.TryGetValue(wanted, out var here) || here is null || same == SameName.Number)
                return Add(incoming, parent, taken, free);
            // The next one of this name is another one.
            taken[wanted] = null;
            if (same == SameName.Leave)
                return new(incoming, IncomingFate.Leave, wanted);
            var next = here with { Snippet = now.Inward(Onto(here.Snippet, incoming)), Version = here.Version + 1 };
            if (next.Snippet == here.Snippet)
                return new(incoming, IncomingFate.Same, here.Name);
            Check(next);
            changed[here.Id] = (here, next);
            return new(incoming, IncomingFate.Change, here.Name);
        }

        public Change ToChange()
        {
            var byId = added.ToDictionary(item => item.Id);
            var below = added.Where(item => byId.ContainsKey(item.Slot.Parent)).ToLookup(item => Top(item));
            var snippets = added.Count(item => item is SnippetItem);
            var what = (snippets, changed.Count) switch
            {
                (0, var some) => some == 1 ? "Changed 1 snippet by a file" : $"Changed {some} snippets by a file",
                (var some, 0) => some == 1 ? "Brought in 1 snippet" : $"Brought in {some} snippets",
                var (came, turned) => $"Brought in {came} and changed {turned} snippets by a file",
            };
            return new Change(
                what,
                [
                    .. added
                        .Where(item => !byId.ContainsKey(item.Slot.Parent))
                        .Select(item => new ItemChange(null, item, new(below[item.Id]))),
                    .. changed.Values.Select(pair => new ItemChange(pair.Before, pair.After)),
                ]
            );

            long Top(Item item)
            {
                while (byId.TryGetValue(item.Slot.Parent, out var holder))
                    item = holder;
                return item.Id;
            }
        }

        private IncomingOutcome Add(
            IncomingSnippet incoming,
            long parent,
            Dictionary<string, SnippetItem?> taken,
            FreeNames free
        )
        {
            var name = free.Take(incoming.Snippet.Name);
            taken[name] = null;
            var item = new SnippetItem(
                nextId++,
                End(parent, ItemKind.Snippet),
                1,
                now.Inward(incoming.Snippet with { Name = name })
            );
            Check(item);
            added.Add(item);
            return new(incoming, IncomingFate.Add, name);
        }

        /// <summary>What refers to a snippet that is not here yet is kept, and told where it is read.</summary>
        private void Check(SnippetItem item)
        {
            if (item.Snippet.Bodies.Any(body => body is Body.Html))
                Commands.Check(now, item, missing: new Body.Plain(""));
        }

        private long FolderIn(long parent, string name)
        {
            if (folders.TryGetValue((parent, name.ToUpperInvariant()), out var known))
                return known.Id;
            var folder = now.Inside(parent)
                .OfType<FolderItem>()
                .FirstOrDefault(other => other.Name.Equals(name, StringComparison.OrdinalIgnoreCase));
            if (folder is null)
                added.Add(folder = new FolderItem(nextId++, End(parent, ItemKind.Folder), Names.Check("folder", name)));
            folders[(parent, name.ToUpperInvariant())] = folder;
            return folder.Id;
        }

        private (Dictionary<string, SnippetItem?> Here, FreeNames Free) NamesIn(long parent)
        {
            if (names.TryGetValue(parent, out var known))
                return known;
            var here = new Dictionary<string, SnippetItem?>(StringComparer.OrdinalIgnoreCase);
            foreach (var item in now.Inside(parent).OfType<SnippetItem>())
                here.TryAdd(item.Name, item);
            return names[parent] = (here, new FreeNames(here.Keys));
        }

        private Slot End(long parent, ItemKind kind)
        {
            var last = ends.TryGetValue((parent, kind), out var known)
                ? known + Slot.Step
                : Commands.End(now, parent, kind).Position;
            ends[(parent, kind)] = last;
            return new Slot(parent, last);
        }

        private static Snippet Onto(Snippet here, IncomingSnippet incoming) =>
            SnippetParts.Take(here, incoming.Snippet, incoming.Parts.Where(part => part != SnippetParts.Name));
    }
}
