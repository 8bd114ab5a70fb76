using System.Diagnostics;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Store.Data;
using DashSprout.Store.Items;

namespace DashSprout.Bench;

/// <summary>
/// What changes cost among many snippets, on the way a running program takes: tree, index, disk.
/// </summary>
internal static class Edits
{
    private const int Count = 100_000;
    private const int Switched = 20_000;

    public static async Task Print()
    {
        Console.WriteLine($"## {Count:N0} snippets");
        Console.WriteLine();
        Console.WriteLine("| what | median | wanted |");
        Console.WriteLine("| --- | ---: | ---: |");

        var temp = Directory.CreateTempSubdirectory("dash-sprout-bench-");
        using (
            var folder = DataFolder.Open(temp.FullName, "the benchmark", DateTimeOffset.UtcNow, _ => new Vault(
                bytes => bytes,
                bytes => bytes
            ))
        )
            await Print(folder);
        temp.Delete(recursive: true);
    }

    private static async Task Print(DataFolder folder)
    {
        var (items, log, backups) = (
            new ItemStore(folder.Database),
            new ChangeLog(folder.Database),
            new BackupStore(folder)
        );
        Library Large(string name, int from, int count) =>
            new(
                name,
                true,
                LibraryRules.Default,
                EquatableList<Folder>.Empty,
                new(Enumerable.Range(from, count).Select(Filled))
            );
        using var file = new MemoryStream();
        await LibraryFile.Write(
            file,
            [Large("Bench", 0, Count - Switched), Large("Switched", Count - Switched, Switched)],
            new Dictionary<string, PictureData>(),
            CancellationToken.None
        );

        file.Position = 0;
        var start = Stopwatch.GetTimestamp();
        var contents = (LibraryFileContents?)await LibraryFile.Read(file, CancellationToken.None);
        var read = Stopwatch.GetElapsedTime(start).TotalNanoseconds;
        var change = Importing.Of(LibraryTree.Empty, contents!.Libraries, replace: false, 1).Change;
        var tree = LibraryTree.Empty.With(change);
        var index = Placement.Follow(TriggerIndex.Empty, LibraryTree.Empty, tree, change);
        log.Make(change, fromFile: true, DateTimeOffset.UtcNow);
        Row(
            $"importing them from a file of {file.Length / 1024.0 / 1024:0.0} MiB",
            Stopwatch.GetElapsedTime(start).TotalNanoseconds,
            "10 s"
        );
        Row("… of that, reading the file", read, "");
        Console.WriteLine(
            $"| memory at its peak meanwhile | {Process.GetCurrentProcess().PeakWorkingSet64 / 1024 / 1024} "
                + "MiB | 500 MiB |"
        );

        var (loads, reads, trees, indexes) = (new double[9], new double[9], new double[9], new double[9]);
        change = new Change("");
        contents = null;
        file.SetLength(0);
        file.Capacity = 0;
        for (var round = 0; round < loads.Length; round++)
        {
            // A program that starts holds nothing yet.
            (tree, index) = (LibraryTree.Empty, TriggerIndex.Empty);
            GC.Collect();
            var began = Stopwatch.GetTimestamp();
            var loaded = items.Load();
            reads[round] = Stopwatch.GetElapsedTime(began).TotalNanoseconds;
            (tree, _) = loaded.ToTree();
            trees[round] = Stopwatch.GetElapsedTime(began).TotalNanoseconds - reads[round];
            index = Placement.Index(tree);
            loads[round] = Stopwatch.GetElapsedTime(began).TotalNanoseconds;
            indexes[round] = loads[round] - reads[round] - trees[round];
        }
        Row("from SQLite to ready", new Timings(loads).Median, "600 ms");
        Row("… of that, reading the rows", new Timings(reads).Median, "");
        Row("… of that, the tree", new Timings(trees).Median, "");
        Row("… of that, the index", new Timings(indexes).Median, "");
        GC.Collect();
        Console.WriteLine(
            $"| memory that the tree and its index hold | {GC.GetTotalMemory(true) / 1024 / 1024} MiB | |"
        );

        void Do(Change next)
        {
            var after = tree.With(next);
            index = Placement.Follow(index, tree, after, next);
            log.Make(next, fromFile: false, DateTimeOffset.UtcNow);
            tree = after;
        }
        var snippets = tree.Snippets.OrderBy(item => item.Id).Select(item => item.Id).ToList();
        var at = 0;
        long Next() => snippets[(at += 7919) % snippets.Count];
        Row(
            "saving one snippet: on disk and known to the engine",
            Timings
                .Of(100, () =>
                {
                    var item = tree.Get<SnippetItem>(Next());
                    Do(
                        Commands.ChangeSnippet(
                            tree,
                            item.Id,
                            item.Snippet with
                            {
                                Body = new Body.Plain($"Changed {at}."),
                            }
                        )
                    );
                })
                .Median,
            "10 ms"
        );
        Row(
            "moving one snippet",
            Timings
                .Of(50, () =>
                {
                    var item = tree.Get<SnippetItem>(Next());
                    Do(
                        Commands.Move(
                            tree,
                            item.Id,
                            item.Slot.Parent,
                            tree.Inside(item.Slot.Parent)[at % 1000].Id is var before && before == item.Id
                                ? null
                                : before
                        )
                    );
                })
                .Median,
            "20 ms"
        );
        Row(
            "renaming one snippet",
            Timings
                .Of(50, () =>
                {
                    var item = tree.Get<SnippetItem>(Next());
                    Do(Commands.ChangeSnippet(tree, item.Id, item.Snippet with { Name = $"Renamed {at}" }));
                })
                .Median,
            ""
        );
        Row(
            "undoing and doing again",
            Timings
                .Of(50, () =>
                {
                    var logged = log.Last()[0];
                    var turned = log.Find(logged.Id).Change.On(tree, !logged.Undone, item => items.Fetch(item.Id));
                    var after = tree.With(turned);
                    index = Placement.Follow(index, tree, after, turned);
                    log.SetUndone(logged.Id, turned, !logged.Undone, DateTimeOffset.UtcNow);
                    tree = after;
                })
                .Median,
            ""
        );
        var library = tree.Libraries.Single(other => other.Name == "Switched").Id;
        Row(
            $"switching a library of {Switched:N0}",
            Timings
                .Of(10, () =>
                    Do(Commands.ChangeLibrary(tree, library, null, !tree.Get<LibraryItem>(library).Enabled, null))
                )
                .Median,
            "50 ms"
        );
        Row(
            $"deleting a library of {Switched:N0} and bringing it back",
            Timings
                .Of(3, () =>
                {
                    Do(Commands.Delete(tree, library));
                    Do(new Change("back", items.Fetch(library)!));
                })
                .Median,
            ""
        );
        Row("a backup", Timings.Of(2, () => backups.Make(BackupReason.Asked, DateTimeOffset.UtcNow)).Median, "");
        Console.WriteLine();
    }

    private static void Row(string what, double nanoseconds, string wanted) =>
        Console.WriteLine($"| {what} | {Timings.Show(nanoseconds)} | {wanted} |");

    private static Snippet Filled(int number) =>
        Samples.Snippet(number) with
        {
            Body = new Body.Plain(
                $"The text of snippet {number}: the berth is free from noon on, the fee is paid at the quay, "
                    + "and the harbour office answers on channel 12."
            ),
        };
}
