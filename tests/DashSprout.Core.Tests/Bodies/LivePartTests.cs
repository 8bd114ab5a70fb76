using System.Globalization;
using DashSprout.Core.Bodies;
using DashSprout.Core.Dates;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Slips;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using NodaTime;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Bodies;

/// <summary>
/// Numbers in the user's language, capitals, dates where the clocks change, turns, and what is left out.
/// </summary>
public sealed class LivePartTests
{
    [Theory]
    [InlineData("2,40", "de", "2.40")]
    [InlineData("2.40", "de", "2.40")]
    [InlineData("1.234", "de", "1234")]
    [InlineData("1.234,5", "de", "1234.5")]
    [InlineData("1.234.567,89", "de", "1234567.89")]
    [InlineData("12.34,5", "de", null)]
    [InlineData("1.2345,6", "de", null)]
    [InlineData("2,40", "en-GB", null)]
    [InlineData("2,400", "en-GB", "2400")]
    [InlineData("12,34,567", "en-IN", "1234567")]
    [InlineData("1,234,567", "en-IN", null)]
    [InlineData("1,234.50", "en-US", "1234.50")]
    [InlineData("1,23.50", "en-US", null)]
    [InlineData(",5", "de", "0.5")]
    [InlineData("5,", "de", "5")]
    [InlineData("-3", "en-GB", "-3")]
    [InlineData("−3,5", "de", "-3.5")]
    [InlineData("+7", "en-GB", "7")]
    [InlineData("1 234,5", "fr", "1234.5")]
    [InlineData("12’500.25", "de-CH", "12500.25")]
    [InlineData("12'500.25", "de-CH", "12500.25")]
    [InlineData("1,2,3", "en-GB", null)]
    [InlineData("", "en-GB", null)]
    [InlineData("-", "en-GB", null)]
    [InlineData("1e5", "en-GB", null)]
    [InlineData("٣", "en-GB", null)]
    [InlineData("79228162514264337593543950336", "en-GB", null)]
    public void Numbers_are_read_as_the_language_writes_them(string typed, string language, string? number) =>
        Assert.Equal(
            number is null ? null : decimal.Parse(number, CultureInfo.InvariantCulture),
            TypedNumber.Read(typed, CultureInfo.GetCultureInfo(language))
        );

    [Theory]
    [InlineData("de", "2,40", "4,8")]
    [InlineData("de", null, "3")]
    [InlineData("en-GB", "2.40", "4.8")]
    public void A_formula_takes_the_answer_in_the_language_and_the_default_as_it_is_written(
        string language,
        string? answer,
        string result
    )
    {
        const string Html =
            "<p><output data-formula=\"rate * 2\"></output><span data-when=\"rate &lt; 0\"><input "
            + "name=\"rate\" type=\"number\" value=\"1.5\"></span></p>";
        Assert.Equal(
            result,
            Plain(
                Html,
                new RenderContext { Locale = CultureInfo.GetCultureInfo(language), Answers = Given("rate", answer) }
            )
        );
    }

    [Fact]
    public void What_could_be_read_in_two_ways_is_told_and_never_worked_out()
    {
        var field = BodyField.Text("rate") with { Type = FieldType.Number, Title = "Rate" };
        var answers = new Answers([field], Given("rate", "2,40"), CultureInfo.GetCultureInfo("en-GB"));
        Assert.Equal("“2,40” is not a number here. Write a fraction like 2.40.", Slip.Problem(field, answers));
        var problem = Assert.Throws<RenderingException>(() =>
            Plain(
                "<p><input name=\"rate\" type=\"number\"><output data-formula=\"rate\"></output></p>",
                new RenderContext { Answers = Given("rate", "2,40") }
            )
        );
        Assert.Contains("“2,40” is not a number here", problem.Message, StringComparison.Ordinal);
        // A text field's answer counts the same in a formula.
        Assert.Contains(
            "“2,40” is not a number",
            Assert
                .Throws<RenderingException>(() =>
                    Plain(
                        "<p><input name=\"rate\"><output data-formula=\"rate * 100\"></output></p>",
                        new RenderContext { Answers = Given("rate", "2,40") }
                    )
                )
                .Message,
            StringComparison.Ordinal
        );
        Assert.Equal(
            "2,40240",
            Plain(
                "<p><input name=\"rate\"><output data-formula=\"rate * 100\"></output></p>",
                new RenderContext { Answers = Given("rate", "2,40"), Locale = CultureInfo.GetCultureInfo("de") }
            )
        );
    }

