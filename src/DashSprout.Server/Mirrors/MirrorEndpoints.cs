namespace DashSprout.Server.Mirrors;

internal static class MirrorEndpoints
{
    public static void MapMirrors(this IEndpointRouteBuilder api)
    {
        api.MapGet("/mirrors", (MirroredLibraries mirrors) => mirrors.Answers());

        api.MapPost("/mirrors/look", (MirrorLook look, MirroredLibraries mirrors) => mirrors.Look(look.Folder));

        api.MapPost("/mirrors", (NewMirrors wanted, MirroredLibraries mirrors) =>
        {
            mirrors.Add(wanted);
            return mirrors.Answers();
        });

        api.MapPost("/mirrors/sync", (MirroredLibraries mirrors) =>
        {
            mirrors.SyncAll(always: true);
            return mirrors.Answers();
        });

        api.MapPatch("/mirrors/{libraryId:long}", (long libraryId, MirrorChange change, MirroredLibraries mirrors) =>
        {
            mirrors.Choose(libraryId, change);
            return mirrors.Answers();
        });

        api.MapPost(
            "/mirrors/{libraryId:long}/decide",
            (long libraryId, MirrorDecision decision, MirroredLibraries mirrors) =>
            {
                mirrors.Decide(libraryId, decision);
                return mirrors.Answers();
            }
        );

        api.MapPost("/mirrors/{libraryId:long}/write-anew", (long libraryId, MirroredLibraries mirrors) =>
        {
            mirrors.WriteAnew(libraryId);
            return mirrors.Answers();
        });

        api.MapDelete("/mirrors/{libraryId:long}", (long libraryId, MirroredLibraries mirrors) =>
        {
            mirrors.Remove(libraryId);
            return mirrors.Answers();
        });
    }
}
