using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;
using DashSprout.Documents;
using DashSprout.Exchange.Files;
using DashSprout.Server.Exchange;
using DashSprout.Server.Hosting;
using DashSprout.Server.Libraries;
using DashSprout.Server.Settings;
using DashSprout.Store.Data;
using DashSprout.Store.Features;
using DashSprout.Store.Files;

namespace DashSprout.Server.Packs;

/// <summary>The ready-made libraries that ship with the program, and those of a folder that the user names.</summary>
internal sealed class PackList(
    LibraryService libraryService,
    PackStore store,
    SettingStore settings,
    RenderContextSource contexts,
    ImportDesk desk
)
{
    private const string Setting = "pack-folder";
    private const int MostExamples = 4,
        MostSeen = 200;
    private const long LargestFile = 64L * 1024 * 1024;

    private static readonly string Shipped = Path.Combine(AppContext.BaseDirectory, "packs");

    private readonly Lock gate = new();
    private readonly Dictionary<string, (FileStamp Stamp, Pack? Pack, string? Problem)> read = [];

    public PackListAnswer Answer()
    {
        var (packs, problems) = Packs();
        var added = Added();
        return new PackListAnswer(
            [.. packs.Select(found => Answer(found.Pack, found.Own, added))],
            settings.Get(Setting),
            problems
        );
    }

    /// <summary>Names the folder of more packs.</summary>
    public void Choose(PackFolder wanted) =>
        settings.Set(
            Setting,
            string.IsNullOrWhiteSpace(wanted.Folder) ? "" : NamedFolder.Read("folder", wanted.Folder)
        );

    /// <summary>
    /// Lays a pack on the desk where files are looked at before they are brought in: to be added, or to bring a library
    /// up to date.
    /// </summary>
    public Import Look(string id)
    {
        var pack = Packs().Packs.Select(found => found.Pack).FirstOrDefault(pack => pack.Id == id)
            ?? throw new ConflictException("This pack is not offered any more.");
        long? libraryId = Added().TryGetValue(id, out var there) ? there : null;
        IReadOnlyDictionary<string, long> ids = new Dictionary<string, long>();
        (Change, IReadOnlyList<string>) Plan(LibraryTree now, long nextId)
        {
            (var change, ids, var notes) = libraryId is { } library
                ? Update(now, nextId, pack, library)
                : Add(now, nextId, pack);
            return (change, notes);
        }
        var contents = new ImportContents.Given(new ImportOptions(), Plan, change =>
            Keep(pack, libraryId ?? change.Items[0].Id, ids)
        );
        return desk.Open(pack.Library.Root.Name, contents.Options, (_, _) => Task.FromResult<ImportContents>(contents));
    }

    /// <summary>What adding a pack changes, and the ids that its things get, by key.</summary>
    private static (Change Change, IReadOnlyDictionary<string, long> Ids, IReadOnlyList<string> Notes) Add(
        LibraryTree now,
        long nextId,
        Pack pack
    )
    {
        var root = pack.Library.Root;
        var name = Commands.Free(
            name => now.Libraries.Any(library => library.Name.Equals(name, StringComparison.OrdinalIgnoreCase)),
            root.Name
        );
        var library = (LibraryItem)Commands.AddLibrary(now, nextId, name).Items[0].After! with
        {
            Enabled = root.Enabled,
            Rules = root.Rules,
        };
        var with = now.With(new Change("", new ItemChange(null, library)));
        var (change, added) = SharedMapping.Change(
            with,
            library,
            pack.Library with
            {
                Root = root with { Name = name },
            },
            new Dictionary<string, long>(),
            nextId + 1
        );
        return (
            new Change(
                $"Added the pack “{name}”",
                new ItemChange(null, library, new(change.Items.Select(item => item.After!)))
            ),
            added,
            []
        );
    }

    /// <summary>What bringing a library up to date changes: what its owner changed or took away stays so.</summary>
    private (Change Change, IReadOnlyDictionary<string, long> Ids, IReadOnlyList<string> Notes) Update(
        LibraryTree now,
        long nextId,
        Pack pack,
        long libraryId
    )
    {
        var library = now.Get<LibraryItem>(libraryId);
        var before = store.Taken(libraryId)?.Library ?? pack.Library.Emptied();
        var keys = store.Keys(libraryId);
        string KeyOf(long id) => keys.GetValueOrDefault(id) ?? $"own {id}";
        var mine = SharedMapping.Of(now, library, KeyOf);
        var here = mine.Entries.Select(entry => entry.Key).ToHashSet();
        var gone = before.Entries.Select(entry => entry.Key).Where(key => !here.Contains(key)).ToHashSet();
        SharedLibrary Left(SharedLibrary whole) =>
            whole with
            {
                Entries = new(whole.Entries.Where(entry => !gone.Contains(entry.Key))),
            };
        var merged = LibraryMerge.Of(Left(before), Left(pack.Library), mine);
        var idOf = now.Within(library).Skip(1).ToDictionary(item => KeyOf(item.Id), item => item.Id);
        var (change, added) = SharedMapping.Change(now, library, merged.Here, idOf, nextId);
        var notes = merged
            .Conflicts.GroupBy(conflict => conflict.Key)
            .Select(part => merged.Here.Entries.FirstOrDefault(entry => entry.Key == part.Key)?.Title)
            .OfType<string>()
            .Select(title => $"Your own change of the {title} stays, although the pack has changed there too.")
            .ToList();
        return (change with { What = $"Brought the library “{library.Name}” up to date with its pack" }, added, notes);
    }

    /// <summary>Remembers what a library has taken, and what its things are known by.</summary>
    private void Keep(Pack pack, long libraryId, IReadOnlyDictionary<string, long> added)
    {
        var keys = store.Keys(libraryId).ToDictionary();
        foreach (var (key, id) in added)
            keys[id] = key;
        store.Keep(libraryId, pack, keys);
    }

    /// <summary>The libraries that packs have become, by the pack's id, as far as they are there.</summary>
    private Dictionary<string, long> Added()
    {
        var now = libraryService.Tree;
        var added = new Dictionary<string, long>();
        foreach (var (library, pack) in store.Added())
            if (now.Find(library) is LibraryItem)
                added[pack] = library;
        return added;
    }

    private PackAnswer Answer(Pack pack, bool own, Dictionary<string, long> added)
    {
        var library = added.TryGetValue(pack.Id, out var id) ? libraryService.Tree.Find(id) as LibraryItem : null;
        var state =
            library is null ? PackState.Offered
            : store.Taken(library.Id)?.State == pack.State ? PackState.Added
            : PackState.Changed;
        var snippets = pack.Library.Entries.OfType<SharedSnippet>().ToList();
        // Spread over the pack, so that they show what it has.
        var examples = Enumerable
            .Range(0, MostExamples)
            .Select(at => snippets.ElementAtOrDefault(snippets.Count * (2 * at + 1) / (2 * MostExamples)))
            .OfType<SharedSnippet>()
            .Distinct()
            .Where(entry => entry.Snippet.Triggers.Count > 0)
            .Select(entry => new PackExample(entry.Snippet.Triggers[0].Text, Shown(entry.Snippet)));
        return new PackAnswer(
            pack.Id,
            pack.Library.Root.Name,
            pack.About,
            pack.Licence,
            pack.Source,
            snippets.Count,
            Wording.Of(state),
            library?.Id,
            library?.Name,
            own,
            [.. examples]
        );
    }

    /// <summary>What goes in now, in a line; where that cannot be told, how it looks.</summary>
    private string Shown(Snippet snippet)
    {
        var text = snippet.Preview();
        try
        {
            text = Writers
                .Plain(
                    Renderer
                        .Render(
                            snippet.Body,
                            contexts.Now() with
                            {
                                MarksEmpty = true,
                                FindSnippet = _ => null,
                            },
                            Capitals.AsWritten
                        )
                        .Flow
                )
                .Text;
        }
        catch (RenderingException)
        {
            // It needs something that is only there when it goes off.
        }
        text = text.ReplaceLineEndings(" ⏎ ");
        return text.Length > MostSeen ? text[..Core.Text.Graphemes.Offset(text, MostSeen)] + "…" : text;
    }

    /// <summary>The packs, those that ship first; of two with one id the user's own counts.</summary>
    private (IReadOnlyList<(Pack Pack, bool Own)> Packs, IReadOnlyList<string> Problems) Packs()
    {
        lock (gate)
        {
            var packs = new Dictionary<string, (Pack Pack, bool Own)>();
            var problems = new List<string>();
            foreach (
                var (folder, own) in (IEnumerable<(string?, bool)>)[(Shipped, false), (settings.Get(Setting), true)]
            )
            {
                if (string.IsNullOrEmpty(folder))
                    continue;
                if (!Directory.Exists(folder))
                {
                    problems.Add($"The folder {folder} is not there.");
                    continue;
                }
                foreach (
                    var file in new DirectoryInfo(folder)
                        .EnumerateFiles("*.json")
                        .OrderBy(file => file.Name, StringComparer.Ordinal)
                )
                {
                    var (pack, problem) = Read(file);
                    if (pack is not null)
                        packs[pack.Id] = (pack, own);
                    else
                        problems.Add($"“{file.Name}” cannot be used: {problem}");
                }
            }
            return ([.. packs.Values], problems);
        }
    }

    private (Pack? Pack, string? Problem) Read(FileInfo file)
    {
        var stamp = FileStamp.Of(file.FullName);
        if (read.TryGetValue(file.FullName, out var known) && known.Stamp == stamp)
            return (known.Pack, known.Problem);
        Pack? pack = null;
        string? problem = null;
        try
        {
            pack = PackFile.Read(PlainFile.ReadText(file.FullName, LargestFile));
        }
        catch (Exception exception)
        {
            problem = FileProblem.Of(file.Name, exception);
        }
        read[file.FullName] = (stamp, pack, problem);
        return (pack, problem);
    }
}
