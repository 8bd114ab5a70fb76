using CsCheck;
using DashSprout.Core.Learning;
using DashSprout.Core.Tests.Hosting;

namespace DashSprout.Core.Tests.Learning;

/// <summary>What is remembered of what was typed, and what is not.</summary>
public sealed class PhraseMemoryTests
{
    private const string Thanks = "Thank you for your booking at our harbour.";

    private static readonly DateTimeOffset Now = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);

    private static PhraseMemory Memory(params IEnumerable<string> typed)
    {
        var memory = new PhraseMemory(OpenWords.Secrets);
        foreach (var text in typed)
            memory.Learn(new TypedText("post", text), Now);
        return memory;
    }

    private static string[] Texts(PhraseMemory memory) =>
        [.. memory.Phrases.Where(phrase => !phrase.Varies).Select(phrase => phrase.Text)];

    [Fact]
    public void What_is_typed_once_is_not_kept_and_what_comes_back_is()
    {
        Assert.Empty(Memory(Thanks).Phrases);
        Assert.Equal([Thanks], Texts(Memory(Thanks, Thanks)));
        var memory = Memory(
            Thanks,
            "We are glad. Thank you for your booking at our harbour.",
            Thanks.ToUpperInvariant()
        );
        Assert.Equal(3, Assert.Single(memory.Phrases).Times);
    }

    [Fact]
    public void Phrases_have_three_to_twelve_words_and_fifteen_to_four_hundred_characters()
    {
        const string Long = "one boat two boats three boats four boats five boats six boats seven boats";
        Assert.All(Texts(Memory(Long, Long)), text => Assert.InRange(text.Split(' ').Length, 3, 12));
        Assert.NotEmpty(Texts(Memory(Long, Long)));
        const string Names = "Dear Captain Marram Tern Knot Gull Heron Dunlin Sandpiper Curlew Avocet and your crew";
        Assert.All(Memory(Names, Names, Names).Phrases, phrase => Assert.InRange(phrase.Text.Split(' ').Length, 3, 12));
        Assert.Empty(Memory("so be it", "so be it", "so be it").Phrases);
        Assert.Empty(
            Memory("breakwater harbourmaster", "breakwater harbourmaster", "breakwater harbourmaster").Phrases
        );
    }

    [Fact]
    public void A_sentence_ends_where_it_always_ends()
    {
        Assert.Equal(
            ["we look forward to seeing you"],
            Texts(
                Memory(
                    "we look forward to seeing you.",
                    "we look forward to seeing you soon",
                    "we look forward to seeing you"
                )
            )
        );
        Assert.DoesNotContain(
            Memory("the berth is free until\nnoon on the quay", "the berth is free until\tnoon on the quay").Phrases,
            phrase => phrase.Text.Contains("until noon", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void What_differs_in_names_numbers_and_dates_is_known_as_one()
    {
        var memory = Memory(
            "Dear Captain Marram, berth 4 is free from 3 March for you",
            "Dear Skipper Tern, berth 12 is free from 14 April for you",
            "Dear Mrs Knot, berth 7 is free from 1 May for you"
        );
        var phrase = Assert.Single(memory.Phrases, phrase => phrase.Varies);
        Assert.Equal((3, 2), (phrase.Times, phrase.Texts.Count));
        var sprout = Assert.Single(Sprout.Of(memory, Now, _ => false, 10));
        Assert.Equal(
            "Dear … berth … is free from … for you",
            string.Concat(sprout.Parts.Select(part => part is SharedPart.Same(var text) ? text : "…"))
                .Replace("…,", "…", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void Private_texts_are_never_learned_and_what_became_private_is_forgotten()
    {
        var hidden = new PrivateWords(["The gate code is Tern and Breakwater\nsecond line", "sandpiper"]);
        var memory = new PhraseMemory(OpenWords.Secrets);
        memory.Hide(hidden);
        for (var time = 0; time < 4; time++)
        {
            memory.Learn(
                new TypedText("post", "please note the gate code is Tern and Breakwater until noon on every day"),
                Now
            );
            memory.Learn(new TypedText("post", "it is sandpiper that they always use here"), Now);
        }
        Assert.All(memory.Phrases.SelectMany(phrase => phrase.Texts), text =>
            Assert.False(
                text.Contains("code is", StringComparison.Ordinal)
                    || text.Contains("sandpiper", StringComparison.Ordinal),
                text
            )
        );
        Assert.Contains(memory.Phrases, phrase => phrase.Text.Contains("that they always", StringComparison.Ordinal));
        memory.Hide(new PrivateWords(["that they always use"]));
        Assert.DoesNotContain(memory.Phrases, phrase => phrase.Text.Contains("they always", StringComparison.Ordinal));
    }

    [Fact]
    public void Numbers_and_pass_phrases_part_what_is_learned()
    {
        string[] typed =
        [
            "send it to account 4000 1234 5678 9017 before the end of the month",
            "the word is xK9#mQ2v for all of the boats on the quay",
        ];
        var texts = Texts(Memory(typed.Concat(typed).Concat(typed)));
        Assert.Equal(
            ["before the end of the month", "for all of the boats on the quay", "send it to account"],
            texts.Order(StringComparer.Ordinal)
        );
    }

    [Fact]
    public void Forgotten_after_its_time_in_left_applications_and_when_it_is_dismissed()
    {
        var memory = Memory(Thanks, Thanks, "we look forward to seeing you", "we look forward to seeing you");
        memory.Learn(new TypedText("log", "we look forward to seeing you"), Now.AddDays(40));
        memory.ForgetBefore(Now.AddDays(10));
        Assert.Equal(["we look forward to seeing you"], Texts(memory));
        memory.ForgetApps(app => app == "post");
        Assert.Single(memory.Phrases);
        memory.ForgetApps(app => app is "post" or "log");
        Assert.Empty(memory.Phrases);

        memory = Memory(Thanks, Thanks);
        var code = memory.Phrases.Single().Code;
        Assert.NotNull(memory.Dismiss(code));
        Assert.Null(memory.Dismiss(code));
        for (var time = 0; time < 3; time++)
            memory.Learn(new TypedText("post", Thanks), Now);
        Assert.Empty(memory.Phrases);
        // For good: it is not forgotten with time that nobody wants it.
        memory.ForgetBefore(Now.AddYears(2));
        Assert.Single(memory.Dismissed);
        Assert.NotNull(memory.Recall(code));
        Assert.Equal([Thanks], Texts(memory));
        memory.Clear();
        memory.Learn(new TypedText("post", Thanks), Now);
        Assert.Empty(memory.Phrases);
    }

    [Fact]
    public void What_was_kept_is_known_again_and_what_cannot_be_it_is_refused()
    {
        var memory = Memory(Thanks, Thanks, "we look forward to seeing you");
        var other = new PhraseMemory(OpenWords.Secrets);
        Assert.True(other.Restore(memory.State()));
        Assert.Equal(memory.Phrases, other.Phrases);
        other.Learn(new TypedText("post", "we look forward to seeing you"), Now);
        Assert.Equal(2, other.Phrases.Count);
        Assert.False(other.Restore(memory.State() with { Cells = [1, 2, 3] }));
        Assert.False(
            other.Restore(
                memory.State() with
                {
                    Phrases = [memory.Phrases.First() with { Texts = EquatableList<string>.Empty }],
                }
            )
        );
        Assert.Equal(2, other.Phrases.Count);
    }

    [Fact]
    public void It_never_grows_beyond_its_bound_and_keeps_what_is_typed_most()
    {
        var memory = new PhraseMemory(OpenWords.Secrets);
        for (var number = 0; number < 12_000; number++)
        {
            var text = $"boat {Word(number)} lies beside boat {Word(number * 7 + 1)} tonight";
            for (var time = 0; time < 2; time++)
                memory.Learn(new TypedText("post", text), Now.AddMinutes(number));
            if (number % 50 == 0)
                memory.Learn(new TypedText("post", Thanks), Now.AddMinutes(number));
            Assert.InRange(memory.Phrases.Count, 0, PhraseMemory.MostPhrases);
        }
        Assert.Contains(memory.Phrases, phrase => phrase.Text == Thanks);

        static string Word(int number) =>
            string.Concat(
                number
                    .ToString(System.Globalization.CultureInfo.InvariantCulture)
                    .Select(digit => "banelotuki"[digit - '0'] + "a")
            );
    }

    /// <summary>
    /// Whatever is typed, times are at least those that it was typed in full, and no phrase is kept that was typed once
    /// in a short text.
    /// </summary>
    [Fact]
    public void Phrases_are_counted_as_often_as_they_were_typed() =>
        HostModel
            .OneOf("the boat", "is late", "at the quay", "we wait", "for noon", "by the bridge")
            .Array[3, 6]
            .Array[1, 12]
            .Sample(
                typed =>
                {
                    var lines = typed.Select(words => string.Join(' ', words)).ToList();
                    var memory = Memory(lines);
                    foreach (var phrase in memory.Phrases)
                    {
                        var times = lines.Sum(line => Count(line, phrase.Text));
                        Assert.InRange(phrase.Times, 2, times);
                    }

                    static int Count(string line, string part)
                    {
                        var count = 0;
                        for (
                            var at = 0;
                            (at = $" {line} ".IndexOf($" {part} ", at, StringComparison.Ordinal)) >= 0;
                            at++
                        )
                            count++;
                        return count;
                    }
                },
                iter: Depth.Of(2000)
            );
}
