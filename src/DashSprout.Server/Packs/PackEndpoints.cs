namespace DashSprout.Server.Packs;

internal static class PackEndpoints
{
    public static void MapPacks(this IEndpointRouteBuilder api)
    {
        api.MapGet("/packs", (PackList packList) => packList.Answer());

        api.MapPut("/packs/folder", (PackFolder folder, PackList packList) =>
        {
            packList.Choose(folder);
            return packList.Answer();
        });

        // What comes of it is looked at, and brought in, as any file.
        api.MapPost("/packs/{id}/look", (string id, PackList packList) => packList.Look(id).Answer());
    }
}
