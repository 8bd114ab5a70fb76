using System.Buffers.Binary;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>
/// What is private leaves nothing readable anywhere, through a long random day: forty marked strings are looked for in
/// every byte below the data folder, in backups, mirror folders and exports, and in the answers of the API.
/// </summary>
public sealed class PrivateLifeTests : IDisposable
{
    private const int Marks = 40;

    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-life-"),
        mirrored = Directory.CreateTempSubdirectory("dash-sprout-mirror-");
    private TestServer server;

    public PrivateLifeTests() => server = new TestServer(data: folder.FullName);

    public void Dispose()
    {
        server.Dispose();
        folder.Delete(recursive: true);
        mirrored.Delete(recursive: true);
    }

    [Fact]
    public async Task A_twin_is_sealed_in_the_list_of_changes_when_its_snippet_is_made_and_deleted()
    {
        var library = await server.AddLibrary("Berths");
        var made = await server.Post(
            "/api/snippets",
            new
            {
                parentId = library,
                snippet = new
                {
                    name = "Gate",
                    @private = true,
                    text = Mark(1),
                    twin = new { text = Mark(2) },
                    note = Mark(3),
                },
            }
        );
        await server.Send(HttpMethod.Delete, $"/api/items/{made["id"]}");
        await server.Post("/api/backups", new { });
        server.Dispose();
        Assert.Empty(Found(folder.FullName));
    }

    [Fact]
    public async Task A_name_that_came_from_the_text_gives_way_and_that_is_said()
    {
        var library = await server.AddLibrary("Berths");
        var text = Mark(1);
        var id = await server.AddSnippet(library, Snippet(text, text));
        await server.GetWhen($"/api/finder?query={text}", found => found.AsArray().Count == 1);
        var before = (await server.Get($"/api/snippets/{id}"))["snippet"]!;
        var after = before.DeepClone();
        after["private"] = true;
        var (status, saved) = await server.Send(HttpMethod.Patch, $"/api/snippets/{id}", new { before, after });
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Equal("Private snippet", (string)saved!["now"]!["snippet"]!["name"]!);
        Assert.Contains("“Private snippet”", (string)saved["said"]!, StringComparison.Ordinal);
        Assert.Empty(Found((await server.Get("/api/changes")).ToJsonString()));
        Assert.Empty(Found((await server.Rows()).ToJsonString()));
        Assert.Empty((await server.Get($"/api/finder?query={text}")).AsArray());
        // At once, also in the write-ahead log.
        Assert.Empty(Found(folder.FullName));
        // Undone, it is readable again, and still under its neutral name.
        await server.Post("/api/changes/undo", new { });
        var undone = (await server.Get($"/api/snippets/{id}"))["snippet"]!;
        Assert.Equal((false, "Private snippet"), ((bool)undone["private"]!, (string)undone["name"]!));
    }

