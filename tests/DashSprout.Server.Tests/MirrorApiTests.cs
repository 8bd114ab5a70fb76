using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>Libraries in a mirror folder, with two programs that have a data folder each.</summary>
public sealed class MirrorApiTests : IDisposable
{
    private readonly TestServer one = new();
    private readonly TestServer other = new();
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-mirror-");

    [Fact]
    public async Task A_library_goes_to_another_machine_and_changes_come_back()
    {
        var library = await one.AddLibrary("Berth desk");
        var bookings = await one.AddFolder(library, "Bookings");
        await one.AddSnippet(
            bookings,
            TestServer.Snippet("Berth confirmation", "Your berth is booked.", TestServer.Abbreviation(";bc"))
        );
        await Mirror(one, library);

        var found = await other.Post("/api/mirrors/look", new { folder = folder.FullName });
        Assert.Equal("Berth desk", (string)found["found"]![0]!["name"]!);
        Assert.Equal(1, (int)found["found"]![0]!["snippets"]!);
        await Join(other, "Berth desk.json");
        Assert.Equal("Your berth is booked.", await Text(other, "Berth confirmation"));

        await Edit(other, "Berth confirmation", "Your berth is kept.");
        await Sync(other);
        await Sync(one);
        Assert.Equal("Your berth is kept.", await Text(one, "Berth confirmation"));
        Assert.Equal("in-step", (string)(await one.Get("/api/mirrors"))[0]!["state"]!);
        // It is one change, and can be undone as any.
        Assert.Contains("mirror folder", (await one.Get("/api/changes")).ToJsonString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_changes_is_written_and_read_without_being_asked_for()
    {
        var library = await one.AddLibrary("Notices");
        await one.AddSnippet(library, TestServer.Snippet("Gale", "Gale warning."));
        await Mirror(one, library);
        await Join(other, "Notices.json");
        await Edit(one, "Gale", "Gale warning for tonight.");
        await other.GetWhen("/api/library-file", file =>
            file.ToJsonString().Contains("Gale warning for tonight.", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_part_that_was_changed_on_both_waits_for_a_choice_and_shows_both()
    {
        await Both("Gale", "Gale warning.");
        var (chooser, writer) = await Quarrel();
        var mirror = (await chooser.Get("/api/mirrors"))[0]!;
        Assert.Equal("undecided", (string)mirror["state"]!);
        var conflict = mirror["conflicts"]![0]!;
        var (here, there) = ((string)conflict["here"]!, (string)conflict["there"]!);
        Assert.Equal(["Gale is over.", "Storm warning."], new[] { here, there }.Order(StringComparer.Ordinal));
        Assert.Contains("two machines", (await chooser.Get("/api/notices")).ToJsonString(), StringComparison.Ordinal);
        Assert.Equal(here, await Text(chooser, "Gale"));
        Assert.Equal(there, await Text(writer, "Gale"));

        await Decide(chooser, mirror, conflict, "here");
        await Sync(writer);
        Assert.Equal(here, await Text(writer, "Gale"));
        Assert.Empty((await chooser.Get("/api/mirrors"))[0]!["conflicts"]!.AsArray());
    }

    [Theory]
    [InlineData("there")]
    [InlineData("both")]
    public async Task A_choice_takes_the_other_or_keeps_both(string keep)
    {
        await Both("Gale", "Gale warning.");
        var (chooser, writer) = await Quarrel();
        var mirror = (await chooser.Get("/api/mirrors"))[0]!;
        var conflict = mirror["conflicts"]![0]!;
        await Decide(chooser, mirror, conflict, keep);
        await Sync(writer);
        foreach (var server in (TestServer[])[chooser, writer])
            Assert.Equal((string)conflict[keep == "there" ? "there" : "here"]!, await Text(server, "Gale"));
        Assert.Equal(keep == "both" ? (string)conflict["there"]! : null, await Text(writer, "Gale 2"));
    }

    /// <summary>Changes one text on both machines at the same moment; gives the one that has to choose, and the other.</summary>
    private Task<(TestServer Chooser, TestServer Writer)> Quarrel() =>
        Quarrel((server, text) => Edit(server, "Gale", text), "Gale warning.", "Storm warning.", "Gale is over.");

    /// <summary>
    /// Makes two changes at the same moment, again and again until neither machine has heard of the other's in time.
    /// </summary>
    private async Task<(TestServer Chooser, TestServer Writer)> Quarrel(
        Func<TestServer, string, Task> change,
        string before,
        string oneMakes,
        string otherMakes
    )
    {
        for (var round = 0; round < 50; round++)
        {
            await Task.WhenAll(change(one, oneMakes), change(other, otherMakes));
            await Sync(one);
            await Sync(other);
            if (await HasToChoose(other))
                return (other, one);
            if (await HasToChoose(one))
                return (one, other);
            await change(one, before);
            await Sync(one);
            await Sync(other);
        }
        throw new InvalidOperationException("In 50 rounds the machines never changed the same part at the same time.");
    }

    private static async Task<bool> HasToChoose(TestServer server) =>
        (await server.Get("/api/mirrors"))[0]!["conflicts"]!.AsArray().Count > 0;

    [Fact]
    public async Task Both_names_are_kept_with_what_belongs_to_each()
    {
        await Both("Gale", "Gale warning.");
        await one.AddSnippet(await LibraryOf(one), TestServer.Snippet("Sign", "Harbour office"));
        await one.Save(
            await Id(one, "Gale"),
            new { body = "<p>Storm. <slot name=\"snippet\" data-ref=\"Notices/Sign\"></slot></p>" }
        );
        await Sync(one);
        await Sync(other);
        var (id, otherId) = (await Id(one, "Gale"), await Id(other, "Gale"));
        var (chooser, _) = await Quarrel(
            (server, name) => server.Save(server == one ? id : otherId, new { name }),
            "Gale",
            "Storm",
            "Tempest"
        );
        var mirror = (await chooser.Get("/api/mirrors"))[0]!;
        var conflict = Assert.Single(mirror["conflicts"]!.AsArray())!;
        await Decide(chooser, mirror, conflict, "both");
        await Sync(one);
        await Sync(other);
        foreach (var server in (TestServer[])[one, other])
            Assert.Equal(
                ["Sign", "Storm", "Tempest"],
                (await server.Rows())
                    .Where(row => (string)row!["kind"]! == "snippet")
                    .Select(row => (string)row!["name"]!)
                    .Order(StringComparer.Ordinal)
            );
        // What the copy puts in is here as well.
        var preview = await other.Post(
            "/api/preview",
            new { body = (string)(await other.Get($"/api/snippets/{await Id(other, "Storm")}"))["snippet"]!["body"]! }
        );
        Assert.Contains("Storm. Harbour office", preview.ToJsonString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_two_machines_change_in_different_parts_goes_together()
    {
        await Both("Gale", "Gale warning.");
        await Edit(one, "Gale", "Storm warning.");
        await other.Save(
            await Id(other, "Gale"),
            new { note = "From the coast guard", triggers = new[] { TestServer.Abbreviation(";gale") } }
        );
        await Sync(one);
        await Sync(other);
        await Sync(one);
        foreach (var server in (TestServer[])[one, other])
        {
            var snippet = (await server.Get($"/api/snippets/{await Id(server, "Gale")}"))["snippet"]!;
            Assert.Equal(
                ("Storm warning.", "From the coast guard", 1),
                ((string)snippet["text"]!, (string)snippet["note"]!, snippet["triggers"]!.AsArray().Count)
            );
        }
    }

    [Fact]
    public async Task A_copy_that_a_tool_made_is_taken_in_and_goes()
    {
        await Both("Gale", "Gale warning.");
        var file = Path.Combine(folder.FullName, "Notices.json");
        var before = await File.ReadAllTextAsync(file);
        await one.AddSnippet(await LibraryOf(one), TestServer.Snippet("Fog", "Fog at the pier."));
        await Sync(one);
        // What the other wrote did not know of it.
        await File.WriteAllTextAsync(
            Path.Combine(folder.FullName, "Notices (copy of another machine).json"),
            before.Replace("Gale warning.", "Gale warning, again.", StringComparison.Ordinal)
        );
        await Sync(one);
        Assert.Equal("Gale warning, again.", await Text(one, "Gale"));
        Assert.Equal("Fog at the pier.", await Text(one, "Fog"));
        Assert.Single(Directory.GetFiles(folder.FullName, "*.json"));
    }

    [Fact]
    public async Task Conflict_marks_of_a_version_control_are_recognised()
    {
        await Both("Gale", "Gale warning.");
        var file = Path.Combine(folder.FullName, "Notices.json");
        var lines = (await File.ReadAllTextAsync(file)).Split('\n').ToList();
        var at = lines.FindIndex(line => line.Contains("Gale warning.", StringComparison.Ordinal));
        var ours = lines[at];
        lines[at] =
            $"<<<<<<< HEAD\n{ours}\n=======\n"
            + $"{ours.Replace("Gale warning.", "Gale warning from elsewhere.", StringComparison.Ordinal)}\n>>>>>"
            + ">> branch";
        await File.WriteAllTextAsync(file, string.Join('\n', lines));
        await Sync(one);

        var mirror = (await one.Get("/api/mirrors"))[0]!;
        var conflict = Assert.Single(mirror["conflicts"]!.AsArray())!;
        Assert.Equal(
            ("Gale warning.", "Gale warning from elsewhere."),
            ((string)conflict["here"]!, (string)conflict["there"]!)
        );
        Assert.DoesNotContain("<<<<", await File.ReadAllTextAsync(file), StringComparison.Ordinal);
        await Decide(one, mirror, conflict, "there");
        Assert.Equal("Gale warning from elsewhere.", await Text(one, "Gale"));
        Assert.Single(Directory.GetFiles(folder.FullName, "*.json"));
        Assert.Contains("Gale warning from elsewhere.", await File.ReadAllTextAsync(file), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_half_written_file_is_left_alone_and_read_when_it_is_whole()
    {
        await Both("Gale", "Gale warning.");
        var file = Path.Combine(folder.FullName, "Notices.json");
        var whole = (await File.ReadAllTextAsync(file)).Replace(
            "Gale warning.",
            "Gale warning, whole.",
            StringComparison.Ordinal
        );
        await File.WriteAllTextAsync(file, whole[..(whole.Length / 2)]);
        await Edit(one, "Gale", "Changed here meanwhile.");
        await Sync(one);
        var mirror = (await one.Get("/api/mirrors"))[0]!;
        Assert.Equal(("fault", true), ((string)mirror["state"]!, (bool)mirror["unreadable"]!));
        Assert.Equal(whole[..(whole.Length / 2)], await File.ReadAllTextAsync(file));

        await File.WriteAllTextAsync(file, whole);
        await Sync(one);
        Assert.Single((await one.Get("/api/mirrors"))[0]!["conflicts"]!.AsArray());
    }

    [Fact]
    public async Task A_file_that_cannot_be_read_can_be_written_anew_and_is_kept()
    {
        await Both("Gale", "Gale warning.");
        await File.WriteAllTextAsync(
            Path.Combine(folder.FullName, "Notices.json"),
            "{ \"format\": \"dash-sprout-library\", \"version\": 9 }"
        );
        await Sync(one);
        var mirror = (await one.Get("/api/mirrors"))[0]!;
        Assert.Contains("version 9", (string)mirror["words"]!, StringComparison.Ordinal);
        await one.Post($"/api/mirrors/{mirror["libraryId"]}/write-anew", new { });
        Assert.Contains(
            "Gale warning.",
            await File.ReadAllTextAsync(Path.Combine(folder.FullName, "Notices.json")),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "\"version\": 9",
            await File.ReadAllTextAsync(
                Assert.Single(
                    Directory.GetFiles(
                        Path.Combine(one.Folder, "set-aside"),
                        "Notices.json",
                        SearchOption.AllDirectories
                    )
                )
            ),
            StringComparison.Ordinal
        );
        await Sync(other);
        Assert.Equal("Gale warning.", await Text(other, "Gale"));
    }

    [Fact]
    public async Task A_folder_that_vanishes_takes_nothing_away_and_is_met_again()
    {
        await Both("Gale", "Gale warning.");
        var away = folder.FullName + "-away";
        Directory.Move(folder.FullName, away);
        await Edit(one, "Gale", "Changed while it was away.");
        await Sync(one);
        Assert.Equal("waiting", (string)(await one.Get("/api/mirrors"))[0]!["state"]!);
        Assert.Equal("Changed while it was away.", await Text(one, "Gale"));
        Directory.Move(away, folder.FullName);
        await Sync(one);
        await Sync(other);
        Assert.Equal("Changed while it was away.", await Text(other, "Gale"));
    }

    [Fact]
    public async Task A_file_that_is_gone_deletes_nothing_and_comes_back()
    {
        await Both("Gale", "Gale warning.");
        File.Delete(Path.Combine(folder.FullName, "Notices.json"));
        await Sync(one);
        Assert.Equal("Gale warning.", await Text(one, "Gale"));
        await Edit(other, "Gale", "Still going on.");
        await Sync(other);
        await Sync(one);
        Assert.Equal("Still going on.", await Text(one, "Gale"));
    }

    [Fact]
    public async Task An_old_file_brings_nothing_old_back()
    {
        await Both("Gale", "Gale warning.");
        var file = Path.Combine(folder.FullName, "Notices.json");
        var old = await File.ReadAllTextAsync(file);
        await Edit(one, "Gale", "Storm warning.");
        await one.AddSnippet(await LibraryOf(one), TestServer.Snippet("Fog", "Fog at the pier."));
        await Sync(one);
        await File.WriteAllTextAsync(file, old);
        await Sync(one);
        Assert.Equal("Storm warning.", await Text(one, "Gale"));
        Assert.Equal("Fog at the pier.", await Text(one, "Fog"));
        await Sync(other);
        Assert.Equal("Storm warning.", await Text(other, "Gale"));
    }

    [Fact]
    public async Task Private_snippets_are_never_in_the_folder()
    {
        await Both("Gale", "Gale warning.");
        await one.AddSnippet(
            await LibraryOf(one),
            JsonSerializer.SerializeToElement(
                new
                {
                    name = "Gate code",
                    text = "the secret of the gate",
                    @private = true,
                }
            )
        );
        await one.Save(await Id(one, "Gale"), new { @private = true });
        await Sync(one);
        await Sync(other);
        foreach (var file in Directory.GetFiles(folder.FullName, "*", SearchOption.AllDirectories))
        {
            var text = await File.ReadAllTextAsync(file);
            Assert.DoesNotContain("secret of the gate", text, StringComparison.Ordinal);
            Assert.DoesNotContain("Gale", text, StringComparison.Ordinal);
        }
        // What was made private there stays here, and is private here too, under a name that tells nothing.
        const string Hidden = "Private snippet";
        Assert.True((bool)(await other.Get($"/api/snippets/{await Id(other, Hidden)}"))["snippet"]!["private"]!);
        Assert.Null(await Text(other, "Gate code"));
        await one.Save(await Id(one, Hidden), new { @private = false });
        await Sync(one);
        await Sync(other);
        Assert.False((bool)(await other.Get($"/api/snippets/{await Id(other, Hidden)}"))["snippet"]!["private"]!);
    }

    [Fact]
    public async Task Pictures_lie_beside_the_file_and_come_along()
    {
        var png = Convert.FromBase64String(
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
        );
        using var content = new ByteArrayContent(png);
        content.Headers.ContentType = new("application/octet-stream");
        using var uploaded = await one.Client.PostAsync(new Uri("/api/media", UriKind.Relative), content);
        var id = (string)JsonNode.Parse(await uploaded.Content.ReadAsStringAsync())!["id"]!;
        var library = await one.AddLibrary("Signs");
        await one.AddSnippet(
            library,
            JsonSerializer.SerializeToElement(
                new { name = "Logo", body = $"<p><img src=\"media:{id}\" alt=\"logo\"></p>" }
            )
        );
        await Mirror(one, library);
        await Join(other, "Signs.json");
        using var shown = await other.Client.GetAsync(new Uri($"/api/media/{id}", UriKind.Relative));
        Assert.Equal(png, await shown.Content.ReadAsByteArrayAsync());
    }

    [Fact]
    public async Task A_picture_that_comes_later_is_taken_then()
    {
        var png = Convert.FromBase64String(
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
        );
        using var content = new ByteArrayContent(png);
        content.Headers.ContentType = new("application/octet-stream");
        using var uploaded = await one.Client.PostAsync(new Uri("/api/media", UriKind.Relative), content);
        var id = (string)JsonNode.Parse(await uploaded.Content.ReadAsStringAsync())!["id"]!;
        await one.AddSnippet(
            await one.AddLibrary("Signs"),
            JsonSerializer.SerializeToElement(
                new { name = "Logo", body = $"<p><img src=\"media:{id}\" alt=\"logo\"></p>" }
            )
        );
        await Mirror(one, await LibraryOf(one));
        var pictures = Path.Combine(folder.FullName, "pictures");
        Directory.Move(pictures, pictures + "-late");
        await Join(other, "Signs.json");
        Assert.Equal(HttpStatusCode.NotFound, (await other.Send(HttpMethod.Get, $"/api/media/{id}")).Status);
        Directory.Move(pictures + "-late", pictures);
        // Nobody asks for it, and the library's file has not changed.
        await Patience.Until(
            async () =>
            {
                using var answer = await other.Client.GetAsync(new Uri($"/api/media/{id}", UriKind.Relative));
                return answer.IsSuccessStatusCode;
            },
            "the picture"
        );
        Assert.Equal(png, await other.Client.GetByteArrayAsync(new Uri($"/api/media/{id}", UriKind.Relative)));
    }

    [Fact]
    public async Task A_copy_with_conflict_marks_stays_until_somebody_mends_it()
    {
        await Both("Gale", "Gale warning.");
        var lines = (await File.ReadAllTextAsync(Path.Combine(folder.FullName, "Notices.json"))).Split('\n').ToList();
        var at = lines.FindIndex(line => line.Contains("Gale warning.", StringComparison.Ordinal));
        lines[at] =
            $"<<<<<<< HEAD\n{lines[at]}\n=======\n"
            + $"{lines[at].Replace("Gale warning.", "Only in the copy.", StringComparison.Ordinal)}\n>>>>>"
            + ">> branch";
        var copy = Path.Combine(folder.FullName, "Notices (copy).json");
        await File.WriteAllTextAsync(copy, string.Join('\n', lines));
        await Sync(one);
        Assert.Contains("Only in the copy.", await File.ReadAllTextAsync(copy), StringComparison.Ordinal);
        Assert.Contains(
            "Mend it",
            (await one.Get("/api/mirrors"))[0]!["notes"]!.ToJsonString(),
            StringComparison.Ordinal
        );
        Assert.Equal("Gale warning.", await Text(one, "Gale"));
    }

    [Fact]
    public async Task The_pocket_file_is_written_beside_it_when_wanted()
    {
        var library = await one.AddLibrary("Notices");
        await one.AddSnippet(library, TestServer.Snippet("Gale", "Gale warning."));
        await one.Post(
            "/api/mirrors",
            new
            {
                folder = folder.FullName,
                libraryIds = new[] { library },
                files = Array.Empty<string>(),
                pocket = true,
            }
        );
        var pocket = Path.Combine(folder.FullName, "dash-sprout-pocket.html");
        Assert.Contains("Gale warning.", await File.ReadAllTextAsync(pocket), StringComparison.Ordinal);
        await Edit(one, "Gale", "Storm warning.");
        await Sync(one);
        Assert.Contains("Storm warning.", await File.ReadAllTextAsync(pocket), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("shared", "whole path")]
    [InlineData("/nowhere/at/all", "no folder")]
    [InlineData("/proc/self", "Nothing can be written")]
    public async Task A_folder_that_cannot_be_used_is_refused_with_the_reason(string path, string reason)
    {
        var library = await one.AddLibrary("Notices");
        Assert.Contains(
            reason,
            await one.Refused(
                "/api/mirrors",
                new
                {
                    folder = path,
                    libraryIds = new[] { library },
                    files = Array.Empty<string>(),
                },
                "folder"
            ),
            StringComparison.Ordinal
        );
        Assert.Empty((await one.Get("/api/mirrors")).AsArray());
    }

    [Fact]
    public async Task The_own_data_folder_is_no_mirror_folder() =>
        Assert.Contains(
            "own data",
            await one.Refused("/api/mirrors/look", new { folder = one.Folder }, "folder"),
            StringComparison.Ordinal
        );

    [Fact]
    public async Task A_restored_backup_goes_to_the_folder_and_is_not_undone_by_it()
    {
        await Both("Gale", "Gale warning.");
        var backup = (string)(await one.Post("/api/backups", new { }))["name"]!;
        await Edit(one, "Gale", "Storm warning.");
        await Sync(one);
        await Sync(other);
        await one.Post($"/api/backups/{backup}/restore", new { });
        await Sync(one);
        Assert.Equal("Gale warning.", await Text(one, "Gale"));
        await Sync(other);
        Assert.Equal("Gale warning.", await Text(other, "Gale"));
    }

    public void Dispose()
    {
        one.Dispose();
        other.Dispose();
        if (Directory.Exists(folder.FullName))
            folder.Delete(recursive: true);
    }

    /// <summary>A library “Notices” with one snippet on both machines.</summary>
    private async Task Both(string name, string text)
    {
        var library = await one.AddLibrary("Notices");
        await one.AddSnippet(library, TestServer.Snippet(name, text));
        await Mirror(one, library);
        await Join(other, "Notices.json");
        await Sync(one);
    }

    private Task<JsonNode> Mirror(TestServer server, long library) =>
        server.Post(
            "/api/mirrors",
            new
            {
                folder = folder.FullName,
                libraryIds = new[] { library },
                files = Array.Empty<string>(),
            }
        );

    private Task<JsonNode> Join(TestServer server, string file) =>
        server.Post(
            "/api/mirrors",
            new
            {
                folder = folder.FullName,
                libraryIds = Array.Empty<long>(),
                files = new[] { file },
            }
        );

    private static Task<JsonNode> Sync(TestServer server) => server.Post("/api/mirrors/sync", new { });

    private static async Task Decide(TestServer server, JsonNode mirror, JsonNode conflict, string keep) =>
        await server.Post(
            $"/api/mirrors/{mirror["libraryId"]}/decide",
            new
            {
                key = (string)conflict["key"]!,
                part = (string)conflict["part"]!,
                source = (string)conflict["source"]!,
                seen = (string)conflict["seen"]!,
                keep,
            }
        );

    private static async Task<long> LibraryOf(TestServer server) =>
        (long)(await server.Get("/api/libraries"))["libraries"]![0]!["id"]!;

    private static async Task<long> Id(TestServer server, string name) =>
        (long)(await server.Rows()).First(row => (string)row!["name"]! == name)!["id"]!;

    private static async Task Edit(TestServer server, string name, string text) =>
        Assert.Empty(await server.Save(await Id(server, name), new { text }));

    private static async Task<string?> Text(TestServer server, string name) =>
        (await server.Rows()).FirstOrDefault(row => (string)row!["name"]! == name) is { } row
            ? (string?)(await server.Get($"/api/snippets/{row["id"]}"))["snippet"]!["text"]
            : null;
}
