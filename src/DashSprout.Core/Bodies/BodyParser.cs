using System.Globalization;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using DashSprout.Core.Dates;
using DashSprout.Core.Text;
using NodaTime;
using NodaTime.Text;

namespace DashSprout.Core.Bodies;

/// <summary>
/// Reads an HTML fragment into a body tree. What the tree does not know is dropped with a warning; a live part that is
/// wrong is an error, because it would come out wrong every time.
/// </summary>
public static partial class BodyParser
{
    private static readonly HtmlParser Html = new(new HtmlParserOptions { IsKeepingSourceReferences = true });

    private static readonly System.Buffers.SearchValues<char> NumberPatternUnits = System.Buffers.SearchValues.Create("#0,.%+- '\u00A0€$£");

    private static readonly HashSet<string> DroppedWhole = ["script", "style", "iframe", "object", "embed", "template", "noscript", "svg", "math", "head", "title", "form", "button", "link", "meta", "base", "video", "audio", "canvas"];

    private static readonly HashSet<string> BlockNames =
    [
        "p", "h1", "h2", "h3", "h4", "h5", "h6", "ul", "ol", "li", "blockquote", "pre", "table", "hr", "div", "aside",
        "section", "article", "header", "footer", "main", "nav", "figure", "dl", "dt", "dd",
    ];

    private const int MostWarnings = 50;

    /// <summary>
    /// Parses a fragment; throws <see cref="InvalidInputException"/> for the field <c>body</c> when a live part is wrong, or when it is
    /// larger than <see cref="BodyLimits"/> allow.
    /// </summary>
    public static (BodyTree Tree, IReadOnlyList<BodyWarning> Warnings) Parse(string source)
    {
        if (MarkupScan.Problem(source) is { } problem) throw new InvalidInputException("body", problem);
        var document = Html.ParseDocument(source);
        if (TooLarge(document.Body!) is { } tooLarge) throw new InvalidInputException("body", tooLarge);
        return Read(document);
    }

    /// <summary>The tree of a fragment that was checked when it was stored.</summary>
    internal static BodyTree ParseKept(string source) => Read(Html.ParseDocument(source)).Tree;

    private static (BodyTree Tree, IReadOnlyList<BodyWarning> Warnings) Read(IDocument document)
    {
        var reading = new Reading();
        var tree = new BodyTree(new(reading.Blocks(document.Body!)));
        return reading.Errors.Count == 0 ? (tree, reading.Warnings) : throw new InvalidInputException(reading.Errors);
    }

