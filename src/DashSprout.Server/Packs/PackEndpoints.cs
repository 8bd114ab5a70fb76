namespace DashSprout.Server.Packs;

internal static class PackEndpoints
{
    public static void MapPacks(this IEndpointRouteBuilder api)
    {
        api.MapGet("/packs", (PackShelf shelf) => shelf.Answer());

        api.MapPut("/packs/folder", (PackFolder folder, PackShelf shelf) =>
        {
            shelf.Choose(folder);
            return shelf.Answer();
        });

        // What comes of it is looked at, and brought in, as any file.
        api.MapPost("/packs/{id}/look", (string id, PackShelf shelf) => shelf.Look(id).Answer());
    }
}
