using Microsoft.AspNetCore.Http.Metadata;

namespace DashSprout.Server.Hosting;

/// <summary>How much an endpoint takes at once, where that is more than usual.</summary>
internal sealed record SizeLimit(long? MaxRequestBodySize) : IRequestSizeLimitMetadata;
