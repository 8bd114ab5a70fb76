using System.Net;
using Microsoft.AspNetCore.Mvc;

namespace DashSprout.Server.Hosting;

/// <summary>
/// Refuses what does not come from this machine's own page: a foreign Host (a name that was pointed at the loopback
/// address), or a foreign Origin (another site's script).
/// </summary>
internal static class OwnPageOnly
{
    public static void UseOwnPageOnly(this WebApplication app) => app.Use(async (context, next) =>
    {
        var request = context.Request;
        var refused = !IsLoopback(request.Host.Host) ? "Host"
            : request.Headers.Origin is [{ } origin] && !IsOwn(origin, request) || request.Headers.Origin.Count > 1 ? "Origin"
            : null;
        if (refused is null)
        {
            context.Response.Headers.XContentTypeOptions = "nosniff";
            context.Response.Headers["Referrer-Policy"] = "no-referrer";
            context.Response.Headers.ContentSecurityPolicy =
                "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self' data:; frame-ancestors 'none'; base-uri 'none'; object-src 'none'";
            await next(context);
            return;
        }
        context.Response.StatusCode = StatusCodes.Status403Forbidden;
        await context.RequestServices.GetRequiredService<IProblemDetailsService>().WriteAsync(new ProblemDetailsContext
        {
            HttpContext = context,
            ProblemDetails = new ProblemDetails
            {
                Status = StatusCodes.Status403Forbidden,
                Title = $"Foreign {refused}",
                Detail = $"The {refused} header does not name this program's own address. Open it at its loopback address, for example http://localhost:5270.",
            },
        });
    });

    private static bool IsLoopback(string host) =>
        host.Equals("localhost", StringComparison.OrdinalIgnoreCase)
        || (IPAddress.TryParse(host.Trim('[', ']'), out var address) && IPAddress.IsLoopback(address));

    private static bool IsOwn(string origin, HttpRequest request) =>
        origin.Equals($"{request.Scheme}://{request.Host.Value}", StringComparison.OrdinalIgnoreCase);
}
