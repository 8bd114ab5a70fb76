using System.Collections;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using System.Text.RegularExpressions;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Documents;

/// <summary>
/// The library file: libraries as JSON that any tool can read. Its schema is docs/library-file.schema.json.
/// </summary>
/// <param name="Pictures">The pictures that the bodies show, each once, by the id that <c>src="media:ID"</c>
/// names.</param>
/// <param name="Mirror">What a mirror file says beside its library; in those only.</param>
/// <param name="Pack">What a pack says of itself; in those only.</param>
public sealed partial record LibraryFile(
    string? Format = null,
    int? Version = null,
    IReadOnlyList<LibraryDocument>? Libraries = null,
    IReadOnlyDictionary<string, PictureDocument>? Pictures = null,
    MirrorDocument? Mirror = null,
    PackDocument? Pack = null
)
{
    /// <summary>The value of <see cref="Format"/>.</summary>
    public const string FormatName = "dash-sprout-library";

    /// <summary>The version that is written and read.</summary>
    public const int CurrentVersion = 1;

    /// <summary>How many libraries a file holds at most.</summary>
    public const int MostLibraries = 1000;

    /// <summary>How library files are written and read: what is as usual is left out.</summary>
    public static JsonSerializerOptions Json { get; } =
        new(JsonSerializerDefaults.Web)
        {
            WriteIndented = true,
            IndentSize = 1,
            NumberHandling = JsonNumberHandling.Strict,
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
            TypeInfoResolver = new DefaultJsonTypeInfoResolver
            {
                Modifiers = { LeaveOutDefaults, NullsInLists.Refuse },
            },
        };

    /// <summary>Writes libraries and the pictures in them.</summary>
    public static Task Write(
        Stream to,
        IEnumerable<Library> libraries,
        IReadOnlyDictionary<string, PictureData> pictures,
        CancellationToken cancellation
    ) =>
        JsonSerializer.SerializeAsync(
            to,
            new LibraryFile(
                FormatName,
                CurrentVersion,
                [.. libraries.Select(LibraryDocument.Of)],
                pictures.ToDictionary(pair => pair.Key, pair => new PictureDocument(pair.Value.Type, pair.Value.Bytes))
            ),
            Json,
            cancellation
        );

    /// <summary>
    /// Reads a file; throws <see cref="InvalidInputException"/> that names the place and what is wrong.
    /// </summary>
    public static async Task<LibraryFileContents> Read(Stream from, CancellationToken cancellation)
    {
        try
        {
            return (
                await JsonSerializer.DeserializeAsync<LibraryFile>(from, Json, cancellation) ?? new LibraryFile()
            ).ToContents();
        }
        catch (JsonException exception)
        {
            throw InvalidJson(exception);
        }
    }

    /// <summary>
    /// The document of a file, not checked yet; throws <see cref="InvalidInputException"/> when it is no JSON of this
    /// form.
    /// </summary>
    internal static LibraryFile Parse(string text)
    {
        try
        {
            return JsonSerializer.Deserialize<LibraryFile>(text, Json) ?? new LibraryFile();
        }
        catch (JsonException exception)
        {
            throw InvalidJson(exception);
        }
    }

    /// <summary>Checks a list of library documents and makes libraries of them.</summary>
    public static IReadOnlyList<Library> ToLibraries(IReadOnlyList<LibraryDocument?> documents)
    {
        if (documents.Count > MostLibraries)
            throw new InvalidInputException(
                "libraries",
                $"There are {documents.Count} libraries; {MostLibraries} are allowed. Put some of them together."
            );
        var libraries = documents.ParseEach("libraries", document => document.ToLibrary());
        Names.CheckUnique("libraries", "library", libraries.Select(library => library.Name));
        return libraries;
    }

    /// <summary>Puts what a JSON reader says into words for the user.</summary>
    public static InvalidInputException InvalidJson(JsonException exception)
    {
        var place = $"line {exception.LineNumber + 1}, column {exception.BytePositionInLine + 1}";
        var field = (exception.Path ?? "").TrimStart('$').TrimStart('.');
        if (exception is NullEntryException missingEntry)
            return new InvalidInputException(
                field.Length == 0 ? missingEntry.Entry : $"{field}.{missingEntry.Entry}",
                "An entry is null here. Give it a value, or remove it."
            );
        if (
            exception.Message.Contains("UTF-8", StringComparison.Ordinal)
            || exception.InnerException?.Message.Contains("UTF-8", StringComparison.Ordinal) == true
        )
            return new InvalidInputException(
                field,
                $"The file is not UTF-8 text ({place}). Save it as UTF-8 and try again."
            );
        if (exception.Message.Contains("could not be mapped", StringComparison.Ordinal))
            return new InvalidInputException(
                field,
                $"“{field.Split('.')[^1]}” is not known here ({place}). Check its spelling or leave it out."
            );
        if (RequiredNames().Match(exception.Message) is { Success: true } missing)
        {
            var name = JsonNamingPolicy.CamelCase.ConvertName(missing.Groups[1].Value);
            return new InvalidInputException(name, $"“{name}” is missing ({place}). Give it a value.");
        }
        return exception.Message.Contains("could not be converted", StringComparison.Ordinal)
            ? new InvalidInputException(field, $"The value here is of the wrong kind ({place}).")
            : new InvalidInputException(field, $"This is not well-formed JSON ({place}). Mend the text there.");
    }

    internal LibraryFileContents ToContents()
    {
        if (Format != FormatName)
            throw new InvalidInputException(
                "format",
                $"This is not a library file: its “format” must be “{FormatName}”."
            );
        if (Version != CurrentVersion)
            throw new InvalidInputException(
                "version",
                "The file is of version "
                    + $"{Version?.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "(none)"}; this "
                    + $"program reads version {CurrentVersion}. Export it again from a program of this version."
            );
        var libraries = ToLibraries(
            Libraries ?? throw new InvalidInputException("libraries", "The list of libraries is missing.")
        );
        return new LibraryFileContents(
            libraries,
            (Pictures ?? new Dictionary<string, PictureDocument>()).ToDictionary(
                pair => pair.Key,
                pair => InvalidInputException.Within($"pictures.{pair.Key}", pair.Value.ToPicture)
            )
        );
    }

    /// <summary>Does not write what has the value it would take when it is left out.</summary>
    private static void LeaveOutDefaults(JsonTypeInfo type)
    {
        object? standard =
            type.Type == typeof(LibraryDocument) ? new LibraryDocument()
            : type.Type == typeof(FolderDocument) ? new FolderDocument()
            : type.Type == typeof(SnippetDocument) ? new SnippetDocument()
            : type.Type == typeof(TwinDocument) ? new TwinDocument()
            : type.Type == typeof(DefaultsDocument) ? new DefaultsDocument()
            : type.Type == typeof(TriggerDocument) ? new TriggerDocument()
            : type.Type == typeof(ScopeDocument) ? new ScopeDocument()
            : type.Type == typeof(MirrorDocument) ? new MirrorDocument()
            : type.Type == typeof(WrittenStates) ? new WrittenStates(0)
            : type.Type == typeof(LibraryFile) ? new LibraryFile()
            : null;
        if (standard is null)
            return;
        foreach (var property in type.Properties)
        {
            if (property.Get is not { } get || property.Name == "libraries")
                continue;
            var usual = get(standard);
            // An empty list of closing keys is not the usual set; all other lists are empty when they are left out.
            var emptyIsUsual = property.Name != "closingKeys";
            property.ShouldSerialize = (_, value) =>
                !Equals(value, usual) && !(emptyIsUsual && value is ICollection { Count: 0 });
        }
    }

    /// <summary>How the JSON reader names what is missing or null.</summary>
    [GeneratedRegex("(?:missing required properties including: |parameter |property or field )'(\\w+)'")]
    private static partial Regex RequiredNames();
}

