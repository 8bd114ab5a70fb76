using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>Undo, versions, bin and backups through the API, on a real SQLite file.</summary>
public sealed class HistoryApiTests : IDisposable
{
    private static readonly byte[] Picture = [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, 7];

    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Every_command_is_undone_and_done_again_also_after_a_restart()
    {
        var folder = Directory.CreateTempSubdirectory("dash-sprout-");
        var states = new List<string>();
        using (var first = new TestServer(data: folder.FullName))
        {
            states.Add(await Table(first));
            var library = await first.AddLibrary("Berths");
            states.Add(await Table(first));
            var inside = await first.AddFolder(library, "Bookings");
            states.Add(await Table(first));
            var snippet = await first.AddSnippet(inside, Snippet("Deposit", "first", Abbreviation("dep")));
            states.Add(await Table(first));
            await first.Save(snippet, new { text = "second" });
            states.Add(await Table(first));
            await first.Send(HttpMethod.Patch, $"/api/libraries/{library}", new { name = "Harbour" });
            states.Add(await Table(first));
            await first.Send(HttpMethod.Patch, $"/api/libraries/{library}", new { enabled = false });
            states.Add(await Table(first));
            await first.Post($"/api/items/{library}/shift", new { up = true });
            states.Add(await Table(first));
            await first.Post($"/api/items/{snippet}/move", new { parentId = library });
            states.Add(await Table(first));
            await first.Send(HttpMethod.Delete, $"/api/items/{library}");
            states.Add(await Table(first));
            await first.Post(
                "/api/library-file",
                """{"format":"dash-sprout-library","version":1,"libraries":[{"name":"Brought","snippets":[{"name":"a","text":"x"}]}]}"""
            );
            states.Add(await Table(first));
        }
        using (var second = new TestServer(data: folder.FullName))
        {
            Assert.Equal(states[^1], await Table(second));
            for (var at = states.Count - 2; at >= 0; at--)
            {
                await second.Post("/api/changes/undo", new { });
                Assert.Equal(states[at], await Table(second));
            }
        }
        using (var third = new TestServer(data: folder.FullName))
        {
            for (var at = 1; at < states.Count; at++)
            {
                await third.Post("/api/changes/redo", new { });
                Assert.Equal(states[at], await Table(third));
            }
            Assert.Equal(HttpStatusCode.Conflict, (await third.Send(HttpMethod.Post, "/api/changes/redo")).Status);
            var log = await third.Get("/api/changes");
            Assert.Equal("Brought in the library “Brought”", (string?)log["changes"]![0]!["what"]);
        }
        folder.Delete(recursive: true);
    }

