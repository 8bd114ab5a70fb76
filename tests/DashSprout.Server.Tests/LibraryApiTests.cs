using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>The API against a real SQLite file.</summary>
public sealed class LibraryApiTests : IDisposable
{
    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task A_saved_snippet_goes_off_at_once()
    {
        var library = await server.AddLibrary("Berths");
        var id = await server.AddSnippet(
            library,
            Snippet("Confirmed", "Your berth is confirmed.", Abbreviation(";bc", "at-once"))
        );
        Assert.Equal("Your berth is confirmed.", (string?)(await server.Rehearse(";bc"))["text"]);

        Assert.Empty(
            await server.Save(id, new { text = "Come in.", triggers = new[] { Abbreviation(";bd", "at-once") } })
        );
        Assert.Equal(";bc Come in.", (string?)(await server.Rehearse(";bc ;bd"))["text"]);
    }

    [Fact]
    public async Task Switching_a_library_or_snippet_off_and_on()
    {
        var library = await server.AddLibrary("Berths");
        var id = await server.AddSnippet(library, Snippet("a", "X", Abbreviation("ab")));
        await server.Send(HttpMethod.Patch, $"/api/libraries/{library}", new { enabled = false });
        Assert.Equal("ab ", (string?)(await server.Rehearse("ab "))["text"]);
        await server.Send(HttpMethod.Patch, $"/api/libraries/{library}", new { enabled = true });
        Assert.Empty(await server.Save(id, new { enabled = false }));
        Assert.Equal("ab ", (string?)(await server.Rehearse("ab "))["text"]);
    }

