using System.Diagnostics;
using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Learning;
using DashSprout.Core.Text;
using DashSprout.Exchange.Lists;

namespace DashSprout.Bench;

/// <summary>What learning costs, and how often what is offered is what somebody is about to type.</summary>
internal static class LearningWork
{
    private static readonly DateTimeOffset Start = new(2026, 3, 2, 8, 0, 0, TimeSpan.Zero);

    public static void Print()
    {
        Console.WriteLine("Learning: an open text (the read-me files of the page's packages) typed key by key");
        var lines = OpenText.Lines();
        if (lines.Count == 0)
        {
            Console.WriteLine("  The packages are not installed. Run npm ci first.");
            return;
        }
        Offers("in its order", lines, Learning(learns: true, []));
        Offers("each line once", [.. lines.Distinct()], Learning(learns: true, []));
        // Those who keep what they type again and again as snippets: every line that comes twice.
        var twice = lines
            .GroupBy(line => line)
            .Where(group => group.Count() > 1 && group.Key.Length >= 40)
            .Select(group => group.Key)
            .ToList();
        Offers($"without learning, {twice.Count} lines as snippets", lines, Learning(learns: false, twice));
        Cost(lines);
        Many(lines);
    }

    private static PhraseMemory Memory() => new(new SecretLook(LetterPairs.Of(WordListFile.English)));

    private static (TypingHost Host, PhraseMemory Memory) Learning(bool learns, IReadOnlyList<string> snippets)
    {
        var memory = Memory();
        var now = Start;
        var following = new Following
        {
            Rules = FollowingRules.Off with { Learns = learns, Offers = true, Misses = true },
            Typed = typed => memory.Learn(typed, now = now.AddSeconds(30)),
        };
        following.Snippets = SnippetBeginnings.Of(
            TriggerIndex.Of(
                PlacedSnippet.All([
                    Samples.Library(snippets.Count) with
                    {
                        Snippets = new(
                            snippets.Select((text, at) => Samples.Snippet(at) with { Body = new Body.Plain(text) })
                        ),
                    },
                ])
            ),
            SnippetBeginnings.None
        );
        memory.Began = following.Phrases.Add;
        memory.Came = following.Phrases.Came;
        memory.Ended = following.Phrases.Remove;
        var host = new TypingHost(
            new HostServices
            {
                Index = () => TriggerIndex.Empty,
                Context = () => new RenderContext(),
                Follow = () => new TextFollower(following),
            }
        );
        host.Focus("post", FieldKind.Plain);
        return (host, memory);
    }

    /// <summary>An ideal user takes every offer that is what comes next, and passes over all others.</summary>
    private static void Offers(
        string what,
        IReadOnlyList<string> lines,
        (TypingHost Host, PhraseMemory Memory) learning
    )
    {
        var (host, memory) = learning;
        var (words, keys, offered, right, walked, saved) = (0L, 0L, 0, 0, 0, 0L);
        var time = 0L;
        foreach (var line in lines)
        {
            words += line.Count(unit => unit == ' ') + 1;
            keys += line.Length + 1;
            var shown = "";
            for (var at = 0; at < line.Length; )
            {
                var answer = host.Press(new Keystroke(Key.Typed(line[at].ToString()), AtMs: time += 120), held: false);
                at++;
                if (answer.Offers.Chosen is not { } first)
                {
                    shown = "";
                    continue;
                }
                // The same offer, a letter further, is no new one.
                if (!shown.EndsWith(first.Rest, StringComparison.Ordinal))
                    offered++;
                shown = first.Rest;
                var found = answer
                    .Offers.All.ToList()
                    .FindIndex(offer => line.AsSpan(at).StartsWith(offer.Rest, StringComparison.Ordinal));
                if (found < 0)
                    continue;
                for (var step = 0; step < found; step++)
                    host.Press(new Keystroke(OfferKeys.Next, AtMs: time += 120), held: true);
                if (found == 0)
                    right++;
                else
                    walked++;
                var rest = answer.Offers.All[found].Rest.Length;
                host.Press(new Keystroke(OfferKeys.Usual, AtMs: time += 120), held: true);
                at += rest;
                saved += rest - 1 - found;
                shown = "";
            }
            host.Press(new Keystroke(Key.Enter, AtMs: time += 120), held: false);
            host.Click();
        }
        Console.WriteLine(
            $"  {what}: {words:N0} words, {keys:N0} keys, {memory.Phrases.Count} phrases known at the end"
        );
        Console.WriteLine(
            $"    offered {offered}, taken {right} + {walked} walked to: right "
                + $"{100.0 * right / Math.Max(1, offered):0.0} %; keys saved {saved:N0} ({100.0 * saved / keys:0.0} "
                + $"%); false offers in 1 000 words {1000.0 * (offered - right - walked) / words:0.00}"
        );
    }

