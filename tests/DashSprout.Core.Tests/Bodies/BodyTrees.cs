using CsCheck;
using DashSprout.Core.Bodies;

namespace DashSprout.Core.Tests.Bodies;

/// <summary>Makes bodies of every kind of block and part, nested in each other.</summary>
internal static class BodyTrees
{
    private static readonly Gen<Inline> Words = OneOf(
            "a",
            "Berth 3 ",
            " b",
            "<&\"'>",
            "é🙂",
            "x  y",
            "  ",
            "note:",
            "*",
            "_",
            "(3)",
            "1. ",
            "- ",
            "#",
            "`",
            "~",
            "\u00A0",
            "!",
            "a\\",
            "|",
            "€",
            "=="
        )
        .Select(value => (Inline)new Inline.Text(value));

    private static readonly Gen<Inline> LiveParts = OneOf(
            "<time data-pattern=\"d 'of' MMMM\" data-shift=\"-P1M\" data-days=\"working\" "
                + "data-snap=\"next-friday\" data-from=\"when\" data-zone=\"UTC\" data-locale=\"de\"></time>",
            "<input name=\"a\" title=\"A &quot;b&quot;\" type=\"number\" value=\"1\" min=\"0\" max=\"9\" "
                + "step=\"0.5\" size=\"4\" required>",
            "<textarea name=\"b\" rows=\"3\">\n\nx &lt; y</textarea>",
            "<select name=\"c\"><option value=\"12.50\">1</option><option selected>2</option></select>",
            "<input name=\"e\" data-default=\"a * 2\" pattern=\"[A-Z]{2}\">",
            "<kbd data-run>Tab Space x Shift+Tab</kbd>",
            "<slot name=\"live\" data-url=\"/harbour/tides.json\" data-path=\"/high/0/height\"></slot>",
            "<input name=\"d\" type=\"checkbox\" checked>",
            "<output data-formula=\"a * 2\" data-pattern=\"#,##0.00\"></output>",
            "<slot name=\"clipboard\" data-trim></slot>",
            "<slot name=\"match\" data-group=\"2\"></slot>",
            "<slot name=\"snippet\" data-ref=\"A/b c\"></slot>",
            "<slot name=\"uuid\"></slot>",
            "<wbr data-caret>",
            "<kbd data-times=\"3\">Ctrl+B</kbd>",
            "<slot name=\"wait\" data-for=\"PT0.3S\"></slot>",
            "<a data-open href=\"app:post\"></a>",
            "<br>",
            "<img src=\"media:ab\" alt=\"&lt;x&gt;\" width=\"20\">",
            "<slot name=\"go-to\" data-app=\"log-book\" data-field=\"Log\"></slot>"
        )
        .Select(html => BodyParser.Parse($"<p>{html}</p>").Tree.Inlines().First());

    /// <summary>Bodies with live parts.</summary>
    public static Gen<BodyTree> All { get; } = Trees(Gen.Frequency((3, Words), (2, LiveParts)));

    /// <summary>
    /// Bodies of text, line ends and formatting alone: what they come to can be compared letter by letter.
    /// </summary>
    public static Gen<BodyTree> OfWords { get; } =
        Trees(Gen.Frequency((8, Words), (1, Gen.Const((Inline)new Inline.Break()))), live: false);

    private static Gen<T> OneOf<T>(params T[] choices) => Gen.Int[0, choices.Length - 1].Select(at => choices[at]);

    private static Gen<BodyTree> Trees(Gen<Inline> leaf, bool live = true)
    {
        var inner = Gen.Frequency((3, leaf), (1, Nested(leaf, live)));
        var line = Gen.Frequency((3, leaf), (2, Nested(inner, live))).Array[1, 5].Select(InlineNormal.Of);
        var paragraph = Gen.Select(line, Gen.Enum<Align>())
            .Select((content, align) => (Block)new Block.Paragraph(content, align));
        var simple = Gen.Frequency(
            (5, paragraph),
            (
                1,
                Gen.Select(line, Gen.Int[1, 3], Gen.Enum<Align>())
                    .Select((content, level, align) => (Block)new Block.Heading(level, content, align))
            ),
            (1, Gen.Const((Block)new Block.Rule())),
            (
                1,
                OneOf("x\n  y <z>", "\nfirst line empty", "``` a", "tab\there")
                    .Select(text => (Block)new Block.Preformatted(new([new Inline.Text(text)])))
            )
        );
        if (live)
            simple = Gen.Frequency((8, simple), (1, line.Select(content => (Block)new Block.Notice(content))));
        var block = Gen.Frequency((4, simple), (2, Holding(simple, live ? simple : paragraph, live, repeats: live)));
        var deep = Gen.Frequency((4, block), (1, Holding(block, live ? block : paragraph, live, repeats: false)));
        return deep.Array[1, 4].Select(blocks => new BodyTree(new(blocks)));
    }

