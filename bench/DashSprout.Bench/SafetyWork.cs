using System.Diagnostics;
using DashSprout.Core.Engine;
using DashSprout.Core.Safety;
using DashSprout.Core.Triggers;
using DashSprout.Exchange.Lists;

namespace DashSprout.Bench;

/// <summary>Forecast and overlaps of a large library, and of one trigger while it is being typed.</summary>
internal static class SafetyWork
{
    private const int Count = 10_000;

    public static void Print()
    {
        var words = WordListFile.English;
        Console.WriteLine($"## Safety of {Count:N0} abbreviations, {words.Words.Count:N0} words");
        Console.WriteLine();
        Console.WriteLine("| what | median | wanted |");
        Console.WriteLine("| --- | ---: | ---: |");

        var placed = PlacedSnippet.All([Samples.Library(Count)]).ToList();
        var index = TriggerIndex.Of(placed);
        Row("forecast of all", "5 s", 3, () => Forecast.Of(index, words));
        var one = TriggerIndex.Of([
            placed[1] with
            {
                Snippet = placed[1].Snippet with
                {
                    Triggers = new([
                        new Trigger.Abbreviation("th", TypingRules.For("th", Timing.AtOnce), Scope.Everywhere),
                    ]),
                },
            },
        ]);
        Row("forecast of one that many words set off (`th` at once)", "50 ms", 40, () => Forecast.Of(one, words));
        var map = OverlapMap.Empty;
        Row("overlaps of all", "seconds", 3, () => map = OverlapMap.Of(index));
        var at = 0;
        Row("overlaps follow one saved snippet", "", 40, () =>
        {
            at = (at + 7919) % Count;
            index = index.Change([placed[at].Id], [placed[at] with { Snippet = Samples.Snippet(at) }]);
            map = map.Follow(index);
        });
        Console.WriteLine();
    }

    private static void Row(string what, string wanted, int times, Action action)
    {
        action();
        var taken = new double[times];
        for (var round = 0; round < times; round++)
        {
            var start = Stopwatch.GetTimestamp();
            action();
            taken[round] = Stopwatch.GetElapsedTime(start).TotalNanoseconds;
        }
        Console.WriteLine($"| {what} | {Timings.Show(new Timings(taken).Median)} | {wanted} |");
    }
}