    /// <summary>What a large library asks of the view and of the followers, beside those who type.</summary>
    private static void Many(IReadOnlyList<string> lines)
    {
        const int Count = 100_000;
        string Text(int at) => $"{lines[at % lines.Count]} {Samples.Abbreviation(at)} {lines[(at * 7) % lines.Count]}";
        var index = TriggerIndex.Of(
            PlacedSnippet.All([
                Samples.Library(Count) with
                {
                    Snippets = new(
                        Enumerable
                            .Range(0, Count)
                            .Select(at => Samples.Snippet(at) with { Body = new Body.Plain(Text(at)) })
                    ),
                },
            ])
        );
        var beginnings = SnippetBeginnings.None;
        var first = Timings.Of(1, () => beginnings = SnippetBeginnings.Of(index, SnippetBeginnings.None)).Median;
        var again = Timings.Of(4, () => beginnings = SnippetBeginnings.Of(index, beginnings)).Median;
        var found = 0;
        var near = Timings
            .Of(1, () =>
                found = NearlySame.Pairs(Enumerable.Range(0, Count).Select(at => ((long)at, Text(at))), 200).Count
            )
            .Median;
        Console.WriteLine(
            $"  {Count:N0} snippets: their texts made ready for followers in {Timings.Show(first)}, after a "
                + $"change in {Timings.Show(again)}; those that are nearly the same ({found} shown) in "
                + $"{Timings.Show(near)}"
        );
    }

    /// <summary>A million words, key by key, with and without following them, in one run.</summary>
    private static void Cost(IReadOnlyList<string> lines)
    {
        const int Words = 1_000_000,
            Batch = 64;
        var keys = new List<Key>();
        for (var (words, at) = (0, 0); words < 200_000; at++)
        {
            var line = lines[at % lines.Count];
            words += line.Count(unit => unit == ' ') + 1;
            // What somebody types differs: a line that comes again has another number in it.
            keys.AddRange(Key.ForText($"{line} {at}\n"));
        }
        var before = GC.GetTotalMemory(forceFullCollection: true);
        var typed = new System.Collections.Concurrent.ConcurrentQueue<TypedText>();
        var memory = Memory();
        var following = new Following
        {
            Rules = FollowingRules.Off with { Learns = true, Offers = true, Misses = true },
            Typed = typed.Enqueue,
        };
        memory.Began = following.Phrases.Add;
        memory.Came = following.Phrases.Came;
        memory.Ended = following.Phrases.Remove;
        TypingHost Host(Func<ITextFollower> follow)
        {
            var host = new TypingHost(
                new HostServices
                {
                    Index = () => TriggerIndex.Empty,
                    Context = () => new RenderContext(),
                    Follow = follow,
                }
            );
            host.Focus("post", FieldKind.Plain);
            return host;
        }
        var (with, without) = (Host(() => new TextFollower(following)), Host(() => new NoFollower()));
        var (withTimes, withoutTimes, learning, perWord) = (
            new List<double>(),
            new List<double>(),
            new List<double>(),
            new List<(long Words, double Median, double Memory)>()
        );
        var (time, words2, now) = (0L, 0L, Start);
        for (var round = 0; words2 < Words; round++)
        {
            var since = withTimes.Count;
            for (var at = 0; at + Batch <= keys.Count; at += Batch)
            {
                foreach (
                    var (host, times) in ((TypingHost, List<double>)[])[(without, withoutTimes), (with, withTimes)]
                )
                    for (var one = at; one < at + Batch; one++)
                    {
                        var start = Stopwatch.GetTimestamp();
                        host.Press(new Keystroke(keys[one], AtMs: time += 120), held: false);
                        times.Add(Stopwatch.GetElapsedTime(start).TotalNanoseconds);
                        if (keys[one] == Key.Enter)
                            host.Click();
                    }
                while (typed.TryDequeue(out var text))
                {
                    var start = Stopwatch.GetTimestamp();
                    memory.Learn(text, now = now.AddSeconds(20));
                    learning.Add(Stopwatch.GetElapsedTime(start).TotalNanoseconds / Math.Max(1, text.Text.Length));
                }
            }
            words2 += 200_000;
            perWord.Add(
                (
                    words2,
                    new Timings([.. withTimes.Skip(since)]).Median,
                    (
                        GC.GetTotalMemory(forceFullCollection: true)
                        - before
                        - 8.0 * (withTimes.Capacity + withoutTimes.Capacity + learning.Capacity)
                    ) / 1048576
                )
            );
        }
        var (followed, bare, learned) = (
            new Timings([.. withTimes]),
            new Timings([.. withoutTimes]),
            new Timings([.. learning])
        );
        Console.WriteLine(
            $"  a million words, each key by itself: median {Timings.Show(bare.Median)} without, "
                + $"{Timings.Show(followed.Median)} with; at the 99th percentile {Timings.Show(bare.At(0.99))} "
                + $"without, {Timings.Show(followed.At(0.99))} with (wanted: under 5 µs more)"
        );
        Console.WriteLine(
            $"    beside the keys, remembering takes {Timings.Show(learned.Median)} a character (median), "
                + $"{Timings.Show(learned.At(0.99))} at the 99th percentile; {memory.Phrases.Count} phrases known"
        );
        foreach (var (count, median, held) in perWord)
            Console.WriteLine(
                $"    after {count:N0} words: {Timings.Show(median)} a key, {held:0.0} MB held (wanted: under 64 MB)"
            );
    }
}