    [Fact]
    public void A_default_is_shown_as_the_language_writes_it() =>
        Assert.Equal(
            "12,5",
            Plain(
                "<p><input name=\"length\" type=\"number\" value=\"12.5\"></p>",
                new RenderContext { Locale = CultureInfo.GetCultureInfo("de") }
            )
        );

    /// <summary>Every unconditional line of the Unicode Character Database's <c>SpecialCasing.txt</c>.</summary>
    [Fact]
    public void Capitals_follow_Unicodes_full_mapping()
    {
        var lines = Unicode
            .Lines("SpecialCasing.txt")
            .Select(line => line.Split(';', StringSplitOptions.TrimEntries))
            .Where(parts => parts.Length == 5 && parts[4].Length == 0)
            .ToList();
        Assert.InRange(lines.Count, 100, 200);
        foreach (var parts in lines)
        {
            var letter = Text(parts[0]);
            Assert.Equal($"X{Text(parts[3])}Y", FullCasing.Upper($"x{letter}y", CultureInfo.InvariantCulture));
            Assert.Equal(
                Text(parts[2]),
                FullCasing.Title(letter.EnumerateRunes().First(), CultureInfo.InvariantCulture)
            );
        }

        static string Text(string codes) =>
            string.Concat(
                codes
                    .Split(' ')
                    .Select(code =>
                        char.ConvertFromUtf32(
                            int.Parse(code, NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture)
                        )
                    )
            );
    }

    [Theory]
    [InlineData("Große Straße", Capitals.All, "en-GB", "GROSSE STRASSE")]
    [InlineData("straße", Capitals.First, "en-GB", "Straße")]
    [InlineData("ﬁn", Capitals.First, "en-GB", "Fin")]
    [InlineData("ﬁnal ŉ", Capitals.All, "en-GB", "FINAL ʼN")]
    [InlineData("liman", Capitals.All, "tr", "LİMAN")]
    [InlineData("ilk", Capitals.First, "tr", "İlk")]
    [InlineData("ǆ", Capitals.First, "en-GB", "ǅ")]
    public void Typed_capitals_shape_a_text(string text, Capitals capitals, string language, string shaped) =>
        Assert.Equal(shaped, CapitalShapes.Shape(text, capitals, CultureInfo.GetCultureInfo(language)));

    /// <summary>
    /// ß has no capital that a key types: it stays small among capitals, and they count all the same.
    /// </summary>
    [Theory]
    [InlineData("GROßE", "STRASSE")]
    [InlineData("Große", "Straße")]
    [InlineData("große", "Straße")]
    [InlineData("GROSSE", "STRASSE")]
    public void Letters_without_a_capital_do_not_count(string typed, string shaped) =>
        Assert.Equal(shaped, CapitalShapes.Shape("Straße", CapitalShapes.Of(typed), CultureInfo.InvariantCulture));

    [Fact]
    public void An_abbreviation_typed_in_capitals_brings_its_text_in_capitals()
    {
        var index = Index(Snip("große", "Straße", letterCase: LetterCase.Mirror));
        Assert.Equal(
            "STRASSE ",
            Rehearsal
                .Run(
                    index,
                    [.. RehearsalStep.Type("GROßE ")],
                    new RehearsalSetting("post", FieldKind.Plain, false, new RenderContext(), null),
                    tracing: false
                )
                .Text
        );
    }

    /// <summary>
    /// What was stored before a limit came is told when it goes off, and is looked at and mended like any other.
    /// </summary>
    [Theory]
    [InlineData("<p>a<time data-pattern=\"d\" data-shift=\"P9000Y\"></time></p>", "at most 1000 years")]
    [InlineData("<p>a</p><div data-when=\"(\"><p>b</p></div>", "formula is wrong")]
    [InlineData("<p>a<slot name=\"later\"></slot></p>", "not known here")]
    public void A_stored_body_that_is_wrong_by_now_locks_nobody_out(string stored, string why)
    {
        var body = new Body.Html(stored);
        Assert.StartsWith("a", PreviewText.Of(body), StringComparison.Ordinal);
        Assert.Contains(
            why,
            Assert
                .Throws<RenderingException>(() => Renderer.Render(body, new RenderContext(), Capitals.AsWritten))
                .Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            why,
            Assert.Throws<InvalidInputException>(() => Body.Html.Parse(stored)).Message,
            StringComparison.Ordinal
        );
    }

