using System.Globalization;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using DashSprout.Core.Text;

namespace DashSprout.Core.Bodies;

/// <summary>Reads lines: text, formatting, links and pictures.</summary>
public static partial class BodyParser
{
    private sealed partial class Reading
    {
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
                case "strong" or "b":
                    return Emphasised(element, Emphasis.Strong);
                case "em" or "i":
                    return Emphasised(element, Emphasis.Em);
                case "u":
                    return Emphasised(element, Emphasis.U);
                case "s" or "del" or "strike":
                    return Emphasised(element, Emphasis.S);
                case "code":
                    return Emphasised(element, Emphasis.Code);
                case "br":
                    Allow(element);
                    return [new Inline.Break()];
                case "a" when element.HasAttribute("data-open"):
                    return OpenSomething(element);
                case "a":
                    return Link(element);
                case "span" when element.HasAttribute("data-when"):
                    Allow(element, "data-when");
                    return One(element, () =>
                        new Inline.Passage(Formula.Parse("body", element.GetAttribute("data-when")!), Content(element))
                    );
                case "span":
                    return Styled(element);
                case "img":
                    return Picture(element);
                case "time":
                    return One(element, () => new Inline.Date(Date(element)));
                case "input" or "textarea" or "select":
                    return One(element, () => new Inline.Field(Field(element)));
                case "output":
                    Allow(element, "data-formula", "data-pattern");
                    return One(element, () =>
                        new Inline.Calculation(
                            Formula.Parse(
                                "body",
                                element.GetAttribute("data-formula") ?? throw Missing("data-formula")
                            ),
                            NumberPattern(element)
                        )
                    );
                case "slot":
                    return One(element, () => Slot(element));
                case "menu" when element.HasAttribute("data-pick"):
                    Allow(element, "data-pick");
                    return One(element, () =>
                        new Inline.Pick(
                            Wording.Parse<PickWay>("body", element.GetAttribute("data-pick")!),
                            new(element.Children.Where(child => child.LocalName == "li").Select(Content))
                        )
                    );
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
                    return One(element, () =>
                        new Inline.KeyPress(
                            Key.Parse("body", element.TextContent),
                            Whole(element, "data-times", 1, 1, 100)
                        )
                    );
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
            if (Addresses.CanLink(target))
                return [new Inline.Link(target, Content(element))];
            Warn(
                element,
                $"a link to “{Short(target)}” was dropped; its text stays. Links lead to http, https or "
                    + "mailto addresses"
            );
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
                    : throw new InvalidInputException(
                        "body",
                        $"“{Short(target)}” cannot be opened. Use an address that begins with https:, http:, "
                            + "mailto:, file: or app:."
                    );
            });
        }

        private IEnumerable<Inline> Styled(IElement element)
        {
            Allow(element, "style");
            var style = new TextStyle(
                Css(element, "color", ColorValue()),
                Css(element, "background-color", ColorValue()),
                Css(element, "font-family", FamilyValue()),
                Css(element, "font-size", SizeValue())
            );
            WarnOtherCss(element, "color", "background-color", "font-family", "font-size");
            return style == new TextStyle(null, null, null, null)
                ? Content(element)
                : [new Inline.Styled(style, Content(element))];
        }

        private IEnumerable<Inline> Picture(IElement element)
        {
            Allow(element, "src", "alt", "width", "height", "title");
            var source = element.GetAttribute("src") ?? "";
            if (MediaSource().IsMatch(source))
            {
                var width =
                    int.TryParse(
                        element.GetAttribute("width"),
                        NumberStyles.None,
                        CultureInfo.InvariantCulture,
                        out var pixels
                    ) && pixels is > 0 and <= 4000
                        ? pixels
                        : (int?)null;
                return [new Inline.Picture(source["media:".Length..], element.GetAttribute("alt") ?? "", width)];
            }
            Warn(element, $"a picture from “{Short(source)}” was dropped: paste or drop the picture itself");
            return [];
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
            if (value is null)
                return null;
            if (allowed.IsMatch(value))
                return value;
            Warn(element, $"{name} “{Short(value)}” was dropped");
            return null;
        }

        private static IEnumerable<(string Name, string Value)> Declarations(IElement element) =>
            (element.GetAttribute("style") ?? "")
                .Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Select(part => part.Split(':', 2, StringSplitOptions.TrimEntries))
                .Where(parts => parts.Length == 2)
                .Select(parts => (parts[0].ToLowerInvariant(), parts[1]));

        private void WarnOtherCss(IElement element, params string[] known)
        {
            foreach (var (name, _) in Declarations(element))
                if (!known.Contains(name))
                    Warn(element, $"the style {Short(name)} was dropped");
        }

        /// <summary>
        /// Spaces count as they are written; line ends only lay the source out and count as a space inside a line.
        /// </summary>
        private static string WithoutLayout(IText text)
        {
            var words = LineEnds().Replace(text.Data, "\n");
            var inBlock =
                text.Parent is IElement parent && (IsBlock(parent) || parent.LocalName is "body" or "td" or "th");
            if (inBlock && text.PreviousSibling is null || text.PreviousSibling is IElement before && IsBlock(before))
                words = words.TrimStart('\n');
            if (inBlock && text.NextSibling is null || text.NextSibling is IElement after && IsBlock(after))
                words = words.TrimEnd('\n');
            return words.Replace('\n', ' ');
        }
    }
}