/// <summary>What a library file holds.</summary>
/// <param name="Pictures">Pictures by the id that the bodies in the file use.</param>
public sealed record LibraryFileContents(
    IReadOnlyList<Library> Libraries,
    IReadOnlyDictionary<string, PictureData> Pictures
)
{
    /// <summary>The libraries with their pictures under the ids that this program gives them.</summary>
    public IReadOnlyList<Library> WithOwnPictures()
    {
        var ids = Pictures.ToDictionary(pair => pair.Key, pair => pair.Value.Id);
        if (ids.All(pair => pair.Key == pair.Value))
            return Libraries;
        return
        [
            .. Libraries.Select(library =>
                library with
                {
                    Folders = InFolders(library.Folders),
                    Snippets = InSnippets(library.Snippets),
                }
            ),
        ];

        EquatableList<Folder> InFolders(EquatableList<Folder> folders) =>
            new(
                folders.Select(folder =>
                    folder with
                    {
                        Folders = InFolders(folder.Folders),
                        Snippets = InSnippets(folder.Snippets),
                    }
                )
            );

        EquatableList<Snippet> InSnippets(EquatableList<Snippet> snippets) =>
            new(
                snippets.Select(snippet =>
                    snippet.WithBodies(body => PictureData.Rename(body, id => ids.GetValueOrDefault(id, id)))
                )
            );
    }
}

/// <summary>A picture as a library file writes it: its media type, and its bytes in Base64.</summary>
public sealed record PictureDocument(string? Type = null, byte[]? Data = null)
{
    internal PictureData ToPicture() =>
        PictureData.Of(Data ?? throw new InvalidInputException("data", "The bytes of the picture are missing."));
}
