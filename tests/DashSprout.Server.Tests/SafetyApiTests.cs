using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>Overlaps and misfires over the API, with the English list that comes with the program.</summary>
public sealed class SafetyApiTests : IDisposable
{
    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Overlaps_come_with_their_witness()
    {
        var answer = await server.Post(
            "/api/overlaps",
            new { libraries = Library(("berth", "br", "at-once", false), ("breakwater", "brk", "at-once", true)) }
        );
        var overlap = Assert.Single(answer["overlaps"]!.AsArray())!;
        Assert.Equal(
            "cut-short br brk",
            $"{overlap["kind"]} {overlap["winner"]!["trigger"]} {overlap["loser"]!["trigger"]}"
        );
        Assert.Equal(
            """["b","r","k"] berthk""",
            $"{overlap["witness"]!["keys"]!.ToJsonString()} {overlap["witness"]!["text"]}"
        );
    }

    /// <summary>
    /// Facts of the trade (common practice): th at once is useless; for and far annoy; three consonants never go off by
    /// accident; a whole word does, with its first letter doubled or a sign in front or behind it does not.
    /// </summary>
    [Theory]
    [InlineData("th", "at-once", "unusable")]
    [InlineData("for", "closing-key", "unusable")]
    [InlineData("far", "closing-key", "nagging")]
    [InlineData("bkf", "closing-key", "quiet")]
    [InlineData("office", "closing-key", "nagging")]
    [InlineData("ooffice", "closing-key", "quiet")]
    [InlineData(";office", "at-once", "quiet")]
    [InlineData("office;", "at-once", "quiet")]
    public async Task Grades_of_well_known_codes(string text, string timing, string grade)
    {
        var answer = await server.Post("/api/misfires", new { libraries = Library(("x", text, timing, true)) });
        Assert.Equal(grade, (string?)answer["triggers"]![0]!["grade"]);
    }

    [Fact]
    public async Task A_text_is_replayed()
    {
        var answer = await server.Post(
            "/api/misfires",
            new { libraries = Library(("x", "office", "closing-key", true)), text = "The office is shut. Office!" }
        );
        Assert.Equal("4 20", string.Join(' ', answer["places"]!.AsArray().Select(place => place!["offset"])));
        Assert.Equal(5, (int)answer["textWords"]!);
        Assert.Null(
            (await server.Post("/api/misfires", new { libraries = Library(("x", "office", "closing-key", true)) }))[
                "places"
            ]
        );
    }

    [Fact]
    public async Task The_board_follows_what_is_saved_and_keeps_what_is_ignored()
    {
        await server.Post(
            "/api/library-file",
            new
            {
                format = "dash-sprout-library",
                version = 1,
                libraries = Library(("berth", "br", "at-once", false), ("breakwater", "brk", "at-once", true)),
            }
        );
        var board = await Ready();
        var overlap = Assert.Single(board["overlaps"]!.AsArray())!;
        Assert.Equal("cut-short", (string?)overlap["overlap"]!["kind"]);
        Assert.Equal("br unusable", $"{board["misfires"]![0]!["trigger"]} {board["misfires"]![0]!["grade"]}");

        await server.Put(
            "/api/safety/ignored",
            new
            {
                kind = "cut-short",
                winnerSnippetId = (long)overlap["overlap"]!["winner"]!["snippetId"]!,
                winnerTrigger = "br",
                loserSnippetId = (long)overlap["overlap"]!["loser"]!["snippetId"]!,
                loserTrigger = "brk",
                ignored = true,
            }
        );
        Assert.True((bool)(await Ready())["overlaps"]![0]!["ignored"]!);

        var id = (long)overlap["overlap"]!["winner"]!["snippetId"]!;
        Assert.Empty(
            await server.Save(
                id,
                new
                {
                    triggers = new object[]
                    {
                        new
                        {
                            kind = "abbreviation",
                            text = ";br",
                            timing = "at-once",
                            leftEdge = "word",
                        },
                    },
                }
            )
        );
        board = await Ready();
        Assert.Empty(board["overlaps"]!.AsArray());
        Assert.Empty(board["misfires"]!.AsArray());

        Task<JsonNode> Ready() => server.GetWhen("/api/safety", answer => (string?)answer["state"] == "ready");
    }

