using Microsoft.Net.Http.Headers;

namespace DashSprout.Server.Hosting;

/// <summary>
/// JSON is UTF-8 (RFC 8259, section 8.1): what says that it is in another encoding is refused before anybody tries to
/// find a reader for it.
/// </summary>
internal static class Utf8Only
{
    public static void UseUtf8Only(this WebApplication app) =>
        app.Use(
            (context, next) =>
                IsUtf8(context.Request.ContentType)
                    ? next(context)
                    : throw new BadHttpRequestException(
                        "What was sent says that it is in another encoding than UTF-8. Send it in UTF-8.",
                        StatusCodes.Status415UnsupportedMediaType
                    )
        );

    private static bool IsUtf8(string? contentType)
    {
        if (contentType?.Contains("charset", StringComparison.OrdinalIgnoreCase) is not true)
            return true;
        return MediaTypeHeaderValue.TryParse(contentType, out var type)
            && HeaderUtilities.RemoveQuotes(type.Charset).Equals("utf-8", StringComparison.OrdinalIgnoreCase);
    }
}
