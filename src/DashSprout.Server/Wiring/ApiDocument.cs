using DashSprout.Server.Typing;

namespace DashSprout.Server.Wiring;

/// <summary>The OpenAPI document, from which the pages' types are generated.</summary>
internal static class ApiDocument
{
    public static void AddDashSproutDocument(this IServiceCollection services) =>
        services.AddOpenApi(options =>
            options.AddDocumentTransformer(
                async (document, context, cancellationToken) =>
                {
                    document.Info.Title = "Dash Sprout";
                    // The hub is no HTTP endpoint, yet its messages are part of the contract.
                    document.Components ??= new();
                    document.Components.Schemas ??= new Dictionary<string, Microsoft.OpenApi.IOpenApiSchema>();
                    foreach (var type in (Type[])[typeof(TypingContract), typeof(EngineState)])
                    {
                        var schema = await context.GetOrCreateSchemaAsync(type, cancellationToken: cancellationToken);
                        document.AddComponent(type.Name, schema);
                    }
                }
            )
        );
}
