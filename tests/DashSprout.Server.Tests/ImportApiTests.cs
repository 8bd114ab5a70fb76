using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>
/// Files are looked at before they are brought in, and many things are done at once, through the API.
/// </summary>
public sealed class ImportApiTests : IDisposable
{
    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    private async Task<JsonNode> Open(string name, string text, Encoding? encoding = null)
    {
        using var content = new ByteArrayContent((encoding ?? Encoding.UTF8).GetBytes(text))
        {
            Headers = { ContentType = new("application/octet-stream") },
        };
        using var response = await server.Client.PostAsync(
            new Uri($"/api/imports?name={Uri.EscapeDataString(name)}", UriKind.Relative),
            content
        );
        Assert.Equal(HttpStatusCode.OK, response.StatusCode);
        return await Seen((string)JsonNode.Parse(await response.Content.ReadAsStringAsync())!["id"]!);
    }

    private Task<JsonNode> Seen(string id) =>
        server.GetWhen($"/api/imports/{id}", answer => (string)answer["state"]! is not "working");

    private async Task<string[]> Names() => [.. (
                await server.Post(
                    "/api/libraries/rows",
                    new
                    {
                        view = new { closed = Array.Empty<long>() },
                        from = 0,
                        count = 400,
                    }
                )
            )["rows"]!.AsArray().Select(row => (string)row!["name"]!)];

    [Fact]
    public async Task A_table_with_mistakes_is_mended_by_its_columns_brought_in_and_taken_out_again()
    {
        await server.AddLibrary("Berths");
        var looked = await Open("berths.csv", "what;how\nkr;Kind regards\nbbc x;Your berth\n");
        Assert.Equal("ready", (string)looked["state"]!);
        Assert.Equal(
            (";", true),
            ((string)looked["options"]!["separator"]!, looked["preview"]!["adds"]!.GetValue<int>() >= 0)
        );
        var id = (string)looked["id"]!;
        // Its heads name nothing, so the columns are told by hand.
        await server.Put(
            $"/api/imports/{id}",
            new
            {
                kind = "table",
                heading = true,
                columns = new[] { "trigger", "text" },
            }
        );
        looked = await Seen(id);
        Assert.Equal(
            (1, 1),
            (looked["preview"]!["adds"]!.GetValue<int>(), looked["preview"]!["wrong"]!.GetValue<int>())
        );
        var wrong = looked["preview"]!["lines"]![0]!;
        Assert.Equal((3, "wrong"), (wrong["line"]!.GetValue<int>(), (string)wrong["fate"]!));
        Assert.Contains("White space at place 4", (string)wrong["problem"]!, StringComparison.Ordinal);

        Assert.Equal(1, (await server.Post($"/api/imports/{id}/bring", new { }))["snippets"]!.GetValue<int>());
        Assert.Equal(["Berths", "Kind regards"], await Names());
        await server.Post("/api/changes/undo", new { });
        Assert.Equal(["Berths"], await Names());
        Assert.Equal(HttpStatusCode.Conflict, (await server.Send(HttpMethod.Get, $"/api/imports/{id}")).Status);
    }

