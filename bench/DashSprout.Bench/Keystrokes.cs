using System.Diagnostics;
using System.Text.RegularExpressions;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Bench;

/// <summary>What deciding one key costs, beside the simple ways to do it, in one run.</summary>
internal static class Keystrokes
{
    public static void Print()
    {
        Console.WriteLine("## One keystroke’s decision");
        Console.WriteLine();
        Console.WriteLine("| abbreviations | engine, median | 99.9th percentile | allocated | every suffix in a dictionary | EndsWith on each | one compiled regular expression |");
        Console.WriteLine("| ---: | ---: | ---: | ---: | ---: | ---: | ---: |");
        foreach (var count in (int[])[100, 1_000, 10_000, 100_000]) Row(count);
        Console.WriteLine();
    }

    private static void Row(int count)
    {
        var index = TriggerIndex.Of(PlacedSnippet.All([Samples.Library(count)]));
        var engine = new TypingEngine(() => index);
        var keys = Key.ForText(Samples.Prose).ToArray();

        var single = new double[300_000];
        for (var round = 0; round < 400_000; round++) engine.Press(new Keystroke(keys[round % keys.Length]));
        var before = GC.GetAllocatedBytesForCurrentThread();
        for (var round = 0; round < single.Length; round++)
        {
            var keystroke = new Keystroke(keys[round % keys.Length]);
            var start = Stopwatch.GetTimestamp();
            engine.Press(keystroke);
            single[round] = Stopwatch.GetElapsedTime(start).TotalNanoseconds;
        }
        var allocated = GC.GetAllocatedBytesForCurrentThread() - before;
        var timings = new Timings(single);

        var texts = Enumerable.Range(0, count).Select(Samples.Abbreviation).ToArray();
        var dictionary = texts.ToDictionary(text => text, text => text, StringComparer.OrdinalIgnoreCase);
        var suffixes = Alternative(keys, 20_000, tail =>
        {
            string? found = null;
            for (var at = Math.Max(0, tail.Length - 64); at < tail.Length; at++)
                if (dictionary.TryGetValue(tail[at..], out var text)) found ??= text;
            return found;
        });
        var endsWith = Alternative(keys, count >= 10_000 ? 60 : 2_000, tail => texts.FirstOrDefault(text => tail.EndsWith(text, StringComparison.OrdinalIgnoreCase)));
        // More alternatives than this it does not take in reasonable time.
        var regex = count > 10_000 ? "not built" : Timings.Show(Alternative(keys, count >= 10_000 ? 40 : 1_000, MatchOf(texts)));
        Console.WriteLine($"| {count:N0} | {Timings.Show(timings.Median)} | {Timings.Show(timings.At(0.999))} | {allocated} B | {Timings.Show(suffixes)} | {Timings.Show(endsWith)} | {regex} |");
    }

    private static Func<string, string?> MatchOf(string[] texts)
    {
        var expression = new Regex($"(?:{string.Join('|', texts.Select(Regex.Escape))})\\z", RegexOptions.Compiled | RegexOptions.CultureInvariant | RegexOptions.IgnoreCase);
        return tail => expression.Match(tail) is { Success: true } match ? match.Value : null;
    }

    private static double Alternative(Key[] keys, int times, Func<string, string?> find)
    {
        var tail = "";
        var at = 0;
        return Timings.Of(times, () =>
        {
            tail += keys[at++ % keys.Length].Text;
            if (tail.Length > 256) tail = tail[^256..];
            find(tail);
        }).Median;
    }
}
