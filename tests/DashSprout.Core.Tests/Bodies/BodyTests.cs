using CsCheck;
using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using Markdig;
using Markdig.Extensions.EmphasisExtras;
using NodaTime;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Bodies;

/// <summary>What bodies come to: parsing, live parts, and the three ways to write them.</summary>
public sealed class BodyTests
{
    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder()
        .UsePipeTables()
        .UseEmphasisExtras(EmphasisExtraOptions.Strikethrough)
        .Build();

    private static readonly RenderContext Context = new()
    {
        Now = new LocalDateTime(2026, 3, 2, 9, 15).InZoneStrictly(DateTimeZoneProviders.Tzdb["Europe/London"]),
        Clipboard = "  from the\nclipboard ",
        Answers = new Dictionary<string, string>
        {
            ["skipper"] = "Marram",
            ["nights"] = "3",
            ["length"] = "12.5",
            ["rate"] = "2.40",
            ["insured"] = "true",
            ["arrival"] = "2026-04-03",
        },
        FindSnippet = path =>
            path switch
            {
                "Berths/Name" => new Body.Plain("Harbour Office"),
                "Berths/Address" => new Body.Html("<p>Quay 3</p><p><strong>Gullhaven</strong></p>"),
                "Berths/Circle" => new Body.Html("<p><slot name=\"snippet\" data-ref=\"Berths/Circle\"></slot></p>"),
                _ => null,
            },
        NewId = () => Guid.Parse("00000000-0000-4000-8000-000000000001"),
        Random = count => count - 1,
        RotationsTaken = _ => 4,
        Groups = new(["b12", "12"]),
    };

    [Theory]
    [InlineData("<p>Hello</p><p>there</p>", "Hello\nthere")]
    [InlineData("Hello <b>bold</b> there", "Hello bold there")]
    [InlineData("<p>\n  Two\n  lines</p>\n<p> kept </p>\n", "Two lines\n kept ")]
    [InlineData("<p>a<br>b</p>", "a\nb")]
    [InlineData(
        "<h1>Log</h1><ul><li>one</li><li>two<ul><li>inner</li></ul></li></ul><ol><li>first</li><li>second</li></ol>",
        "Log\n- one\n- two\n  - inner\n1. first\n2. second"
    )]
    [InlineData(
        "<table><tr><th>Berth</th><th>Free</th></tr><tr><td>3</td><td>yes</td></tr></table><p>end</p>",
        "Berth\tFree\n3\tyes\nend"
    )]
    [InlineData("<blockquote><p>said</p></blockquote><pre>x\n  y</pre><hr><p>z</p>", "said\nx\n  y\n---\nz")]
    [InlineData(
        "<p>see <a href=\"https://example.org\">here</a> <img src=\"media:ab12\" alt=\"map\"></p>",
        "see here map"
    )]
    [InlineData("<p>a&nbsp;b &lt;c&gt; &amp;</p>", "a\u00A0b <c> &")]
    public void Plain_text(string html, string plain) => Assert.Equal(plain, Plain(html));

