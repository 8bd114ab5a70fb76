using System.Globalization;
using AngleSharp.Dom;
using DashSprout.Core.Dates;
using DashSprout.Core.Text;
using NodaTime;
using NodaTime.Text;

namespace DashSprout.Core.Bodies;

/// <summary>Reads live parts.</summary>
public static partial class BodyParser
{
    private sealed partial class Reading
    {
        private DatePart Date(IElement element)
        {
            Allow(
                element,
                "data-pattern",
                "data-shift",
                "data-days",
                "data-snap",
                "data-from",
                "data-zone",
                "data-locale",
                "datetime"
            );
            string? Get(string name) => element.GetAttribute(name) is { Length: > 0 } value ? value : null;
            if (Get("data-days") is not (null or "working" or "all"))
                throw new InvalidInputException(
                    "body",
                    $"data-days “{Get("data-days")}” is not known here. Use working, or leave it out."
                );
            if (Get("data-zone") is { } zone)
                Zones.Find("body", zone);
            if (Get("data-locale") is { } locale)
                Locales.Find("body", locale);
            return new DatePart(
                DatePattern.Parse("body", Get("data-pattern") ?? throw Missing("data-pattern")),
                Get("data-shift") is { } shift ? DateShift.Parse("body", shift) : null,
                Get("data-days") == "working",
                Get("data-snap") is { } snap ? DateSnap.Parse("body", snap) : null,
                Get("data-from"),
                Get("data-zone"),
                Get("data-locale")
            );
        }

