using System.Text.Json.Nodes;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>What one mirror folder, or one copy of a machine, must not do to the others.</summary>
public sealed class MirrorSeamsTests : IDisposable
{
    private readonly DirectoryInfo data = Directory.CreateTempSubdirectory("dash-sprout-data-"),
        folder = Directory.CreateTempSubdirectory("dash-sprout-mirror-"),
        second = Directory.CreateTempSubdirectory("dash-sprout-mirror-");
    private TestServer server;

    public MirrorSeamsTests() => server = new TestServer(data: data.FullName);

    public void Dispose()
    {
        server.Dispose();
        foreach (var one in (DirectoryInfo[])[data, folder, second])
            one.Delete(recursive: true);
    }

    [Fact]
    public async Task A_folder_that_cannot_take_its_pocket_file_keeps_none_of_the_others_from_theirs()
    {
        // Where the pocket file of the first is to be, there is a folder.
        folder.CreateSubdirectory("dash-sprout-pocket.html");
        var (first, other) = (await server.AddLibrary("Berths"), await server.AddLibrary("Notices"));
        await server.AddSnippet(first, Snippet("a", "x"));
        var gale = await server.AddSnippet(other, Snippet("Gale", "Gale warning."));
        await Mirror(folder, first);
        await Mirror(second, other);
        await server.Save(gale, new { text = "Storm warning." });
        await server.Post("/api/mirrors/sync", new { });
        Assert.Contains(
            "Storm warning.",
            await File.ReadAllTextAsync(Path.Combine(second.FullName, "dash-sprout-pocket.html")),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_machine_that_finds_states_of_its_own_that_it_never_wrote_is_a_copy_and_takes_another_name()
    {
        var library = await server.AddLibrary("Berths");
        var berth = await server.AddSnippet(library, Snippet("berth", "free"));
        await Mirror(folder, library);
        var name = Machine();
        // A copy is made while the program does not run; then it has written, under the same name.
        server.Dispose();
        server = new TestServer(data: data.FullName);
        var path = Path.Combine(folder.FullName, "Berths.json");
        var file = JsonNode.Parse(await File.ReadAllTextAsync(path))!;
        file["mirror"]!["machines"]![name]!["states"] = (int)file["mirror"]!["machines"]![name]!["states"]! + 1;
        file["libraries"]![0]!["snippets"]![0]!["text"] = "taken";
        await File.WriteAllTextAsync(path, file.ToJsonString());
        await server.Post("/api/mirrors/sync", new { });
        Assert.Equal("taken", (string)(await server.Get($"/api/snippets/{berth}"))["snippet"]!["text"]!);
        Assert.NotEqual(name, Machine());
        // Both go on, each under a name of its own.
        await server.Save(berth, new { text = "free again" });
        await server.Post("/api/mirrors/sync", new { });
        Assert.Equal(2, JsonNode.Parse(await File.ReadAllTextAsync(path))!["mirror"]!["machines"]!.AsObject().Count);
        Assert.Empty((await server.Get("/api/mirrors"))[0]!["conflicts"]!.AsArray());
    }

    private string Machine() => File.ReadAllText(Path.Combine(data.FullName, "machine")).Split('\n')[0];

    private Task<JsonNode> Mirror(DirectoryInfo where, long library) =>
        server.Post(
            "/api/mirrors",
            new
            {
                folder = where.FullName,
                libraryIds = new[] { library },
                files = Array.Empty<string>(),
                pocket = true,
            }
        );
}
