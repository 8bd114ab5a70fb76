using DashSprout.Core;
using DashSprout.Exchange.Files;
using DashSprout.Exchange.Prose;
using DashSprout.Server.Hosting;

namespace DashSprout.Server.Exchange;

internal static class ImportEndpoints
{
    private const long LargestFile = 512L * 1024 * 1024;

    public static void MapImports(this IEndpointRouteBuilder api)
    {
        api.MapPost(
                "/imports",
                async Task<ImportAnswer> (string name, long? parentId, HttpRequest request, ImportDesk desk) =>
                {
                    using var bytes = new MemoryStream();
                    await request.Body.CopyToAsync(bytes, request.HttpContext.RequestAborted);
                    var file = bytes.ToArray();
                    return desk.Open(name, new ImportOptions(ParentId: parentId), (options, cancellation) =>
                            ImportReading.Read(name, file, options, cancellation)
                        )
                        .Answer();
                }
            )
            .Accepts<IFormFile>("application/octet-stream")
            .WithMetadata(new SizeLimit(LargestFile));

        api.MapPost("/imports/documents", (DocumentUpload upload, long? parentId, ImportDesk desk) =>
            {
                if (upload.Files.Count == 0)
                    throw new InvalidInputException("files", "There are no files. Choose at least one.");
                var files = upload
                    .Files.Select(file => new NamedText(file.Name, TextFile.WithOwnLineEnds(file.Text)))
                    .ToList();
                return desk.Open(
                        files.Count == 1 ? files[0].Name : $"{files.Count} files",
                        new ImportOptions(ParentId: parentId),
                        (options, cancellation) =>
                            Task.FromResult(ImportReading.Documents(files, options, cancellation))
                    )
                    .Answer();
            })
            .WithMetadata(new SizeLimit(TextFile.MaxBytes * 2L));

        api.MapGet("/imports/{id}", (string id, ImportDesk desk) => desk.Get(id).Answer());

        api.MapPut("/imports/{id}", (string id, ImportOptions options, ImportDesk desk) =>
        {
            var import = desk.Get(id);
            desk.Look(import, options);
            return import.Answer();
        });

        api.MapPost("/imports/{id}/stop", (string id, ImportDesk desk) =>
        {
            var import = desk.Get(id);
            import.Stop();
            return import.Answer();
        });

        api.MapPost("/imports/{id}/bring", (string id, ImportDesk desk) => desk.Bring(desk.Get(id)));

        api.MapDelete("/imports/{id}", (string id, ImportDesk desk) => desk.Close(id));
    }
}
