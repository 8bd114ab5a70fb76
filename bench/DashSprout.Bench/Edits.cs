using System.Diagnostics;
using DashSprout.Core.Engine;
using DashSprout.Store;

namespace DashSprout.Bench;

/// <summary>How fast the engine follows one saved snippet among many, and how fast many come from disk.</summary>
internal static class Edits
{
    private const int Count = 100_000;

    public static void Print()
    {
        Console.WriteLine($"## {Count:N0} abbreviations");
        Console.WriteLine();
        Console.WriteLine("| what | median | wanted |");
        Console.WriteLine("| --- | ---: | ---: |");

        var placed = PlacedSnippet.All([Samples.Library(Count)]).ToList();
        var index = TriggerIndex.Of(placed);
        var at = 0;
        var edit = Timings.Of(400, () =>
        {
            at = (at + 7919) % Count;
            index = index.Change([at], [placed[at] with { Snippet = Samples.Snippet(at) }]);
        });
        Console.WriteLine($"| the engine follows one saved snippet | {Timings.Show(edit.Median)} | 5 ms |");

        var folder = Directory.CreateTempSubdirectory("dash-sprout-bench-");
        var store = new LibraryStore(new Database(Path.Combine(folder.FullName, "bench.sqlite")));
        store.Add([Samples.Library(Count)]);
        var load = Enumerable.Range(0, 5).Select(_ =>
        {
            var start = Stopwatch.GetTimestamp();
            var contents = store.Load();
            TriggerIndex.Of(contents.Snippets.Select(snippet => new PlacedSnippet(
                snippet.Id, "Bench", true, Core.Libraries.LibraryRules.Default, Core.EquatableList<string>.Empty, new Rank(snippet.Position), snippet.Snippet)));
            return Stopwatch.GetElapsedTime(start).TotalNanoseconds;
        }).ToArray();
        Console.WriteLine($"| from SQLite to ready | {Timings.Show(new Timings(load).Median)} | 2 s |");
        Console.WriteLine();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        folder.Delete(recursive: true);
    }
}
