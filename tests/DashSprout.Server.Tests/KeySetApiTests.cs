using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>Closing-key sets with names.</summary>
public sealed class KeySetApiTests : IDisposable
{
    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    private static string Shown(JsonNode sets) =>
        string.Join(
            "; ",
            sets.AsArray()
                .Select(set =>
                    $"{(string)set!["name"]!}: "
                    + $"{string.Join(' ', set["keys"]!.AsArray().Select(key => (string)key! == " " ? "Space" : (string)key!))}"
                )
        );

    [Fact]
    public async Task Sets_are_added_changed_where_they_hold_renamed_and_taken_away()
    {
        Assert.StartsWith(
            "Usual: Space Tab Enter . ,",
            Shown(await server.Get("/api/key-sets")),
            StringComparison.Ordinal
        );
        var sets = await server.Put("/api/key-sets/Radio", new { name = "Radio", keys = new[] { " ", "Enter" } });
        Assert.EndsWith("Radio: Space Enter", Shown(sets), StringComparison.Ordinal);

        var library = await server.AddLibrary("Log");
        await server.Send(
            HttpMethod.Patch,
            $"/api/libraries/{library}",
            new { ownClosingKeys = new[] { "Enter", " " } }
        );
        Assert.Equal(
            1,
            (await server.Get("/api/key-sets")).AsArray().Single(set => (string)set!["name"]! == "Radio")![
                "places"
            ]!.GetValue<int>()
        );
        sets = await server.Put(
            "/api/key-sets/radio",
            new
            {
                name = "On the radio",
                keys = new[] { "Tab" },
                everywhere = true,
            }
        );
        Assert.EndsWith("On the radio: Tab", Shown(sets), StringComparison.Ordinal);
        Assert.Equal("Tab", (string)(await server.Get("/api/libraries"))["libraries"]![0]!["closingKeys"]![0]!);
        await server.Post("/api/changes/undo", new { });
        Assert.Equal(2, (await server.Get("/api/libraries"))["libraries"]![0]!["closingKeys"]!.AsArray().Count);

        var (_, left) = await server.Send(HttpMethod.Delete, "/api/key-sets/On%20the%20radio");
        Assert.DoesNotContain("radio", Shown(left!), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Usual", "\" \"", "name", "There is a set named “Usual” already")]
    [InlineData("only space", "\" \"", "name", "There is a set named “only space” already")]
    [InlineData("", "\" \"", "name", "The name is empty")]
    [InlineData("None", "", "keys", "Press at least one")]
    [InlineData("Arrows", "\"ArrowLeft\"", "keys[0]", "cannot close a word")]
    public async Task A_set_that_cannot_be_one_is_refused_with_the_reason(
        string name,
        string keys,
        string field,
        string why
    )
    {
        var before = Shown(await server.Get("/api/key-sets"));
        var (status, answer) = await server.Send(
            HttpMethod.Put,
            "/api/key-sets/Another",
            $$"""{"name":"{{name}}","keys":[{{keys}}]}"""
        );
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);
        Assert.Contains(why, (string)answer!["errors"]![field]![0]!, StringComparison.Ordinal);
        Assert.Equal(before, Shown(await server.Get("/api/key-sets")));
    }
}