    /// <summary>Why the elements are too many or too deep; a parser that repairs wrong HTML makes more of them than the source has.</summary>
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
                if (node == body) return null;
                node = node.NextSibling!;
            }
            if (node is not IElement) continue;
            if (depth > BodyLimits.MostDepth) return BodyLimits.TooDeep;
            // Bodies of tables come by themselves.
            if (++elements > 2 * BodyLimits.MostParts) return BodyLimits.TooManyParts;
        }
    }

    [GeneratedRegex(@"\A(#[0-9a-fA-F]{3,8}|[a-zA-Z]{3,24}|(rgb|rgba|hsl|hsla)\([0-9.,%/ deg]{3,40}\))\z", RegexOptions.CultureInvariant)]
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

    private sealed class Reading
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
                if (content.Count > 0) blocks.Add(new Block.Paragraph(content));
                run.Clear();
            }
            var holdsBlocks = parent.ChildNodes.Any(node => node is IElement element && IsBlock(element));
            foreach (var node in parent.ChildNodes)
            {
                if (node is not IElement element || !IsBlock(element))
                {
                    // White space between blocks lays the source out.
                    if (holdsBlocks && node is IText { Data: var data } && string.IsNullOrWhiteSpace(data) && run.Count == 0 && IsLayout(node)) continue;
                    if (node is IElement holder && holder.LocalName is not ("slot" or "menu" or "select") && holder.QuerySelectorAll("*").Any(IsBlock))
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

        /// <summary>Blocks within formatting, as pages write them: the formatting goes into each of their lines.</summary>
        private IEnumerable<Block> InFormatting(IElement holder)
        {
            if (holder.LocalName == "span" && holder.HasAttribute("data-when"))
                return Try(holder, () => Formula.Parse("body", holder.GetAttribute("data-when")!)) is { } when && Blocks(holder) is { Count: > 0 } held ? [new Block.Passage(when, new(held))] : [];
            // The formatting alone, as it stands around nothing.
            var alone = (IElement)holder.Clone(deep: false);
            alone.TextContent = "x";
            var shell = ParseInline(alone).FirstOrDefault();
            return Blocks(holder).Select(block => Lines.Of(block, line => shell is null or Inline.Text ? line : InlineNormal.Of([InlineNormal.Around(shell, line)])));
        }

        /// <summary>Whether a white space has no text beside it, only blocks or the ends of what holds it.</summary>
        private static bool IsLayout(INode space) => AtBlock(space.PreviousSibling) && AtBlock(space.NextSibling);

        private static bool AtBlock(INode? beside) => beside switch
        {
            null => true,
            IElement element => IsBlock(element),
            IText { Data: var data } => string.IsNullOrWhiteSpace(data),
            _ => true,
        };

        private static bool IsBlock(IElement element) =>
            BlockNames.Contains(element.LocalName) || (element.LocalName == "menu" && !element.HasAttribute("data-pick"));

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
                    if (level > 3) Warn(element, $"h{level} became h3: headings have three levels");
                    return [new Block.Heading(Math.Min(level, 3), Content(element), Alignment(element))];
                case "ul" or "ol" or "menu":
                    Allow(element);
                    return Items(element) is { Count: > 0 } items ? [new Block.BulletList(new(items), element.LocalName == "ol")] : [];
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
                    return Try(element, () => Formula.Parse("body", element.GetAttribute("data-when")!)) is { } when && Blocks(element) is { Count: > 0 } held
                        ? [new Block.Passage(when, new(held))]
                        : [];
                case "aside" when element.HasAttribute("data-notice"):
                    Allow(element, "data-notice");
                    return [new Block.Notice(Content(element))];
                case "div" when !element.Children.Any(IsBlock):
                    Allow(element, "style");
                    return [new Block.Paragraph(Content(element), Alignment(element))];
                default:
                    if (element.LocalName != "div") Warn(element, $"<{element.LocalName}> is not known here; what is in it stays");
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
                    if (string.IsNullOrWhiteSpace(text.Data)) continue;
                    Warn(list, "text in a list beside its items became an item of its own");
                    items.Add(new([new Block.Paragraph(InlineNormal.Of(Inlines(text)))]));
                    continue;
                }
                if (child is not IElement other) continue;
                Warn(other, $"<{other.LocalName}> in a list went into an item: lists hold items only");
                List<Block> blocks = IsBlock(other) ? [.. ParseBlock(other)] : InlineNormal.Of(ParseInline(other)) is { Count: > 0 } line ? [new Block.Paragraph(line)] : [];
                if (blocks.Count == 0) continue;
                if (items.Count == 0) items.Add(new(blocks));
                else items[^1] = new([.. items[^1], .. blocks]);
            }
            return items;
        }

        private List<TableRow> Rows(IElement table)
        {
            var rows = new List<TableRow>();
            foreach (var row in table.QuerySelectorAll("tr").Where(row => row.Closest("table") == table))
            {
                Allow(row, "data-rows");
                List<Cell> cells =
                [
                    .. row.Children.Where(cell => cell.LocalName is "td" or "th").Select(cell =>
                    {
                        Allow(cell, "colspan", "rowspan");
                        if (cell.GetAttribute("colspan") is not (null or "1") || cell.GetAttribute("rowspan") is not (null or "1"))
                            Warn(cell, "joined cells became single ones");
                        return new Cell(cell.LocalName == "th", Held(cell));
                    }),
                ];
                if (cells.Count == 0) continue;
                var repeats = row.GetAttribute("data-rows") is { } range ? Try(row, () => RowRange.Parse("body", range)) : null;
                if (repeats is not null && row.ParentElement!.Closest("tr[data-rows]") is not null)
                    Errors.Add(new InputError("body", $"{Place(row)}: A row that is repeated cannot lie in another one. Let only one of them repeat."));
                rows.Add(new TableRow(new(cells), repeats));
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
            Blocks(element) is { Count: > 0 } blocks ? new(blocks) : new([new Block.Paragraph(EquatableList<Inline>.Empty)]);

        private EquatableList<Inline> Content(IElement element) => InlineNormal.Of(element.ChildNodes.SelectMany(Inlines));

        private EquatableList<Inline> InPre(IElement element)
        {
            preformatted = true;
            var content = InlineNormal.Of(element.ChildNodes.SelectMany(Inlines));
            preformatted = false;
            return content;
        }

        private IEnumerable<Inline> Inlines(INode node)
        {
            if (node is IText text)
            {
                var words = preformatted ? text.Data.ReplaceLineEndings("\n") : WithoutLayout(text);
                return words.Length > 0 ? [new Inline.Text(words)] : [];
            }
            return node is IElement element ? ParseInline(element) : [];
        }

        private IEnumerable<Inline> ParseInline(IElement element)
        {
            switch (element.LocalName)
            {
                case "strong" or "b": return Emphasised(element, Emphasis.Strong);
                case "em" or "i": return Emphasised(element, Emphasis.Em);
                case "u": return Emphasised(element, Emphasis.U);
                case "s" or "del" or "strike": return Emphasised(element, Emphasis.S);
                case "code": return Emphasised(element, Emphasis.Code);
                case "br":
                    Allow(element);
                    return [new Inline.Break()];
                case "a" when element.HasAttribute("data-open"): return OpenSomething(element);
                case "a": return Link(element);
                case "span" when element.HasAttribute("data-when"):
                    Allow(element, "data-when");
                    return One(element, () => new Inline.Passage(Formula.Parse("body", element.GetAttribute("data-when")!), Content(element)));
                case "span": return Styled(element);
                case "img": return Picture(element);
                case "time": return One(element, () => new Inline.Date(Date(element)));
                case "input" or "textarea" or "select": return One(element, () => new Inline.Field(Field(element)));
                case "output":
                    Allow(element, "data-formula", "data-pattern");
                    return One(element, () => new Inline.Calculation(
                        Formula.Parse("body", element.GetAttribute("data-formula") ?? throw Missing("data-formula")), NumberPattern(element)));
                case "slot": return One(element, () => Slot(element));
                case "menu" when element.HasAttribute("data-pick"):
                    Allow(element, "data-pick");
                    return One(element, () => new Inline.Pick(
                        Wording.Parse<PickWay>("body", element.GetAttribute("data-pick")!),
                        new(element.Children.Where(child => child.LocalName == "li").Select(Content))));
                case "wbr":
                    Allow(element, "data-caret");
                    return element.HasAttribute("data-caret") ? [new Inline.Caret()] : [];
                case "mark" when element.HasAttribute("data-select"):
                    Allow(element, "data-select");
                    return [new Inline.Selected(Content(element))];
                case "kbd" when element.HasAttribute("data-run"):
                    Allow(element, "data-run");
                    return One(element, () => new Inline.KeyRun(Run(element)));
                case "kbd":
                    Allow(element, "data-times");
                    return One(element, () => new Inline.KeyPress(Key.Parse("body", element.TextContent), Whole(element, "data-times", 1, 1, 100)));
                default:
                    if (DroppedWhole.Contains(element.LocalName))
                    {
                        Warn(element, $"<{element.LocalName}> was dropped");
                        return [];
                    }
                    Warn(element, $"<{element.LocalName}> is not known here; what is in it stays");
                    return element.ChildNodes.SelectMany(Inlines);
            }
        }

        private IEnumerable<Inline> Emphasised(IElement element, Emphasis emphasis)
        {
            Allow(element);
            return [new Inline.Emphasised(emphasis, Content(element))];
        }

        private IEnumerable<Inline> Link(IElement element)
        {
            Allow(element, "href", "target", "rel");
            var target = (element.GetAttribute("href") ?? "").Trim();
            if (Addresses.CanLink(target)) return [new Inline.Link(target, Content(element))];
            Warn(element, $"a link to “{Short(target)}” was dropped; its text stays. Links lead to http, https or mailto addresses");
            return Content(element);
        }

        private IEnumerable<Inline> OpenSomething(IElement element)
        {
            Allow(element, "href", "data-open");
            return One(element, () =>
            {
                var target = (element.GetAttribute("href") ?? "").Trim();
                return Addresses.CanOpen(target)
                    ? new Inline.Open(target)
                    : throw new InvalidInputException("body", $"“{Short(target)}” cannot be opened. Use an address that begins with https:, http:, mailto:, file: or app:.");
            });
        }

        private IEnumerable<Inline> Styled(IElement element)
        {
            Allow(element, "style");
            var style = new TextStyle(
                Css(element, "color", ColorValue()), Css(element, "background-color", ColorValue()),
                Css(element, "font-family", FamilyValue()), Css(element, "font-size", SizeValue()));
            WarnOtherCss(element, "color", "background-color", "font-family", "font-size");
            return style == new TextStyle(null, null, null, null) ? Content(element) : [new Inline.Styled(style, Content(element))];
        }

        private IEnumerable<Inline> Picture(IElement element)
        {
            Allow(element, "src", "alt", "width", "height", "title");
            var source = element.GetAttribute("src") ?? "";
            if (MediaSource().IsMatch(source))
            {
                var width = int.TryParse(element.GetAttribute("width"), NumberStyles.None, CultureInfo.InvariantCulture, out var pixels) && pixels is > 0 and <= 4000 ? pixels : (int?)null;
                return [new Inline.Picture(source["media:".Length..], element.GetAttribute("alt") ?? "", width)];
            }
            Warn(element, $"a picture from “{Short(source)}” was dropped: paste or drop the picture itself");
            return [];
        }

        private DatePart Date(IElement element)
        {
            Allow(element, "data-pattern", "data-shift", "data-days", "data-snap", "data-from", "data-zone", "data-locale", "datetime");
            string? Get(string name) => element.GetAttribute(name) is { Length: > 0 } value ? value : null;
            if (Get("data-days") is not (null or "working" or "all"))
                throw new InvalidInputException("body", $"data-days “{Get("data-days")}” is not known here. Use working, or leave it out.");
            if (Get("data-zone") is { } zone) Zones.Find("body", zone);
            if (Get("data-locale") is { } locale) Locales.Find("body", locale);
            return new DatePart(
                DatePattern.Parse("body", Get("data-pattern") ?? throw Missing("data-pattern")),
                Get("data-shift") is { } shift ? DateShift.Parse("body", shift) : null,
                Get("data-days") == "working",
                Get("data-snap") is { } snap ? DateSnap.Parse("body", snap) : null,
                Get("data-from"), Get("data-zone"), Get("data-locale"));
        }

        private BodyField Field(IElement element)
        {
            Allow(element, "name", "title", "value", "size", "type", "required", "min", "max", "step", "rows", "pattern", "data-default");
            var name = element.GetAttribute("name") ?? "";
            if (!FieldName().IsMatch(name))
                throw new InvalidInputException("body", $"“{name}” cannot be the name of a field. Use letters, digits and underscores, beginning with a letter.");
            var options = element.LocalName == "select" ? element.Children.Where(child => child.LocalName == "option").ToList() : [];
            if (element.LocalName == "select" && options.Count == 0)
                throw new InvalidInputException("body", $"The choice “{name}” offers nothing. Add at least one option.");
            var type = element.LocalName switch
            {
                "textarea" => FieldType.LongText,
                "select" => FieldType.Choice,
                _ => element.GetAttribute("type") switch
                {
                    null or "" or "text" => FieldType.Text,
                    "number" => FieldType.Number,
                    "date" => FieldType.Date,
                    "checkbox" => FieldType.Checkbox,
                    var other => throw new InvalidInputException("body", $"A field of type “{other}” is not known here. Use text, number, date or checkbox."),
                },
            };
            var initial = type switch
            {
                FieldType.LongText => element.TextContent.ReplaceLineEndings("\n"),
                FieldType.Choice => (options.Find(option => option.HasAttribute("selected")) ?? options[0]).TextContent.Trim(),
                FieldType.Checkbox => element.HasAttribute("checked") || element.GetAttribute("value") == "true" ? "true" : "false",
                _ => element.GetAttribute("value") ?? "",
            };
            foreach (var limit in (string[])["min", "max", "step"])
                if (type == FieldType.Number && element.GetAttribute(limit) is { Length: > 0 } value
                    && !decimal.TryParse(value, NumberStyles.Number, CultureInfo.InvariantCulture, out _))
                    throw new InvalidInputException("body", $"{limit} of the field “{name}” is not a number: “{value}”.");
            return new BodyField(
                name, type, element.GetAttribute("title") ?? "", initial, element.HasAttribute("required"),
                element.GetAttribute("min"), element.GetAttribute("max"), element.GetAttribute("step"),
                int.TryParse(element.GetAttribute(type == FieldType.LongText ? "rows" : "size"), NumberStyles.None, CultureInfo.InvariantCulture, out var size) ? size : null,
                new(options.Select(option => new FieldChoice(option.TextContent.Trim(), option.GetAttribute("value") is { Length: > 0 } value && value != option.TextContent.Trim() ? value : null))))
            {
                DefaultFormula = element.GetAttribute("data-default") is { Length: > 0 } formula ? Formula.Parse("body", formula) : null,
                Pattern = element.GetAttribute("pattern") is { Length: > 0 } pattern ? Answers.CheckPattern(name, pattern) : null,
            };
        }

        private const int MostKeys = 200;

        private static EquatableList<Key> Run(IElement element)
        {
            var names = element.TextContent.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
            if (names.Length is 0 or > MostKeys) throw new InvalidInputException("body", $"A run has 1 to {MostKeys} keys with blanks between, such as Tab Tab Enter.");
            return new(names.Select(name => Key.Parse("body", name == "Space" ? " " : name)));
        }

        private static bool IsSource(string source) => source.StartsWith('/')
            ? !source.StartsWith("//", StringComparison.Ordinal)
            : source.Contains("://", StringComparison.Ordinal) && Uri.TryCreate(source, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" or "file";

        /// <summary>Where a value is read from: a web address, a file, or a path of the program's own.</summary>
        private static Inline.Live Live(IElement element)
        {
            var source = element.GetAttribute("data-url")?.Trim() ?? throw Missing("data-url");
            var path = element.GetAttribute("data-path") ?? "";
            if (source.Length > 2000 || !IsSource(source))
                throw new InvalidInputException("body", $"“{Short(source)}” cannot be read. Use an address that begins with https:, http: or file:.");
            if (path.Length > 500 || (path.Length > 0 && path[0] != '/'))
                throw new InvalidInputException("body", $"“{Short(path)}” leads nowhere in a JSON document. Write a JSON Pointer such as /tides/0/height.");
            return new Inline.Live(source, path);
        }

        private static string? NumberPattern(IElement element)
        {
            var pattern = element.GetAttribute("data-pattern");
            if (string.IsNullOrEmpty(pattern)) return null;
            var wrong = pattern.AsSpan().IndexOfAnyExcept(NumberPatternUnits);
            return wrong < 0 && pattern.AsSpan().IndexOfAny('#', '0') >= 0
                ? pattern
                : throw new InvalidInputException("body", $"The number pattern “{pattern}” is not right{(wrong < 0 ? "" : $" at position {wrong + 1}")}. Write for example #,##0.00.");
        }

        private Inline Slot(IElement element)
        {
            Allow(element, "name", "data-trim", "data-group", "data-ref", "data-for", "data-app", "data-field", "data-url", "data-path");
            switch (element.GetAttribute("name"))
            {
                case "clipboard": return new Inline.Clipboard(element.HasAttribute("data-trim"));
                case "selection": return new Inline.Selection(Content(element));
                case "match": return new Inline.Group(Whole(element, "data-group", 0, 0, 99));
                case "live": return Live(element);
                case "uuid": return new Inline.UniqueId();
                case "snippet":
                    var path = element.GetAttribute("data-ref") ?? throw Missing("data-ref");
                    return path.Contains('/', StringComparison.Ordinal) || References.Id(path) is not null
                        ? new Inline.Reference(path)
                        : throw new InvalidInputException("body", $"“{path}” does not lead to a snippet. Write Library/Folder/Name or Library/Name.");
                case "wait":
                    var time = element.GetAttribute("data-for") ?? throw Missing("data-for");
                    if (Pause(time) is { } wait) return new Inline.Wait(wait);
                    throw new InvalidInputException("body", $"“{time}” is no pause. Write for example PT0.3S; all pauses together last at most 10 s.");
                case "go-to":
                    return new Inline.GoTo(Named(element, "data-app"), Named(element, "data-field"));
                case var other:
                    throw new InvalidInputException("body", $"A slot named “{other}” is not known here. Use clipboard, selection, match, snippet, uuid, live, wait or go-to.");
            }
        }

        /// <summary>A pause up to a minute; null when it is none.</summary>
        private static Duration? Pause(string time)
        {
            if (time.Length > 20 || PeriodPattern.NormalizingIso.Parse(time) is not { Success: true, Value: { HasDateComponent: false } period }) return null;
            var isLong = (decimal)period.Hours * 3600 + (decimal)period.Minutes * 60 + period.Seconds > 60 || Math.Max(Math.Abs(period.Milliseconds), Math.Abs(period.Ticks)) > 600_000_000;
            return isLong || period.ToDuration() is var pause && (pause < Duration.Zero || pause > Duration.FromMinutes(1)) ? null : period.ToDuration();
        }

        private static string Named(IElement element, string attribute)
        {
            var name = element.GetAttribute(attribute)?.Trim() ?? "";
            return name.Length is > 0 and <= 80 ? name : throw new InvalidInputException("body", $"{attribute} must name something in at most 80 characters.");
        }

        private static int Whole(IElement element, string attribute, int standard, int least, int most)
        {
            var text = element.GetAttribute(attribute);
            if (text is null) return standard;
            return int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number >= least && number <= most
                ? number
                : throw new InvalidInputException("body", $"{attribute} “{text}” must be a whole number from {least} to {most}.");
        }

        private Align Alignment(IElement element)
        {
            WarnOtherCss(element, "text-align");
            return Declarations(element).LastOrDefault(pair => pair.Name == "text-align").Value switch
            {
                "left" => Align.Left,
                "center" => Align.Center,
                "right" => Align.Right,
                "justify" => Align.Justify,
                _ => Align.Default,
            };
        }

        private string? Css(IElement element, string name, Regex allowed)
        {
            var value = Declarations(element).LastOrDefault(pair => pair.Name == name).Value;
            if (value is null) return null;
            if (allowed.IsMatch(value)) return value;
            Warn(element, $"{name} “{Short(value)}” was dropped");
            return null;
        }

        private static IEnumerable<(string Name, string Value)> Declarations(IElement element) =>
            (element.GetAttribute("style") ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Select(part => part.Split(':', 2, StringSplitOptions.TrimEntries))
                .Where(parts => parts.Length == 2)
                .Select(parts => (parts[0].ToLowerInvariant(), parts[1]));

        private void WarnOtherCss(IElement element, params string[] known)
        {
            foreach (var (name, _) in Declarations(element))
                if (!known.Contains(name)) Warn(element, $"the style {Short(name)} was dropped");
        }

        private void Allow(IElement element, params string[] known)
        {
            foreach (var attribute in element.Attributes)
                if (!known.Contains(attribute.Name) && !(attribute.Name == "checked" && element.LocalName == "input"))
                    Warn(element, $"{Short(attribute.Name)} on <{element.LocalName}> was dropped");
        }

        private IEnumerable<Inline> One(IElement element, Func<Inline> make) => Try(element, make) is { } part ? [part] : [];

        private T? Try<T>(IElement element, Func<T> make) where T : class
        {
            try
            {
                return make();
            }
            catch (InvalidInputException exception)
            {
                Errors.AddRange(exception.Errors.Select(error => error with { Message = $"{Place(element)}: {error.Message}" }));
                return null;
            }
        }

        private void Warn(IElement element, string message)
        {
            var (line, column) = Position(element);
            if (Warnings.Count < MostWarnings) Warnings.Add(new BodyWarning(message, line, column));
        }

        private static string Place(IElement element) => Position(element) is var (line, column) ? string.Create(CultureInfo.InvariantCulture, $"Line {line}, column {column}") : "";

        private static (int Line, int Column) Position(IElement element) =>
            element.SourceReference is { } reference ? (reference.Position.Line, reference.Position.Column) : (1, 1);

        private static InvalidInputException Missing(string attribute) => new("body", $"{attribute} is missing.");

        private static string Short(string text) => text.Length > 60 ? text[..60] + "…" : text;

        /// <summary>Spaces count as they are written; line ends only lay the source out and count as a space inside a line.</summary>
        private static string WithoutLayout(IText text)
        {
            var words = LineEnds().Replace(text.Data, "\n");
            var inBlock = text.Parent is IElement parent && (IsBlock(parent) || parent.LocalName is "body" or "td" or "th");
            if (inBlock && text.PreviousSibling is null || text.PreviousSibling is IElement before && IsBlock(before)) words = words.TrimStart('\n');
            if (inBlock && text.NextSibling is null || text.NextSibling is IElement after && IsBlock(after)) words = words.TrimEnd('\n');
            return words.Replace('\n', ' ');
        }
    }
}
