using System.Net;
using System.Text.Json.Nodes;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>What a restore replaces has one owner: nothing is planned on what was and written into what is.</summary>
public sealed class DataSessionTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-session-");
    private TestServer server;

    public DataSessionTests() => server = new TestServer(data: folder.FullName);

    public void Dispose()
    {
        server.Dispose();
        folder.Delete(recursive: true);
    }

    [Theory]
    [InlineData(2)]
    [InlineData(4)]
    public async Task Backups_that_are_wanted_at_once_are_all_made(int wanted)
    {
        var made = await Task.WhenAll(
            Enumerable.Range(0, wanted).Select(_ => server.Send(HttpMethod.Post, "/api/backups", new { }))
        );
        Assert.All(made, one => Assert.Equal(HttpStatusCode.OK, one.Status));
        var list = (await server.Get("/api/backups")).AsArray().Select(one => (string)one!["name"]!).ToList();
        Assert.All(made, one => Assert.Contains((string)one.Body!["name"]!, list));
        Assert.Empty(Directory.GetFiles(Path.Combine(folder.FullName, "backups"), "*.partial"));
    }

    [Fact]
    public async Task Learning_stays_as_the_user_has_it_now()
    {
        await Learn(true);
        var backup = await Backup();
        await Learn(false);
        await Restore(backup);
        Assert.False(await Learns());
        Restart();
        Assert.False(await Learns());

        async Task Learn(bool on)
        {
            var settings = (await server.Get("/api/learning"))["settings"]!.DeepClone();
            (settings["learns"], settings["chosen"]) = (on, true);
            await server.Put("/api/learning/settings", settings);
        }
        async Task<bool> Learns() => (bool)(await server.Get("/api/learning"))["settings"]!["learns"]!;
    }

    [Fact]
    public async Task What_is_added_after_a_restore_has_an_id_and_a_key_of_its_own()
    {
        var mirrored = Directory.CreateTempSubdirectory("dash-sprout-mirror-");
        try
        {
            var library = await server.AddLibrary("Berths");
            await server.Post(
                "/api/mirrors",
                new
                {
                    folder = mirrored.FullName,
                    libraryIds = new[] { library },
                    files = Array.Empty<string>(),
                }
            );
            var backup = await Backup();
            var alpha = await server.AddSnippet(library, Snippet("Alpha", "a"));
            await server.Post("/api/mirrors/sync", new { });
            var key = Key("Alpha");
            await Restore(backup);
            var beta = await server.AddSnippet(library, Snippet("Beta", "b"));
            await server.Post("/api/mirrors/sync", new { });
            Assert.True(beta > alpha);
            Assert.NotEqual(key, Key("Beta"));
            Restart();
            Assert.True(await server.AddSnippet(library, Snippet("Gamma", "c")) > beta);
        }
        finally
        {
            mirrored.Delete(recursive: true);
        }

        string Key(string name) =>
            JsonNode.Parse(File.ReadAllText(Path.Combine(mirrored.FullName, "Berths.json")))!["libraries"]![0]![
                "snippets"
            ]!
                .AsArray()
                .Where(one => (string)one!["name"]! == name)
                .Select(one => (string)one!["key"]!)
                .Single();
    }

    /// <summary>
    /// Edits, imports, backups, mirrors and restores at once: each is done or refused in words, and what was acknowledged
    /// after the last restore is there. <c>DASH_SPROUT_ROUNDS</c> gives more of it.
    /// </summary>
    [Fact]
    public async Task Restores_beside_everything_else_leave_nothing_half_done()
    {
        var rounds = int.Parse(Environment.GetEnvironmentVariable("DASH_SPROUT_ROUNDS") ?? "6", null);
        var library = await server.AddLibrary("Berths");
        for (var at = 0; at < 20; at++)
            await server.AddSnippet(library, Snippet($"s{at}", "x"));
        var backup = await Backup();
        for (var round = 0; round < rounds; round++)
        {
            using var over = new CancellationTokenSource();
            var clients = Enumerable.Range(0, 20).Select(number => Task.Run(() => Client(round, number, over.Token)));
            var all = clients.ToList();
            for (var time = 0; time < 3; time++)
                await Restore(backup);
            await over.CancelAsync();
            await Task.WhenAll(all);
            var last = await server.AddSnippet(library, Snippet($"last {round}", "y"));
            Restart();
            Assert.Equal("y", (string)(await server.Get($"/api/snippets/{last}"))["snippet"]!["text"]!);
            Assert.Empty((await server.Get("/api/notices"))["setAside"]!.AsArray());
        }

        async Task Client(int round, int number, CancellationToken over)
        {
            for (var time = 0; !over.IsCancellationRequested; time++)
            {
                var (status, answer) = (number % 10) switch
                {
                    0 => await server.Send(
                        HttpMethod.Post,
                        "/api/snippets",
                        new { parentId = library, snippet = Snippet($"n {round} {number} {time}", "z") }
                    ),
                    1 => await server.Send(
                        HttpMethod.Post,
                        "/api/library-file",
                        $$$"""
                        {"format":"dash-sprout-library","version":1,
                        "libraries":[{"name":"I {{{round}}} {{{number}}} {{{time}}}","snippets":[{"name":"a","text":"b"}]}]}
                        """
                    ),
                    2 => await server.Send(HttpMethod.Post, "/api/mirrors/sync", new { }),
                    3 => await server.Send(HttpMethod.Get, "/api/finder?query=s"),
                    4 => await server.Send(HttpMethod.Get, "/api/safety"),
                    5 => await server.Send(HttpMethod.Get, "/api/changes"),
                    6 or 7 or 8 => await server.Send(
                        HttpMethod.Post,
                        "/api/libraries/rows",
                        new
                        {
                            view = new
                            {
                                closed = Array.Empty<long>(),
                                filter = number == 6 ? "s" : "",
                                sort = number == 7 ? "name" : null,
                            },
                            from = 0,
                            count = 50,
                        }
                    ),
                    _ => await server.Send(HttpMethod.Post, "/api/changes/undo", new { }),
                };
                Assert.True((int)status < 500, $"{status} {answer}");
            }
        }
    }

    private async Task<string> Backup() => (string)(await server.Post("/api/backups", new { }))["name"]!;

    private Task<JsonNode> Restore(string backup) => server.Post($"/api/backups/{backup}/restore", new { });

    private void Restart()
    {
        server.Dispose();
        server = new TestServer(data: folder.FullName);
    }
}
