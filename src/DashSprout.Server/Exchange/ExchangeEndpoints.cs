using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Exchange.Pages;
using DashSprout.Exchange.Tables;
using DashSprout.Exchange.Yaml;
using DashSprout.Server.Hosting;
using DashSprout.Server.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Items;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace DashSprout.Server.Exchange;

/// <summary>What an import brought.</summary>
/// <param name="Missing">References and pictures in it that lead nowhere, as sentences.</param>
public sealed record Imported(int Libraries, int Snippets, IReadOnlyList<string> Missing);

/// <summary>Libraries, folders and snippets, of which a file is made; none for all.</summary>
public sealed record FilePart(IReadOnlyList<long> Ids);

/// <summary>What a file would hold.</summary>
/// <param name="Private">How many of the snippets are private, and stay out unless they are asked for.</param>
public sealed record FileContents(int Snippets, int Private);

internal static class ExchangeEndpoints
{
    private const long LargestFile = 512 * 1024 * 1024;
    private const int MostNamed = 20;

    public static void MapExchange(this IEndpointRouteBuilder api)
    {
        api.MapGet(
            "/library-file",
            (
                LibraryService libraryService,
                MediaStore media,
                HttpContext http,
                [FromQuery(Name = "library")] long[]? ids,
                string? format,
                bool withPrivate = false
            ) =>
            {
                var libraries = LibraryValues
                    .Of(libraryService.Tree, library => ids is not { Length: > 0 } || ids.Contains(library.Id))
                    .ToList();
                return Written(libraries, format, withPrivate, media, http.RequestAborted);
            }
        );

        api.MapPost(
            "/library-file/part",
            (
                BulkItems many,
                string? format,
                LibraryService libraryService,
                MediaStore media,
                HttpContext http,
                bool withPrivate = false
            ) =>
                Written(
                    [.. LibraryValues.Part(libraryService.Tree, many.Ids.ToHashSet())],
                    format,
                    withPrivate,
                    media,
                    http.RequestAborted
                )
        );

        api.MapPost("/library-file/contents", (FilePart part, LibraryService libraryService) =>
        {
            var libraries =
                part.Ids.Count == 0
                    ? LibraryValues.Of(libraryService.Tree, _ => true)
                    : LibraryValues.Part(libraryService.Tree, part.Ids.ToHashSet());
            var snippets = libraries.SelectMany(library => library.AllSnippets()).ToList();
            return new FileContents(snippets.Count, snippets.Count(found => found.Snippet.Private));
        });

        // To be looked at and printed; nothing that is private stands on it.
        api.MapGet("/cheat-sheet", (LibraryService libraryService) =>
            TypedResults.Content(
                CheatSheet.Html(LibraryValues.Of(libraryService.Tree, library => library.Enabled)),
                "text/html; charset=utf-8"
            )
        );
        api.MapGet("/cheat-sheet.md", (LibraryService libraryService) =>
            Text(
                CheatSheet.Markdown(LibraryValues.Of(libraryService.Tree, library => library.Enabled)),
                "text/markdown; charset=utf-8",
                "dash-sprout-cheat-sheet.md"
            )
        );

        // To be carried on a phone; nothing that is private is in it.
        api.MapGet("/pocket-file", (LibraryService libraryService) =>
            Text(
                PocketFile.Write(LibraryValues.Of(libraryService.Tree, library => library.Enabled)),
                "text/html; charset=utf-8",
                "dash-sprout-pocket.html"
            )
        );

        // The same to be looked at in a frame on the desk: with scripts of its own and no way to the program, as on a
        // phone.
        api.MapGet("/pocket-file/shown", (LibraryService libraryService, HttpResponse response) =>
        {
            response.Headers.ContentSecurityPolicy =
                "default-src 'none'; style-src 'unsafe-inline'; script-src 'unsafe-inline'; frame-ancestors "
                + "'self'; sandbox allow-scripts";
            response.Headers.CacheControl = "no-store";
            return TypedResults.Content(
                PocketFile.Write(LibraryValues.Of(libraryService.Tree, library => library.Enabled)),
                "text/html; charset=utf-8"
            );
        });

        api.MapPost(
                "/library-file",
                async Task<Imported> (
                    HttpRequest request,
                    LibraryService libraryService,
                    MediaStore media,
                    BackupStore backups,
                    TimeProvider clock,
                    bool replace = false
                ) =>
                {
                    var file = await LibraryFile.Read(request.Body, request.HttpContext.RequestAborted);
                    var libraries = file.WithOwnPictures();
                    // Tried first, so that a file that is refused leaves no backup behind.
                    libraryService.Try((now, id) => Importing.Of(now, libraries, replace, id).Change);
                    backups.Make(BackupReason.BeforeImport, clock.GetUtcNow());
                    media.Add(file.Pictures.Values);
                    IReadOnlyList<string> missing = [];
                    libraryService.Do(
                        (now, id) =>
                        {
                            (var change, missing) = Importing.Of(now, libraries, replace, id);
                            return change;
                        },
                        fromFile: true
                    );
                    var snippets = libraries
                        .SelectMany(library => library.AllSnippets())
                        .Select(found => found.Snippet)
                        .ToList();
                    var lost = snippets.SelectMany(snippet =>
                        snippet
                            .Bodies.SelectMany(PictureData.In)
                            .Distinct()
                            .Where(id => media.Get(id) is null)
                            .Select(_ => $"“{snippet.Name}” shows a picture that is not in the file.")
                    );
                    return new Imported(libraries.Count, snippets.Count, [.. missing.Concat(lost).Take(MostNamed)]);
                }
            )
            .Accepts<LibraryFile>("application/json")
            .WithMetadata(new SizeLimit(LargestFile));
    }

    /// <summary>
    /// Libraries as a file: <c>json</c>, <c>yaml</c> or <c>csv</c>; what is private is left out unless it is asked for.
    /// </summary>
    private static async Task<IResult> Written(
        IReadOnlyList<Library> libraries,
        string? format,
        bool withPrivate,
        MediaStore media,
        CancellationToken cancellation
    )
    {
        if (!withPrivate)
            libraries = [.. libraries.Select(library => library.WithoutPrivate())];
        const string Name = "dash-sprout-libraries";
        // Spreadsheets take a table for UTF-8 when it begins with a byte-order mark.
        if (format == "csv")
            return Text(
                "\uFEFF" + SnippetTableWriter.Write(libraries, media.Get),
                "text/csv; charset=utf-8",
                $"{Name}.csv"
            );
        var pictures = libraries
            .SelectMany(library => library.AllSnippets())
            .SelectMany(found => found.Snippet.Bodies)
            .SelectMany(PictureData.In)
            .Distinct()
            .Select(id => (id, picture: media.Get(id)))
            .Where(found => found.picture is not null)
            .ToDictionary(found => found.id, found => found.picture!);
        if (format == "yaml")
            return Text(
                await YamlFile.Write(libraries, pictures, cancellation),
                "application/yaml; charset=utf-8",
                $"{Name}.yaml"
            );
        return format is null or "json"
            ? TypedResults.Stream(
                to => LibraryFile.Write(to, libraries, pictures, cancellation),
                "application/json",
                $"{Name}.json"
            )
            : throw new InvalidInputException("format", $"“{format}” is not known here. Use one of: json, yaml, csv.");
    }

    private static FileContentHttpResult Text(string text, string type, string name) =>
        TypedResults.File(System.Text.Encoding.UTF8.GetBytes(text), type, name);
}
