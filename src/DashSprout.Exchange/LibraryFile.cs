using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.RegularExpressions;
using DashSprout.Core;
using DashSprout.Core.Libraries;

namespace DashSprout.Exchange;

/// <summary>The library file: libraries as JSON that any tool can read. Its schema is docs/library-file.schema.json.</summary>
public sealed partial record LibraryFile(string? Format, int? Version, IReadOnlyList<LibraryDocument>? Libraries)
{
    /// <summary>The value of <see cref="Format"/>.</summary>
    public const string FormatName = "dash-sprout-library";

    /// <summary>The version that is written and read.</summary>
    public const int CurrentVersion = 1;

    /// <summary>How library files are written and read.</summary>
    public static JsonSerializerOptions Json { get; } = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        NumberHandling = JsonNumberHandling.Strict,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>Writes libraries as a file's text.</summary>
    public static string Write(IEnumerable<Library> libraries) =>
        JsonSerializer.Serialize(new LibraryFile(FormatName, CurrentVersion, [.. libraries.Select(LibraryDocument.Of)]), Json);

    /// <summary>Reads a file's text; throws <see cref="InvalidInputException"/> that names the place and what is wrong.</summary>
    public static IReadOnlyList<Library> Read(string text)
    {
        LibraryFile? file;
        try
        {
            file = JsonSerializer.Deserialize<LibraryFile>(text, Json);
        }
        catch (JsonException exception)
        {
            throw InvalidJson(exception);
        }
        if (file?.Format != FormatName)
            throw new InvalidInputException("format", $"This is not a library file: its “format” must be “{FormatName}”.");
        if (file.Version != CurrentVersion)
            throw new InvalidInputException("version",
                $"The file is of version {file.Version?.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "(none)"}; this program reads version {CurrentVersion}. Export it again from a program of this version.");
        return ToLibraries(file.Libraries ?? throw new InvalidInputException("libraries", "The list of libraries is missing."));
    }

    /// <summary>Checks a list of library documents and makes libraries of them.</summary>
    public static IReadOnlyList<Library> ToLibraries(IReadOnlyList<LibraryDocument?> documents)
    {
        var libraries = documents.ParseEach("libraries", document => document.ToLibrary());
        Names.CheckUnique("libraries", "library", libraries.Select(library => library.Name));
        return libraries;
    }

    /// <summary>Puts what a JSON reader says into words for the user.</summary>
    public static InvalidInputException InvalidJson(JsonException exception)
    {
        var place = $"line {exception.LineNumber + 1}, column {exception.BytePositionInLine + 1}";
        var field = (exception.Path ?? "").TrimStart('$').TrimStart('.');
        if (exception.Message.Contains("could not be mapped", StringComparison.Ordinal))
            return new InvalidInputException(field, $"“{field.Split('.')[^1]}” is not known here ({place}). Check its spelling or leave it out.");
        if (RequiredNames().Match(exception.Message) is { Success: true } missing)
        {
            var name = JsonNamingPolicy.CamelCase.ConvertName(missing.Groups[1].Value);
            return new InvalidInputException(name, $"“{name}” is missing ({place}). Give it a value.");
        }
        return exception.Message.Contains("could not be converted", StringComparison.Ordinal)
            ? new InvalidInputException(field, $"The value here is of the wrong kind ({place}).")
            : new InvalidInputException(field, $"This is not well-formed JSON ({place}). Mend the text there.");
    }

    /// <summary>How the JSON reader names what is missing or null.</summary>
    [GeneratedRegex("(?:missing required properties including: |parameter |property or field )'(\\w+)'")]
    private static partial Regex RequiredNames();
}