    [Fact]
    public async Task A_library_decides_its_closing_keys_and_capitals()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("a", "berth", Abbreviation("ab")));
        await server.Send(
            HttpMethod.Patch,
            $"/api/libraries/{library}",
            new { ownClosingKeys = new[] { "+" }, capsLockShouts = true }
        );
        Assert.Equal("ab berth+", (string?)(await server.Rehearse("ab ab+"))["text"]);
        var shouted = await server.Post("/api/rehearsal", new { typed = "AB+", capsLock = true });
        Assert.Equal("BERTH+", (string?)shouted["text"]);
        await server.Send(
            HttpMethod.Patch,
            $"/api/libraries/{library}",
            new { ownClosingKeys = Array.Empty<string>() }
        );
        Assert.Equal("berth ", (string?)(await server.Rehearse("ab "))["text"]);
    }

    [Fact]
    public async Task The_order_of_libraries_folders_and_snippets_decides()
    {
        var upper = await server.AddLibrary("Upper");
        var lower = await server.AddLibrary("Lower");
        await server.AddSnippet(upper, Snippet("one", "upper", Abbreviation("ab")));
        var second = await server.AddSnippet(upper, Snippet("two", "second", Abbreviation("ab")));
        await server.AddSnippet(lower, Snippet("one", "lower", Abbreviation("ab")));
        Assert.Equal("upper ", (string?)(await server.Rehearse("ab "))["text"]);

        var first = (long)(await server.Rows())[1]!["id"]!;
        await server.Post($"/api/items/{second}/move", new { parentId = upper, before = first });
        Assert.Equal("second ", (string?)(await server.Rehearse("ab "))["text"]);

        await server.Post($"/api/items/{lower}/move", new { before = upper });
        Assert.Equal("lower ", (string?)(await server.Rehearse("ab "))["text"]);

        var folder = await server.AddFolder(lower, "F");
        await server.Post($"/api/items/{second}/move", new { parentId = folder });
        Assert.Equal("second ", (string?)(await server.Rehearse("ab "))["text"]);
        var elsewhere = await server.AddLibrary("Elsewhere");
        await server.Post($"/api/items/{folder}/move", new { parentId = elsewhere });
        Assert.Equal(["Elsewhere", "F", "two"], (await server.Rows()).TakeLast(3).Select(row => (string?)row!["name"]));
    }

    [Fact]
    public async Task What_is_deleted_goes_quiet_and_can_be_brought_back()
    {
        var library = await server.AddLibrary("Berths");
        var folder = await server.AddFolder(library, "F");
        await server.AddSnippet(folder, Snippet("a", "X", Abbreviation("ab")));
        foreach (var id in (long[])[folder, library])
        {
            Assert.Equal(HttpStatusCode.NoContent, (await server.Send(HttpMethod.Delete, $"/api/items/{id}")).Status);
            Assert.Equal("ab ", (string?)(await server.Rehearse("ab "))["text"]);
            Assert.Equal(HttpStatusCode.NotFound, (await server.Send(HttpMethod.Delete, $"/api/items/{id}")).Status);
            await server.Post($"/api/bin/{id}/restore", new { });
            Assert.Equal("X ", (string?)(await server.Rehearse("ab "))["text"]);
        }
    }

    [Fact]
    public async Task Only_a_part_that_changed_on_both_sides_is_a_conflict()
    {
        var library = await server.AddLibrary("Berths");
        var id = await server.AddSnippet(library, Snippet("a", "first", Abbreviation("ab")));
        var seen = (await server.Get($"/api/snippets/{id}"))["snippet"]!;
        Assert.Empty(await server.Save(id, new { text = "second", note = "theirs" }));

        var mine = seen.DeepClone();
        (mine["text"], mine["name"]) = ("third", "b");
        var answer = (
            await server.Send(HttpMethod.Patch, $"/api/snippets/{id}", new { before = seen, after = mine })
        ).Body!;
        var unsaved = Assert.Single(answer["unsaved"]!.AsArray())!;
        Assert.Equal(("body", true), ((string?)unsaved["part"], (bool)unsaved["conflict"]!));
        Assert.Equal(
            ("b", "second", "theirs"),
            (
                (string?)answer["now"]!["snippet"]!["name"],
                (string?)answer["now"]!["snippet"]!["text"],
                (string?)answer["now"]!["snippet"]!["note"]
            )
        );

        // The same change on both sides is none.
        var same = seen.DeepClone();
        same["note"] = "theirs";
        Assert.Empty(
            (await server.Send(HttpMethod.Patch, $"/api/snippets/{id}", new { before = seen, after = same })).Body![
                "unsaved"
            ]!.AsArray()
        );
    }

    public static TheoryData<object, string, string> BadParts =>
        new()
        {
            { new { triggers = new object[] { Abbreviation("") } }, "triggers[0]", "empty" },
            { new { triggers = new object[] { Abbreviation("a b") } }, "triggers[0]", "White space" },
            {
                new
                {
                    triggers = new object[]
                    {
                        new
                        {
                            kind = "abbreviation",
                            text = "ab",
                            timing = "soon",
                        },
                    },
                },
                "triggers[0]",
                "at-once, closing-key"
            },
            {
                new
                {
                    triggers = new object[]
                    {
                        new
                        {
                            kind = "abbreviation",
                            text = "ab",
                            closingKeys = new[] { "Escape" },
                        },
                    },
                },
                "triggers[0]",
                "cannot close a word"
            },
            {
                new { triggers = new object[] { Abbreviation("a" + new string('\u0301', 60_000)) } },
                "triggers[0]",
                "256 are allowed"
            },
            { new { name = " " }, "name", "empty" },
            { new { name = "B" }, "name", "is here already" },
            { new { name = "a" + new string('\u0301', 60_000) }, "name", "480 are allowed" },
            { new { body = "<p><output data-formula='nights *'></output></p>" }, "body", "position 9" },
            { new { note = new string('x', 4001) }, "note", "4000" },
            { new { delivery = "by-mail" }, "delivery", "keystrokes" },
        };

    /// <summary>Whatever is wrong with a part, the note beside it is saved, and the part stays as it was.</summary>
    [Theory]
    [MemberData(nameof(BadParts))]
    public async Task A_part_that_cannot_be_saved_holds_nothing_else_back(object bad, string part, string why)
    {
        var library = await server.AddLibrary("Berths");
        var id = await server.AddSnippet(library, Snippet("a", "before", Abbreviation("ab")));
        await server.AddSnippet(library, Snippet("b", "other"));
        var before = (await server.Get($"/api/snippets/{id}"))["snippet"]!;
        var wanted = JsonSerializer.SerializeToNode(bad)!.AsObject();
        if (part != "note")
            wanted["note"] = "kept";
        else
            wanted["private"] = true;
        var unsaved = Assert.Single(await server.Save(id, wanted))!;
        Assert.Equal((part, false), ((string?)unsaved["part"], (bool)unsaved["conflict"]!));
        Assert.Contains(why, (string?)unsaved["why"], StringComparison.Ordinal);
        Assert.Equal("before ", (string?)(await server.Rehearse("ab "))["text"]);

        if (part != "note")
            before["note"] = "kept";
        else
            before["private"] = true;
        Assert.Equal(before.ToJsonString(), (await server.Get($"/api/snippets/{id}"))["snippet"]!.ToJsonString());
    }

    [Theory]
    [InlineData(
        """{"snippet":{"name":"a","triggers":[{"kind":"abbreviation","text":"a b"}]}}""",
        "snippet.triggers[0].text",
        "White space"
    )]
    [InlineData("""{"snippet":{"name":"A"}}""", "name", "is here already")]
    [InlineData("""{"snippet":{"name":"c","text":"x","body":"<p>y</p>"}}""", "snippet.text", "Both")]
    [InlineData("""{"snippet":{"name":"c","tetx":"x"}}""", "snippet.tetx", "not known")]
    [InlineData("""{"snippet":{"name":"c","text":7}}""", "snippet.text", "wrong kind")]
    [InlineData("""{"snippet":{"name":""", "snippet.name", "not well-formed JSON (line 1")]
    [InlineData("""{"parentId":99,"snippet":{"name":"c"}}""", "parentId", "no library or folder 99")]
    public async Task Bad_input_names_the_field_and_stores_nothing(string body, string field, string why)
    {
        await server.AddSnippet(await server.AddLibrary("Berths"), Snippet("a", "before", Abbreviation("ab")));
        Assert.Contains(why, await server.Refused("/api/snippets", body, field), StringComparison.Ordinal);
        Assert.Equal(2, (await server.Rows()).Count);
    }

    [Fact]
    public async Task New_snippets_always_find_a_place_and_a_name()
    {
        var first = await server.Post("/api/snippets", new { snippet = new { text = "one" } });
        var second = await server.Post("/api/snippets", new { snippet = new { text = "two" } });
        Assert.Equal(
            ["My snippets", "New snippet", "New snippet 2"],
            (await server.Rows()).Select(row => (string?)row!["name"])
        );
        Assert.Equal((long)first["parentId"]!, (long)second["parentId"]!);
    }

    [Fact]
    public async Task Too_large_and_unknown_places_are_refused()
    {
        var library = await server.AddLibrary("Berths");
        var (status, problem) = await server.Send(
            HttpMethod.Post,
            "/api/snippets",
            new { parentId = library, snippet = Snippet("a", new string('x', 1024 * 1024 + 1)) }
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("1024 KiB are allowed", problem!["detail"]!.ToString(), StringComparison.Ordinal);
        (status, problem) = await server.Send(
            HttpMethod.Post,
            "/api/snippets",
            new { parentId = 99, snippet = Snippet("a", "x") }
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.NotNull(problem!["errors"]!["parentId"]);
        Assert.Equal(HttpStatusCode.NotFound, (await server.Send(HttpMethod.Get, "/api/snippets/99")).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await server.Send(HttpMethod.Get, "/api/nothing-here")).Status);
    }

    [Fact]
    public async Task Importing_what_was_exported_gives_the_same_libraries()
    {
        using var demo = new TestServer(demo: true);
        var exported = await demo.Client.GetStringAsync("/api/library-file");
        var brought = await server.Post("/api/library-file", exported);
        Assert.True((int)brought["snippets"]! >= 50);
        Assert.Equal(exported, await server.Client.GetStringAsync("/api/library-file"));

        var (status, problem) = await server.Send(HttpMethod.Post, "/api/library-file", exported);
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("already", problem!["detail"]!.ToString(), StringComparison.Ordinal);
        await server.Post("/api/library-file?replace=true", exported);
        Assert.Equal(exported, await server.Client.GetStringAsync("/api/library-file"));
    }

    [Theory]
    [InlineData("""{"format":"dash-sprout-library","version":2,"libraries":[]}""", "version", "version 2")]
    [InlineData("""{"format":"something","version":1,"libraries":[]}""", "format", "not a library file")]
    [InlineData("""{"format":"dash-sprout-library","version":1}""", "libraries", "missing")]
    [InlineData(
        """
            {"format":"dash-sprout-library","version":1,"libraries":[
            {"name":"ok","snippets":[{"name":"s","text":"x","triggers":[{"kind":"abbreviation","text":"a"}]}]},
            {"name":"bad","folders":[{"name":"f","snippets":[{"name":"s","triggers":[{"kind":"abbreviation","text":"a\tb"}]}]}]}]}
            """,
        "libraries[1].folders[0].snippets[0].triggers[0].text",
        "White space"
    )]
    [InlineData(
        """{"format":"dash-sprout-library","version":1,"libraries":[{"name":"a","snippets":[{"name":"s"},{"name":"S"}]}]}""",
        "libraries[0].snippets[1].name",
        "here already"
    )]
    [InlineData("not json", "", "not well-formed JSON")]
    public async Task A_bad_library_file_is_refused_whole(string file, string field, string why)
    {
        var (status, problem) = await server.Send(HttpMethod.Post, "/api/library-file", file);
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains(why, (string?)problem!["errors"]![field]![0], StringComparison.Ordinal);
        Assert.Empty(await Tree());
    }

    [Fact]
    public async Task Bodies_are_checked_and_cleaned_when_saved()
    {
        var library = await server.AddLibrary("Berths");
        var one = await server.AddSnippet(
            library,
            System.Text.Json.JsonSerializer.SerializeToElement(
                new { name = "one", body = "<p onclick='x()'>a<script>b</script></p>" }
            )
        );
        Assert.Equal(
            "<p>a</p>",
            (string?)(await server.Send(HttpMethod.Get, $"/api/snippets/{one}")).Body!["snippet"]!["body"]
        );
        await server.AddSnippet(
            library,
            System.Text.Json.JsonSerializer.SerializeToElement(
                new { name = "two", body = "<p><slot name='snippet' data-ref='Berths/one'></slot></p>" }
            )
        );
        var refused = Assert.Single(
            await server.Save(one, new { body = "<p><slot name='snippet' data-ref='Berths/two'></slot></p>" })
        )!;
        Assert.Equal("body", (string?)refused["part"]);
        Assert.Contains("Berths/one → Berths/two → Berths/one", (string?)refused["why"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task Working_days_follow_the_settings_and_the_holiday_calendar()
    {
        const string Calendar =
            "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Gullhaven//EN\r\nBEGIN:VEVENT\r\nUID:1\r\n"
            + "DTSTAMP:20260101T000000Z\r\nDTSTART;VALUE=DATE:20260309\r\nDTEND;VALUE=DATE:20260311\r\n"
            + "RRULE:FREQ=YEARLY\r\nSUMMARY:Harbour days\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n";
        var (status, _) = await server.Send(
            HttpMethod.Put,
            "/api/settings/dates",
            new
            {
                zone = "Europe/London",
                locale = "en-GB",
                weekend = new[] { "saturday", "sunday" },
                holidays = Calendar,
            }
        );
        Assert.Equal(HttpStatusCode.OK, status);
        var preview = await server.Post(
            "/api/preview",
            new
            {
                body = "<p><time data-pattern='EEEE d MMMM' data-shift='P1D' data-days='working'></time></p>",
                now = "2026-03-06T12:00:00",
            }
        );
        Assert.Equal("Wednesday 11 March", (string?)preview["plain"]);
        preview = await server.Post(
            "/api/preview",
            new
            {
                body = "<p><time data-pattern='EEEE d MMMM' data-shift='P1D' data-days='working'></time></p>",
                now = "2027-03-08T12:00:00",
            }
        );
        Assert.Equal("Thursday 11 March", (string?)preview["plain"]);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await server.Send(
                    HttpMethod.Put,
                    "/api/settings/dates",
                    new
                    {
                        zone = "UTC",
                        locale = "en-GB",
                        weekend = Array.Empty<string>(),
                        holidays = "nonsense",
                    }
                )
            ).Status
        );
    }

    [Fact]
    public async Task Pictures_come_back_and_nothing_else_is_taken()
    {
        byte[] picture = [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, 7];
        using var content = new ByteArrayContent(picture);
        content.Headers.ContentType = new("application/octet-stream");
        using var added = await server.Client.PostAsync(new Uri("/api/media", UriKind.Relative), content);
        var id = (string?)JsonNode.Parse(await added.Content.ReadAsStringAsync())!["id"];
        using var got = await server.Client.GetAsync(new Uri($"/api/media/{id}", UriKind.Relative));
        Assert.Equal("image/png", got.Content.Headers.ContentType!.MediaType);
        Assert.Equal(picture, await got.Content.ReadAsByteArrayAsync());
        using var text = new ByteArrayContent("<svg/>"u8.ToArray());
        text.Headers.ContentType = new("application/octet-stream");
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await server.Client.PostAsync(new Uri("/api/media", UriKind.Relative), text)).StatusCode
        );
    }

    [Theory]
    [InlineData("Host", "harbour.example")]
    [InlineData("Origin", "http://harbour.example")]
    [InlineData("Origin", "null")]
    public async Task Foreign_hosts_and_origins_are_refused(string header, string value)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/libraries");
        request.Headers.TryAddWithoutValidation(header, value);
        using var response = await server.Client.SendAsync(request);
        Assert.Equal(HttpStatusCode.Forbidden, response.StatusCode);
        Assert.Equal("application/problem+json", response.Content.Headers.ContentType!.MediaType);
    }

    private async Task<JsonArray> Tree() =>
        (await server.Send(HttpMethod.Get, "/api/libraries")).Body!["libraries"]!.AsArray();

    [Fact]
    public async Task What_is_missing_or_null_in_a_request_is_named()
    {
        Assert.Equal(
            "“csv” is missing (line 1, column 16). Give it a value.",
            await server.Refused("/api/word-lists", """{"name":"List"}""", "csv")
        );
        Assert.Contains(
            "“text” is missing",
            await server.Refused("/api/markdown", """{"text":null}""", "text"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_finder_knows_names_abbreviations_content_and_slips_of_the_finger()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(
            library,
            TestServer.Snippet("Berth confirmation", "Your berth is confirmed.", TestServer.Abbreviation(";bcf"))
        );
        await server.AddSnippet(
            library,
            TestServer.Snippet("Mooring lines", "Four lines, breast ropes doubled.", TestServer.Abbreviation("mln"))
        );
        await server.AddSnippet(
            library,
            TestServer.Snippet("Deposit", "A deposit holds the berth.", TestServer.Abbreviation("dep"))
        );
        Assert.Equal(["Berth confirmation", "Deposit"], await Find("berth"));
        Assert.Equal(["Berth confirmation"], await Find("bcf"));
        Assert.Equal(["Berth confirmation"], await Find("bcnf"));
        Assert.Equal(["Mooring lines"], await Find("BREAST ropes"));
        Assert.Equal(["Mooring lines"], await Find("brest ropes dobled"));
        Assert.Equal(["Mooring lines"], await Find("ml"));
        Assert.Empty(await Find("zeppelin \"quay\""));
        Assert.Equal(3, (await Find("")).Length);

        async Task<string[]> Find(string query) =>
            [
                .. (await server.Get($"/api/finder?query={Uri.EscapeDataString(query)}"))
                    .AsArray()
                    .Select(found => (string)found!["name"]!),
            ];
    }
}