    [Fact]
    public async Task One_change_of_the_list_is_undone_for_itself_or_refused_with_the_reason()
    {
        var id = await server.AddSnippet(
            await server.AddLibrary("Berths"),
            Snippet("Deposit", "first", Abbreviation("dep"))
        );
        await server.Save(id, new { text = "second" });
        var change = (long)(await server.Get("/api/changes"))["changes"]![0]!["id"]!;
        await server.Save(id, new { note = "a note" });
        await server.Post($"/api/changes/{change}/undo", new { });
        Assert.Equal(
            ("first", "a note"),
            (
                (string?)(await server.Get($"/api/snippets/{id}"))["snippet"]!["text"],
                (string?)(await server.Get($"/api/snippets/{id}"))["snippet"]!["note"]
            )
        );
        await server.Save(id, new { text = "third" });
        var (status, problem) = await server.Send(HttpMethod.Post, $"/api/changes/{change}/redo");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("changed since", (string?)problem!["detail"], StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await server.Send(HttpMethod.Post, "/api/changes/999/undo")).Status);
    }

    [Fact]
    public async Task Versions_tell_what_changed_and_one_of_them_comes_back()
    {
        var library = await server.AddLibrary("Berths");
        var id = await server.AddSnippet(library, Snippet("Deposit", "first", Abbreviation("dep")));
        await server.Save(id, new { text = "second" });
        await server.Save(id, new { name = "Down payment", triggers = new[] { Abbreviation("dpt") } });
        var versions = (await server.Get($"/api/snippets/{id}/versions")).AsArray();
        Assert.Equal(
            ["name,triggers", "body", ""],
            versions.Select(version => string.Join(',', version!["changed"]!.AsArray()))
        );

        // Its old name is another snippet's by now.
        await server.AddSnippet(library, Snippet("Deposit", "other"));
        await server.Post($"/api/snippets/{id}/restore", new { version = 1 });
        var now = (await server.Get($"/api/snippets/{id}"))["snippet"]!;
        Assert.Equal(
            ("Down payment", "first", "dep"),
            ((string?)now["name"], (string?)now["text"], (string?)now["triggers"]![0]!["text"])
        );
        Assert.Equal("first ", (string?)(await server.Rehearse("dep "))["text"]);
        Assert.Contains(
            "no version 77",
            await server.Refused($"/api/snippets/{id}/restore", new { version = 77 }, "version"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_restored_backup_brings_everything_back_and_is_undone()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Deposit", "kept", Abbreviation("dep")));
        await server.Send(
            HttpMethod.Put,
            "/api/settings/dates",
            new
            {
                zone = "Europe/London",
                locale = "en-GB",
                weekend = new[] { "sunday" },
                holidays = "",
            }
        );
        var backup = (string)(await server.Post("/api/backups", new { }))["name"]!;
        var before = await Table(server);

        await server.Send(HttpMethod.Delete, $"/api/items/{library}");
        await server.AddLibrary("Elsewhere");
        await server.Send(
            HttpMethod.Put,
            "/api/settings/dates",
            new
            {
                zone = "UTC",
                locale = "en-GB",
                weekend = new[] { "friday" },
                holidays = "",
            }
        );
        var after = await Table(server);

        await server.Post($"/api/backups/{backup}/restore", new { });
        Assert.Equal(before, await Table(server));
        Assert.Equal("kept ", (string?)(await server.Rehearse("dep "))["text"]);
        Assert.Equal("sunday", (string?)(await server.Get("/api/settings/dates"))["weekend"]![0]);

        await server.Post("/api/changes/undo", new { });
        Assert.Equal(after, await Table(server));
        Assert.Equal("friday", (string?)(await server.Get("/api/settings/dates"))["weekend"]![0]);
        Assert.Contains(
            "no backup",
            (string?)(await server.Send(HttpMethod.Post, "/api/backups/nothing.sqlite/restore")).Body!["detail"],
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_backup_travels_as_one_file()
    {
        await server.AddSnippet(await server.AddLibrary("Berths"), Snippet("Deposit", "kept", Abbreviation("dep")));
        var name = (string)(await server.Post("/api/backups", new { }))["name"]!;
        var file = await server.Client.GetByteArrayAsync(new Uri($"/api/backups/{name}/file", UriKind.Relative));
        using var other = new TestServer();
        var brought = await Bring(other, file);
        Assert.Equal(HttpStatusCode.OK, brought.Status);
        Assert.Empty(await other.Rows());
        await other.Post($"/api/backups/{(string)brought.Body["name"]!}/restore", new { });
        Assert.Equal("kept ", (string?)(await other.Rehearse("dep "))["text"]);

        var (status, problem) = await Bring(other, "not a backup"u8.ToArray());
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("no sound backup", (string?)problem["detail"], StringComparison.Ordinal);

        static async Task<(HttpStatusCode Status, JsonNode Body)> Bring(TestServer to, byte[] bytes)
        {
            using var content = new ByteArrayContent(bytes);
            content.Headers.ContentType = new("application/octet-stream");
            using var answer = await to.Client.PostAsync(new Uri("/api/backups/file", UriKind.Relative), content);
            return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!);
        }
    }

    [Fact]
    public async Task An_import_makes_a_backup_first_and_a_refused_one_does_not()
    {
        const string Good =
            """{"format":"dash-sprout-library","version":1,"libraries":[{"name":"Brought","snippets":[{"name":"a","text":"x"}]}]}""";
        await server.Post("/api/library-file", Good);
        Assert.Equal(1, await Count());
        Assert.Equal(HttpStatusCode.BadRequest, (await server.Send(HttpMethod.Post, "/api/library-file", Good)).Status);
        Assert.Equal(1, await Count());

        async Task<int> Count() =>
            (await server.Get("/api/backups")).AsArray().Count(backup => (string?)backup!["reason"] == "before-import");
    }

    [Fact]
    public async Task Pictures_travel_in_the_library_file_each_once()
    {
        using var content = new ByteArrayContent(Picture);
        content.Headers.ContentType = new("application/octet-stream");
        using var added = await server.Client.PostAsync(new Uri("/api/media", UriKind.Relative), content);
        var id = (string)JsonNode.Parse(await added.Content.ReadAsStringAsync())!["id"]!;
        var library = await server.AddLibrary("Notices");
        foreach (var name in (string[])["One", "Two"])
            await server.AddSnippet(
                library,
                JsonSerializer.SerializeToElement(
                    new { name, body = $"<p><img src=\"media:{id}\" alt=\"fairway\"></p>" }
                )
            );
        var file = await server.Client.GetStringAsync(new Uri("/api/library-file", UriKind.Relative));
        var data = Convert.ToBase64String(Picture);
        Assert.Equal(file.IndexOf(data, StringComparison.Ordinal), file.LastIndexOf(data, StringComparison.Ordinal));

        // Another tool may name its pictures as it likes.
        using var other = new TestServer();
        Assert.Empty(
            (await other.Post("/api/library-file", file.Replace(id, "fairway-picture", StringComparison.Ordinal)))[
                "missing"
            ]!.AsArray()
        );
        Assert.Equal(Picture, await other.Client.GetByteArrayAsync(new Uri($"/api/media/{id}", UriKind.Relative)));
        Assert.Equal(file, await other.Client.GetStringAsync(new Uri("/api/library-file", UriKind.Relative)));

        using var third = new TestServer();
        var (status, problem) = await third.Send(
            HttpMethod.Post,
            "/api/library-file",
            file.Replace(data, Convert.ToBase64String("<svg/>"u8), StringComparison.Ordinal)
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("no PNG, JPEG, GIF or WebP", problem!["detail"]!.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_lies_in_what_was_deleted_is_missing_and_not_a_mistake()
    {
        var library = await server.AddLibrary("Berths");
        var folder = await server.AddFolder(library, "Bookings");
        var id = await server.AddSnippet(library, Snippet("Deposit", "x"));
        await server.Send(HttpMethod.Delete, $"/api/items/{folder}");
        Assert.Contains(
            "no library or folder",
            await server.Refused("/api/snippets", new { parentId = folder, snippet = Snippet("b", "x") }, "parentId"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "no library or folder",
            await server.Refused("/api/folders", new { parentId = folder, name = "b" }, "parentId"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "no library or folder",
            await server.Refused($"/api/items/{id}/move", new { parentId = folder }, "parentId"),
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await server.Send(HttpMethod.Post, "/api/items/999/move", new { parentId = library })).Status
        );
        Assert.Equal(HttpStatusCode.NotFound, (await server.Send(HttpMethod.Post, "/api/bin/999/restore")).Status);
    }

    [Fact]
    public async Task An_export_of_what_may_be_made_can_be_brought_in_again()
    {
        var parent = await server.AddLibrary("Deep");
        for (var depth = 1; depth <= 12; depth++)
            parent = await server.AddFolder(parent, $"F{depth}");
        await server.AddSnippet(parent, Snippet("Deepest", "x"));
        var file = await server.Client.GetStringAsync(new Uri("/api/library-file", UriKind.Relative));
        using var other = new TestServer();
        await other.Post("/api/library-file", file);
        Assert.Equal(file, await other.Client.GetStringAsync(new Uri("/api/library-file", UriKind.Relative)));
    }

    [Fact]
    public async Task Every_answer_protects_itself_and_another_site_gets_none()
    {
        foreach (var path in (string[])["/api/libraries", "/api/nothing-here", "/api/snippets/999"])
        {
            using var answer = await server.Client.GetAsync(new Uri(path, UriKind.Relative));
            Assert.Equal("nosniff", Assert.Single(answer.Headers.GetValues("X-Content-Type-Options")));
            Assert.Equal("same-origin", Assert.Single(answer.Headers.GetValues("Cross-Origin-Resource-Policy")));
            Assert.Contains(
                "form-action 'self'",
                Assert.Single(answer.Headers.GetValues("Content-Security-Policy")),
                StringComparison.Ordinal
            );
        }
        Assert.Equal(HttpStatusCode.Forbidden, await Asked("/api/libraries", "cross-site", "cors", "empty"));
        Assert.Equal(HttpStatusCode.Forbidden, await Asked("/api/libraries", "same-site", "no-cors", "image"));
        Assert.Equal(HttpStatusCode.Forbidden, await Asked("/api/library-file", "cross-site", "navigate", "document"));
        Assert.Equal(HttpStatusCode.OK, await Asked("/api/libraries", "same-origin", "cors", "empty"));
        Assert.Equal(HttpStatusCode.OK, await Asked("/api/libraries", "none", "navigate", "document"));
        Assert.NotEqual(HttpStatusCode.Forbidden, await Asked("/libraries", "cross-site", "navigate", "document"));

        async Task<HttpStatusCode> Asked(string path, string site, string mode, string target)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, path);
            request.Headers.Add("Sec-Fetch-Site", site);
            request.Headers.Add("Sec-Fetch-Mode", mode);
            request.Headers.Add("Sec-Fetch-Dest", target);
            using var answer = await server.Client.SendAsync(request);
            return answer.StatusCode;
        }
    }

    /// <summary>
    /// A zone that no zone database knows any more, chords that cannot be, no JSON at all: none of it ends a start.
    /// </summary>
    [Theory]
    [InlineData("dates", """{"zone":"Nowhere/Land","locale":"en-GB","weekend":["saturday"],"holidays":""}""", true)]
    [InlineData("dates", """{"zone":"UTC"}""", true)]
    [InlineData("dates", """{"zone":"UTC","locale":"en-GB","weekend":["saturday"],"holidays":"no calendar"}""", true)]
    [InlineData("dates", "no json", true)]
    [InlineData(
        "typing",
        """{"takeBack":true,"hints":true,"chords":{"finder":"x","gather":"x","rest":"x","record":"x","takeBack":"x","proofLine":"x","why":"x","help":"x"}}""",
        false
    )]
    [InlineData("typing", "{}", false)]
    [InlineData("rest", "[]", false)]
    [InlineData("safety.word-list", "77", false)]
    public async Task A_setting_that_cannot_be_used_ends_no_start(string name, string value, bool said)
    {
        var folder = Directory.CreateTempSubdirectory("dash-sprout-");
        using (var first = new TestServer(data: folder.FullName))
            await first.AddSnippet(await first.AddLibrary("Berths"), Snippet("Deposit", "kept", Abbreviation("dep")));
        using (
            var connection = new Microsoft.Data.Sqlite.SqliteConnection(
                $"Data Source={Path.Combine(folder.FullName, "dash-sprout.sqlite")};Pooling=False"
            )
        )
        {
            connection.Open();
            using var command = connection.CreateCommand();
            command.CommandText = "INSERT INTO setting (name, value) VALUES ($name, $value)";
            command.Parameters.AddWithValue("$name", name);
            command.Parameters.AddWithValue("$value", value);
            command.ExecuteNonQuery();
        }
        using (var second = new TestServer(data: folder.FullName))
        {
            Assert.Equal("kept ", (string?)(await second.Rehearse("dep "))["text"]);
            Assert.Equal("Ctrl+Alt+Z", (string?)(await second.Get("/api/settings/typing"))["chords"]!["takeBack"]);
            Assert.Equal(said ? 1 : 0, (await second.Get("/api/notices"))["notices"]!.AsArray().Count);
            Assert.Equal(2, (await second.Get("/api/settings/dates"))["weekend"]!.AsArray().Count);
        }
        folder.Delete(recursive: true);
    }

    /// <summary>The whole table as one text, versions and ids apart.</summary>
    private static async Task<string> Table(TestServer of)
    {
        var rows = (await of.Rows()).Select(row =>
            $"{row!["depth"]} {row["kind"]} {row["name"]} {row["enabled"]} {row["preview"]}"
        );
        return string.Join('\n', rows);
    }
}