    /// <summary>In London the clocks went back on 25 October 2026 at 01:00 UTC (IANA time zone database).</summary>
    [Theory]
    [InlineData("2026-10-25T00:30:00Z", "PT2H", "02:30")]
    [InlineData("2026-10-25T01:30:00Z", "PT2H", "03:30")]
    [InlineData("2026-10-25T01:30:00Z", "P0DT2H", "03:30")]
    [InlineData("2026-10-25T01:30:00Z", "PT0H", "01:30")]
    [InlineData("2026-10-24T23:30:00Z", "PT1H", "01:30")]
    [InlineData("2026-10-24T23:30:00Z", "PT2H", "01:30")]
    [InlineData("2026-10-24T00:30:00Z", "P1DT2H", "02:30")]
    [InlineData("2026-03-29T00:30:00Z", "PT1H", "02:30")]
    public void Hours_are_real_ones_when_the_clocks_change(string now, string shift, string time)
    {
        var moment = NodaTime
            .Text.InstantPattern.General.Parse(now)
            .Value.InZone(DateTimeZoneProviders.Tzdb["Europe/London"]);
        Assert.Equal(
            time,
            new DatePart(DatePattern.Parse("", "HH:mm"), DateShift.Parse("", shift)).Format(
                moment,
                CultureInfo.InvariantCulture,
                WorkingDays.MondayToFriday
            )
        );
    }

    /// <summary>Against stepping day by day, which is the rule in words.</summary>
    [Fact]
    public void Working_days_are_those_that_stepping_day_by_day_finds()
    {
        var random = new Random(17);
        for (var round = 0; round < 3000; round++)
        {
            var start = new LocalDate(2026, 1, 1).PlusDays(random.Next(700));
            List<LocalDate> holidays =
            [
                .. Enumerable.Range(0, random.Next(40)).Select(_ => start.PlusDays(random.Next(-60, 60))),
            ];
            List<IsoDayOfWeek> weekend =
            [
                .. Enumerable.Range(0, random.Next(0, 4)).Select(_ => (IsoDayOfWeek)random.Next(1, 8)),
            ];
            var days = random.Next(-40, 41);
            var working = new WorkingDays(weekend, holidays);
            var date = start;
            for (var left = days; left != 0; )
            {
                date = date.PlusDays(Math.Sign(days));
                if (!weekend.Contains(date.DayOfWeek) && !holidays.Contains(date))
                    left -= Math.Sign(days);
            }
            Assert.Equal(date, working.Add(start, days));
        }
    }

    [Theory]
    [InlineData("<ol><li>a</li><li><span data-when=\"no\">b</span></li><li>c</li></ol>", "1. a\n2. c")]
    [InlineData("<ol><li>a</li><li><div data-when=\"no\"><p>b</p></div></li><li>c</li></ol>", "1. a\n2. c")]
    [InlineData("<table><tr><td>a</td><td><span data-when=\"no\">b</span></td><td>c</td></tr></table>", "a\t\tc")]
    [InlineData("<table><tr><td>a</td><td><div data-when=\"no\"><p>b</p></div></td><td>c</td></tr></table>", "a\t\tc")]
    [InlineData("<table><tr><td><div data-when=\"no\"><p>b</p></div></td><td>c</td></tr></table>", "\tc")]
    [InlineData("<p>a</p> <p>b</p>", "a\nb")]
    [InlineData("<p>a</p>\n\n<p>b</p> \t <ul> <li>c</li> </ul> ", "a\nb\n- c")]
    [InlineData("<ul>one<li>two</li><b>three</b><ul><li>four</li></ul></ul>", "- one\n- two\n  three\n  - four")]
    [InlineData("<ul><li>x<table><tr><td>a</td><td>b</td></tr></table></li></ul>", "- x\n  a\tb")]
    [InlineData("<table><caption>Free</caption><tr><td>a</td></tr></table>", "Free\na")]
    public void What_is_left_out_leaves_no_gap(string html, string plain) =>
        Assert.Equal(
            plain,
            Plain("<aside data-notice><input name=\"no\" type=\"checkbox\"></aside>" + html, new RenderContext())
        );