    [Theory]
    [InlineData("<p><time data-pattern=\"d MMMM y\"></time></p>", "2 March 2026")]
    [InlineData("<p><time data-pattern=\"d MMM\" data-shift=\"P5D\" data-days=\"working\"></time></p>", "9 Mar")]
    [InlineData("<p><time data-pattern=\"EEEE d\" data-snap=\"end-of-month\"></time></p>", "Tuesday 31")]
    [InlineData(
        "<p><time data-pattern=\"d MMMM\" data-from=\"arrival\" data-shift=\"-P2D\"></time><input "
            + "name=\"arrival\" type=\"date\"></p>",
        "1 April3 April 2026"
    )]
    [InlineData(
        "<p><time data-pattern=\"HH:mm\" data-zone=\"Asia/Tokyo\"></time> <time data-pattern=\"EEEE\" "
            + "data-locale=\"de\"></time></p>",
        "18:15 Montag"
    )]
    [InlineData(
        "<p>Dear <input name=\"skipper\" title=\"Skipper\">, again <output data-formula=\"skipper\"></output></p>",
        "Dear Marram, again Marram"
    )]
    [InlineData(
        "<p><input name=\"nights\" type=\"number\"><input name=\"length\" type=\"number\"><input "
            + "name=\"rate\" type=\"number\"> <output data-formula=\"nights * length * rate\" "
            + "data-pattern=\"#,##0.00\"></output></p>",
        "312.52.40 90.00"
    )]
    [InlineData(
        "<p><input name=\"insured\" type=\"checkbox\"><span data-when=\"insured\">yes</span><span "
            + "data-when=\"not insured\">no</span></p>",
        "yes"
    )]
    [InlineData(
        "<p>x<input name=\"insured\" type=\"checkbox\"></p><div data-when=\"insured\"><p>one</p><p>two</p></div>",
        "x\none\ntwo"
    )]
    [InlineData("<p><textarea name=\"long\">first\nsecond</textarea></p>", "first\nsecond")]
    [InlineData("<p><select name=\"quay\"><option>A</option><option selected>B</option></select></p>", "B")]
    [InlineData("<p><slot name=\"clipboard\" data-trim></slot></p>", "from the\nclipboard")]
    [InlineData("<p><slot name=\"selection\">nothing selected</slot></p>", "nothing selected")]
    [InlineData("<p>berth <slot name=\"match\" data-group=\"1\"></slot></p>", "berth 12")]
    [InlineData(
        "<p><slot name=\"snippet\" data-ref=\"Berths/Name\"></slot>, <slot name=\"snippet\" "
            + "data-ref=\"Berths/Address\"></slot></p>",
        "Harbour Office, Quay 3\nGullhaven"
    )]
    [InlineData("<div>Yours, <menu data-pick=\"random\"><li>A</li><li>B</li></menu>!</div>", "Yours, B!")]
    [InlineData("<div><menu data-pick=\"cycle\"><li>A</li><li>B</li><li>C</li></menu></div>", "B")]
    [InlineData("<p><slot name=\"uuid\"></slot></p>", "00000000-0000-4000-8000-000000000001")]
    [InlineData("<p>go<a data-open href=\"https://example.org\"></a></p><aside data-notice>Look</aside>", "go")]
    public void Live_parts(string html, string plain) => Assert.Equal(plain, Plain(html));

    [Fact]
    public void What_is_opened_and_noticed_is_not_put_in()
    {
        var rendering = Renderer.Render(
            Body.Html.Parse(
                "<p><a data-open href=\"app:post\"></a></p><aside data-notice>Mind the <b>tide</b></aside>"
            ),
            Context,
            Capitals.AsWritten
        );
        Assert.Empty(rendering.Flow.Leaves);
        Assert.Equal([new OpenTarget("app:post", "")], rendering.Opened);
        Assert.Equal(["Mind the tide"], rendering.Notices);
    }

    [Theory]
    [InlineData("<p>single <em>line</em></p>", "single <em>line</em>")]
    [InlineData(
        "<p>one</p><p style=\"text-align: center\">two</p>",
        "<p>one</p><p style=\"text-align: center\">two</p>"
    )]
    [InlineData("<ul><li>a</li><li><p>b</p><p>c</p></li></ul>", "<ul><li>a</li><li>b<p>c</p></li></ul>")]
    [InlineData(
        "<table><tbody><tr><th>a</th><td>b &lt;</td></tr></tbody></table>",
        "<table><tr><th>a</th><td>b &lt;</td></tr></table>"
    )]
    [InlineData(
        "<p><strong>a<em>b</em></strong>c<span style=\"color: #a02c1c; font-size: 14pt\">d</span></p>",
        "<strong>a<em>b</em></strong>c<span style=\"color: #a02c1c; font-size: 14pt\">d</span>"
    )]
    public void Rich_text(string html, string rich) => Assert.Equal(rich, Writers.Rich(Flow(html)).Text);