        private BodyField Field(IElement element)
        {
            Allow(
                element,
                "name",
                "title",
                "value",
                "size",
                "type",
                "required",
                "min",
                "max",
                "step",
                "rows",
                "pattern",
                "data-default"
            );
            var name = element.GetAttribute("name") ?? "";
            if (!FieldName().IsMatch(name))
                throw new InvalidInputException(
                    "body",
                    $"“{name}” cannot be the name of a field. Use letters, digits and underscores, beginning "
                        + "with a letter."
                );
            var options =
                element.LocalName == "select"
                    ? element.Children.Where(child => child.LocalName == "option").ToList()
                    : [];
            if (element.LocalName == "select" && options.Count == 0)
                throw new InvalidInputException(
                    "body",
                    $"The choice “{name}” offers nothing. Add at least one option."
                );
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
                    var other => throw new InvalidInputException(
                        "body",
                        $"A field of type “{other}” is not known here. Use text, number, date or checkbox."
                    ),
                },
            };
            var initial = type switch
            {
                FieldType.LongText => element.TextContent.ReplaceLineEndings("\n"),
                FieldType.Choice => (
                    options.Find(option => option.HasAttribute("selected")) ?? options[0]
                ).TextContent.Trim(),
                FieldType.Checkbox => element.HasAttribute("checked") || element.GetAttribute("value") == "true"
                    ? "true"
                    : "false",
                _ => element.GetAttribute("value") ?? "",
            };
            foreach (var limit in (string[])["min", "max", "step"])
                if (
                    type == FieldType.Number
                    && element.GetAttribute(limit) is { Length: > 0 } value
                    && TypedNumber.ReadPlain(value) is null
                )
                    throw new InvalidInputException(
                        "body",
                        $"{limit} of the field “{name}” is not a number: “{value}”. Write a fraction with a "
                            + "point, such as 2.40."
                    );
            return new BodyField(
                name,
                type,
                element.GetAttribute("title") ?? "",
                initial,
                element.HasAttribute("required"),
                element.GetAttribute("min"),
                element.GetAttribute("max"),
                element.GetAttribute("step"),
                int.TryParse(
                    element.GetAttribute(type == FieldType.LongText ? "rows" : "size"),
                    NumberStyles.None,
                    CultureInfo.InvariantCulture,
                    out var size
                )
                    ? size
                    : null,
                new(
                    options.Select(option => new FieldChoice(
                        option.TextContent.Trim(),
                        option.GetAttribute("value") is { Length: > 0 } value && value != option.TextContent.Trim()
                            ? value
                            : null
                    ))
                )
            )
            {
                DefaultFormula = element.GetAttribute("data-default") is { Length: > 0 } formula
                    ? Formula.Parse("body", formula)
                    : null,
                Pattern = element.GetAttribute("pattern") is { Length: > 0 } pattern
                    ? Answers.CheckPattern(name, pattern)
                    : null,
            };
        }

        private const int MostKeys = 200;

        private static EquatableList<Key> Run(IElement element)
        {
            var names = element.TextContent.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
            if (names.Length is 0 or > MostKeys)
                throw new InvalidInputException(
                    "body",
                    $"A run has 1 to {MostKeys} keys with blanks between, such as Tab Tab Enter."
                );
            return new(names.Select(name => Key.Parse("body", name == "Space" ? " " : name)));
        }

        private static bool IsSource(string source) =>
            source.StartsWith('/')
                ? !source.StartsWith("//", StringComparison.Ordinal)
                : source.Contains("://", StringComparison.Ordinal)
                    && Uri.TryCreate(source, UriKind.Absolute, out var uri)
                    && uri.Scheme is "http" or "https" or "file";

        /// <summary>Where a value is read from: a web address, a file, or a path of the program's own.</summary>
        private static Inline.Live Live(IElement element)
        {
            var source = element.GetAttribute("data-url")?.Trim() ?? throw Missing("data-url");
            var path = element.GetAttribute("data-path") ?? "";
            if (source.Length > 2000 || !IsSource(source))
                throw new InvalidInputException(
                    "body",
                    $"“{Short(source)}” cannot be read. Use an address that begins with https:, http: or file:."
                );
            if (path.Length > 500 || (path.Length > 0 && path[0] != '/'))
                throw new InvalidInputException(
                    "body",
                    $"“{Short(path)}” leads nowhere in a JSON document. Write a JSON Pointer such as /tides/0/height."
                );
            return new Inline.Live(source, path);
        }

        private static string? NumberPattern(IElement element)
        {
            var pattern = element.GetAttribute("data-pattern");
            if (string.IsNullOrEmpty(pattern))
                return null;
            var wrong = pattern.AsSpan().IndexOfAnyExcept(NumberPatternUnits);
            return wrong < 0 && pattern.AsSpan().IndexOfAny('#', '0') >= 0
                ? pattern
                : throw new InvalidInputException(
                    "body",
                    $"The number pattern “{pattern}” is not "
                        + $"right{(wrong < 0 ? "" : $" at position {wrong + 1}")}. Write for example #,##0.00."
                );
        }

        private Inline Slot(IElement element)
        {
            Allow(
                element,
                "name",
                "data-trim",
                "data-group",
                "data-ref",
                "data-for",
                "data-app",
                "data-field",
                "data-url",
                "data-path"
            );
            switch (element.GetAttribute("name"))
            {
                case "clipboard":
                    return new Inline.Clipboard(element.HasAttribute("data-trim"));
                case "selection":
                    return new Inline.Selection(Content(element));
                case "match":
                    return new Inline.Group(Whole(element, "data-group", 0, 0, 99));
                case "live":
                    return Live(element);
                case "uuid":
                    return new Inline.UniqueId();
                case "snippet":
                    var path = element.GetAttribute("data-ref") ?? throw Missing("data-ref");
                    return path.Contains('/', StringComparison.Ordinal) || References.Id(path) is not null
                        ? new Inline.Reference(path)
                        : throw new InvalidInputException(
                            "body",
                            $"“{path}” does not lead to a snippet. Write Library/Folder/Name or Library/Name."
                        );
                case "wait":
                    var time = element.GetAttribute("data-for") ?? throw Missing("data-for");
                    if (Pause(time) is { } wait)
                        return new Inline.Wait(wait);
                    throw new InvalidInputException(
                        "body",
                        $"“{time}” is no pause. Write for example PT0.3S; all pauses together last at most 10 s."
                    );
                case "go-to":
                    return new Inline.GoTo(Named(element, "data-app"), Named(element, "data-field"));
                case var other:
                    throw new InvalidInputException(
                        "body",
                        $"A slot named “{other}” is not known here. Use clipboard, selection, match, snippet, "
                            + "uuid, live, wait or go-to."
                    );
            }
        }

        /// <summary>A pause up to a minute; null when it is none.</summary>
        private static Duration? Pause(string time)
        {
            if (
                time.Length > 20
                || PeriodPattern.NormalizingIso.Parse(time)
                    is not { Success: true, Value: { HasDateComponent: false } period }
            )
                return null;
            var isLong =
                (decimal)period.Hours * 3600 + (decimal)period.Minutes * 60 + period.Seconds > 60
                || Math.Max(Math.Abs(period.Milliseconds), Math.Abs(period.Ticks)) > 600_000_000;
            return
                isLong || period.ToDuration() is var pause && (pause < Duration.Zero || pause > Duration.FromMinutes(1))
                ? null
                : period.ToDuration();
        }

        private static string Named(IElement element, string attribute)
        {
            var name = element.GetAttribute(attribute)?.Trim() ?? "";
            return name.Length is > 0 and <= 80
                ? name
                : throw new InvalidInputException("body", $"{attribute} must name something in at most 80 characters.");
        }

        private static int Whole(IElement element, string attribute, int standard, int least, int most)
        {
            var text = element.GetAttribute(attribute);
            if (text is null)
                return standard;
            return
                int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
                && number >= least
                && number <= most
                ? number
                : throw new InvalidInputException(
                    "body",
                    $"{attribute} “{text}” must be a whole number from {least} to {most}."
                );
        }
    }
}
