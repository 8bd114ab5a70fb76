using System.Globalization;
using DashSprout.Core.Bodies;
using DashSprout.Core.Hosting;
using DashSprout.Core.Slips;
using DashSprout.Core.Text;

namespace DashSprout.Core.Tests.Bodies;

/// <summary>
/// Fields that depend on each other, choices that count for something, rows that repeat, answers that must fit.
/// </summary>
public sealed class SlipTests
{
    private const string Fees = """
        <p><input name="rate" type="number" value="2.40"></p>
        <table><tr><th>Vessel</th><th>Fee</th></tr>
        <tr data-rows="1-20"><td><input name="vessel"></td><td><input name="nights" type="number" value="1">
            <output data-formula="nights * rate" data-pattern="0.00"></output></td></tr></table>
        <p>Total <output data-formula="sum(nights * rate)" data-pattern="0.00"></output></p>
        """;

    [Fact]
    public void A_row_is_repeated_as_often_as_it_is_answered_and_added_up()
    {
        Assert.Equal("2.40\nVessel\tFee\n\t1 2.40\nTotal 2.40", Plain(Fees));
        Assert.Equal(
            "2.40\nVessel\tFee\nTern\t3 7.20\nMarram\t1 2.40\nTotal 9.60",
            Plain(Fees, ("vessel[1]", "Tern"), ("nights[1]", "3"), ("vessel[2]", "Marram"))
        );
        // The number of rows can be said; an answer without a row is the first one's.
        Assert.Equal(
            "2.40\nVessel\tFee\nTern\t1 2.40\n\t1 2.40\n\t1 2.40\nTotal 7.20",
            Plain(Fees, ("vessel", "Tern"), ("[1]", "3"))
        );
        Assert.EndsWith("Total 48.00", Plain(Fees, ("[1]", "99")), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("<p><output data-formula=\"nights\"></output></p>", "asked in each row. Write sum(nights)")]
    [InlineData("<p><output data-formula=\"sum(rate)\"></output></p>", "none of its names is asked in a row")]
    public void What_makes_no_sense_over_rows_says_so(string html, string why) =>
        Assert.Contains(
            why,
            Assert.Throws<RenderingException>(() => Plain(Fees + html)).Message,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData("0-3", "least and the most")]
    [InlineData("3-1", "least and the most")]
    [InlineData("1-101", "at most 100")]
    [InlineData("many", "least and the most")]
    [InlineData("1", "least and the most")]
    public void A_number_of_rows_that_is_none_is_refused(string range, string why) =>
        Assert.Contains(
            why,
            Assert
                .Throws<InvalidInputException>(() =>
                    Body.Html.Parse($"<table><tr data-rows=\"{range}\"><td>a</td></tr></table>")
                )
                .Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void A_repeated_row_cannot_lie_in_another() =>
        Assert.Contains(
            "cannot lie in another",
            Assert
                .Throws<InvalidInputException>(() =>
                    Body.Html.Parse(
                        "<table><tr data-rows=\"1-3\"><td><table><tr data-rows=\"1-3\"><td>a</td></tr>"
                            + "</table></td></tr></table>"
                    )
                )
                .Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void A_default_is_worked_out_from_the_other_answers_until_somebody_types_one()
    {
        const string Html =
            "<p><input name=\"nights\" type=\"number\" value=\"2\"> <input name=\"fee\" type=\"number\" "
            + "data-default=\"nights * 2.5\"> <input name=\"half\" type=\"number\" data-default=\"fee "
            + "/ 2\"></p>";
        Assert.Equal("2 5 2.5", Plain(Html));
        Assert.Equal("4 10 5", Plain(Html, ("nights", "4")));
        Assert.Equal("4 8 4", Plain(Html, ("nights", "4"), ("fee", "8")));
        Assert.Equal("x  ", Plain(Html, ("nights", "x")));
        Assert.Equal("3 7,5 3,75", Plain(Html, CultureInfo.GetCultureInfo("de"), ("nights", "3")));
        Assert.Equal(
            "Berth Tern yes 2026-03-05",
            string.Join(
                ' ',
                Defaults(
                        "<p><input name=\"a\" data-default=\"if(1 = 1, 'Berth', 'x')\"><input name=\"b\" "
                            + "data-default=\"c\"><input name=\"c\" value=\"Tern\"><input name=\"d\" "
                            + "type=\"checkbox\" data-default=\"1 &lt; 2\">"
                            + "<input name=\"e\" type=\"date\" data-default=\"f\"><input name=\"f\" "
                            + "type=\"date\" value=\"2026-03-05\"></p>",
                        "a",
                        "b",
                        "d",
                        "e"
                    )
                    .Select(text => text == "true" ? "yes" : text)
            )
        );
    }

    [Fact]
    public void Defaults_in_rows_are_worked_out_in_each()
    {
        const string Html =
            "<table><tr data-rows=\"1-5\"><td><input name=\"n\" type=\"number\" value=\"1\"></td><td><input "
            + "name=\"twice\" type=\"number\" data-default=\"n * 2\"></td></tr></table>";
        Assert.Equal("1\t2\n5\t10\n7\t3", Plain(Html, ("n[2]", "5"), ("n[3]", "7"), ("twice[3]", "3")));
        Assert.Equal(["2", "10"], Defaults(Html, [("n[2]", "5")], "twice[1]", "twice[2]"));
    }

    [Fact]
    public void Defaults_that_wait_for_each_other_are_refused_when_saved_and_empty_when_stored()
    {
        var body = new Body.Html(
            "<p><input name=\"a\" data-default=\"b\"><input name=\"b\" data-default=\"c\"><input name=\"c\" "
                + "data-default=\"b\"></p>"
        );
        Assert.Contains(
            "The defaults of b, c wait for each other",
            Assert.Throws<InvalidInputException>(() => BodyCheck.Check(body, "L/a", _ => null)).Message,
            StringComparison.Ordinal
        );
        Assert.Equal("", Writers.Plain(Renderer.Render(body, new RenderContext(), Capitals.AsWritten).Flow).Text);
        Assert.Contains(
            "uses “gone”",
            Assert
                .Throws<InvalidInputException>(() =>
                    BodyCheck.Check(Body.Html.Parse("<p><input name=\"a\" data-default=\"gone\"></p>"), "L/a", _ =>
                        null
                    )
                )
                .Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_choice_shows_its_label_and_counts_for_its_value()
    {
        const string Html =
            "<p><select name=\"quay\"><option value=\"12.50\">Quay A</option><option>Quay B</option></select>"
            + " <output data-formula=\"quay\"></output></p>";
        Assert.Equal("Quay A 12.50", Plain(Html));
        Assert.Equal("Quay B Quay B", Plain(Html, ("quay", "Quay B")));
        Assert.Equal(
            "Quay A 25",
            Plain(
                Html.Replace("\"quay\"></output>", "\"quay * 2\"></output>", StringComparison.Ordinal),
                CultureInfo.GetCultureInfo("de")
            )
        );
        Assert.Equal("“12.50” is none of the choices.", Problem(Html, "quay", "12.50"));
    }

    [Theory]
    [InlineData("[A-Z]{2}\\d+", "GH12", null)]
    [InlineData("[A-Z]{2}\\d+", "GH12x", "“GH12x” does not fit. It must be like this: [A-Z]{2}\\d+")]
    [InlineData("a|b", "ab", "“ab” does not fit. It must be like this: a|b")]
    [InlineData("a|b", "", null)]
    public void An_answer_must_fit_its_pattern_as_a_whole(string pattern, string answer, string? problem) =>
        Assert.Equal(problem, Problem($"<p><input name=\"code\" pattern=\"{pattern}\"></p>", "code", answer));

    [Theory]
    [InlineData("min", "2,40")]
    [InlineData("max", "1,000")]
    [InlineData("step", "x")]
    public void A_limit_that_is_no_number_is_refused_and_not_read_as_another(string limit, string value) =>
        Assert.Contains(
            $"{limit} of the field “n” is not a number",
            Assert
                .Throws<InvalidInputException>(() =>
                    Body.Html.Parse($"<p><input name=\"n\" type=\"number\" {limit}=\"{value}\"></p>")
                )
                .Message,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData("[")]
    [InlineData("(?=a)")]
    [InlineData("(a)\\1")]
    public void A_pattern_that_does_not_work_is_refused(string pattern) =>
        Assert.Contains(
            "“code” does not work",
            Assert
                .Throws<InvalidInputException>(() =>
                    Body.Html.Parse($"<p><input name=\"code\" pattern=\"{pattern}\"></p>")
                )
                .Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void What_is_still_empty_shows_in_the_preview_of_a_slip()
    {
        var context = new RenderContext { MarksEmpty = true };
        var body = Body.Html.Parse(
            "<p>Dear <input name=\"skipper\" title=\"Skipper\">, <input name=\"nights\" type=\"number\" "
                + "value=\"3\"></p>"
        );
        Assert.Equal("Dear ⟨Skipper⟩, 3", Writers.Plain(Renderer.Render(body, context, Capitals.AsWritten).Flow).Text);
        Assert.Contains(
            "background-color",
            Writers.Rich(Renderer.Render(body, context, Capitals.AsWritten).Flow).Text,
            StringComparison.Ordinal
        );
        var worked = Body.Html.Parse(
            "<p><output data-formula=\"nights * 2\"></output>, <span data-when=\"nights > 1\">more</span>"
                + "<time data-pattern=\"d\" data-from=\"day\"></time><input name=\"nights\" title=\"Nights\" "
                + "type=\"number\"><input name=\"day\" type=\"date\"></p>"
        );
        Assert.Equal(
            "⟨nights * 2⟩, ⟨day⟩⟨Nights⟩⟨day⟩",
            Writers.Plain(Renderer.Render(worked, context, Capitals.AsWritten).Flow).Text
        );
        Assert.Throws<RenderingException>(() => Renderer.Render(worked, new RenderContext(), Capitals.AsWritten));
        Assert.Equal(
            "Dear , 3",
            Writers.Plain(Renderer.Render(body, new RenderContext(), Capitals.AsWritten).Flow).Text
        );
    }

    [Fact]
    public void A_run_of_keys_is_pressed_key_by_key()
    {
        var flow = Renderer
            .Render(
                Body.Html.Parse("<p><kbd data-run>Tab Space x Ctrl+B</kbd></p>"),
                new RenderContext(),
                Capitals.AsWritten
            )
            .Flow;
        Assert.Equal(
            ["Tab", " ", "x", "Ctrl+B"],
            flow.Leaves.SelectMany(leaf => leaf.Pieces).Cast<Piece.KeyPress>().Select(press => press.Key.Value)
        );
        Assert.Contains(
            "is not a key",
            Assert
                .Throws<InvalidInputException>(() => Body.Html.Parse("<p><kbd data-run>Tab Bananas</kbd></p>"))
                .Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "1 to 200 keys",
            Assert.Throws<InvalidInputException>(() => Body.Html.Parse("<p><kbd data-run></kbd></p>")).Message,
            StringComparison.Ordinal
        );
        var recorder = new KeyRecorder();
        foreach (var key in (string[])["Tab", "Tab", "Enter", "a", "Home"])
            recorder.Decided([Key.Parse("key", key)], []);
        Assert.Equal("<p><kbd data-run=\"\">Tab Tab Enter</kbd>a<kbd>Home</kbd></p>", recorder.ToBody().Source);
    }

    [Theory]
    [InlineData("/harbour/tides.json", "/high/0/height", null)]
    [InlineData("https://example.org/a.json", "", null)]
    [InlineData("file:///srv/fees.json", "/a~1b", null)]
    [InlineData("javascript:x()", "/a", "cannot be read")]
    [InlineData("//example.org/a.json", "/a", "cannot be read")]
    [InlineData("https://example.org/a.json", "a/b", "JSON Pointer")]
    public void A_live_value_names_its_document_and_its_place(string source, string path, string? why)
    {
        var html = $"<p>Tide <slot name=\"live\" data-url=\"{source}\" data-path=\"{path}\"></slot> m</p>";
        if (why is not null)
        {
            Assert.Contains(
                why,
                Assert.Throws<InvalidInputException>(() => Body.Html.Parse(html)).Message,
                StringComparison.Ordinal
            );
            return;
        }
        LiveValue Read(string from, string at) =>
            (from, at) == (source, path) ? new LiveValue.Now("4.2") : new LiveValue.Missing("no");
        Assert.Equal(
            "Tide 4.2 m",
            Writers
                .Plain(
                    Renderer
                        .Render(Body.Html.Parse(html), new RenderContext { ReadLive = Read }, Capitals.AsWritten)
                        .Flow
                )
                .Text
        );
    }

    [Fact]
    public void A_live_value_that_cannot_be_had_comes_with_its_age_or_not_at_all()
    {
        var body = Body.Html.Parse(
            "<p><slot name=\"live\" data-url=\"/harbour/tides.json\" data-path=\"/high/0/height\"></slot></p>"
        );
        string Text(LiveValue value) =>
            Writers
                .Plain(Renderer.Render(body, new RenderContext { ReadLive = (_, _) => value }, Capitals.AsWritten).Flow)
                .Text;
        Assert.Equal("4.2 (12 min old)", Text(new LiveValue.Before("4.2", "12 min old")));
        Assert.Equal(
            "It is away.",
            Assert.Throws<RenderingException>(() => Text(new LiveValue.Missing("It is away."))).Message
        );
    }

    private static string Plain(string html, params (string Key, string Answer)[] answers) =>
        Plain(html, CultureInfo.GetCultureInfo("en-GB"), answers);

    private static string Plain(string html, CultureInfo language, params (string Key, string Answer)[] answers) =>
        Writers
            .Plain(
                Renderer
                    .Render(
                        Body.Html.Parse(html),
                        new RenderContext
                        {
                            Locale = language,
                            Answers = answers.ToDictionary(one => one.Key, one => one.Answer),
                        },
                        Capitals.AsWritten
                    )
                    .Flow
            )
            .Text;

    private static IEnumerable<string> Defaults(string html, params string[] keys) => Defaults(html, [], keys);

    private static IEnumerable<string> Defaults(string html, (string Key, string Answer)[] given, params string[] keys)
    {
        var fields = BodyFields.Of(Body.Html.Parse(html).Tree, _ => null);
        var defaults = new Answers(
            fields,
            given.ToDictionary(one => one.Key, one => one.Answer),
            CultureInfo.InvariantCulture
        ).Defaults();
        return keys.Select(key => defaults[key]);
    }

    private static string? Problem(string html, string name, string answer)
    {
        var fields = BodyFields.Of(Body.Html.Parse(html).Tree, _ => null);
        return Slip.Problem(
            fields.Single(field => field.Name == name),
            new Answers(fields, new Dictionary<string, string> { [name] = answer }, CultureInfo.InvariantCulture)
        );
    }
}
