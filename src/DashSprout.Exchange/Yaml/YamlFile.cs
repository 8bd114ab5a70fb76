using System.Globalization;
using System.Text.Json;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using YamlDotNet.Core;
using YamlDotNet.Core.Events;
using Scalar = YamlDotNet.Core.Events.Scalar;

namespace DashSprout.Exchange.Yaml;

/// <summary>The library file in YAML (1.2, core schema): the same fields, easier to write by hand.</summary>
public static class YamlFile
{
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
        var tree = YamlTree.Read(text, cancellation);
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes))
            tree.Write(json, Plain, cancellation);
        bytes.Position = 0;
        try
        {
            return await LibraryFile.Read(bytes, cancellation);
        }
        catch (InvalidInputException exception)
        {
            // The places are those of the same file in JSON: each is said as it stands in this one.
            throw new InvalidInputException([
                .. exception.Errors.Select(error =>
                    error with
                    {
                        Message = WithoutPlace(error.Message) + tree.PlaceOf(error.Field),
                    }
                ),
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
