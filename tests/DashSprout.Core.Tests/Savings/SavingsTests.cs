using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Libraries;
using DashSprout.Core.Savings;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Savings;

/// <summary>What firings save, and how it adds up: sums by hand.</summary>
public sealed class SavingsTests
{
    private static readonly DateOnly Monday = new(2026, 11, 23);

    /// <summary>Typed through the host, as any keyboard does.</summary>
    [Theory]
    [InlineData(";kr ", "Kind regards", "closing-key", 13 - 4, 12)] // "Kind regards " for ";kr "
    [InlineData(";kr", "Kind regards", "at-once", 12 - 3, 12)]
    [InlineData("teh ", "the", "closing-key", 0, 3)] // a corrected letter saves nothing
    [InlineData(";x", "🙂👍🏽", "at-once", 0, 2)] // two characters for two keys
    public void A_firing_saves_the_keys_that_need_not_be_pressed(
        string typed,
        string text,
        string timing,
        int keys,
        int characters
    )
    {
        var ended = Assert.Single(Type(typed, text, timing));
        Assert.Equal(
            (keys, characters, 0),
            (Saving.Of(ended).Keys, Saving.Of(ended).Characters, Saving.Of(ended).Fields)
        );
        Assert.Equal("post", ended.App);
    }

    [Fact]
    public void What_was_typed_into_a_slip_is_not_saved()
    {
        var host = Host("<p>Dear <input name=\"skipper\">, your berth is kept.</p>", ";b", "at-once");
        foreach (var key in Key.ForText(";b"))
            host.Press(new Keystroke(key), held: false, "");
        var question = Assert.IsType<HostQuestion.FillIn>(host.Question);
        var ended = Assert.Single(
            host.Fill(question.Number, new Dictionary<string, string> { ["skipper"] = "Marram" }).Ended
        );
        Assert.Equal("Dear Marram, your berth is kept.", ended.Inserted);
        Assert.Equal(
            ("Dear Marram, your berth is kept.".Length - 2 - 6, 1),
            (Saving.Of(ended).Keys, Saving.Of(ended).Fields)
        );
    }

    [Fact]
    public void What_is_taken_back_names_what_it_undid()
    {
        var host = Host("Kind regards", ";kr", "at-once");
        foreach (var key in Key.ForText(";kr"))
            host.Press(new Keystroke(key), held: false, "");
        var back = Assert.Single(
            host.Press(new Keystroke(Key.Parse("key", TypingEngine.DefaultTakeBackChord)), held: true, "").Ended
        );
        Assert.Equal((Outcome.TakenBack, 9), (back.Outcome, Saving.Of(back.Undone!).Keys));
        Assert.Equal(default, Saving.Of(back));
    }

    [Fact]
    public void A_pace_counts_typing_and_not_thinking()
    {
        var meter = new PaceMeter();
        // 501 characters, 300 ms from one to the next, with a long pause and a clock that goes back between.
        for (var at = 0; at < 251; at++)
            meter.Typed(at * 300L);
        meter.Typed(1_000_000);
        meter.Typed(2_000);
        for (var at = 1; at <= 250; at++)
            meter.Typed(2_000 + at * 300L);
        var pace = meter.Take();
        Assert.Equal(new TypingPace(500, 150_000), pace);
        Assert.True(pace.IsMeasured);
        Assert.Equal(40, pace.WordsPerMinute, 6); // 200 characters a minute
        Assert.Equal(1, pace.MinutesFor(200), 6);
        Assert.Equal(default, meter.Take());
        Assert.False(new TypingPace(499, 150_000).IsMeasured);
    }

    [Fact]
    public void Counts_add_up_by_day_snippet_library_and_application()
    {
        SavingsCount[] counts =
        [
            new(Monday, 1, "post", 3, 1, 30, 40, 0),
            new(Monday, 2, "console", 2, 0, 10, 12, 4),
            new(Monday.AddDays(2), 1, "post", 1, 0, 10, 14, 0),
            new(Monday.AddDays(-1), 1, "post", 100, 100, 1000, 1000, 100),
        ];
        var report = SavingsReport.Of(
            counts,
            default,
            Monday,
            Monday.AddDays(6),
            id => (id == 1 ? "Kind regards" : "Backup", "Berth desk"),
            app => app
        );
        Assert.Equal(new SavingsSum(6, 1, 50, 66, 4), report.Total);
        Assert.Equal([5, 0, 1, 0, 0, 0, 0], report.Days.Select(day => day.Sum.Expansions));
        Assert.Equal(
            [("Kind regards", 40L), ("Backup", 10L)],
            report.Snippets.Select(part => (part.Name, part.Sum.Keys))
        );
        Assert.Equal([("Berth desk", 50L)], report.Libraries.Select(part => (part.Name, part.Sum.Keys)));
        Assert.Equal([("post", 40L), ("console", 10L)], report.Apps.Select(part => (part.Name, part.Sum.Keys)));
        Assert.Equal(1.0 / 6, report.Total.TakenBackRate, 9);
        // Not measured yet: 40 words of five characters a minute.
        Assert.Equal(50.0 / 200, report.Minutes, 9);
        Assert.Equal(
            """
            23 November 2026 to 29 November 2026
            6 expansions, 1 of them taken back (16.7 %)
            50 keystrokes saved: about 0 minutes at 40 words a minute
            4 fields filled
            - Kind regards: 40 keystrokes, 4 times
            - Backup: 10 keystrokes, 2 times

            """.ReplaceLineEndings("\n"),
            report.Summary()
        );
    }

    [Fact]
    public void A_time_without_anything_says_so() =>
        Assert.Equal(
            "Nothing was put in in this time.\n",
            SavingsReport.Of([], default, Monday, Monday, _ => ("", ""), app => app).Summary()
        );

    private static IReadOnlyList<Ended> Type(string typed, string text, string timing)
    {
        var host = Host(text, typed.TrimEnd(), timing);
        return [.. Key.ForText(typed).SelectMany(key => host.Press(new Keystroke(key), held: false, "").Ended)];
    }

    private static TypingHost Host(string text, string abbreviation, string timing)
    {
        var rules = TypingRules.For(abbreviation, Wording.Parse<Timing>("timing", timing));
        var snippet = new Snippet(
            "Kind regards",
            true,
            "",
            false,
            DeliveryWay.Automatic,
            false,
            text.StartsWith('<') ? Body.Html.Parse(text) : new Body.Plain(text),
            new([new Trigger.Abbreviation(abbreviation, rules, Scope.Everywhere)])
        );
        var index = TriggerIndex.Of([PlacedSnippet.Unplaced("Kind regards") with { Snippet = snippet }]);
        var host = new TypingHost(new HostServices { Index = () => index, Context = () => new RenderContext() });
        host.Focus("post", FieldKind.Plain);
        return host;
    }
}