    private static Gen<Inline> Nested(Gen<Inline> part, bool live)
    {
        var line = part.Array[1, 3].Select(parts => new EquatableList<Inline>(parts));
        var formatting = Gen.OneOf(
            Gen.Select(Gen.Enum<Emphasis>(), line)
                .Select((emphasis, content) => (Inline)new Inline.Emphasised(emphasis, content)),
            Gen.Select(
                    OneOf(
                        new TextStyle("#ffaa00", null, "Gentium", "12pt"),
                        new TextStyle(null, "rgb(1, 2, 3)", null, null),
                        new TextStyle("#000000", null, null, "1.5em")
                    ),
                    line
                )
                .Select((style, content) => (Inline)new Inline.Styled(style, content)),
            Gen.Select(OneOf("https://example.org/?a=1&b=2", "mailto:quay@example.org"), line.Select(WithoutOpening))
                .Select((target, content) => (Inline)new Inline.Link(target, content))
        );
        if (!live)
            return formatting;
        return Gen.Frequency(
            (3, formatting),
            (
                2,
                Gen.OneOf(
                    Gen.Select(OneOf("a > \"1\"", "not d"), line)
                        .Select((when, content) => (Inline)new Inline.Passage(Formula.Parse("", when), content)),
                    line.Select(content => (Inline)new Inline.Selected(content)),
                    part.Array[0, 2].Select(content => (Inline)new Inline.Selection(InlineNormal.Of(content))),
                    part.Array[0, 2]
                        .Select(InlineNormal.Of)
                        .Array[1, 2]
                        .Select(choices => (Inline)new Inline.Pick(PickWay.Cycle, new(choices)))
                )
            )
        );
    }

    /// <summary>HTML knows no link within a link.</summary>
    private static EquatableList<Inline> WithoutOpening(EquatableList<Inline> line) => new(line.SelectMany(Without));

    private static IEnumerable<Inline> Without(Inline part) =>
        part switch
        {
            Inline.Open => [],
            Inline.Link link => WithoutOpening(link.Content),
            Inline.Emphasised emphasised => [emphasised with { Content = WithoutOpening(emphasised.Content) }],
            Inline.Styled styled => [styled with { Content = WithoutOpening(styled.Content) }],
            Inline.Passage passage => [passage with { Content = WithoutOpening(passage.Content) }],
            Inline.Selected selected => [selected with { Content = WithoutOpening(selected.Content) }],
            Inline.Selection selection => [new Inline.Selection(WithoutOpening(selection.Otherwise))],
            Inline.Pick pick => [pick with { Choices = new(pick.Choices.Select(WithoutOpening)) }],
            _ => [part],
        };

    /// <param name="inCells">What cells hold: in Markdown they have one line.</param>
    private static Gen<Block> Holding(Gen<Block> inside, Gen<Block> inCells, bool live, bool repeats)
    {
        var blocks = inside.Array[1, 2].Select(some => new EquatableList<Block>(some));
        var holding = Gen.OneOf(
            blocks.Select(some => (Block)new Block.Quote(some)),
            Gen.Select(blocks.Array[1, 3], Gen.Bool)
                .Select((items, numbered) => (Block)new Block.BulletList(new(items), numbered)),
            inCells
                .Array[1, 2]
                .Select(some => new EquatableList<Block>(some))
                .Array[2, 2]
                .Array[1, 2]
                .Select(rows =>
                    (Block)
                        new Block.Table(
                            new(
                                rows.Select(
                                    (row, at) =>
                                        new BodyRow(
                                            new(row.Select(cell => new Cell(at == 0, cell))),
                                            repeats && at == 1 ? new RowRange(1, 20) : null
                                        )
                                )
                            )
                        )
                )
        );
        return live
            ? Gen.Frequency(
                (4, holding),
                (1, blocks.Select(some => (Block)new Block.Passage(Formula.Parse("", "a"), some)))
            )
            : holding;
    }
}

/// <summary>The bodies on which the page's own tests try the editor are made by the same generator.</summary>
public sealed class EditorBodiesTests
{
    private const string Folder = "web/src/bodies/testing";

    /// <summary>
    /// Bodies of a fixed start value; set <c>DASH_SPROUT_WRITE=1</c> to write the file anew after the generator has
    /// changed.
    /// </summary>
    [Fact]
    public void The_bodies_the_editor_is_tried_on_are_those_the_generator_makes()
    {
        var random = PCG.Parse("0N0XIzNsQ0O2");
        var bodies = Enumerable
            .Range(0, 300)
            .Select(_ => BodyWriter.Write(BodyTrees.All.Generate(random, null, out Size _)))
            .Where(body => body.Length < 2000)
            .Distinct()
            .ToList();
        Assert.InRange(bodies.Count, 200, 300);
        var file = Path.Combine(Root(), Folder, "bodies.json");
        var text = System.Text.Json.JsonSerializer.Serialize(bodies, Options) + "\n";
        if (Environment.GetEnvironmentVariable("DASH_SPROUT_WRITE") == "1")
            File.WriteAllText(file, text);
        Assert.True(
            File.ReadAllText(file) == text,
            $"{file} is not what the generator makes. Run this test with DASH_SPROUT_WRITE=1, look at the "
                + "change, and commit it."
        );
    }

    private static readonly System.Text.Json.JsonSerializerOptions Options = new()
    {
        WriteIndented = true,
        NewLine = "\n",
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "DashSprout.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}
