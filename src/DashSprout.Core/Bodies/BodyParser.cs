using System.Globalization;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using DashSprout.Core.Text;

namespace DashSprout.Core.Bodies;

/// <summary>
/// Reads an HTML fragment into a body tree. What the tree does not know is dropped with a warning; a live part that is
/// wrong is an error, because it would come out wrong every time.
/// </summary>
public static partial class BodyParser
{
    private static readonly HtmlParser Html = new(new HtmlParserOptions { IsKeepingSourceReferences = true });

    private static readonly System.Buffers.SearchValues<char> NumberPatternUnits = System.Buffers.SearchValues.Create(
        "#0,.%+- '\u00A0€$£"
    );

    private static readonly HashSet<string> DroppedWhole =
    [
        "script",
        "style",
        "iframe",
        "object",
        "embed",
        "template",
        "noscript",
        "svg",
        "math",
        "head",
        "title",
        "form",
        "button",
        "link",
        "meta",
        "base",
        "video",
        "audio",
        "canvas",
    ];

    private static readonly HashSet<string> BlockNames =
    [
        "p",
        "h1",
        "h2",
        "h3",
        "h4",
        "h5",
        "h6",
        "ul",
        "ol",
        "li",
        "blockquote",
        "pre",
        "table",
        "hr",
        "div",
        "aside",
        "section",
        "article",
        "header",
        "footer",
        "main",
        "nav",
        "figure",
        "dl",
        "dt",
        "dd",
    ];

    private const int MostWarnings = 50;

    /// <summary>
    /// Parses a fragment; throws <see cref="InvalidInputException"/> for the field <c>body</c> when a live part is
    /// wrong, or when it is larger than <see cref="BodyLimits"/> allow.
    /// </summary>
    public static (BodyTree Tree, IReadOnlyList<BodyWarning> Warnings) Parse(string source)
    {
        if (MarkupScan.Problem(source) is { } problem)
            throw new InvalidInputException("body", problem);
        var document = Html.ParseDocument(source);
        if (TooLarge(document.Body!) is { } tooLarge)
            throw new InvalidInputException("body", tooLarge);
        return Read(document, kept: false);
    }

    /// <summary>
    /// The tree of a fragment that was checked when it was stored. What has come to be wrong since is in it as
    /// <see cref="Inline.Wrong"/>: it locks nobody out, and says why when it goes off.
    /// </summary>
    internal static BodyTree ParseKept(string source) => Read(Html.ParseDocument(source), kept: true).Tree;

    private static (BodyTree Tree, IReadOnlyList<BodyWarning> Warnings) Read(IDocument document, bool kept)
    {
        var reading = new Reading(kept);
        var tree = new BodyTree(new(reading.Blocks(document.Body!)));
        return kept || reading.Errors.Count == 0
            ? (tree, reading.Warnings)
            : throw new InvalidInputException(reading.Errors);
    }

    /// <summary>
    /// Why the elements are too many or too deep; a parser that repairs wrong HTML makes more of them than the source
    /// has.
    /// </summary>
    private static string? TooLarge(IElement body)
    {
        var (node, depth, elements) = ((INode)body, 0, 0);
        while (true)
        {
            if (node.FirstChild is { } child)
            {
                node = child;
                depth++;
            }
            else
            {
                while (node != body && node.NextSibling is null)
                {
                    node = node.Parent!;
                    depth--;
                }
                if (node == body)
                    return null;
                node = node.NextSibling!;
            }
            if (node is not IElement)
                continue;
            if (depth > BodyLimits.MostDepth)
                return BodyLimits.TooDeep;
            // Bodies of tables come by themselves.
            if (++elements > 2 * BodyLimits.MostParts)
                return BodyLimits.TooManyParts;
        }
    }

