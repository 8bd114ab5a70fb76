using System.Diagnostics;
using System.Net;
using System.Text.Json.Nodes;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>What may lie in a mirror folder: it is said what is wrong with it, and all else goes on.</summary>
public sealed class MirrorEdgesTests : IDisposable
{
    /// <summary>A picture of one point.</summary>
    private const string Dot =
        "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";

    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-mirror-"),
        elsewhere = Directory.CreateTempSubdirectory("dash-sprout-elsewhere-");
    private readonly TestServer server = new();

    public void Dispose()
    {
        server.Dispose();
        folder.Delete(recursive: true);
        elsewhere.Delete(recursive: true);
    }

    [Theory]
    [InlineData("""{"format":"dash-sprout-library","version":1,"libraries":[null]}""", "null")]
    [InlineData(
        """{"format":"dash-sprout-library","version":1,"libraries":[{"name":"A"}],"pictures":{"x":null}}""",
        "null"
    )]
    [InlineData(
        """{"format":"dash-sprout-library","version":1,"libraries":[{"name":"A","closingKeys":[null]}]}""",
        "null"
    )]
    [InlineData("""{"format":"dash-sprout-library","version":1,"libraries":[{"name":"A","folders":[null]}]}""", "null")]
    [InlineData(
        """{"format":"dash-sprout-library","version":1,"libraries":[{"name":"A","snippets":[{"name":"s","triggers":[null]}]}]}""",
        "null"
    )]
    [InlineData(
        """{"format":"dash-sprout-library","version":1,"libraries":[{"name":"A"}],"mirror":{"key":"k","machines":{"m":null}}}""",
        "null"
    )]
    [InlineData(
        """{"format":"dash-sprout-library","version":1,"libraries":[{"name":"A"}],"mirror":{"key":"k","private":[null]}}""",
        "null"
    )]
    [InlineData("null", "not a library file")]
    [InlineData("[]", "wrong kind")]
    public async Task A_file_that_is_none_is_said_and_the_others_go_on(string text, string words)
    {
        var snippet = await Mirrored();
        await File.WriteAllTextAsync(At("odd.json"), text);
        await GoesOn(snippet);
        var look = await server.Post("/api/mirrors/look", new { folder = folder.FullName });
        var problem = Assert.Single(look["problems"]!.AsArray());
        Assert.Contains("odd.json", (string)problem!, StringComparison.Ordinal);
        Assert.Contains(words, (string)problem!, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("mkfifo odd.json", "a pipe")]
    [InlineData("ln -s /dev/zero odd.json", "a link")]
    [InlineData("ln -s nowhere odd.json", "a link")]
    [InlineData("ln -s /etc/hostname odd.json", "a link")]
    public async Task Only_plain_files_are_opened(string command, string words)
    {
        var snippet = await Mirrored();
        Run(command);
        await GoesOn(snippet);
        var look = await server.Post("/api/mirrors/look", new { folder = folder.FullName });
        Assert.Contains(words, (string)Assert.Single(look["problems"]!.AsArray())!, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, (await server.Send(HttpMethod.Get, "/api/notices")).Status);
    }

    [Fact]
    public async Task A_folder_for_pictures_that_leads_elsewhere_is_not_written_through()
    {
        Run($"ln -s {elsewhere.FullName} pictures");
        using var content = new ByteArrayContent(Convert.FromBase64String(Dot));
        content.Headers.ContentType = new("application/octet-stream");
        using var uploaded = await server.Client.PostAsync(new Uri("/api/media", UriKind.Relative), content);
        var picture = (string)JsonNode.Parse(await uploaded.Content.ReadAsStringAsync())!["id"]!;
        var library = await server.AddLibrary("Notices");
        await server.AddSnippet(
            library,
            new { name = "Gale", body = $"<p><img src=\"media:{picture}\" alt=\"\"></p>" }
        );
        await Mirror(library);
        Assert.Empty(elsewhere.EnumerateFileSystemInfos());
        var mirror = (await server.Get("/api/mirrors"))[0]!;
        Assert.Equal("fault", (string)mirror["state"]!);
        Assert.Contains("a link", (string)mirror["words"]!, StringComparison.Ordinal);
        // Taken away, it goes on.
        Run("rm pictures");
        await server.Post("/api/mirrors/sync", new { });
        Assert.Equal("in-step", (string)(await server.Get("/api/mirrors"))[0]!["state"]!);
        Assert.Single(Directory.GetFiles(At("pictures")));
    }

    [Fact]
    public async Task A_link_where_the_pocket_file_is_to_be_gives_way_and_is_not_written_through()
    {
        var own = Path.Combine(elsewhere.FullName, "own.html");
        await File.WriteAllTextAsync(own, "mine");
        Run($"ln -s {own} dash-sprout-pocket.html");
        var library = await server.AddLibrary("Notices");
        await server.AddSnippet(library, Snippet("Gale", "Gale warning."));
        await Mirror(library, pocket: true);
        Assert.Equal("mine", await File.ReadAllTextAsync(own));
        Assert.Contains(
            "Gale warning.",
            await File.ReadAllTextAsync(At("dash-sprout-pocket.html")),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_plain_export_is_looked_at_and_joined()
    {
        await File.WriteAllTextAsync(
            At("export.json"),
            """{"format":"dash-sprout-library","version":1,"libraries":[{"name":"Berths","snippets":[{"name":"a","text":"1"},{"name":"b","text":"2"}]}]}"""
        );
        var look = await server.Post("/api/mirrors/look", new { folder = folder.FullName });
        Assert.Equal(2, (int)look["found"]![0]!["snippets"]!);
        await server.Post(
            "/api/mirrors",
            new
            {
                folder = folder.FullName,
                libraryIds = Array.Empty<long>(),
                files = new[] { "export.json" },
            }
        );
        await server.Post("/api/mirrors/sync", new { });
        Assert.Equal(
            ["a", "b"],
            (await server.Rows()).Where(row => (string)row!["kind"]! == "snippet").Select(row => (string)row!["name"]!)
        );
        Assert.Equal("in-step", (string)(await server.Get("/api/mirrors"))[0]!["state"]!);
    }

    [Fact]
    public async Task What_was_left_half_written_goes_when_the_folder_is_written_again()
    {
        var snippet = await Mirrored();
        var machine = (await File.ReadAllTextAsync(Path.Combine(server.Folder, "machine"))).Split('\n')[0];
        var (own, others) = (At($".dash-sprout-{machine}-0.part"), At(".dash-sprout-ffffffffffff-0.part"));
        await File.WriteAllTextAsync(own, "half");
        await File.WriteAllTextAsync(others, "half");
        await GoesOn(snippet);
        Assert.False(File.Exists(own));
        Assert.True(File.Exists(others));
    }

    private async Task<long> Mirrored()
    {
        var library = await server.AddLibrary("Notices");
        var snippet = await server.AddSnippet(library, Snippet("Gale", "0"));
        await Mirror(library);
        return snippet;
    }

    private Task<JsonNode> Mirror(long library, bool pocket = false) =>
        server.Post(
            "/api/mirrors",
            new
            {
                folder = folder.FullName,
                libraryIds = new[] { library },
                files = Array.Empty<string>(),
                pocket,
            }
        );

    private async Task GoesOn(long snippet)
    {
        await server.Save(snippet, new { text = "Gale warning." });
        await server.Post("/api/mirrors/sync", new { });
        Assert.Equal("in-step", (string)(await server.Get("/api/mirrors"))[0]!["state"]!);
        Assert.Contains("Gale warning.", await File.ReadAllTextAsync(At("Notices.json")), StringComparison.Ordinal);
    }

    private string At(string name) => Path.Combine(folder.FullName, name);

    private void Run(string command)
    {
        using var shell = Process.Start(
            new ProcessStartInfo("sh", ["-c", command]) { WorkingDirectory = folder.FullName }
        )!;
        shell.WaitForExit();
        Assert.Equal(0, shell.ExitCode);
    }
}