    [Fact]
    public async Task A_picture_is_sealed_as_long_as_only_private_snippets_show_it()
    {
        var library = await server.AddLibrary("Berths");
        var id = await AddPicture(1);
        var body = $"<p><img src=\"media:{id}\" alt=\"\"></p>";
        Assert.Empty(Found(folder.FullName));
        var open = await server.AddSnippet(library, Html("open", body));
        Assert.NotEmpty(Found(folder.FullName));
        await server.Save(open, new { @private = true });
        Assert.Empty(Found(folder.FullName));
        Assert.Contains(
            Mark(1),
            Encoding.Latin1.GetString(await server.Client.GetByteArrayAsync(Address(id))),
            StringComparison.Ordinal
        );
        await server.Save(open, new { @private = false });
        Assert.NotEmpty(Found(folder.FullName));

        static Uri Address(string id) => new($"/api/media/{id}", UriKind.Relative);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public async Task Nothing_is_readable_after_a_long_random_day(int seed)
    {
        var random = new Random(seed);
        var library = await server.AddLibrary("Berths");
        await server.Post(
            "/api/mirrors",
            new
            {
                folder = mirrored.FullName,
                libraryIds = new[] { library },
                files = Array.Empty<string>(),
                pocket = true,
            }
        );
        var open = await server.AddSnippet(library, Snippet("Open", "nothing to hide"));
        var ids = new List<long>();
        for (var mark = 0; mark < Marks; mark += 4)
        {
            // Some begin in the open, under a name made of their text, and become private later.
            var id = await server.AddSnippet(library, Snippet(Mark(mark), Mark(mark)));
            ids.Add(id);
            await server.Save(id, new { @private = true });
            await server.Save(id, new { note = Mark(mark + 1) });
            await server.Save(id, new { twin = new { text = Mark(mark + 2) } });
            await server.Save(id, new { body = $"<p>x <img src=\"media:{await AddPicture(mark + 3)}\" alt=\"\"></p>" });
            await server.Save(id, new { text = $"{Mark(mark)} again" });
        }
        await server.Post("/api/backups", new { });
        for (var step = 0; step < 60; step++)
        {
            var id = ids[random.Next(ids.Count)];
            var mark = Mark(random.Next(Marks));
            switch (random.Next(12))
            {
                case 0:
                    await Try(HttpMethod.Post, "/api/changes/redo");
                    break;
                case 1:
                    await Try(HttpMethod.Delete, $"/api/items/{id}");
                    break;
                case 2:
                    await Try(HttpMethod.Post, $"/api/bin/{id}/restore");
                    break;
                case 3:
                    await Try(HttpMethod.Post, "/api/mirrors/sync");
                    break;
                case 4:
                    var backups = (await server.Get("/api/backups")).AsArray();
                    await Try(HttpMethod.Post, $"/api/backups/{backups[random.Next(backups.Count)]!["name"]}/restore");
                    break;
                case 5:
                    server.Dispose();
                    server = new TestServer(data: folder.FullName);
                    break;
                case 6:
                    await server.Save(open, new { text = $"open {step}" });
                    break;
                case 7 when await IsPrivate(id):
                    await server.Save(id, new { note = mark });
                    break;
                default:
                    if (await IsPrivate(id))
                        await server.Save(id, new { text = $"{mark} {step}" });
                    break;
            }
        }
        foreach (
            var address in (string[])
                [
                    "/api/changes",
                    "/api/bin",
                    "/api/notices",
                    "/api/mirrors",
                    "/api/libraries",
                    "/api/safety",
                    "/api/savings?days=30",
                    "/api/behind",
                    $"/api/finder?query={Mark(1)}",
                    "/api/finder?query=heron",
                ]
        )
            Assert.Empty(Found((await server.Get(address)).ToJsonString()));
        Assert.Empty(Found((await server.Rows()).ToJsonString()));
        foreach (var format in (string[])["json", "yaml", "csv"])
            Assert.Empty(
                Found(
                    await server.Client.GetStringAsync(new Uri($"/api/library-file?format={format}", UriKind.Relative))
                )
            );
        server.Dispose();
        Assert.Empty(Found(folder.FullName));
        Assert.Empty(Found(mirrored.FullName));

        async Task Try(HttpMethod method, string address)
        {
            var (status, answer) = await server.Send(method, address, method == HttpMethod.Delete ? null : new { });
            Assert.True((int)status < 500, $"{address} {status} {answer}");
        }
        async Task<bool> IsPrivate(long id) =>
            await server.Send(HttpMethod.Get, $"/api/snippets/{id}") is (HttpStatusCode.OK, { } found)
            && (bool)found["snippet"]!["private"]!;
    }

    private static string Mark(int number) => $"zq{number:00}heron{number * 7919 % 9973}";

    private static JsonNode Html(string name, string body) => new JsonObject { ["name"] = name, ["body"] = body };

    /// <summary>A picture of one point, with a mark in a comment of its own (PNG, tEXt chunk).</summary>
    private async Task<string> AddPicture(int mark)
    {
        var point = Convert.FromBase64String(
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
        );
        var text = Encoding.ASCII.GetBytes($"tEXtComment\0{Mark(mark)}");
        var chunk = new byte[text.Length + 8];
        BinaryPrimitives.WriteInt32BigEndian(chunk, text.Length - 4);
        text.CopyTo(chunk, 4);
        BinaryPrimitives.WriteUInt32BigEndian(chunk.AsSpan(text.Length + 4), Crc(text));
        // Behind the head, which has 8 + 25 bytes.
        using var content = new ByteArrayContent([.. point[..33], .. chunk, .. point[33..]]);
        content.Headers.ContentType = new("application/octet-stream");
        using var answer = await server.Client.PostAsync(new Uri("/api/media", UriKind.Relative), content);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return (string)JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["id"]!;
    }

    /// <summary>The check sum of PNG chunks (ISO/IEC 15948, annex D).</summary>
    private static uint Crc(byte[] bytes)
    {
        var crc = uint.MaxValue;
        foreach (var unit in bytes)
        {
            crc ^= unit;
            for (var bit = 0; bit < 8; bit++)
                crc = (crc & 1) != 0 ? 0xEDB88320 ^ (crc >> 1) : crc >> 1;
        }
        return ~crc;
    }

    /// <summary>The marks in a text, or in the files below a folder, each with the file it stands in.</summary>
    private static List<string> Found(string textOrFolder)
    {
        var texts = Directory.Exists(textOrFolder)
            ? Directory
                .EnumerateFiles(textOrFolder, "*", SearchOption.AllDirectories)
                // What a program holds is a lock, and empty.
                .Where(path => Path.GetFileName(path) != "in-use")
                .Select(path => (path, Encoding.Latin1.GetString(Bytes(path))))
            : [("", textOrFolder)];
        return
        [
            .. texts.SelectMany(one =>
                Enumerable
                    .Range(0, Marks)
                    .Where(mark => one.Item2.Contains(Mark(mark), StringComparison.OrdinalIgnoreCase))
                    .Select(mark => $"{one.Item1} {Mark(mark)}")
            ),
        ];
    }

    private static byte[] Bytes(string path)
    {
        using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
        using var bytes = new MemoryStream();
        file.CopyTo(bytes);
        return bytes.ToArray();
    }
}
