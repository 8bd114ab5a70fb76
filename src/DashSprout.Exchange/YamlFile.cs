using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using YamlDotNet.Core;
using YamlDotNet.Core.Events;
using YamlDotNet.RepresentationModel;
using Scalar = YamlDotNet.Core.Events.Scalar;

namespace DashSprout.Exchange;

/// <summary>The library file in YAML (1.2, core schema): the same fields, easier to write by hand.</summary>
public static class YamlFile
{
    /// <summary>How many values a file holds at most: an alias may stand for very many.</summary>
    private const int MostNodes = 2_000_000;

    /// <summary>
    /// The fields that hold no text; whatever stands in another one is a text, so that <c>text: 12</c> needs no
    /// quotation marks.
    /// </summary>
    private static readonly HashSet<string> YesNo =
    [
        "enabled",
        "capsLockShouts",
        "backspaceTakesBack",
        "private",
        "leaveOnClipboard",
        "keepClosingKey",
        "givesWay",
    ];

    /// <summary>
    /// Reads a file; throws <see cref="InvalidInputException"/> that names the place and what is wrong.
    /// </summary>
    public static async Task<LibraryFileContents> Read(string text, CancellationToken cancellation)
    {
        try
        {
            var yaml = new YamlStream();
            yaml.Load(new StringReader(text));
            var left = MostNodes;
            var json =
                yaml.Documents.Count == 1
                    ? ToJson(yaml.Documents[0].RootNode, "", ref left)
                    : throw new InvalidInputException("file", "The file holds no YAML document, or several. Keep one.");
            using var bytes = new MemoryStream(JsonSerializer.SerializeToUtf8Bytes(json, LibraryFile.Json));
            return await LibraryFile.Read(bytes, cancellation);
        }
        catch (YamlException exception)
        {
            throw new InvalidInputException(
                "file",
                $"This is not well-formed YAML (line {exception.Start.Line}, column "
                    + $"{exception.Start.Column}): {exception.Message}"
            );
        }
        catch (InvalidInputException exception)
            when (exception.Errors.Any(error => error.Message.Contains("(line ", StringComparison.Ordinal)))
        {
            // The places are those of the same file in JSON.
            throw new InvalidInputException([
                .. exception.Errors.Select(error => error with { Message = WithoutPlace(error.Message) }),
            ]);
        }
    }

    /// <summary>Writes libraries and the pictures in them.</summary>
    public static async Task<string> Write(
        IEnumerable<Library> libraries,
        IReadOnlyDictionary<string, PictureData> pictures,
        CancellationToken cancellation
    )
    {
        using var bytes = new MemoryStream();
        await LibraryFile.Write(bytes, libraries, pictures, cancellation);
        bytes.Position = 0;
        using var json = await JsonDocument.ParseAsync(bytes, cancellationToken: cancellation);
        using var text = new StringWriter();
        var emitter = new Emitter(
            text,
            EmitterSettings.Default.WithBestWidth(int.MaxValue).WithMaxSimpleKeyLength(1024)
        );
        emitter.Emit(new StreamStart());
        emitter.Emit(new DocumentStart(null, null, isImplicit: true));
        Emit(emitter, json.RootElement);
        emitter.Emit(new DocumentEnd(isImplicit: true));
        emitter.Emit(new StreamEnd());
        return text.ToString();
    }

    private static void Emit(Emitter emitter, JsonElement value)
    {
        switch (value.ValueKind)
        {
            case JsonValueKind.Object:
                emitter.Emit(new MappingStart(null, null, true, MappingStyle.Block));
                foreach (var property in value.EnumerateObject())
                {
                    emitter.Emit(new Scalar(null, null, property.Name, ScalarStyle.Any, true, true));
                    Emit(emitter, property.Value);
                }
                emitter.Emit(new MappingEnd());
                break;
            case JsonValueKind.Array:
                emitter.Emit(new SequenceStart(null, null, true, SequenceStyle.Block));
                foreach (var item in value.EnumerateArray())
                    Emit(emitter, item);
                emitter.Emit(new SequenceEnd());
                break;
            case JsonValueKind.String:
                emitter.Emit(new Scalar(null, null, value.GetString()!, Style(value.GetString()!), true, true));
                break;
            default:
                emitter.Emit(new Scalar(null, null, value.GetRawText(), ScalarStyle.Plain, true, false));
                break;
        }
    }

    /// <summary>
    /// What could be read as something else than a text stands in quotation marks; lines stand as lines.
    /// </summary>
    private static ScalarStyle Style(string text) =>
        text.Contains('\n', StringComparison.Ordinal)
        && !text.StartsWith(' ')
        && !text.StartsWith('\n')
        && !text.EndsWith('\n')
        && !text.Contains(" \n", StringComparison.Ordinal)
        && text.All(unit =>
            unit == '\n'
            || unit >= ' ' && unit != '\u007f' && unit is not ('\u0085' or '\u2028' or '\u2029' or '\uFEFF')
        )
            ? ScalarStyle.Literal
        : IsWord(text) ? ScalarStyle.Plain
        : ScalarStyle.DoubleQuoted;

    /// <summary>
    /// Whether a text is a word that no YAML reader, of an older version either, takes for anything else.
    /// </summary>
    private static bool IsWord(string text) =>
        text.Length > 3
        && text.All(unit => char.IsAsciiLetter(unit) || unit == '-')
        && text[0] != '-'
        && text.ToLowerInvariant() is not ("true" or "false" or "null");

    private static JsonNode? ToJson(YamlNode node, string field, ref int left)
    {
        if (--left < 0)
            throw new InvalidInputException("file", $"The file holds more than {MostNodes} values. Divide it.");
        switch (node)
        {
            case YamlMappingNode mapping:
                var fields = new JsonObject();
                foreach (var (key, value) in mapping.Children)
                {
                    var name = (key as YamlScalarNode)?.Value
                        ?? throw new InvalidInputException("file", $"A name is no text (line {key.Start.Line}).");
                    fields[name] = ToJson(value, name, ref left);
                }
                return fields;
            case YamlSequenceNode sequence:
                var items = new JsonArray();
                foreach (var item in sequence.Children)
                    items.Add(ToJson(item, field, ref left));
                return items;
            case YamlScalarNode { Style: ScalarStyle.Plain, Value: var plain }:
                return Plain(plain ?? "", field) switch
                {
                    null => null,
                    bool flag => JsonValue.Create(flag),
                    int number => JsonValue.Create(number),
                    var text => JsonValue.Create((string)text),
                };
            default:
                return JsonValue.Create(((YamlScalarNode)node).Value ?? "");
        }
    }

    /// <summary>What a text without quotation marks stands for in a field, by the core schema.</summary>
    private static object? Plain(string text, string field) =>
        text switch
        {
            "" or "~" or "null" or "Null" or "NULL" => null,
            "true" or "True" or "TRUE" when YesNo.Contains(field) => true,
            "false" or "False" or "FALSE" when YesNo.Contains(field) => false,
            _ => field == "version"
            && int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
                ? number
                : text,
        };

    private static string WithoutPlace(string message)
    {
        var at = message.IndexOf(" (line ", StringComparison.Ordinal);
        var end = at < 0 ? -1 : message.IndexOf(')', at);
        return end < 0 ? message : message.Remove(at, end - at + 1);
    }
}
