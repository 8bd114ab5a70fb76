using DashSprout.Core.Bodies;
using DashSprout.Core.Dates;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Bodies;

/// <summary>
/// No body holds the program up: what is too large, too deep or too often in another is refused with words.
/// </summary>
public sealed class BodyBoundsTests
{
    private const int Patience = 600_000;

    public static TheoryData<string, string, string> TooLarge =>
        new()
        {
            { "elements in each other", Repeat("<b>", 50_000), "nested more than 100 deep" },
            {
                "open elements with many paragraphs",
                Repeat("<b>", 500) + Repeat("<p>", 2500),
                "nested more than 100 deep"
            },
            {
                "quotations in each other",
                Repeat("<blockquote>", 101) + "x" + Repeat("</blockquote>", 101),
                "nested more than 100 deep"
            },
            { "lists in each other", Repeat("<ul><li>", 101), "nested more than 100 deep" },
            { "comments", Repeat("<!-- -->", 120_000), "more than 2,000 parts" },
            { "fields", Repeat("<input name=\"a\">", 50_000), "more than 2,000 parts" },
            { "ends without a start", Repeat("</p>", 50_000), "more than 2,000 parts" },
            {
                "attributes",
                $"<p {string.Concat(Enumerable.Range(0, 20_000).Select(at => $" a{at}=x"))}>",
                "more than 100 attributes"
            },
            { "declarations", Repeat("<!x>", 50_000), "more than 2,000 parts" },
        };

    [Theory(Timeout = Patience)]
    [MemberData(nameof(TooLarge))]
    public async Task A_source_that_is_too_large_is_refused_before_it_is_read(string what, string source, string why)
    {
        await Task.Run(() => { }, TestContext.Current.CancellationToken);
        var refused = Assert.Throws<InvalidInputException>(() => Body.Html.Parse(source));
        Assert.True(refused.Message.Contains(why, StringComparison.Ordinal), $"{what}: {refused.Message}");
        Assert.Equal("body", refused.Errors[0].Field);
    }

    [Theory(Timeout = Patience)]
    [InlineData("<b>", 99, "<p>a", 900)]
    [InlineData("<blockquote>", 99, "<p>a</p>", 1)]
    [InlineData("", 0, "<p>a</p>", 2000)]
    [InlineData("", 0, "<span style=\"color: red\">a</span> ", 1999)]
    [InlineData("<div style=\"text-align: left\">", 50, "<br>", 1900)]
    public async Task What_is_just_small_enough_is_read(string open, int openTimes, string part, int times)
    {
        await Task.Run(() => { }, TestContext.Current.CancellationToken);
        var body = Body.Html.Parse(Repeat(open, openTimes) + Repeat(part, times));
        Assert.Equal(body.Markup, Body.Html.Parse(body.Markup).Markup);
        _ = Writers.Markdown(Renderer.Render(body, new RenderContext(), Capitals.AsWritten).Flow);
    }

    [Theory]
    [InlineData("<script><b><b></script>", 0)]
    [InlineData("<textarea name=\"a\"><i><i><i></textarea>", 1)]
    [InlineData("<p title=\"<b><b>\">x</p>", 1)]
    [InlineData("a < b <3 </ <", 1)]
    public void What_only_looks_like_elements_is_not_counted(string part, int blocks) =>
        Assert.Equal(blocks, BodyParser.Parse(Repeat(part, 1)).Tree.Blocks.Count);

    /// <summary>Ten snippets of ten references each would come to ten thousand million texts.</summary>
    [Fact(Timeout = Patience)]
    public async Task Snippets_that_hold_each_other_many_times_are_refused_and_never_put_together()
    {
        await Task.Run(() => { }, TestContext.Current.CancellationToken);
        var bodies = new Dictionary<string, Body> { ["L/0"] = new Body.Plain("a") };
        for (var at = 1; at <= 10; at++)
            bodies[$"L/{at}"] = Body.Html.Parse($"<p>{Repeat(Reference($"L/{at - 1}"), 10)}</p>");
        Assert.Contains("more than 200 times", Refused(bodies, "L/10"), StringComparison.Ordinal);
        BodyCheck.Check(bodies["L/2"], "L/2", bodies.GetValueOrDefault);
        Assert.Contains("more than 200 times", NotPutIn(bodies, "L/10"), StringComparison.Ordinal);
        Assert.Equal(new string('a', 100), Plain(bodies, "L/2"));
    }

