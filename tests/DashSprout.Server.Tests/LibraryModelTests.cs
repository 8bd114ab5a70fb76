using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Server.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Items;
using Microsoft.Extensions.Time.Testing;

namespace DashSprout.Server.Tests;

/// <summary>
/// Random commands, undo and redo on the tree with a real SQLite file behind, against a plain list: whatever is
/// done, both say the same, and so does the tree that is read from the file anew.
/// </summary>
public sealed class LibraryModelTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-");
    private readonly FakeTimeProvider clock = new(new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero));

    public void Dispose() => folder.Delete(recursive: true);

    public static TheoryData<int> Seeds =>
        [
            .. Enumerable.Range(
                1,
                int.Parse(
                    Environment.GetEnvironmentVariable("DASH_SPROUT_SEEDS") ?? "12",
                    System.Globalization.CultureInfo.InvariantCulture
                )
            ),
        ];

    [Theory]
    [MemberData(nameof(Seeds))]
    public void Whatever_is_done_the_tree_its_index_and_the_file_say_what_a_plain_list_says(int seed)
    {
        var chance = new Random(seed);
        using var data = DataFolder.Open(folder.FullName, "a test", clock.GetUtcNow(), DataKeys.In);
        var log = new ChangeLog(data.Database);
        var libraryService = Opened(data, log);
        var model = new Model();
        for (var step = 0; step < 70; step++)
        {
            // Changes of one snippet in a row are one when little time lies between them.
            clock.Advance(TimeSpan.FromMinutes(1));
            var what = Step(chance, libraryService, log, model);
            Assert.True(
                model.Written() == Written(libraryService.Tree),
                $"seed {seed}, step {step}: {what}\nwanted:\n{model.Written()}\nfound:\n{Written(libraryService.Tree)}"
            );
            Assert.Equal(Triggers(Placement.Index(libraryService.Tree)), Triggers(libraryService.Snapshot.Index));
            if (chance.Next(8) != 0)
                continue;
            libraryService = Opened(data, log);
            Assert.True(
                model.Written() == Written(libraryService.Tree),
                $"seed {seed}, step {step}, read anew after: {what}"
            );
        }
    }

    private LibraryService Opened(DataFolder data, ChangeLog log)
    {
        var libraryService = new LibraryService(new ItemStore(data.Database), log, clock);
        libraryService.Open();
        Assert.Empty(libraryService.SetAside);
        return libraryService;
    }

    /// <summary>Does one thing with both.</summary>
    private static string Step(Random chance, LibraryService libraryService, ChangeLog log, Model model)
    {
        var all = model.All().ToList();
        var holders = all.Where(item => item.Kind != ItemKind.Snippet).ToList();
        var snippets = all.Where(item => item.Kind == ItemKind.Snippet).ToList();
        ModelItem? Any(List<ModelItem> some) => some.Count == 0 ? null : some[chance.Next(some.Count)];
        // Few names, so that they meet.
        var name = $"n{chance.Next(6)}";
        switch (chance.Next(13))
        {
            case 0:
                return Try(
                    $"add library {name}",
                    (now, id) => Commands.AddLibrary(now, id, name),
                    next => next.Add(libraryService, null, ItemKind.Library, name)
                );
            case 1 when Any(holders) is { } at:
                return Try(
                    $"add folder {name} to {at.Id}",
                    (now, id) => Commands.AddFolder(now, id, at.Id, name),
                    next => next.Add(libraryService, at.Id, ItemKind.Folder, name)
                );
            case 2 or 3 or 4 when Any(holders) is { } at:
                return Try(
                    $"add snippet {name} to {at.Id}",
                    (now, id) => Commands.AddSnippet(now, id, at.Id, Snippet(name, "new")),
                    next => next.Add(libraryService, at.Id, ItemKind.Snippet, name)
                );
            case 5 when Any(snippets) is { } of:
                var text = $"t{chance.Next(100)}";
                return Try(
                    $"text of {of.Id}",
                    (now, _) =>
                        Commands.ChangeSnippet(
                            now,
                            of.Id,
                            now.Get<SnippetItem>(of.Id).Snippet with
                            {
                                Body = new Body.Plain(text),
                            }
                        ),
                    next => next.Find(of.Id)!.Text = text
                );
            case 6 when Any(all) is { } of:
                return Try(
                    $"rename {of.Id} to {name}",
                    (now, _) =>
                        of.Kind switch
                        {
                            ItemKind.Library => Commands.ChangeLibrary(now, of.Id, name, null, null),
                            ItemKind.Folder => Commands.ChangeFolder(now, of.Id, name, null, null),
                            _ => Commands.ChangeSnippet(
                                now,
                                of.Id,
                                now.Get<SnippetItem>(of.Id).Snippet with
                                {
                                    Name = name,
                                }
                            ),
                        },
                    next => next.Find(of.Id)!.Name = name
                );
            case 7 when Any([.. all.Where(item => item.Kind == ItemKind.Library)]) is { } of:
                return Try(
                    $"switch {of.Id}",
                    (now, _) => Commands.ChangeLibrary(now, of.Id, null, !of.Enabled, null),
                    next => next.Find(of.Id)!.Enabled ^= true
                );
            case 8 or 9 when Any(all) is { } of && (of.Kind == ItemKind.Library ? model.Top : Any(holders)) is { } to:
                var siblings = to.Inside.Where(item => item.Kind == of.Kind && item.Id != of.Id).ToList();
                var before = chance.Next(3) == 0 ? null : Any(siblings);
                return Try(
                    $"move {of.Id} to {to.Id} before {before?.Id}",
                    (now, _) => Commands.Move(now, of.Id, to.Id, before?.Id),
                    next => next.Move(of.Id, to.Id, before?.Id)
                );
            case 10 when Any(all) is { } of:
                return Try($"delete {of.Id}", (now, _) => Commands.Delete(now, of.Id), next => next.Remove(of.Id));
            case 11 when log.NextToUndo() is { } last:
                libraryService.SetUndone(last.Id, undone: true);
                model.Undo();
                return $"undo {last.What}";
            case 12 when log.NextToRedo() is { } last:
                libraryService.SetUndone(last.Id, undone: false);
                model.Redo();
                return $"redo {last.What}";
            default:
                return "nothing";
        }

        string Try(string what, Func<LibraryTree, long, Change> command, Action<Model> wanted)
        {
            try
            {
                if (libraryService.Do(command).Items.Count > 0)
                    model.Do(wanted);
                return what;
            }
            catch (InvalidInputException refused)
            {
                return $"{what}, refused: {refused.Message}";
            }
        }
    }

    private static Snippet Snippet(string name, string text) =>
        new(
            name,
            true,
            "",
            false,
            DeliveryWay.Automatic,
            false,
            new Body.Plain(text),
            new([new Trigger.Abbreviation($";{name}", TypingRules.For(";", Timing.AtOnce), Scope.Everywhere)])
        );

    private static string Written(LibraryTree now) =>
        string.Join(
            '\n',
            now.Libraries.SelectMany(now.Within)
                .Select(item =>
                    $"{new string(' ', now.FoldersOf(item).Count)}{item.Id} {item.Kind} {item.Name} "
                    + $"{(item as SnippetItem)?.Snippet.Body.Source} {(item as LibraryItem)?.Enabled}"
                )
        );

    private static IEnumerable<string> Triggers(TriggerIndex index) =>
        index
            .All.Order(Comparer<ActiveTrigger>.Create((one, other) => one.Placed.Rank.CompareTo(other.Placed.Rank)))
            .Select(trigger => $"{trigger} in {string.Join('/', trigger.Placed.Folders)} {trigger.Placed.Active}");

    /// <summary>What lies somewhere, in plain lists that are changed in place.</summary>
    private sealed class ModelItem(long id, ItemKind kind, string name)
    {
        public long Id => id;

        public ItemKind Kind => kind;

        public string Name { get; set; } = name;

        public string? Text { get; set; } = kind == ItemKind.Snippet ? "new" : null;

        public bool? Enabled { get; set; } = kind == ItemKind.Library ? true : null;

        public List<ModelItem> Inside { get; private init; } = [];

        public IEnumerable<ModelItem> All() => Inside.SelectMany(item => item.All().Prepend(item));

        public ModelItem Copy() =>
            new(id, kind, Name)
            {
                Text = Text,
                Enabled = Enabled,
                Inside = [.. Inside.Select(item => item.Copy())],
            };
    }

    /// <summary>The plain list, with all its earlier states to go back to.</summary>
    private sealed class Model
    {
        private readonly Stack<ModelItem> undo = new();
        private readonly Stack<ModelItem> redo = new();

        public ModelItem Top { get; private set; } = new(Slot.Root, ItemKind.Library, "");

        public IEnumerable<ModelItem> All() => Top.All();

        public ModelItem? Find(long id) => All().FirstOrDefault(item => item.Id == id);

        public void Do(Action<Model> change)
        {
            undo.Push(Top.Copy());
            redo.Clear();
            change(this);
        }

        public void Undo()
        {
            redo.Push(Top);
            Top = undo.Pop();
        }

        public void Redo()
        {
            undo.Push(Top);
            Top = redo.Pop();
        }

        public void Add(LibraryService libraryService, long? parent, ItemKind kind, string name)
        {
            // The id is the program's to give; nothing else is taken from there.
            var id = libraryService.Tree.Libraries.SelectMany(libraryService.Tree.Within).Max(item => item.Id);
            Put(parent is { } holder ? Find(holder)! : Top, new ModelItem(id, kind, name), null);
        }

        public void Move(long id, long to, long? before)
        {
            var item = Find(id)!;
            Remove(id);
            Put(to == Slot.Root ? Top : Find(to)!, item, before);
        }

        public void Remove(long id)
        {
            foreach (var holder in All().Prepend(Top))
                holder.Inside.RemoveAll(item => item.Id == id);
        }

        public string Written()
        {
            return string.Join('\n', Lines(Top, 0));

            static IEnumerable<string> Lines(ModelItem holder, int depth) =>
                holder.Inside.SelectMany(item =>
                    Lines(item, item.Kind == ItemKind.Library ? 0 : depth + 1)
                        .Prepend(
                            $"{new string(' ', depth)}{item.Id} {item.Kind} {item.Name} {item.Text} {item.Enabled}"
                        )
                );
        }

        /// <summary>In front of another one, or behind the last of its kind; folders come before snippets.</summary>
        private static void Put(ModelItem holder, ModelItem item, long? before)
        {
            var at =
                before is { } id ? holder.Inside.FindIndex(other => other.Id == id)
                : item.Kind == ItemKind.Folder ? holder.Inside.FindIndex(other => other.Kind == ItemKind.Snippet)
                : -1;
            holder.Inside.Insert(at < 0 ? holder.Inside.Count : at, item);
        }
    }
}