    [Theory]
    [InlineData(
        "<h2>Tides</h2><p>High <strong>water </strong>at <em>seven</em><br>sharp</p>",
        "## Tides\n\nHigh **water** at *seven*\\\nsharp"
    )]
    [InlineData("<ul><li>a</li><li>b<ul><li>c</li></ul></li></ul><p>x</p>", "- a\n- b\n  - c\n\nx")]
    [InlineData("<ol><li>a</li><li>b</li></ol>", "1. a\n2. b")]
    [InlineData(
        "<table><tr><th>a</th><th>b|c</th></tr><tr><td>d<br>e</td><td></td></tr></table>",
        "| a | b\\|c |\n| --- | --- |\n| d<br>e |  |"
    )]
    [InlineData("<p>2 * 3 _x_ [y] &lt;z&gt; `w` \\ ~</p>", "2 \\* 3 \\_x\\_ \\[y\\] \\<z> \\`w\\` \\\\ \\~")]
    [InlineData(
        "<p># no heading</p><p>- no item</p><p>1. no item</p><p>2026 it was</p>",
        "\\# no heading\n\n\\- no item\n\n1\\. no item\n\n2026 it was"
    )]
    [InlineData("<blockquote><p>a</p><p>b</p></blockquote>", "> a\n>\n> b")]
    [InlineData("<pre>x ``` y</pre>", "````\nx ``` y\n````")]
    [InlineData(
        "<p><code>a`b</code> <a href=\"https://example.org/a (b)\">t</a> <s>old</s></p>",
        "``a`b`` [t](<https://example.org/a (b)>) ~~old~~"
    )]
    public void Markdown(string html, string markdown) => Assert.Equal(markdown, Writers.Markdown(Flow(html)).Text);

    /// <summary>
    /// Markdig, a CommonMark library, reads the same words out of the Markdown that the plain text has.
    /// </summary>
    [Fact]
    public void Markdown_read_back_by_a_CommonMark_library_says_the_same()
    {
        var words = Gen.Char["abz *_[]<>`#-+=.)(!&~|\\1;é🙂"[..^2] + "q"]
            .Array[1, 14]
            .Select(units => new string(units).Trim());
        words
            .Where(text => text.Length > 0 && !text.Contains("  ", StringComparison.Ordinal))
            .Sample(
                text =>
                {
                    var flow = Flow($"<p>{Markup.Escape(text)}</p>");
                    var read = Markdig.Markdown.ToHtml(Writers.Markdown(flow).Text, Pipeline).Trim();
                    Assert.Equal($"<p>{Html(text)}</p>", read);
                },
                iter: Depth.Of(20_000)
            );

        var letter = Flow(
            "<h1>Berth</h1><p>Dear <strong>skipper</strong>, <em>please <u>bring</u> <code>papers</code></em>"
                + ": <a href=\"https://example.org/fee\">the fee</a></p>"
                + "<ul><li>one</li><li>two<ol><li>inner</li></ol></li></ul><table><tr><th>a</th><th>b</th></tr>"
                + "<tr><td>1</td><td>2</td></tr></table>"
        );
        Assert.Equal(
            "<h1>Berth</h1>\n<p>Dear <strong>skipper</strong>, <em>please bring <code>papers</code></em>: <a "
                + "href=\"https://example.org/fee\">the fee</a></p>\n"
                + "<ul>\n<li>one</li>\n<li>two\n<ol>\n<li>inner</li>\n</ol>\n</li>\n</ul>\n<table>\n<thead>\n"
                + "<tr>\n<th>a</th>\n<th>b</th>\n</tr>\n</thead>\n<tbody>\n<tr>\n<td>1</td>\n<td>2</td>\n</tr>"
                + "\n</tbody>\n</table>",
            Markdig.Markdown.ToHtml(Writers.Markdown(letter).Text, Pipeline).Trim()
        );
    }

