using CsCheck;
using DashSprout.Core.Bodies;
using DashSprout.Core.Learning;
using DashSprout.Core.Slips;
using DashSprout.Core.Tests.Hosting;

namespace DashSprout.Core.Tests.Learning;

/// <summary>
/// Phrases worth a snippet, what alike texts share, texts that are nearly the same, and missed chances.
/// </summary>
public sealed class SproutTests
{
    private static readonly DateTimeOffset Now = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
    private static readonly IReadOnlySet<string> DateNames = DateWords.Of();

    private static string Parts(params string[] texts) =>
        string.Concat(
            SharedWords
                .Of(texts, DateNames)
                .Select(part =>
                    part switch
                    {
                        SharedPart.Same(var text) => text,
                        SharedPart.Gap gap => $"[{gap.Kind}:{string.Join('|', gap.Texts)}]",
                        _ => "",
                    }
                )
        );

    [Fact]
    public void Alike_texts_share_their_words_and_differ_in_names_numbers_and_dates()
    {
        Assert.Equal("Dear [Name:Marram|Tern], thank you", Parts("Dear Marram, thank you", "Dear Tern, thank you"));
        Assert.Equal(
            "berth [Number:4|12] is free from [Date:3 March|14 April 2026]",
            Parts("berth 4 is free from 3 March", "berth 12 is free from 14 April 2026")
        );
        Assert.Equal("the fee is [Number:126.00|84.50].", Parts("the fee is 126.00.", "the fee is 84.50."));
        Assert.Equal(
            "on [Date:02.03.2026|14.04.2026] at noon",
            Parts("on 02.03.2026 at noon", "on 14.04.2026 at noon")
        );
        Assert.Equal("we [Name:do not|] wait for you", Parts("we do not wait for you", "we wait for you"));
        Assert.Equal(
            "[Number:1|2|3] boats for [Name:Knot|Tern|Gull] here",
            Parts("1 boats for Knot here", "2 boats for Tern here", "3 boats for Gull here")
        );
        Assert.Equal("all the same", Parts("all the same", "all the same"));
    }

    [Fact]
    public void A_sprout_with_gaps_becomes_a_snippet_with_fields()
    {
        var phrase = new Phrase(
            1,
            true,
            new(["Dear Marram, berth 4 & quay", "Dear Tern, berth 7 & quay"]),
            4,
            Now,
            new(4, Now),
            new(["post"])
        );
        var sprout = new Sprout([phrase], SharedWords.Of(phrase.Texts, DateNames), 100);
        Assert.Equal(
            "<p>Dear <input name=\"name\" title=\"Name\">, berth <input name=\"number\" title=\"Number\" "
                + "type=\"number\"> &amp; quay</p>",
            sprout.Body.Source
        );
        Assert.Equal(["name", "number"], Slip.Of(sprout.Body, _ => null)!.Fields.Select(field => field.Name));
        Assert.Equal("Dear …, berth … &", sprout.Name);
        Assert.Equal(
            new Body.Plain("See you soon."),
            new Sprout([phrase with { Varies = false }], [new SharedPart.Same("See you soon.")], 1).Body
        );
    }

