using System.Text;
using System.Text.Json;

namespace DashSprout.Server.Tests;

/// <summary>What is private is masked, sealed on disk, and left out of what goes out.</summary>
public sealed class PrivateTests : IDisposable
{
    private const string Secret = "heron-gate-4711";

    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-private-");
    private readonly TestServer server;

    public PrivateTests() => server = new TestServer(data: folder.FullName);

    [Fact]
    public async Task Nothing_of_it_stands_on_disk_in_clear()
    {
        var id = await Add("Gate code", isPrivate: true);
        await server.Save(id, new { text = $"{Secret} changed", note = $"note {Secret}" });
        await server.Save(id, new { twin = new { text = $"twin {Secret}" } });
        await server.Post("/api/backups", new { });
        await server.Post("/api/changes/undo", new { });
        server.Dispose();
        Assert.Empty(FilesWith(folder.FullName, Secret));
        Assert.NotEmpty(FilesWith(folder.FullName, "Gate code"));
    }

    [Fact]
    public async Task What_becomes_private_leaves_nothing_behind()
    {
        var id = await Add("Gate code", isPrivate: false);
        await server.Save(id, new { text = $"second {Secret}" });
        await server.GetWhen($"/api/finder?query={Secret}", found => found.AsArray().Count == 1);
        await server.Save(id, new { @private = true });
        Assert.Equal($"second {Secret}", (string)(await server.Get($"/api/snippets/{id}"))["snippet"]!["text"]!);
        // Its earlier versions can be gone back to all the same.
        Assert.Contains(
            Secret,
            (await server.Get($"/api/snippets/{id}/versions"))[2]!.ToJsonString(),
            StringComparison.Ordinal
        );
        server.Dispose();
        Assert.Empty(FilesWith(folder.FullName, Secret));
    }

    [Fact]
    public async Task It_is_read_again_after_a_start_and_set_aside_without_its_key()
    {
        var id = await Add("Gate code", isPrivate: true);
        server.Dispose();
        using (var again = new TestServer(data: folder.FullName))
            Assert.Equal(Secret, (string)(await again.Get($"/api/snippets/{id}"))["snippet"]!["text"]!);

        Assert.All(Directory.GetFiles(Path.Combine(folder.FullName, "keys")), key =>
            Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(key))
        );
        Directory.Move(Path.Combine(folder.FullName, "keys"), Path.Combine(folder.FullName, "keys-elsewhere"));
        using (var without = new TestServer(data: folder.FullName))
        {
            var aside = (await without.Get("/api/notices"))["setAside"]![0]!;
            Assert.Contains("keys", (string)aside["why"]!, StringComparison.Ordinal);
        }
        Directory.Delete(Path.Combine(folder.FullName, "keys"), recursive: true);
        Directory.Move(Path.Combine(folder.FullName, "keys-elsewhere"), Path.Combine(folder.FullName, "keys"));
        using var back = new TestServer(data: folder.FullName);
        Assert.Equal(Secret, (string)(await back.Get($"/api/snippets/{id}"))["snippet"]!["text"]!);
    }

    [Fact]
    public async Task Lists_the_finder_and_witnesses_do_not_show_it()
    {
        await Add("Gate code", isPrivate: true, ";gate");
        await Add("Gate call", isPrivate: false, ";gate");
        Assert.DoesNotContain(
            Secret,
            (await server.Rows()).First(row => (string)row!["name"]! == "Gate code")!.ToJsonString(),
            StringComparison.Ordinal
        );
        var found = (await server.Get("/api/finder?query=Gate"))
            .AsArray()
            .First(one => (string)one!["name"]! == "Gate code")!;
        Assert.Equal("(private)", (string)found["preview"]!);
        Assert.DoesNotContain((await server.Get($"/api/finder?query={Secret}")).AsArray(), one =>
            (string)one!["name"]! == "Gate code"
        );
        var board = await server.GetWhen("/api/safety", board => (string)board["state"]! == "ready");
        var overlap = board["overlaps"]!
            .AsArray()
            .Select(one => one!["overlap"]!)
            .First(one => (string?)one["winner"]?["snippet"] == "Gate code");
        Assert.Equal("(private)", (string)overlap["witness"]!["text"]!);
    }

    [Theory]
    [InlineData("json")]
    [InlineData("yaml")]
    [InlineData("csv")]
    public async Task Files_hold_it_only_when_asked_for(string format)
    {
        await Add("Gate code", isPrivate: true);
        await Add("Gate call", isPrivate: false);
        var without = await server.Client.GetStringAsync(
            new Uri($"/api/library-file?format={format}", UriKind.Relative)
        );
        Assert.DoesNotContain("Gate code", without, StringComparison.Ordinal);
        Assert.Contains("Gate call", without, StringComparison.Ordinal);
        Assert.Contains(
            Secret,
            await server.Client.GetStringAsync(
                new Uri($"/api/library-file?format={format}&withPrivate=true", UriKind.Relative)
            ),
            StringComparison.Ordinal
        );
        Assert.Equal(
            1,
            (int)(await server.Post("/api/library-file/contents", new { ids = Array.Empty<long>() }))["private"]!
        );
    }

    public void Dispose()
    {
        server.Dispose();
        folder.Delete(recursive: true);
    }

    private async Task<long> Add(string name, bool isPrivate, params string[] abbreviations)
    {
        var libraries = (await server.Get("/api/libraries"))["libraries"]!.AsArray();
        var text =
            isPrivate ? Secret
            : name == "Gate call" ? "Call the gate."
            : $"first {Secret}";
        return await server.AddSnippet(
            (long)libraries[0]!["id"]!,
            JsonSerializer.SerializeToElement(
                new
                {
                    name,
                    text,
                    @private = isPrivate,
                    triggers = abbreviations.Select(text => TestServer.Abbreviation(text)),
                }
            )
        );
    }

    /// <summary>The files that hold a text, as bytes in UTF-8 or UTF-16.</summary>
    private static IEnumerable<string> FilesWith(string folder, string text) =>
        Directory
            .EnumerateFiles(folder, "*", SearchOption.AllDirectories)
            .Where(file =>
            {
                var bytes = File.ReadAllBytes(file).AsSpan();
                return bytes.IndexOf(Encoding.UTF8.GetBytes(text)) >= 0
                    || bytes.IndexOf(Encoding.Unicode.GetBytes(text)) >= 0;
            });
}