    /// <summary>Pages put blocks into formatting; each of their lines has it then.</summary>
    [Theory]
    [InlineData("<b><p>a</p><p>b</p></b>", "<p><strong>a</strong></p><p><strong>b</strong></p>")]
    [InlineData(
        "x<em>y<ul><li>a</li></ul>z</em>",
        "<p>x</p><p><em>y</em></p><ul><li><p><em>a</em></p></li></ul><p><em>z</em></p>"
    )]
    [InlineData("<span style=\"color: #ff0000\"><h1>a</h1></span>", "<h1><span style=\"color: #ff0000\">a</span></h1>")]
    [InlineData(
        "<a href=\"https://example.org/\"><div>a</div><div>b</div></a>",
        "<p><a href=\"https://example.org/\">a</a></p><p><a href=\"https://example.org/\">b</a></p>"
    )]
    [InlineData("<span data-when=\"1 = 1\"><p>a</p></span>", "<div data-when=\"1 = 1\"><p>a</p></div>")]
    [InlineData("<font><p>a</p><p>b</p></font>", "<p>a</p><p>b</p>")]
    [InlineData("<mark data-select><p>a</p></mark>", "<p><mark data-select=\"\">a</mark></p>")]
    [InlineData("<p>a</p><form><p>dropped</p></form><button><div>dropped</div></button>", "<p>a</p>")]
    [InlineData(
        "<output data-formula=\"1 + 1\"><div>2</div></output>",
        "<p><output data-formula=\"1 + 1\"></output></p>"
    )]
    [InlineData("<a data-open href=\"app:post\"><p>post</p></a>", "<p><a data-open=\"\" href=\"app:post\"></a></p>")]
    public void Blocks_within_formatting_stay_blocks(string html, string kept) =>
        Assert.Equal(kept, Body.Html.Parse(html).Markup);

    [Fact]
    public void Words_alone_are_set_as_the_plain_writer_sets_them() =>
        Assert.Equal(
            "Dear ,\n- one\n1. two\nsaid\na\tb\n---\nend here",
            WordsOnly.Of(
                Body.Html.Parse(
                    "<p>Dear <input name=\"skipper\" value=\"x\">,</p><ul><li>one</li></ul><ol><li><b>two</b>"
                        + "</li></ol><blockquote><div data-when=\"1\"><p>said</p></div></blockquote>"
                        + "<table><tr><td>a</td><td>b</td></tr></table><hr><p>end<wbr data-caret> <span "
                        + "data-when=\"1\">here</span><kbd>Tab</kbd></p><aside data-notice>look</aside>"
                )
            )
        );

    [Theory]
    [InlineData(false, "see the fees now")]
    [InlineData(true, "see the fees (https://example.org/fees) now")]
    public void Addresses_of_links_follow_their_words_where_they_are_wanted(bool wanted, string plain)
    {
        var context = new RenderContext { ShowsLinkTargets = wanted };
        const string Html = "<p>see <a href=\"https://example.org/fees\">the <b>fees</b></a> now</p>";
        Assert.Equal(plain, Plain(Html, context));
        Assert.Equal(plain, Writers.Plain(Render(Html, context).Unformatted()).Text);
        Assert.Equal(
            "https://example.org/ quay@example.org",
            Plain(
                "<p><a href=\"https://example.org/\">https://example.org/</a> <a "
                    + "href=\"mailto:quay@example.org\">quay@example.org</a></p>",
                context
            )
        );
        Assert.Equal(
            "see <a href=\"https://example.org/fees\">the <strong>fees</strong></a> now",
            Writers.Rich(Render(Html, context)).Text
        );
    }

    [Fact]
    public void A_snippet_in_a_line_of_its_own_keeps_its_blocks()
    {
        var context = new RenderContext
        {
            FindSnippet = target =>
                target == "L/list" ? Body.Html.Parse("<ol><li>a</li><li>b</li></ol><hr><p>c</p>") : null,
        };
        Assert.Equal(
            "<p>x</p><ol><li>a</li><li>b</li></ol><hr><p>c</p>",
            Writers.Rich(Render("<p>x</p><p><slot name=\"snippet\" data-ref=\"L/list\"></slot></p>", context)).Text
        );
        Assert.Equal(
            "x 1. a\n2. b\n---\nc",
            Plain("<p>x <slot name=\"snippet\" data-ref=\"L/list\"></slot></p>", context)
        );
    }

    // ---- one of several --------------------------------------------------------------------------------------------

    private const string Cycle = "<div><menu data-pick=\"cycle\"><li>A</li><li>B</li><li>C</li></menu></div>";