    [GeneratedRegex(
        @"\A(#[0-9a-fA-F]{3,8}|[a-zA-Z]{3,24}|(rgb|rgba|hsl|hsla)\([0-9.,%/ deg]{3,40}\))\z",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex ColorValue();

    [GeneratedRegex(@"\A[\p{L}\p{N} ,'""_-]{1,200}\z", RegexOptions.CultureInvariant)]
    private static partial Regex FamilyValue();

    [GeneratedRegex(@"\A[0-9]{1,3}(\.[0-9]{1,3})?(px|pt|em|rem|%)\z", RegexOptions.CultureInvariant)]
    private static partial Regex SizeValue();

    [GeneratedRegex(@"\A\p{L}[\p{L}\p{N}_]{0,63}\z", RegexOptions.CultureInvariant)]
    private static partial Regex FieldName();

    [GeneratedRegex(@"\Amedia:[0-9a-zA-Z_-]{1,64}\z", RegexOptions.CultureInvariant)]
    private static partial Regex MediaSource();

    [GeneratedRegex(@"[ \t]*[\r\n\f][ \t\r\n\f]*", RegexOptions.CultureInvariant)]
    private static partial Regex LineEnds();

    private sealed partial class Reading(bool kept)
    {
        private bool preformatted;

        public List<InputError> Errors { get; } = [];

        public List<BodyWarning> Warnings { get; } = [];

        public List<Block> Blocks(INode parent)
        {
            var blocks = new List<Block>();
            var run = new List<Inline>();
            void Flush()
            {
                var content = InlineNormal.Of(run);
                if (content.Count > 0)
                    blocks.Add(new Block.Paragraph(content));
                run.Clear();
            }
            var holdsBlocks = parent.ChildNodes.Any(node => node is IElement element && IsBlock(element));
            foreach (var node in parent.ChildNodes)
            {
                if (node is not IElement element || !IsBlock(element))
                {
                    // White space between blocks lays the source out.
                    if (
                        holdsBlocks
                        && node is IText { Data: var data }
                        && string.IsNullOrWhiteSpace(data)
                        && run.Count == 0
                        && IsLayout(node)
                    )
                        continue;
                    if (node is IElement holder && IsFormatting(holder) && holder.QuerySelectorAll("*").Any(IsBlock))
                    {
                        Flush();
                        blocks.AddRange(InFormatting(holder));
                        continue;
                    }
                    run.AddRange(Inlines(node));
                    continue;
                }
                Flush();
                blocks.AddRange(ParseBlock(element));
            }
            Flush();
            return blocks;
        }

        /// <summary>
        /// Whether an element only formats what is in it, or is not known; live parts and what is dropped whole are
        /// neither.
        /// </summary>
        private static bool IsFormatting(IElement element) =>
            element.LocalName
                is not (
                    "time"
                    or "input"
                    or "textarea"
                    or "select"
                    or "output"
                    or "slot"
                    or "menu"
                    or "wbr"
                    or "kbd"
                    or "img"
                    or "br"
                )
            && !element.HasAttribute("data-open")
            && !DroppedWhole.Contains(element.LocalName);

        /// <summary>
        /// Blocks within formatting, as pages write them: the formatting goes into each of their lines.
        /// </summary>
        private IEnumerable<Block> InFormatting(IElement holder)
        {
            if (holder.LocalName == "span" && holder.HasAttribute("data-when"))
                return Passage(holder);
            // The formatting alone, as it stands around nothing.
            var alone = (IElement)holder.Clone(deep: false);
            alone.TextContent = "x";
            var shell = ParseInline(alone).FirstOrDefault();
            return Blocks(holder)
                .Select(block =>
                    Lines.Of(block, line =>
                        shell is null or Inline.Text ? line : InlineNormal.Of([InlineNormal.Around(shell, line)])
                    )
                );
        }

        private IEnumerable<Block> Passage(IElement element)
        {
            if (Try(element, () => Formula.Parse("body", element.GetAttribute("data-when")!)) is not { } when)
                return kept ? [new Block.Paragraph(new([new Inline.Wrong(Errors[^1].Message)]))] : [];
            return Blocks(element) is { Count: > 0 } held ? [new Block.Passage(when, new(held))] : [];
        }

        /// <summary>Whether a white space has no text beside it, only blocks or the ends of what holds it.</summary>
        private static bool IsLayout(INode space) => AtBlock(space.PreviousSibling) && AtBlock(space.NextSibling);

        private static bool AtBlock(INode? beside) =>
            beside switch
            {
                null => true,
                IElement element => IsBlock(element),
                IText { Data: var data } => string.IsNullOrWhiteSpace(data),
                _ => true,
            };

        private static bool IsBlock(IElement element) =>
            BlockNames.Contains(element.LocalName)
            || (element.LocalName == "menu" && !element.HasAttribute("data-pick"));

        private IEnumerable<Block> ParseBlock(IElement element)
        {
            switch (element.LocalName)
            {
                case "p":
                    Allow(element, "style");
                    return [new Block.Paragraph(Content(element), Alignment(element))];
                case "h1" or "h2" or "h3" or "h4" or "h5" or "h6":
                    Allow(element, "style");
                    var level = element.LocalName[1] - '0';
                    if (level > 3)
                        Warn(element, $"h{level} became h3: headings have three levels");
                    return [new Block.Heading(Math.Min(level, 3), Content(element), Alignment(element))];
                case "ul" or "ol" or "menu":
                    Allow(element);
                    return Items(element) is { Count: > 0 } items
                        ? [new Block.BulletList(new(items), element.LocalName == "ol")]
                        : [];
                case "blockquote":
                    Allow(element);
                    return Blocks(element) is { Count: > 0 } quoted ? [new Block.Quote(new(quoted))] : [];
                case "pre":
                    Allow(element);
                    return [new Block.Preformatted(InPre(element))];
                case "table":
                    Allow(element);
                    var rows = Rows(element);
                    return [.. Captions(element), .. rows.Count > 0 ? (Block[])[new Block.Table(new(rows))] : []];
                case "hr":
                    Allow(element);
                    return [new Block.Rule()];
                case "div" when element.HasAttribute("data-when"):
                    Allow(element, "data-when");
                    return Passage(element);
                case "aside" when element.HasAttribute("data-notice"):
                    Allow(element, "data-notice");
                    return [new Block.Notice(Content(element))];
                case "div" when !element.Children.Any(IsBlock):
                    Allow(element, "style");
                    return [new Block.Paragraph(Content(element), Alignment(element))];
                default:
                    if (element.LocalName != "div")
                        Warn(element, $"<{element.LocalName}> is not known here; what is in it stays");
                    return Blocks(element);
            }
        }

        /// <summary>The items of a list; what lies between them goes into the one before.</summary>
        private List<EquatableList<Block>> Items(IElement list)
        {
            var items = new List<EquatableList<Block>>();
            foreach (var child in list.ChildNodes)
            {
                if (child is IElement { LocalName: "li" } item)
                {
                    Allow(item);
                    items.Add(Held(item));
                    continue;
                }
                if (child is IText text)
                {
                    if (string.IsNullOrWhiteSpace(text.Data))
                        continue;
                    Warn(list, "text in a list beside its items became an item of its own");
                    items.Add(new([new Block.Paragraph(InlineNormal.Of(Inlines(text)))]));
                    continue;
                }
                if (child is not IElement other)
                    continue;
                Warn(other, $"<{other.LocalName}> in a list went into an item: lists hold items only");
                List<Block> blocks =
                    IsBlock(other) ? [.. ParseBlock(other)]
                    : InlineNormal.Of(ParseInline(other)) is { Count: > 0 } line ? [new Block.Paragraph(line)]
                    : [];
                if (blocks.Count == 0)
                    continue;
                if (items.Count == 0)
                    items.Add(new(blocks));
                else
                    items[^1] = new([.. items[^1], .. blocks]);
            }
            return items;
        }

        private List<BodyRow> Rows(IElement table)
        {
            var rows = new List<BodyRow>();
            foreach (var row in table.QuerySelectorAll("tr").Where(row => row.Closest("table") == table))
            {
                Allow(row, "data-rows");
                List<Cell> cells =
                [
                    .. row
                        .Children.Where(cell => cell.LocalName is "td" or "th")
                        .Select(cell =>
                        {
                            Allow(cell, "colspan", "rowspan");
                            if (
                                cell.GetAttribute("colspan") is not (null or "1")
                                || cell.GetAttribute("rowspan") is not (null or "1")
                            )
                                Warn(cell, "joined cells became single ones");
                            return new Cell(cell.LocalName == "th", Held(cell));
                        }),
                ];
                if (cells.Count == 0)
                    continue;
                var repeats = row.GetAttribute("data-rows") is { } range
                    ? Try(row, () => RowRange.Parse("body", range))
                    : null;
                if (repeats is not null && row.ParentElement!.Closest("tr[data-rows]") is not null)
                    Errors.Add(
                        new InputError(
                            "body",
                            $"{Place(row)}: A row that is repeated cannot lie in another one. Let only one of "
                                + "them repeat."
                        )
                    );
                rows.Add(new BodyRow(new(cells), repeats));
            }
            return rows;
        }

        private IEnumerable<Block> Captions(IElement table)
        {
            foreach (var caption in table.Children.Where(child => child.LocalName == "caption"))
            {
                Warn(caption, "the caption of a table became a paragraph before it");
                yield return new Block.Paragraph(Content(caption));
            }
        }

        /// <summary>What an item or a cell holds: one that holds nothing has an empty line.</summary>
        private EquatableList<Block> Held(IElement element) =>
            Blocks(element) is { Count: > 0 } blocks
                ? new(blocks)
                : new([new Block.Paragraph(EquatableList<Inline>.Empty)]);

        private EquatableList<Inline> Content(IElement element) =>
            InlineNormal.Of(element.ChildNodes.SelectMany(Inlines));

        private EquatableList<Inline> InPre(IElement element)
        {
            preformatted = true;
            var content = InlineNormal.Of(element.ChildNodes.SelectMany(Inlines));
            preformatted = false;
            return content;
        }

        private void Allow(IElement element, params string[] known)
        {
            foreach (var attribute in element.Attributes)
                if (!known.Contains(attribute.Name) && !(attribute.Name == "checked" && element.LocalName == "input"))
                    Warn(element, $"{Short(attribute.Name)} on <{element.LocalName}> was dropped");
        }

        private IEnumerable<Inline> One(IElement element, Func<Inline> make) =>
            Try(element, make) is { } part ? [part]
            : kept ? [new Inline.Wrong(Errors[^1].Message)]
            : [];

        private T? Try<T>(IElement element, Func<T> make)
            where T : class
        {
            try
            {
                return make();
            }
            catch (InvalidInputException exception)
            {
                Errors.AddRange(
                    exception.Errors.Select(error => error with { Message = $"{Place(element)}: {error.Message}" })
                );
                return null;
            }
        }

        private void Warn(IElement element, string message)
        {
            var (line, column) = Position(element);
            if (Warnings.Count < MostWarnings)
                Warnings.Add(new BodyWarning(message, line, column));
        }

        private static string Place(IElement element) =>
            Position(element) is var (line, column)
                ? string.Create(CultureInfo.InvariantCulture, $"Line {line}, column {column}")
                : "";

        private static (int Line, int Column) Position(IElement element) =>
            element.SourceReference is { } reference ? (reference.Position.Line, reference.Position.Column) : (1, 1);

        private static InvalidInputException Missing(string attribute) => new("body", $"{attribute} is missing.");

        private static string Short(string text) => Graphemes.Shortened(text, 60);
    }
}