    [Fact]
    public async Task What_is_here_already_is_changed_numbered_or_left_and_the_overlaps_are_told()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, TestServer.Snippet("Regards", "Kind regards", TestServer.Abbreviation("kr")));
        const string Text = "name,code,text\nRegards,kr,Best regards\nOther,the,Thé\n";
        var looked = await Open("x.csv", Text, Encoding.Latin1);
        Assert.Equal("windows-1252", (string)looked["options"]!["encoding"]!);
        var preview = looked["preview"]!;
        Assert.Equal(
            (1, 1, 0),
            (
                preview["adds"]!.GetValue<int>(),
                preview["changes"]!.GetValue<int>(),
                preview["overlaps"]!.GetValue<int>()
            )
        );
        Assert.Equal("the", (string)preview["misfires"]![0]!["trigger"]!);
        await server.Put($"/api/imports/{(string)looked["id"]!}", new { sameName = "number" });
        preview = (await Seen((string)looked["id"]!))["preview"]!;
        Assert.Equal((2, 1), (preview["adds"]!.GetValue<int>(), preview["overlaps"]!.GetValue<int>()));
        await server.Put($"/api/imports/{(string)looked["id"]!}", new { sameName = "leave" });
        preview = (await Seen((string)looked["id"]!))["preview"]!;
        Assert.Equal((1, 1), (preview["adds"]!.GetValue<int>(), preview["left"]!.GetValue<int>()));
    }

    [Theory]
    [InlineData("a.json", "{\"format\":\"dash-sprout-library\",\"version\":7,\"libraries\":[]}", "version 7")]
    [InlineData("a.json", "{\"format\":", "not well-formed JSON")]
    [InlineData(
        "a.yaml",
        "format: dash-sprout-library\nversion: 1\nlibraries:\n- name: A\n  snippets:\n  - nam: x\n",
        "“nam” is not known here"
    )]
    [InlineData("a.yaml", "a: [1, 2", "not well-formed YAML (line")]
    [InlineData("a.yaml", "a:\n- : false\n", "A value is missing before this place.")]
    [InlineData("a.vcf", "hello", "BEGIN:VCARD is missing")]
    [InlineData("a.csv", "\n\n", "nothing in the file")]
    [InlineData("a.csv", "a\0b", "zero bytes")]
    public async Task A_file_that_cannot_be_read_says_why_and_changes_nothing(string name, string text, string why)
    {
        var looked = await Open(name, text);
        Assert.Equal("failed", (string)looked["state"]!);
        Assert.Contains(why, (string)looked["problem"]!, StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await server.Send(HttpMethod.Post, $"/api/imports/{(string)looked["id"]!}/bring", new { })).Status
        );
        Assert.Empty(await Names());
    }

    [Fact]
    public async Task Without_a_library_one_is_made_for_what_comes_in()
    {
        var looked = await Open("list.txt", "brb = be right back\nomw = on my way\nnothing here\n");
        Assert.Equal(
            ("list", 2, 1),
            (
                (string)looked["options"]!["kind"]!,
                looked["preview"]!["adds"]!.GetValue<int>(),
                looked["preview"]!["wrong"]!.GetValue<int>()
            )
        );
        await server.Post($"/api/imports/{(string)looked["id"]!}/bring", new { });
        Assert.Equal(["My snippets", "be right back", "on my way"], await Names());
        await server.Post("/api/changes/undo", new { });
        Assert.Empty(await Names());
    }

    [Theory]
    [InlineData("json")]
    [InlineData("yaml")]
    [InlineData("csv")]
    public async Task What_went_out_comes_back_the_same(string format)
    {
        using var demo = new TestServer(demo: true);
        var address = new Uri($"/api/library-file?format={format}", UriKind.Relative);
        var file = await demo.Client.GetStringAsync(address);
        var looked = await Open($"all.{format}", file);
        Assert.Null(looked["problem"]);
        await server.Post($"/api/imports/{(string)looked["id"]!}/bring", new { });
        var plain = new Uri("/api/library-file", UriKind.Relative);
        Assert.Equal(await demo.Client.GetStringAsync(plain), await server.Client.GetStringAsync(plain));
        // The same file once more changes nothing, also when its snippets stand at other places by now.
        var snapshot = (await server.Get("/api/libraries"))["libraries"]![0]!;
        await server.Post(
            "/api/items/"
                + (long)
                    (await server.Rows()).First(row =>
                        (string)row!["kind"]! == "snippet" && (long)row["libraryId"]! == (long)snapshot["id"]!
                    )!["id"]!
                + "/shift",
            new { up = false }
        );
        var again = await Open($"all.{format}", file);
        Assert.Contains("already", (string)again["problem"]!, StringComparison.Ordinal);
        await server.Put($"/api/imports/{(string)again["id"]!}", new { replace = true });
        var preview = (await Seen((string)again["id"]!))["preview"]!;
        Assert.Equal(
            (0, 0, 0),
            (preview["adds"]!.GetValue<int>(), preview["changes"]!.GetValue<int>(), preview["gone"]!.GetValue<int>())
        );
    }

    [Fact]
    public async Task Very_many_records_are_looked_at_and_brought_in_as_one_change()
    {
        var text = new StringBuilder("code,text\n");
        for (var at = 0; at < 10_000; at++)
            text.Append(System.Globalization.CultureInfo.InvariantCulture, $";q{at},Text number {at}\n");
        var looked = await Open("many.csv", text.ToString());
        Assert.Equal(10_000, looked["preview"]!["adds"]!.GetValue<int>());
        Assert.Equal(
            10_000,
            (await server.Post($"/api/imports/{(string)looked["id"]!}/bring", new { }))["snippets"]!.GetValue<int>()
        );
        var rows = await server.Post(
            "/api/libraries/rows",
            new
            {
                view = new { closed = Array.Empty<long>(), filter = "\"number 777\"" },
                from = 0,
                count = 5,
            }
        );
        Assert.Equal(11, rows["snippets"]!.GetValue<int>());
        await server.Post("/api/changes/undo", new { });
        Assert.Empty(await Names());
    }

    [Fact]
    public async Task Several_texts_come_in_with_their_folders()
    {
        await server.AddLibrary("Berths");
        var opened = await server.Post(
            "/api/imports/documents",
            new
            {
                files = new[]
                {
                    new { name = "Letters/Regards.md", text = "Kind **regards**" },
                    new { name = "Hello.html", text = "<p>Hello</p>" },
                },
            }
        );
        var looked = await Seen((string)opened["id"]!);
        Assert.Equal(2, looked["preview"]!["adds"]!.GetValue<int>());
        await server.Post($"/api/imports/{(string)opened["id"]!}/bring", new { });
        Assert.Equal(["Berths", "Letters", "Regards", "Hello"], await Names());
        Assert.Contains(
            "at least one",
            await server.Refused("/api/imports/documents", new { files = Array.Empty<object>() }, "files"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Many_rows_are_chosen_by_filter_and_changed_at_once()
    {
        var library = await server.AddLibrary("Berths");
        for (var at = 0; at < 12; at++)
            await server.AddSnippet(
                library,
                TestServer.Snippet($"Fee {at}", $"The fee is {at}", TestServer.Abbreviation($";f{at}"))
            );
        await server.AddSnippet(library, TestServer.Snippet("Other", "else", TestServer.Abbreviation(";o")));
        var view = new
        {
            closed = Array.Empty<long>(),
            filter = "fee",
            sort = "name",
            descending = true,
        };
        var rows = await server.Post(
            "/api/libraries/rows",
            new
            {
                view,
                from = 0,
                count = 3,
            }
        );
        Assert.Equal((12, "Berths"), (rows["total"]!.GetValue<int>(), (string)rows["rows"]![0]!["where"]!));
        Assert.Equal(["Fee 9", "Fee 8", "Fee 7"], rows["rows"]!.AsArray().Select(row => (string)row!["name"]!));
        var ids = (
            await server.Post(
                "/api/libraries/rows/ids",
                new
                {
                    view,
                    from = 0,
                    to = 11,
                    onlySnippets = true,
                }
            )
        ).AsArray().Select(id => id!.GetValue<long>()).ToArray();
        Assert.Equal(12, ids.Length);
        var done = await server.Post(
            "/api/bulk/rules",
            new
            {
                ids,
                timing = "at-once",
                moreTags = new[] { "fees" },
            }
        );
        Assert.Equal("Changed 12 snippets", (string)done["what"]!);
        Assert.Equal(
            12,
            (
                await server.Post(
                    "/api/libraries/rows",
                    new
                    {
                        view = new { closed = Array.Empty<long>(), filter = "timing:at-once tag:fees" },
                        from = 0,
                        count = 1,
                    }
                )
            )["snippets"]!.GetValue<int>()
        );
        Assert.Equal(["fees"], (await server.Get("/api/tags")).AsArray().Select(tag => (string)tag!));
        var part = await server.Post("/api/library-file/part", new { ids = ids[..2] });
        Assert.Equal(2, part["libraries"]![0]!["snippets"]!.AsArray().Count);
        await server.Post("/api/changes/undo", new { });
        Assert.Empty((await server.Get("/api/tags")).AsArray());
        var refused = await server.Refused("/api/bulk/rules", new { ids, moreTags = new[] { "a,b" } }, "moreTags[0]");
        Assert.Contains("holds a comma", refused, StringComparison.Ordinal);
    }
}
