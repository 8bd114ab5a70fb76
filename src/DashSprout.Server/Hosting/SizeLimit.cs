using Microsoft.AspNetCore.Http.Features;

namespace DashSprout.Server.Hosting;

/// <summary>How much an endpoint takes at once, where that is more than usual.</summary>
internal sealed record SizeLimit(long Bytes);

internal static class SizeLimits
{
    /// <summary>
    /// Sets the limit of the endpoint that was found; where the server has none to set, as in a test, nothing is to do.
    /// </summary>
    public static void UseSizeLimits(this IApplicationBuilder app) =>
        app.Use(
            (context, next) =>
            {
                if (
                    context.GetEndpoint()?.Metadata.GetMetadata<SizeLimit>() is { } limit
                    && context.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } feature
                )
                    feature.MaxRequestBodySize = limit.Bytes;
                return next(context);
            }
        );
}