    [Fact(Timeout = Patience)]
    public async Task Diamonds_and_long_chains_are_looked_at_once()
    {
        await Task.Run(() => { }, TestContext.Current.CancellationToken);
        var diamonds = new Dictionary<string, Body> { ["L/0"] = new Body.Plain("a") };
        for (var at = 1; at <= 40; at++)
            diamonds[$"L/{at}"] = Body.Html.Parse($"<p>{Reference($"L/{at - 1}")}{Reference($"L/{at - 1}")}</p>");
        Assert.Contains("20 deep", Refused(diamonds, "L/40"), StringComparison.Ordinal);
        Assert.Contains("more than 200 times", Refused(diamonds, "L/8"), StringComparison.Ordinal);
        BodyCheck.Check(diamonds["L/6"], "L/6", diamonds.GetValueOrDefault);

        var chain = new Dictionary<string, Body> { ["L/0"] = new Body.Plain("a") };
        for (var at = 1; at <= 5000; at++)
            chain[$"L/{at}"] = Body.Html.Parse($"<p>{Reference($"L/{at - 1}")}</p>");
        Assert.Contains("20 deep", Refused(chain, "L/5000"), StringComparison.Ordinal);
        BodyCheck.Check(chain["L/20"], "L/20", chain.GetValueOrDefault);
        Assert.Contains("20 deep", Refused(chain, "L/21"), StringComparison.Ordinal);
        Assert.Equal("a", Plain(chain, "L/20"));
    }

    [Fact(Timeout = Patience)]
    public async Task Many_references_to_a_long_text_come_to_too_much()
    {
        await Task.Run(() => { }, TestContext.Current.CancellationToken);
        var bodies = new Dictionary<string, Body>
        {
            ["L/long"] = new Body.Plain(new string('a', Body.MaxBytes)),
            ["L/once"] = Body.Html.Parse($"<p>{Reference("L/long")}</p>"),
            ["L/bulk"] = Body.Html.Parse($"<p>{Repeat(Reference("L/ten"), 150)}</p>"),
            ["L/ten"] = new Body.Plain(new string('a', 2000)),
        };
        Assert.Contains("more than 200,000 characters", Refused(bodies, "L/once"), StringComparison.Ordinal);
        Assert.Contains("more than 200,000 characters", Refused(bodies, "L/bulk"), StringComparison.Ordinal);
        Assert.Contains("more than 200,000 characters", NotPutIn(bodies, "L/bulk"), StringComparison.Ordinal);
        // A text of one's own is as long as a body may be.
        BodyCheck.Check(bodies["L/long"], "L/long", bodies.GetValueOrDefault);
    }

    [Fact]
    public void The_clipboard_does_not_grow_without_bound()
    {
        var body = Body.Html.Parse($"<p>{Repeat("<slot name=\"clipboard\"></slot>", 100)}</p>");
        var context = new RenderContext { Clipboard = new string('a', 100_000) };
        Assert.Contains(
            "1,000,000 characters",
            Assert.Throws<RenderingException>(() => Renderer.Render(body, context, Capitals.AsWritten)).Message,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("P9000Y")]
    [InlineData("-P1001Y")]
    [InlineData("P99999M")]
    [InlineData("PT99999999H")]
    public void A_shift_beyond_the_calendar_is_refused_with_its_limit(string shift) =>
        Assert.Contains(
            "at most 1000 years",
            Assert.Throws<InvalidInputException>(() => DateShift.Parse("body", shift)).Message,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData("<time data-pattern=\"d\" data-from=\"day\" data-shift=\"P1D\"></time>")]
    [InlineData("<time data-pattern=\"d\" data-from=\"day\" data-shift=\"P300D\" data-days=\"working\"></time>")]
    [InlineData("<time data-pattern=\"d\" data-from=\"day\" data-snap=\"next-friday\"></time>")]
    [InlineData("<time data-pattern=\"d\" data-from=\"day\" data-shift=\"PT1000H\"></time>")]
    public void An_answer_at_the_calendars_end_is_told_at_its_field(string date)
    {
        var body = Body.Html.Parse($"<p><input name=\"day\" type=\"date\">{date}</p>");
        var context = new RenderContext { Answers = new Dictionary<string, string> { ["day"] = "9999-12-31" } };
        var problem = Assert.Throws<RenderingException>(() => Renderer.Render(body, context, Capitals.AsWritten));
        Assert.Contains("outside the calendar", problem.Message, StringComparison.Ordinal);
        Assert.Equal("day", problem.Field);
    }