    [Fact]
    public async Task A_draft_is_judged_before_it_is_saved()
    {
        await server.Post(
            "/api/library-file",
            new
            {
                format = "dash-sprout-library",
                version = 1,
                libraries = Library(("fee", "fee", "closing-key", true)),
            }
        );
        var answer = await server.Post(
            "/api/safety/draft",
            new
            {
                snippet = new
                {
                    name = "New",
                    text = "X",
                    triggers = new object[]
                    {
                        new { kind = "abbreviation", text = "the" },
                        new { kind = "abbreviation", text = "fee" },
                        new { kind = "abbreviation", text = "two words" },
                        new { kind = "hotkey", text = "Ctrl+Alt+Q" },
                        new { kind = "pattern", text = "b(?=r)" },
                    },
                },
            }
        );
        var triggers = answer["triggers"]!.AsArray();
        Assert.Equal("unusable", (string?)triggers[0]!["forecast"]!["grade"]);
        Assert.Equal("X ", (string?)triggers[0]!["tries"]![0]!["text"]);
        Assert.Equal(
            "same fee",
            $"{triggers[1]!["overlaps"]![0]!["kind"]} {triggers[1]!["overlaps"]![0]!["winner"]!["snippet"]}"
        );
        Assert.StartsWith("White space at place 4", (string?)triggers[2]!["error"], StringComparison.Ordinal);
        Assert.Equal("German layout: AltGr types @", (string?)triggers[3]!["overlaps"]![0]!["winner"]!["snippet"]);
        Assert.Contains("“(?=” at place 2", (string?)triggers[4]!["error"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_replay_is_grouped_and_what_is_no_text_is_refused()
    {
        await server.Post(
            "/api/library-file",
            new
            {
                format = "dash-sprout-library",
                version = 1,
                libraries = Library(("x", "office", "closing-key", true)),
            }
        );
        var answer = await server.Post("/api/safety/replay", new { text = "The office is shut.\r\nMy office!" });
        var group = Assert.Single(answer["groups"]!.AsArray())!;
        Assert.Equal("2 3333.33", $"{group["count"]} {group["per10kWords"]}");
        Assert.Equal(
            ["The |office |is shut.\nMy office!", "The office is shut.\nMy |office!|"],
            group["places"]!.AsArray().Select(place => $"{place!["before"]}|{place["match"]}|{place["after"]}")
        );
        Assert.Contains(
            "This is no text",
            await server.Refused("/api/safety/replay", new { text = "PNG\0\u0001" }, "text"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_text_of_more_than_five_megabytes_is_refused() =>
        Assert.Contains(
            "longer than 5 MB",
            await server.Refused("/api/safety/replay", new { text = new string('x', 5 * 1024 * 1024 + 1) }, "text"),
            StringComparison.Ordinal
        );

    [Fact]
    public async Task Work_can_be_stopped_and_taken_up_again()
    {
        await server.Post(
            "/api/library-file",
            new
            {
                format = "dash-sprout-library",
                version = 1,
                libraries = Library(("x", "office", "closing-key", true)),
            }
        );
        var (_, stopped) = await server.Send(HttpMethod.Delete, "/api/safety/work");
        Assert.Contains((string?)stopped!["state"], (string[])["stopped", "ready", "working"]);
        await server.Post("/api/safety/work", new { });
        var board = await server.GetWhen("/api/safety", answer => (string?)answer["state"] == "ready");
        Assert.Equal("office", (string?)board["misfires"]![0]!["trigger"]);
    }

    [Fact]
    public async Task Suggestions_replace_one_trigger_and_heed_the_others()
    {
        var library = await server.AddLibrary("A");
        await server.AddSnippet(library, TestServer.Snippet("Harbour office", "X", TestServer.Abbreviation("ho")));
        var taken = await server.Post("/api/safety/suggestions", new { name = "Harbour office" });
        Assert.Equal(1, (int)taken.AsArray().Single(suggestion => (string?)suggestion!["text"] == "ho")!["overlaps"]!);
        Assert.True(taken.AsArray().Count >= 6);
    }

    [Fact]
    public async Task A_word_list_with_broken_lines_names_them_and_the_rest_can_be_taken()
    {
        const string csv = "word,count\nhafen,120\nliegeplatz,x\nzwei worte,3\nboot,60\n\nallein\nboot,20\n";
        var refused = await server.Refused("/api/word-lists", new { name = "Hafen", csv }, "csv[3]");
        Assert.Equal("Line 3: “x” is no count. Write a number above 0.", refused);
        var lists = await server.Post(
            "/api/word-lists",
            new
            {
                name = "Hafen",
                csv,
                takeTheRest = true,
            }
        );
        Assert.Equal("Hafen 2", $"{lists["lists"]![1]!["name"]} {lists["lists"]![1]!["words"]}");
        Assert.Equal((long)lists["lists"]![1]!["id"]!, (long)lists["chosen"]!);
        // 80 of 200 words.
        var answer = await server.Post(
            "/api/safety/draft",
            new
            {
                snippet = new
                {
                    name = "x",
                    text = "x",
                    triggers = new[] { new { kind = "abbreviation", text = "boot" } },
                },
            }
        );
        Assert.Equal(4_000, (double)answer["triggers"]![0]!["forecast"]!["per10kWords"]!);
    }

    private static JsonNode Library(params (string Name, string Text, string Timing, bool GivesWay)[] snippets) =>
        new JsonArray(
            new JsonObject
            {
                ["name"] = "A",
                ["snippets"] = new JsonArray([
                    .. snippets.Select(snippet => new JsonObject
                    {
                        ["name"] = snippet.Name,
                        ["text"] = snippet.Name,
                        ["triggers"] = new JsonArray(
                            new JsonObject
                            {
                                ["kind"] = "abbreviation",
                                ["text"] = snippet.Text,
                                ["timing"] = snippet.Timing,
                                ["givesWay"] = snippet.GivesWay,
                            }
                        ),
                    }),
                ]),
            }
        );
}