    [Fact]
    public void A_turn_is_taken_by_what_goes_in_and_by_nothing_else()
    {
        var taken = new Dictionary<string, int>();
        var index = Index(
            AtOnce(";x", "") with
            {
                Body = Body.Html.Parse(Cycle.Replace("</div>", "<input name=\"a\"></div>", StringComparison.Ordinal)),
            }
        );
        var host = new TypingHost(
            new HostServices
            {
                Index = () => index,
                Context = () => new RenderContext { RotationsTaken = part => taken.GetValueOrDefault(part) },
            }
        );
        host.Focus("post", FieldKind.Plain);
        Assert.Equal("A", Preview());
        Assert.Equal("A", Preview());
        host.Leave();
        Assert.StartsWith("A", PutIn(), StringComparison.Ordinal);
        Assert.StartsWith("B", PutIn(), StringComparison.Ordinal);
        Assert.Equal("C", Preview());
        Assert.StartsWith("C", PutIn(), StringComparison.Ordinal);
        Assert.StartsWith("A", PutIn(), StringComparison.Ordinal);

        void Ask()
        {
            host.Focus("post", FieldKind.Plain);
            foreach (var key in Key.ForText(";x"))
                host.Press(new Keystroke(key), held: false);
        }

        string Preview()
        {
            Ask();
            return Writers
                .Plain(
                    Renderer
                        .Render(index.All.First().Placed.Snippet.Body, host.QuestionContext!, Capitals.AsWritten)
                        .Flow
                )
                .Text[..1];
        }

        string PutIn()
        {
            Ask();
            var answer = host.Fill(host.Question!.Number, new Dictionary<string, string>());
            foreach (var part in Assert.Single(answer.Ended, one => one.Outcome == Outcome.Inserted).Rotations)
                taken[part] = taken.GetValueOrDefault(part) + 1;
            return answer.Steps.OfType<DeliveryStep.PutIn>().First().Plain;
        }
    }

    [Fact]
    public void Each_part_of_each_snippet_has_turns_of_its_own()
    {
        var taken = new Dictionary<string, int>
        {
            ["#7/0"] = 1,
            ["#7/1"] = 2,
            ["L/inner/0"] = 1,
        };
        var context = new RenderContext
        {
            Self = "#7",
            RotationsTaken = part => taken.GetValueOrDefault(part),
            FindSnippet = target => target == "L/inner" ? Body.Html.Parse(Cycle) : null,
        };
        const string Inner =
            "<p><slot name=\"snippet\" data-ref=\"L/inner\"></slot>-<slot name=\"snippet\" "
            + "data-ref=\"L/inner\"></slot></p>";
        // What is left out before a part does not change which one it is.
        var rendering = Renderer.Render(
            Body.Html.Parse($"<div data-when=\"1 = 2\">{Cycle}</div>{Cycle}{Inner}"),
            context,
            Capitals.AsWritten
        );
        Assert.Equal("C\nB-C", Writers.Plain(rendering.Flow).Text);
        Assert.Equal(["#7/1", "L/inner/0", "L/inner/0"], rendering.Rotations);
    }

    [Fact]
    public void A_rehearsal_takes_turns_of_its_own()
    {
        var index = Index(AtOnce(";x", "") with { Body = Body.Html.Parse(Cycle) });
        var setting = new RehearsalSetting(
            "post",
            FieldKind.Plain,
            false,
            new RenderContext { RotationsTaken = _ => 1 },
            null
        );
        for (var round = 0; round < 2; round++)
            Assert.Equal(
                "B C A",
                Rehearsal.Run(index, [.. RehearsalStep.Type(";x ;x ;x")], setting, tracing: false).Text
            );
    }

    // ---- opening ---------------------------------------------------------------------------------------------------

    [Fact]
    public void What_a_part_opens_is_asked_for_its_own_snippet()
    {
        var asked = new List<OpenTarget>();
        var bodies = new Dictionary<string, Body>
        {
            ["#9"] = Body.Html.Parse("<p>x<a data-open href=\"file:///tmp/fees.txt\"></a></p>"),
        };
        var index = Index(
            AtOnce(";x", "") with
            {
                Body = Body.Html.Parse(
                    "<p><slot name=\"snippet\" data-ref=\"#9\"></slot><a data-open href=\"app:post\"></a></p>"
                ),
            }
        );
        var host = new TypingHost(
            new HostServices
            {
                Index = () => index,
                Context = () => new RenderContext { FindSnippet = bodies.GetValueOrDefault },
                MayOpen = opening =>
                {
                    asked.Add(opening);
                    return opening.Origin != "#9";
                },
            }
        );
        host.Focus("post", FieldKind.Plain);
        foreach (var key in Key.ForText(";"))
            host.Press(new Keystroke(key), held: false);
        var answer = host.Press(new Keystroke(Key.Typed("x")), held: false);
        Assert.Equal(
            [new OpenTarget("file:///tmp/fees.txt", "#9")],
            Assert.IsType<HostQuestion.MayOpen>(answer.Question).Openings
        );
        Assert.Equal([new OpenTarget("file:///tmp/fees.txt", "#9"), new OpenTarget("app:post", "#1")], asked);
    }

    private static Dictionary<string, string> Given(string name, string? answer) =>
        answer is null ? [] : new() { [name] = answer };

    private static Flow Render(string html, RenderContext context) =>
        Renderer.Render(Body.Html.Parse(html), context, Capitals.AsWritten).Flow;

    private static string Plain(string html, RenderContext context) => Writers.Plain(Render(html, context)).Text;
}