    [Theory(Timeout = Patience)]
    [InlineData("a{2147483647}")]
    [InlineData("(a{900}){900}")]
    [InlineData("(((a{9}){9}){9}){9}")]
    [InlineData("a{99999999999999999999}")]
    public async Task A_pattern_that_repeats_too_much_is_refused(string pattern)
    {
        await Task.Run(() => { }, TestContext.Current.CancellationToken);
        Assert.Contains(
            "repeats too much",
            Assert
                .Throws<InvalidInputException>(() =>
                    new Trigger.Pattern(pattern, TypingRules.For("a"), Scope.Everywhere)
                )
                .Message,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("PT999999999999999999S")]
    [InlineData("PT99999999999999999999999999S")]
    [InlineData("PT9223372036854775807H")]
    [InlineData("PT61S")]
    [InlineData("P1D")]
    [InlineData("PT-1S")]
    public void A_pause_that_is_none_is_refused(string time) =>
        Assert.Contains(
            "is no pause",
            Assert
                .Throws<InvalidInputException>(() =>
                    Body.Html.Parse($"<p><slot name=\"wait\" data-for=\"{time}\"></slot></p>")
                )
                .Message,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData(30_000, 30_000)]
    [InlineData(10_001, 1)]
    [InlineData(0, 10)]
    public void A_picture_is_refused_by_its_header(int width, int height)
    {
        byte[] png =
        [
            0x89,
            (byte)'P',
            (byte)'N',
            (byte)'G',
            0x0D,
            0x0A,
            0x1A,
            0x0A,
            0,
            0,
            0,
            13,
            (byte)'I',
            (byte)'H',
            (byte)'D',
            (byte)'R',
            .. Big(width),
            .. Big(height),
        ];
        Assert.Throws<InvalidInputException>(() => PictureType.Of(png));
        Assert.Equal("image/png", PictureType.Of([.. png[..16], .. Big(4000), .. Big(3000)]));

        static byte[] Big(int number) =>
            [(byte)(number >> 24), (byte)(number >> 16), (byte)(number >> 8), (byte)number];
    }

    /// <summary>
    /// JPEG, GIF and WebP tell their sizes too (ISO/IEC 10918-1 B.2.2, GIF89a section 18, RFC 9649 section 2).
    /// </summary>
    [Fact]
    public void Sizes_are_read_from_every_kind_of_header()
    {
        byte[] jpeg = [0xFF, 0xD8, 0xFF, 0xE0, 0, 4, 1, 2, 0xFF, 0xC0, 0, 17, 8, 0x0B, 0xB8, 0x0F, 0xA0, 3, 1];
        byte[] gif = [.. "GIF89a"u8, 0x40, 0x9C, 0x10, 0x00];
        byte[] webp = [.. "RIFF"u8, 0, 0, 0, 0, .. "WEBPVP8X"u8, 10, 0, 0, 0, 0, 0, 0, 0, 0x9F, 0x0F, 0, 0xB7, 0x0B, 0];
        byte[] lossless =
        [
            .. "RIFF"u8,
            0,
            0,
            0,
            0,
            .. "WEBPVP8L"u8,
            10,
            0,
            0,
            0,
            0x2F,
            0x9F,
            0xCF,
            0xED,
            0x02,
            0,
            0,
            0,
            0,
            0,
        ];
        Assert.Equal((4000, 3000), PictureSize.Of(jpeg));
        Assert.Equal((40_000, 16), PictureSize.Of(gif));
        Assert.Equal((4000, 3000), PictureSize.Of(webp));
        Assert.Equal((4000, 3000), PictureSize.Of(lossless));
        Assert.Equal("image/jpeg", PictureType.Of(jpeg));
        Assert.Throws<InvalidInputException>(() => PictureType.Of(gif));
        Assert.Null(PictureSize.Of([0xFF, 0xD8, 0xFF]));
    }

    private static string Repeat(string text, int times) => string.Concat(Enumerable.Repeat(text, times));

    private static string Reference(string target) => $"<slot name=\"snippet\" data-ref=\"{target}\"></slot>";

    private static string Refused(Dictionary<string, Body> bodies, string path) =>
        Assert
            .Throws<InvalidInputException>(() => BodyCheck.Check(bodies[path], path, bodies.GetValueOrDefault))
            .Message;

    private static RenderContext Context(Dictionary<string, Body> bodies) =>
        new() { FindSnippet = bodies.GetValueOrDefault };

    private static string Plain(Dictionary<string, Body> bodies, string path) =>
        Writers.Plain(Renderer.Render(bodies[path], Context(bodies), Capitals.AsWritten).Flow).Text;

    private static string NotPutIn(Dictionary<string, Body> bodies, string path) =>
        Assert.Throws<RenderingException>(() => Plain(bodies, path)).Message;
}