    [Theory]
    [InlineData(
        "<p onclick=\"x()\">a</p><script>steal()</script>",
        "<p>a</p>",
        "onclick on <p> was dropped",
        "<script> was dropped"
    )]
    [InlineData("<p><a href=\"javascript:x()\">a</a></p>", "<p>a</p>", "a link to “javascript:x()” was dropped")]
    [InlineData(
        "<p><img src=\"https://example.org/x.png\">a</p>",
        "<p>a</p>",
        "a picture from “https://example.org/x.png” was dropped"
    )]
    [InlineData(
        "<p><span style=\"color: url(x); position: fixed\">a</span></p>",
        "<p>a</p>",
        "color “url(x)” was dropped",
        "the style position was dropped"
    )]
    [InlineData("<section><p>a</p></section>", "<p>a</p>", "<section> is not known here")]
    [InlineData(
        "<p class=\"x\"><blink>a</blink></p>",
        "<p>a</p>",
        "class on <p> was dropped",
        "<blink> is not known here"
    )]
    [InlineData("<h5>a</h5>", "<h3>a</h3>", "h5 became h3")]
    public void What_the_tree_does_not_know_is_dropped_with_a_warning(
        string html,
        string kept,
        params string[] warnings
    )
    {
        var (tree, said) = BodyParser.Parse(html);
        Assert.Equal(kept, BodyWriter.Write(tree));
        Assert.Equal(warnings.Length, said.Count);
        foreach (var (warning, at) in warnings.Select((warning, at) => (warning, at)))
            Assert.StartsWith(warning, said[at].Message, StringComparison.Ordinal);
        Assert.All(said, warning => Assert.Equal(1, warning.Line));
    }

