using System.Diagnostics;
using System.Text.RegularExpressions;
using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Bench;

/// <summary>What deciding one key costs, beside the simple ways to do it, in one run.</summary>
internal static class Keystrokes
{
    /// <summary>Keys in one sample: a clock that ticks every 100 ns cannot time a single one.</summary>
    private const int Batch = 1_000;

    private const int Times = 400;

    public static void Print()
    {
        Console.WriteLine("## One keystroke’s decision");
        Console.WriteLine();
        Console.WriteLine($"Medians of samples of {Batch:N0} keys; the percentile is of single keys.");
        Console.WriteLine();
        Console.WriteLine(
            "| abbreviations | engine | with the host around it | 99.9th percentile | allocated | every "
                + "suffix in a dictionary | EndsWith on each | one compiled regular expression |"
        );
        Console.WriteLine("| ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |");
        // Once for the compiler, which learns from what runs often.
        for (var round = 0; round < 3; round++)
            Measured(TriggerIndex.Of(PlacedSnippet.All([Samples.Library(1_000)])), [.. Key.ForText(Samples.Prose)]);
        foreach (var count in (int[])[100, 1_000, 10_000, 100_000])
            Row(count);
        Console.WriteLine();

        Console.WriteLine(
            "| the worst that can be typed | engine | with the host around it | 99.9th percentile | allocated |"
        );
        Console.WriteLine("| --- | ---: | ---: | ---: | ---: |");
        Worst(
            "100 000 that begin with the letter typed, kept back by case",
            100_000,
            LetterCase.Exact,
            Scope.Everywhere
        );
        Worst(
            "100 000 that begin with the letter typed, kept back by scope",
            100_000,
            LetterCase.Either,
            new Scope.OnlyIn(new(["console"]))
        );
        Worst(
            "100 000 that begin with the letter typed, each in an application of its own",
            100_000,
            LetterCase.Either,
            null
        );
        Patterns("1 000 patterns after a closing key", Timing.ClosingKey);
        Patterns("1 000 patterns at once", Timing.AtOnce);
        Console.WriteLine();
    }

    private static void Row(int count)
    {
        var index = TriggerIndex.Of(PlacedSnippet.All([Samples.Library(count)]));
        var keys = Key.ForText(Samples.Prose).ToArray();
        var texts = Enumerable.Range(0, count).Select(Samples.Abbreviation).ToArray();
        var dictionary = texts.ToDictionary(text => text, text => text, StringComparer.OrdinalIgnoreCase);
        var suffixes = Alternative(keys, 20_000, tail =>
        {
            string? found = null;
            for (var at = Math.Max(0, tail.Length - 64); at < tail.Length; at++)
                if (dictionary.TryGetValue(tail[at..], out var text))
                    found ??= text;
            return found;
        });
        var endsWith = Alternative(keys, count >= 10_000 ? 60 : 2_000, tail =>
            texts.FirstOrDefault(text => tail.EndsWith(text, StringComparison.OrdinalIgnoreCase))
        );
        // More alternatives than this it does not take in reasonable time.
        var regex =
            count > 10_000
                ? "not built"
                : Timings.Show(Alternative(keys, count >= 10_000 ? 40 : 1_000, MatchOf(texts)));
        Console.WriteLine(
            $"| {count:N0} | {Measured(index, keys)} | {Timings.Show(suffixes)} | {Timings.Show(endsWith)} | {regex} |"
        );
    }