    [Fact]
    public void Sprouts_come_by_the_keys_they_save_and_parts_of_longer_ones_only_for_what_they_are_typed_beside()
    {
        var memory = new PhraseMemory(OpenWords.Secrets);
        void Type(int times, string text)
        {
            for (var time = 0; time < times; time++)
                memory.Learn(new TypedText("post", text), Now);
        }
        Type(5, "thank you for your booking at our harbour and have a good trip");
        Type(4, "the quay is closed for repairs today");
        Type(2, "the crane will be back on Monday morning");
        var sprouts = Sprout.Of(memory, Now, _ => false, 10);
        Assert.Equal(
            ["thank you for your booking at our harbour and have a good trip", "the quay is closed for repairs today"],
            sprouts.Select(sprout => sprout.Text)
        );
        Assert.True(sprouts[0].KeysAWeek > sprouts[1].KeysAWeek);
        Assert.Equal((36 - Sprout.AbbreviationKeys) * 4, sprouts[1].KeysAWeek);
        // Two weeks later it was typed half as often a week; a clock that was set back changes nothing.
        Assert.Equal(
            (36 - Sprout.AbbreviationKeys) * 2,
            Sprout.Of(memory, Now.AddDays(14), _ => false, 10)[1].KeysAWeek
        );
        Assert.Equal(
            sprouts.Select(sprout => sprout.KeysAWeek),
            Sprout.Of(memory, Now.AddYears(-3), _ => false, 10).Select(sprout => sprout.KeysAWeek)
        );
        Assert.Single(Sprout.Of(memory, Now, text => text.StartsWith("the quay", StringComparison.Ordinal), 10));

        Type(6, "thank you for your booking at our harbour");
        Assert.Contains(Sprout.Of(memory, Now, _ => false, 10), sprout =>
            sprout.Text == "thank you for your booking at our harbour"
        );
        foreach (var phrase in sprouts[0].Phrases)
            memory.Dismiss(phrase.Code);
        Assert.DoesNotContain(Sprout.Of(memory, Now, _ => false, 10), sprout =>
            sprout.Text.Contains("booking", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void A_text_longer_than_a_phrase_is_one_sprout()
    {
        const string Long =
            "Please keep clear of the north quay, where the crane is at work, until the harbour office tells "
            + "you by radio that it is free again.";
        var memory = new PhraseMemory(OpenWords.Secrets);
        for (var time = 0; time < 4; time++)
            memory.Learn(new TypedText("post", $"Note {Spoken(time)} now: {Long}"), Now);
        var sprout = Assert.Single(Sprout.Of(memory, Now, _ => false, 10));
        Assert.EndsWith(Long, sprout.Text, StringComparison.Ordinal);
        Assert.True(sprout.Phrases.Count > 10);
        foreach (var phrase in sprout.Phrases)
            memory.Dismiss(phrase.Code);
        Assert.Empty(Sprout.Of(memory, Now, _ => false, 10));
        memory.Recall(sprout.Phrase.Code);
        Assert.Equal(sprout.Text, Assert.Single(Sprout.Of(memory, Now, _ => false, 10)).Text);

        static string Spoken(int number) => ((string[])["one", "two", "three", "four"])[number];
    }

    [Fact]
    public void Texts_are_nearly_the_same_when_they_share_most_runs_of_words()
    {
        (long, string)[] texts =
        [
            (1, "Thank you for your booking. We look forward to seeing you at the quay."),
            (2, "thank you for your booking, we look forward to seeing you at the bridge"),
            (3, "The crane is out of order until Monday."),
            (4, "too short"),
            (5, "too short"),
        ];
        var pair = Assert.Single(NearlySame.Pairs(texts, 10));
        Assert.Equal((1, 2), (pair.One, pair.Other));
        Assert.Equal(12 / 14.0, pair.Alike);
        Assert.Equal(
            1,
            NearlySame.Pairs([(7, "the same words as there"), (8, "The same words as there!")], 10).Single().Alike
        );
        Assert.Empty(NearlySame.Pairs(texts, 0));
    }

    /// <summary>Nothing that is alike enough is passed over: against comparing each with each.</summary>
    [Fact]
    public void Pairs_are_those_that_comparing_all_gives() =>
        HostModel
            .OneOf("boat", "quay", "tide", "crane", "noon", "berth")
            .Array[4, 9]
            .Array[2, 14]
            .Sample(
                texts =>
                {
                    var numbered = texts.Select((words, at) => ((long)at, string.Join(' ', words))).ToList();
                    var all =
                        from one in numbered
                        from other in numbered
                        where one.Item1 < other.Item1
                        let alike = Shared(one.Item2, other.Item2)
                        where alike >= NearlySame.Fewest
                        select (one.Item1, other.Item1);
                    Assert.Equal(
                        all.Order(),
                        NearlySame.Pairs(numbered, 1000).Select(pair => (pair.One, pair.Other)).Order()
                    );

                    static double Shared(string one, string other)
                    {
                        var (a, b) = (Runs(one), Runs(other));
                        return (double)a.Intersect(b).Count() / a.Union(b).Count();
                    }

                    static HashSet<string> Runs(string text) =>
                        [.. text.Split(' ').Zip(text.Split(' ').Skip(1), (first, second) => $"{first} {second}")];
                },
                iter: Depth.Of(2000)
            );

    [Fact]
    public void A_missed_chance_is_said_once_an_hour_and_counted_each_time()
    {
        var missed = new MissedChances();
        Assert.True(missed.Add(7, 20, Now));
        Assert.False(missed.Add(7, 20, Now.AddMinutes(59)));
        Assert.True(missed.Add(8, 10, Now.AddMinutes(59)));
        Assert.True(missed.Add(7, 20, Now.AddMinutes(60)));
        // The clock was set back: nothing stays quiet for longer than it would have.
        Assert.True(missed.Add(7, 20, Now.AddDays(-2)));
        Assert.Equal(new MissedChance(7, 4, 80, Now.AddDays(-2)), missed.All.Single(chance => chance.SnippetId == 7));
        var kept = new MissedChances();
        kept.Restore(missed.All);
        kept.Forget(chance => chance.SnippetId == 8);
        Assert.Equal([7L], kept.All.Select(chance => chance.SnippetId));
    }
}
