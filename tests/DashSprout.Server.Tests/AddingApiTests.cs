using System.Net;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>
/// Adding snippets quickly: new ones before they are made, lists, what a place wants of them, and the chords of the
/// program.
/// </summary>
public sealed class AddingApiTests
{
    [Fact]
    public async Task A_snippet_that_is_not_made_yet_has_its_place()
    {
        using var server = new TestServer();
        var first = await server.Get("/api/snippets/new");
        Assert.Equal((0, "My snippets"), ((int)first["id"]!, (string?)first["library"]!["name"]));
        Assert.Empty(await server.Rows());

        var folder = await server.AddFolder(await server.AddLibrary("Berths"), "Bookings");
        var beside = await server.AddSnippet(folder, Snippet("Deposit", "paid"));
        var there = await server.Get($"/api/snippets/new?parentId={beside}");
        Assert.Equal(
            (folder, "Berths", "Bookings"),
            ((long)there["parentId"]!, (string?)there["library"]!["name"], (string?)there["folders"]![0])
        );
        Assert.Equal("", (string?)there["snippet"]!["text"]);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await server.Send(HttpMethod.Get, "/api/snippets/new?parentId=77")).Status
        );
    }

    [Fact]
    public async Task A_place_says_what_new_snippets_begin_with()
    {
        using var server = new TestServer();
        var library = await server.AddLibrary("Berths");
        var folder = await server.AddFolder(library, "Corrections");
        await server.Send(
            HttpMethod.Patch,
            $"/api/libraries/{library}",
            new { defaults = new { timing = "at-once", delivery = "keystrokes" } }
        );
        await server.Send(
            HttpMethod.Patch,
            $"/api/folders/{folder}",
            new { defaults = new { @case = "mirror", closingKeys = new[] { " " } } }
        );
        var begins = await server.Get($"/api/items/{folder}/defaults");
        Assert.Equal(
            ("at-once", "mirror", "keystrokes"),
            ((string?)begins["timing"], (string?)begins["case"], (string?)begins["delivery"])
        );

        var made = (
            await server.Post(
                "/api/snippets",
                new
                {
                    parentId = folder,
                    snippet = new
                    {
                        name = "and",
                        text = "and",
                        triggers = new[] { new { kind = "abbreviation", text = "adn" } },
                    },
                }
            )
        )["snippet"]!;
        Assert.Equal("keystrokes", (string?)made["delivery"]);
        Assert.Equal(
            ("at-once", "mirror", "word"),
            (
                (string?)made["triggers"]![0]!["timing"],
                (string?)made["triggers"]![0]!["case"],
                (string?)made["triggers"]![0]!["leftEdge"]
            )
        );
        Assert.Equal("And", (string?)(await server.Rehearse("Adn"))["text"]);

        // What is said by hand stays, and an empty answer says nothing any more.
        var own = (
            await server.Post(
                "/api/snippets",
                new
                {
                    parentId = folder,
                    snippet = new
                    {
                        name = "own",
                        text = "x",
                        triggers = new[]
                        {
                            new
                            {
                                kind = "abbreviation",
                                text = "ow",
                                timing = "closing-key",
                            },
                        },
                    },
                }
            )
        )["snippet"]!;
        Assert.Equal("closing-key", (string?)own["triggers"]![0]!["timing"]);
        await server.Send(HttpMethod.Patch, $"/api/folders/{folder}", new { defaults = new { } });
        Assert.Null((string?)(await server.Get($"/api/items/{folder}/defaults"))["case"]);
        var (status, wrong) = await server.Send(
            HttpMethod.Patch,
            $"/api/folders/{folder}",
            new { defaults = new { timing = "sometimes" } }
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("“sometimes”", (string)wrong!["errors"]!["defaults.timing"]![0]!, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_folder_is_switched_off_and_on_and_keeps_it_across_a_file()
    {
        using var server = new TestServer();
        var folder = await server.AddFolder(await server.AddLibrary("Berths"), "Bookings");
        var id = await server.AddSnippet(folder, Snippet("Deposit", "paid", Abbreviation("dep")));
        await server.Send(
            HttpMethod.Patch,
            $"/api/folders/{folder}",
            new { enabled = false, defaults = new { timing = "at-once" } }
        );
        Assert.Equal("dep ", (string?)(await server.Rehearse("dep "))["text"]);
        Assert.Equal([true, false, true], (await server.Rows()).Select(row => (bool)row!["enabled"]!));
        Assert.Equal([true, false, false], (await server.Rows()).Select(row => (bool)row!["active"]!));
        Assert.Equal("Bookings", (string?)(await server.Get($"/api/snippets/{id}"))["offFolder"]);

        var file = (await server.Get("/api/library-file")).ToJsonString();
        using var other = new TestServer();
        await other.Post("/api/library-file", file);
        Assert.Equal("dep ", (string?)(await other.Rehearse("dep "))["text"]);
        Assert.Equal(
            "at-once",
            (string?)(await other.Get("/api/libraries"))["libraries"]![0]!["folders"]![0]!["defaults"]!["timing"]
        );

        await server.Post("/api/changes/undo", new { });
        Assert.Equal("paid ", (string?)(await server.Rehearse("dep "))["text"]);
    }

    [Fact]
    public async Task A_list_is_looked_at_and_then_added_as_a_whole()
    {
        using var server = new TestServer();
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Deposit", "paid", Abbreviation("dep")));
        var lines = (
            await server.Post(
                "/api/lists/preview",
                new { text = "dep\tdeposit\nomw\ton my way\nomw\ttwice\nno text\na\u0007b\tbell" }
            )
        ).AsArray();
        Assert.Equal(["dep", "omw", "omw", "", "a\u0007b"], lines.Select(line => (string?)line!["code"]));
        Assert.Contains("“Deposit” has this", (string?)lines[0]!["caution"], StringComparison.Ordinal);
        Assert.Null((string?)lines[1]!["caution"]);
        Assert.Contains("Line 2 has the same", (string?)lines[2]!["caution"], StringComparison.Ordinal);
        Assert.NotNull((string?)lines[3]!["problem"]);
        Assert.Contains("control character", (string?)lines[4]!["problem"], StringComparison.Ordinal);

        object New(string code, string text) =>
            new
            {
                name = text,
                text,
                triggers = new[] { new { kind = "abbreviation", text = code } },
            };
        Assert.Equal(
            2,
            (int)
                (
                    await server.Post(
                        "/api/snippets/list",
                        new { parentId = library, snippets = new[] { New("omw", "on my way"), New("br", "on my way") } }
                    )
                )["count"]!
        );
        Assert.Equal("on my way on my way ", (string?)(await server.Rehearse("omw br "))["text"]);
        Assert.Contains(await server.Rows(), row => (string?)row!["name"] == "on my way 2");
        Assert.Contains(
            "White space",
            await server.Refused(
                "/api/snippets/list",
                new { parentId = library, snippets = new[] { New("x", "good"), New("b c", "bad") } },
                "snippets[1].triggers[0].text"
            ),
            StringComparison.Ordinal
        );
        Assert.DoesNotContain(await server.Rows(), row => (string?)row!["name"] == "good");
        await server.Post("/api/changes/undo", new { });
        Assert.Equal("omw br ", (string?)(await server.Rehearse("omw br "))["text"]);
    }

    [Fact]
    public async Task The_plain_twin_is_kept_saved_by_itself_and_goes_where_there_is_no_formatting()
    {
        using var server = new TestServer();
        var id = await server.AddSnippet(
            await server.AddLibrary("Berths"),
            Snippet("Deposit", "paid", Abbreviation("dep"))
        );
        Assert.Empty(
            await server.Save(
                id,
                new
                {
                    body = "<p><strong>paid</strong></p>",
                    twin = new { text = "PAID" },
                    links = "words-only",
                }
            )
        );
        Assert.Equal("PAID ", (string?)(await server.Rehearse("dep "))["text"]);
        Assert.Equal("paid ", (string?)(await server.Rehearse("dep ", field: "rich"))["text"]);
        var refused = Assert.Single(
            await server.Save(
                id,
                new
                {
                    twin = new { body = "<p><slot name=\"snippet\" data-ref=\"Nowhere/Nothing\"></slot></p>" },
                    note = "kept",
                }
            )
        );
        Assert.Equal("twin", (string?)refused!["part"]);
        var kept = (await server.Get($"/api/snippets/{id}"))["snippet"]!;
        Assert.Equal(
            ("PAID", "kept", "words-only"),
            ((string?)kept["twin"]!["text"], (string?)kept["note"], (string?)kept["links"])
        );
        Assert.Empty(await server.Save(id, new { twin = (object?)null }));
        Assert.Equal("paid ", (string?)(await server.Rehearse("dep "))["text"]);
        var preview = await server.Post("/api/preview", new { body = "<p><em>a</em></p>", twin = new { text = "b" } });
        Assert.Equal(("<p><em>a</em></p>", "b"), ((string?)preview["rich"], (string?)preview["plain"]));
    }

    [Fact]
    public async Task A_new_snippet_takes_its_name_from_its_text_and_a_free_one()
    {
        using var server = new TestServer();
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("on my way", "x"));
        var id = await server.AddSnippet(library, Snippet("new", ""));
        var edit = new
        {
            before = new { name = "new", text = "" },
            after = new { name = "on my way", text = "on my way" },
            freeName = true,
        };
        var (_, saved) = await server.Send(HttpMethod.Patch, $"/api/snippets/{id}", edit);
        Assert.Empty(saved!["unsaved"]!.AsArray());
        Assert.Equal("on my way 2", (string?)saved["now"]!["snippet"]!["name"]);
    }

    [Fact]
    public async Task A_pattern_is_tried_with_what_somebody_types()
    {
        using var server = new TestServer();
        var draft = new
        {
            snippet = new
            {
                name = "d",
                body = "<p>Berth <slot name=\"match\" data-group=\"1\"></slot></p>",
                triggers = new object[] { new { kind = "pattern", text = "b(\\d+)" } },
            },
            typed = new[] { "b12 " },
        };
        var tried = (await server.Post("/api/safety/draft", draft))["triggers"]![0]!["tries"]![0]!;
        Assert.Equal((true, "Berth 12 "), ((bool)tried["wentOff"]!, (string?)tried["text"]));
        Assert.Empty(
            (await server.Post("/api/safety/draft", new { draft.snippet }))["triggers"]![0]!["tries"]!.AsArray()
        );
    }

    [Fact]
    public async Task The_chords_of_the_program_are_listed_with_who_else_answers_to_them()
    {
        using var server = new TestServer();
        await server.AddSnippet(
            await server.AddLibrary("Berths"),
            Snippet("Log", "x", new { kind = "hotkey", text = "Ctrl+Alt+K" })
        );
        var settings = await server.Get("/api/settings/typing");
        settings["chords"]!["gather"] = "Alt+Ctrl+k";
        settings["chords"]!["help"] = "F2";
        settings["chords"]!["why"] = "Ctrl+Alt+L";
        settings = await server.Put("/api/settings/typing", settings);
        Assert.Equal("Ctrl+Alt+K", (string?)settings["chords"]!["gather"]);
        var chords = (await server.Get("/api/chords"))
            .AsArray()
            .ToDictionary(chord => (string)chord!["command"]!, chord => chord!);
        Assert.Equal(8, chords.Count);
        Assert.Equal("The snippet “Log”", (string?)chords["gather"]["owner"]);
        Assert.Contains("Desktops", (string?)chords["why"]["owner"], StringComparison.Ordinal);
        Assert.Null((string?)chords["finder"]["owner"]);
        Assert.Equal(("F2", "F1"), ((string?)chords["help"]["chord"], (string?)chords["help"]["usual"]));

        settings["chords"]!["proofLine"] = "Ctrl+Alt+K";
        var (status, answer) = await server.Send(HttpMethod.Put, "/api/settings/typing", settings);
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains(
            "“Make a snippet of what is selected or copied” has it",
            (string)answer!["errors"]!["chords.proofLine"]![0]!,
            StringComparison.Ordinal
        );
        settings["chords"]!["proofLine"] = "F3x";
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await server.Send(HttpMethod.Put, "/api/settings/typing", settings)).Status
        );
    }
}
