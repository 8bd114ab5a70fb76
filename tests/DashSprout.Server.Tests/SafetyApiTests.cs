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
        var answer = await server.Post("/api/overlaps", new { libraries = Library(("berth", "br", "at-once", false), ("breakwater", "brk", "at-once", true)) });
        var overlap = Assert.Single(answer["overlaps"]!.AsArray())!;
        Assert.Equal("cut-short br brk", $"{overlap["kind"]} {overlap["winner"]!["trigger"]} {overlap["loser"]!["trigger"]}");
        Assert.Equal("""["b","r","k"] berthk""", $"{overlap["witness"]!["keys"]!.ToJsonString()} {overlap["witness"]!["text"]}");
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
        var answer = await server.Post("/api/misfires", new { libraries = Library(("x", "office", "closing-key", true)), text = "The office is shut. Office!" });
        Assert.Equal("4 20", string.Join(' ', answer["places"]!.AsArray().Select(place => place!["offset"])));
        Assert.Equal(5, (int)answer["textWords"]!);
        Assert.Null((await server.Post("/api/misfires", new { libraries = Library(("x", "office", "closing-key", true)) }))["places"]);
    }

    private static JsonNode Library(params (string Name, string Text, string Timing, bool GivesWay)[] snippets) => new JsonArray(new JsonObject
    {
        ["name"] = "A",
        ["snippets"] = new JsonArray([.. snippets.Select(snippet => new JsonObject
        {
            ["name"] = snippet.Name,
            ["text"] = snippet.Name,
            ["triggers"] = new JsonArray(new JsonObject { ["kind"] = "abbreviation", ["text"] = snippet.Text, ["timing"] = snippet.Timing, ["givesWay"] = snippet.GivesWay }),
        })]),
    });
}