    [Theory]
    [InlineData("<p><output data-formula=\"1 +\"></output></p>", "position 4")]
    [InlineData("\n<p>ab<time data-pattern=\"d bb\"></time></p>", "Line 2, column 6")]
    [InlineData("<p><time data-pattern=\"d\" data-shift=\"3 days\"></time></p>", "no ISO 8601 duration")]
    [InlineData("<p><time data-pattern=\"d\" data-zone=\"Mars\"></time></p>", "no time zone")]
    [InlineData("<p><time data-pattern=\"d\" data-locale=\"xx-QQ\"></time></p>", "no locale")]
    [InlineData("<p><time data-pattern=\"d\" data-snap=\"soon\"></time></p>", "not known here")]
    [InlineData("<p><input name=\"2nights\"></p>", "cannot be the name of a field")]
    [InlineData("<p><kbd>Bananas</kbd></p>", "is not a key")]
    [InlineData("<p><slot name=\"wait\" data-for=\"PT5H\"></slot></p>", "no pause")]
    [InlineData("<p><a data-open href=\"javascript:x\">a</a></p>", "cannot be opened")]
    [InlineData("<p><slot name=\"whatever\"></slot></p>", "is not known here")]
    public void A_live_part_that_is_wrong_is_refused_at_its_place(string html, string why) =>
        Assert.Contains(
            why,
            Assert.Throws<InvalidInputException>(() => BodyParser.Parse(html)).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void Reading_what_was_written_gives_the_same_tree()
    {
        BodyTrees.All.Sample(
            tree =>
            {
                var written = BodyWriter.Write(tree);
                var (read, warnings) = BodyParser.Parse(written);
                Assert.Empty(warnings);
                Assert.Equal(written, BodyWriter.Write(read));
                Assert.Equal(tree, read);
            },
            iter: Depth.Of(10_000)
        );
    }

    [Fact]
    public void Checks_before_saving()
    {
        var bodies = new Dictionary<string, Body>
        {
            ["A/one"] = Body.Html.Parse("<p><slot name=\"snippet\" data-ref=\"A/two\"></slot></p>"),
            ["A/two"] = Body.Html.Parse("<p>x <input name=\"inner\"></p>"),
        };
        BodyCheck.Check(bodies["A/one"], "A/one", bodies.GetValueOrDefault);
        Refused("<p><slot name=\"snippet\" data-ref=\"A/one\"></slot></p>", "A/two", "A/two → A/one → A/two");
        Refused("<p><slot name=\"snippet\" data-ref=\"A/none\"></slot></p>", "A/three", "There is no snippet “A/none”");
        Refused(
            "<p><input name=\"nights\"><output data-formula=\"nights * rate\"></output></p>",
            "A/three",
            "uses “rate”, which is no field. The fields here are: nights."
        );
        Refused("<p><span data-when=\"x\">y</span></p>", "A/three", "uses “x”");
        Refused(
            "<p><input name=\"a\"><time data-pattern=\"d\" data-from=\"a\"></time></p>",
            "A/three",
            "no date field"
        );
        BodyCheck.Check(
            Body.Html.Parse(
                "<p><slot name=\"snippet\" data-ref=\"A/two\"></slot><output data-formula=\"inner\"></output></p>"
            ),
            "A/three",
            bodies.GetValueOrDefault
        );

        void Refused(string html, string path, string why) =>
            Assert.Contains(
                why,
                Assert
                    .Throws<InvalidInputException>(() =>
                        BodyCheck.Check(Body.Html.Parse(html), path, bodies.GetValueOrDefault)
                    )
                    .Message,
                StringComparison.Ordinal
            );
    }

    [Theory]
    [InlineData("<p><slot name=\"snippet\" data-ref=\"Berths/Gone\"></slot></p>", "not there any more")]
    [InlineData("<p><slot name=\"snippet\" data-ref=\"Berths/Circle\"></slot></p>", "Berths/Circle → Berths/Circle")]
    [InlineData(
        "<p><input name=\"free\" type=\"number\"><output data-formula=\"free * 2\"></output></p>",
        "free: a number is missing"
    )]
    [InlineData(
        "<p><input name=\"nights\" type=\"number\"><output data-formula=\"1 / (nights - 3)\"></output></p>",
        "divide by zero"
    )]
    public void What_cannot_be_put_in_says_why(string html, string why) =>
        Assert.Contains(why, Assert.Throws<RenderingException>(() => Plain(html)).Message, StringComparison.Ordinal);

    [Fact]
    public void Capitals_shape_the_snippets_own_words_and_nothing_else()
    {
        const string Html =
            "<p>“<em>berth</em> <a href=\"https://example.org/free\">free</a> <time data-pattern=\"MMMM\" "
            + "data-locale=\"fr\"></time> <input name=\"skipper\" value=\"marram\"> <code>ls</code><kbd>"
            + "Tab</kbd></p>";
        Assert.Equal("“BERTH FREE MARS Marram LS", Plain(Html, Capitals.All));
        Assert.Contains(
            "href=\"https://example.org/free\"",
            Writers.Rich(Flow(Html, Capitals.All)).Text,
            StringComparison.Ordinal
        );
        Assert.Equal("“Berth free mars Marram ls", Plain(Html, Capitals.First));
        Assert.Equal("Marram berth", Plain("<p><input name=\"skipper\"> berth</p>", Capitals.First));
        Assert.Equal(
            "— Mars",
            Plain("<p>— <time data-pattern=\"MMMM\" data-locale=\"fr\"></time></p>", Capitals.First)
        );
    }

    [Theory]
    [InlineData(FieldKind.Plain, "say hi there ")]
    [InlineData(FieldKind.Rich, "say hi there ")]
    [InlineData(FieldKind.Markdown, "say **hi** there ")]
    public void A_closing_key_stays_behind_a_formatted_text(FieldKind field, string text)
    {
        var result = Type("<p>say <strong>hi</strong> there</p>", "x ", field);
        Assert.Equal((text, text.Length), (result.Text, result.Caret));
        if (field == FieldKind.Rich)
            Assert.Equal("<p>say <strong>hi</strong> there </p>", result.Html);
    }

    [Fact]
    public void The_caret_and_the_selection_stand_where_the_body_says()
    {
        Assert.Equal(("**", 1), Position(Type("<p>*<wbr data-caret>*</p>", "x", FieldKind.Plain, Timing.AtOnce)));
        Assert.Equal(
            ("****", 2),
            Position(Type("<p><strong><wbr data-caret></strong></p>", "x", FieldKind.Markdown, Timing.AtOnce))
        );
        Assert.Equal(("a () ", 3), Position(Type("<p>a (<wbr data-caret>)</p>", "x ", FieldKind.Plain)));
        Assert.Equal(
            ("one\ntwo\nthree", 4),
            Position(Type("<p>one</p><p><wbr data-caret>two</p><p>three</p>", "x", FieldKind.Rich, Timing.AtOnce))
        );
        Assert.Equal(
            ("- one\n- two", 5),
            Position(Type("<ul><li>one<wbr data-caret></li><li>two</li></ul>", "x", FieldKind.Rich, Timing.AtOnce))
        );
        var commit = Type(
            "<p>commit \"<mark data-select>message</mark>\"</p>",
            "x",
            FieldKind.SingleLine,
            Timing.AtOnce
        );
        Assert.Equal(("commit \"message\"", (8, 15)), (commit.Text, commit.Selection));

        static (string, int) Position(RehearsalResult result) => (result.Text, result.Caret);
    }

    [Fact]
    public void Keys_are_pressed_between_the_parts()
    {
        var firing = new Firing(
            TriggerIndex
                .Of(
                    PlacedSnippet.All([
                        Lib(
                            "A",
                            With("x") with
                            {
                                Body = Body.Html.Parse(
                                    "<p>Marram<kbd>Tab</kbd>Quay <strong>3</strong><kbd data-times=\"2\">"
                                        + "Tab</kbd><slot name=\"wait\" data-for=\"PT0.3S\"></slot>555-0142</p>"
                                ),
                                Triggers = new([new Trigger.Hotkey("Ctrl+Alt+M", Scope.Everywhere)]),
                            }
                        ),
                    ])
                )
                .All.Single(),
            EquatableList<Key>.Empty,
            EquatableList<Key>.Empty,
            Capitals.AsWritten,
            EquatableList<string>.Empty
        );
        Assert.Equal(
            [
                "PutIn { Plain = Marram, Rich =  }",
                "Press { Key = Tab }",
                "PutIn { Plain = Quay 3, Rich =  }",
                "Press { Key = Tab }",
                "Press { Key = Tab }",
                "Wait { For = 0:00:00:00.3 }",
                "PutIn { Plain = 555-0142, Rich =  }",
            ],
            Composer.Compose(firing, 0, FieldKind.Plain, Context).Steps.Select(step => step.ToString())
        );
    }

    [Fact]
    public void Without_answers_a_slip_puts_nothing_in()
    {
        var result = Type("<p>Dear <input name=\"skipper\" value=\"Skipper\"></p>", "x ", FieldKind.Plain);
        Assert.Equal("x ", result.Text);
        Assert.Equal(Outcome.Cancelled, Assert.Single(result.Firings).Outcome);
        Assert.Equal(
            "Dear Skipper ",
            Type(
                "<p>Dear <input name=\"skipper\" value=\"Skipper\"></p>",
                "x ",
                FieldKind.Plain,
                answers: new Dictionary<string, string>()
            ).Text
        );
        Assert.Contains(
            "not there any more",
            Type("<p><slot name=\"snippet\" data-ref=\"A/gone\"></slot></p>", "x ", FieldKind.Plain).Trace[^1].Why,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Pictures_are_told_by_their_content()
    {
        Assert.Equal("image/png", PictureType.Of([0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, 1]));
        Assert.Equal("image/webp", PictureType.Of("RIFF....WEBPVP8 "u8));
        Assert.Throws<InvalidInputException>(() => PictureType.Of("<svg/>"u8));
        Assert.Throws<InvalidInputException>(() => PictureType.Of(new byte[PictureType.MaxBytes + 1]));
    }

    private static string Html(string text) =>
        text.Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal)
            .Replace("\"", "&quot;", StringComparison.Ordinal);

    private static Flow Flow(string html, Capitals capitals = Capitals.AsWritten) =>
        Renderer.Render(Body.Html.Parse(html), Context, capitals).Flow;

    private static string Plain(string html, Capitals capitals = Capitals.AsWritten) =>
        Writers.Plain(Flow(html, capitals)).Text;

    private static RehearsalResult Type(
        string html,
        string typed,
        FieldKind field,
        Timing timing = Timing.ClosingKey,
        IReadOnlyDictionary<string, string>? answers = null
    )
    {
        var snippet = Snip("x", "", timing) with { Body = Body.Html.Parse(html) };
        return Rehearsal.Run(
            Index(snippet),
            [.. RehearsalStep.Type(typed)],
            new RehearsalSetting(
                "post",
                field,
                false,
                Context with
                {
                    Answers = new Dictionary<string, string>(),
                },
                answers
            ),
            tracing: true
        );
    }
}
