using DashSprout.Core.Bodies;
using DashSprout.Store.Items;

namespace DashSprout.Server.Media;

/// <summary>A picture that was kept; a body shows it with <c>src="media:ID"</c>.</summary>
public sealed record MediaAdded(string Id);

internal static class MediaEndpoints
{
    public static void MapMedia(this IEndpointRouteBuilder api)
    {
        api.MapPost("/media", async Task<MediaAdded> (HttpRequest request, MediaStore store) =>
            {
                using var content = new MemoryStream();
                await request.Body.CopyToAsync(content, request.HttpContext.RequestAborted);
                var bytes = content.ToArray();
                var picture = PictureData.Of(bytes);
                store.Add(picture);
                return new MediaAdded(picture.Id);
            })
            .Accepts<IFormFile>("application/octet-stream");

        api.MapGet("/media/{id}", (string id, MediaStore store, HttpResponse response) =>
            {
                if (store.Get(id, out var isSealed) is not { } media)
                    return Results.Problem(
                        "There is no picture of this id.",
                        statusCode: StatusCodes.Status404NotFound,
                        title: "Not found"
                    );
                // One that only private snippets show stays out of the browser's store too.
                if (!isSealed)
                    response.Headers.CacheControl = "private, max-age=31536000, immutable";
                return Results.Bytes(media.Bytes, media.Type);
            })
            .ExcludeFromDescription();
    }
}
