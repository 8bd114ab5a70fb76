using System.Net;
using Microsoft.AspNetCore.Mvc;

namespace DashSprout.Server.Hosting;

/// <summary>
/// Refuses what does not come from this machine's own page: a foreign Host (a name that was pointed at the loopback
/// address), a foreign Origin (another site's script), or what a browser says another site asked for (Fetch Metadata).
/// </summary>
internal static class OwnPageOnly
{
    public static void UseOwnPageOnly(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                Protect(context.Response);
                if (Foreign(context.Request) is not { } refused)
                {
                    await next(context);
                    return;
                }
                context.Response.StatusCode = StatusCodes.Status403Forbidden;
                await context
                    .RequestServices.GetRequiredService<IProblemDetailsService>()
                    .WriteAsync(
                        new ProblemDetailsContext
                        {
                            HttpContext = context,
                            ProblemDetails = new ProblemDetails
                            {
                                Status = StatusCodes.Status403Forbidden,
                                Title = $"Foreign {refused}",
                                Detail =
                                    $"The {refused} header does not name this program's own address. Open it "
                                    + "at its loopback address, for example http://localhost:5270.",
                            },
                        }
                    );
            }
        );

    /// <summary>The headers that every answer has, a problem's as well.</summary>
    public static void Protect(HttpResponse response)
    {
        // What the program answers may be private, and no browser keeps it on disk; what may be kept says so itself.
        if (response.HttpContext.Request.Path.StartsWithSegments("/api"))
            response.Headers.CacheControl = "no-store";
        response.Headers.XContentTypeOptions = "nosniff";
        response.Headers["Referrer-Policy"] = "no-referrer";
        response.Headers["Cross-Origin-Resource-Policy"] = "same-origin";
        response.Headers.ContentSecurityPolicy =
            "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src "
            + "'self' data:; frame-ancestors 'none'; base-uri 'none'; object-src 'none'; form-action 'self'";
    }

    /// <summary>The header that tells of a foreign page; null when there is none.</summary>
    private static string? Foreign(HttpRequest request) =>
        !IsLoopback(request.Host.Host) ? "Host"
        : request.Headers.Origin is [{ } origin] && !IsOwn(origin, request) || request.Headers.Origin.Count > 1
            ? "Origin"
        : request.Headers["Sec-Fetch-Site"] is [{ } site] && site is "cross-site" or "same-site" && !IsVisit(request)
            ? "Sec-Fetch-Site"
        : null;

    /// <summary>Another site may hold a link to this page; it may not read or send anything.</summary>
    private static bool IsVisit(HttpRequest request) =>
        HttpMethods.IsGet(request.Method)
        && request.Headers["Sec-Fetch-Mode"] == "navigate"
        && request.Headers["Sec-Fetch-Dest"] == "document"
        && !request.Path.StartsWithSegments("/api");

    private static bool IsLoopback(string host) =>
        host.Equals("localhost", StringComparison.OrdinalIgnoreCase)
        || (IPAddress.TryParse(host.Trim('[', ']'), out var address) && IPAddress.IsLoopback(address));

    private static bool IsOwn(string origin, HttpRequest request) =>
        origin.Equals($"{request.Scheme}://{request.Host.Value}", StringComparison.OrdinalIgnoreCase);
}
