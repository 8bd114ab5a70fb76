using System.Text;
using DashSprout.Core;
using DashSprout.Exchange;
using DashSprout.Server.Libraries;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Mvc;

namespace DashSprout.Server.Exchange;

/// <summary>What an import brought.</summary>
public sealed record Imported(int Libraries, int Snippets);

internal static class ExchangeEndpoints
{
    private const long LargestFile = 64 * 1024 * 1024;

    public static void MapExchange(this IEndpointRouteBuilder api)
    {
        api.MapGet("/library-file", (Catalog catalog, [FromQuery(Name = "library")] long[]? ids) =>
        {
            var text = LibraryFile.Write(catalog.Shelf.ToLibraries(library => ids is not { Length: > 0 } || ids.Contains(library.Id)));
            return TypedResults.File(Encoding.UTF8.GetBytes(text), "application/json", "dash-sprout-libraries.json");
        });

        api.MapPost("/library-file", async Task<Imported> (HttpRequest request, Catalog catalog, bool replace = false) =>
        {
            using var reader = new StreamReader(request.Body, new UTF8Encoding(false, throwOnInvalidBytes: true));
            string text;
            try
            {
                text = await reader.ReadToEndAsync(request.HttpContext.RequestAborted);
            }
            catch (DecoderFallbackException)
            {
                throw new InvalidInputException("", "The file is not UTF-8 text. Save it as UTF-8 and try again.");
            }
            var libraries = LibraryFile.Read(text);
            catalog.Import(libraries, replace);
            return new Imported(libraries.Count, libraries.Sum(library => library.AllSnippets().Count()));
        })
        .Accepts<LibraryFile>("application/json")
        .WithMetadata(new SizeLimit(LargestFile));
    }

    private sealed record SizeLimit(long? MaxRequestBodySize) : IRequestSizeLimitMetadata;
}