    /// <summary>At once the letter itself, and very many that begin with it: does a longer one follow?</summary>
    private static void Worst(string what, int count, LetterCase letterCase, Scope? scope)
    {
        var snippets = Enumerable
            .Range(0, count)
            .Select(number =>
            {
                var text = "B" + Samples.Abbreviation(number)[1..] + "x";
                var rules = TypingRules.For(text) with { Case = letterCase };
                return Samples.Snippet(number) with
                {
                    Triggers = new([
                        new Trigger.Abbreviation(text, rules, scope ?? new Scope.OnlyIn(new([$"app-{number}"]))),
                    ]),
                };
            })
            .Append(
                Samples.Snippet(0) with
                {
                    Triggers = new([
                        new Trigger.Abbreviation(
                            "b",
                            TypingRules.For("b", Timing.AtOnce) with
                            {
                                LeftEdge = LeftEdge.Any,
                            },
                            new Scope.OnlyIn(new(["elsewhere"]))
                        ),
                    ]),
                }
            );
        var index = TriggerIndex.Of(PlacedSnippet.All([Samples.Library(0) with { Snippets = new(snippets) }]));
        // Every letter typed begins all of them; the one at once works in another application, so that nothing goes
        // off.
        Console.WriteLine($"| {what} | {Measured(index, [.. Key.ForText("b b b bbb b bb ")])} |");
    }

    private static void Patterns(string what, Timing timing)
    {
        var snippets = Enumerable
            .Range(0, 1_000)
            .Select(number =>
            {
                var text = $"{Samples.Abbreviation(number)}(\\d{{1,2}})[a-f]+x";
                return Samples.Snippet(number) with
                {
                    Triggers = new([new Trigger.Pattern(text, TypingRules.For(text, timing), Scope.Everywhere)]),
                };
            });
        var index = TriggerIndex.Of(PlacedSnippet.All([Samples.Library(0) with { Snippets = new(snippets) }]));
        Console.WriteLine($"| {what} | {Measured(index, [.. Key.ForText(Samples.Prose)])} |");
    }

    private static string Measured(TriggerIndex index, Key[] keys)
    {
        var engine = new TypingEngine(() => index);
        var host = new TypingHost(new HostServices { Index = () => index, Context = () => new RenderContext() });
        host.Focus("post", Core.Delivery.FieldKind.Plain);
        // Whole rounds of the keys, at least a thousand of them to a sample.
        var rounds = Batch / keys.Length + 1;
        var alone =
            Timings
                .Of(Times, () =>
                {
                    for (var round = 0; round < rounds; round++)
                        foreach (var key in keys)
                            engine.Press(new Keystroke(key));
                })
                .Median / (rounds * keys.Length);
        var hosted =
            Timings
                .Of(Times, () =>
                {
                    for (var round = 0; round < rounds; round++)
                        foreach (var key in keys)
                            host.Press(new Keystroke(key), held: false);
                })
                .Median / (rounds * keys.Length);

        var single = new double[200_000];
        var before = GC.GetAllocatedBytesForCurrentThread();
        for (var round = 0; round < single.Length; round++)
        {
            var keystroke = new Keystroke(keys[round % keys.Length]);
            var start = Stopwatch.GetTimestamp();
            host.Press(keystroke, held: false);
            single[round] = Stopwatch.GetElapsedTime(start).TotalNanoseconds;
        }
        var allocated = GC.GetAllocatedBytesForCurrentThread() - before;
        return $"{Timings.Show(alone)} | {Timings.Show(hosted)} | {Timings.Show(new Timings(single).At(0.999))} | "
            + $"{allocated} B";
    }

    private static Func<string, string?> MatchOf(string[] texts)
    {
        var expression = new Regex(
            $"(?:{string.Join('|', texts.Select(Regex.Escape))})\\z",
            RegexOptions.Compiled | RegexOptions.CultureInvariant | RegexOptions.IgnoreCase
        );
        return tail => expression.Match(tail) is { Success: true } match ? match.Value : null;
    }

    private static double Alternative(Key[] keys, int times, Func<string, string?> find)
    {
        var tail = "";
        var at = 0;
        return Timings
            .Of(times, () =>
            {
                tail += keys[at++ % keys.Length].Text;
                if (tail.Length > 256)
                    tail = tail[^256..];
                find(tail);
            })
            .Median;
    }
}
