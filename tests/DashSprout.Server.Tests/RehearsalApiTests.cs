using System.Net;
using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>The rehearsal API, which hosts and tests outside this project use.</summary>
public sealed class RehearsalApiTests : IDisposable
{
    private static readonly JsonNode Libraries = JsonNode.Parse(
        """
        [ { "name": "Berth desk", "snippets": [
            { "name": "Berth confirmed", "text": "Your berth is confirmed.", "triggers": [ { "kind": "abbreviation", "text": ";bc", "timing": "at-once" } ] },
            { "name": "Regards", "body": "<p>Kind regards</p><p>Harbour<br>Office</p>", "triggers": [ { "kind": "abbreviation", "text": "kr" } ] },
            { "name": "Short", "text": "berth", "triggers": [ { "kind": "abbreviation", "text": "br", "timing": "at-once" } ] },
            { "name": "Long", "text": "breakwater", "triggers": [ { "kind": "abbreviation", "text": "brk", "timing": "at-once" } ] } ] } ]
        """
    )!;

    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Typed_text()
    {
        var answer = await server.Rehearse("Hello ;bc kr.", Libraries);
        Assert.Equal("Hello Your berth is confirmed. Kind regards\nHarbour\nOffice.", (string?)answer["text"]);
        Assert.Equal(59, (int)answer["caret"]!);
        var firing = answer["firings"]![1]!;
        Assert.Equal("Berth desk/Regards/kr", $"{firing["library"]}/{firing["snippet"]}/{firing["trigger"]}");
        Assert.Equal(
            (12, 3, "Kind regards\nHarbour\nOffice.", "inserted"),
            ((int)firing["key"]!, (int)firing["deleted"]!, (string?)firing["inserted"], (string?)firing["outcome"])
        );
        Assert.Equal(13, answer["trace"]!.AsArray().Count);
        Assert.Equal("waits", (string?)answer["trace"]![11]!["event"]);
        Assert.Empty((await server.Send(HttpMethod.Get, "/api/libraries")).Body!["libraries"]!.AsArray());
    }

    [Fact]
    public async Task Keys_pauses_clicks_and_applications()
    {
        JsonNode keys = JsonNode.Parse(
            """["b","r",{"pause":800},"Enter","k","r",{"click":true}," ",{"app":"console"},"b","r","k"]"""
        )!;
        var answer = await server.Post("/api/rehearsal", new { keys, libraries = Libraries });
        Assert.Equal("berth\nkr breakwater", (string?)answer["text"]);
        Assert.Equal(12, answer["trace"]!.AsArray().Count);
    }

    [Fact]
    public async Task Bodies_at_a_chosen_time_with_answers()
    {
        JsonNode libraries = JsonNode.Parse(
            """
            [ { "name": "A", "snippets": [
                { "name": "Fee",
                "body": "<p>Dear <input name=skipper>, until <b><time data-days=working data-shift=P3D data-pattern='d MMMM'></time></b><wbr data-caret>!</p>",
                  "triggers": [ { "kind": "abbreviation", "text": ";fe", "timing": "at-once" } ] },
                { "name": "Clip",
                  "body": "<p>[<slot name=\"clipboard\" data-trim></slot>]<a data-open href=\"https://example.org\"></a></p><aside data-notice>Look</aside>",
                  "triggers": [ { "kind": "abbreviation", "text": ";cl", "timing": "at-once" } ] } ] } ]
            """
        )!;
        var answer = await server.Post(
            "/api/rehearsal",
            new
            {
                typed = ";fe",
                field = "rich",
                now = "2026-03-06T09:15:00",
                zone = "Europe/London",
                locale = "en-GB",
                answers = new { skipper = "Marram" },
                libraries,
            }
        );
        Assert.Equal(
            ("<p>Dear Marram, until <strong>11 March</strong>!</p>", 27),
            ((string?)answer["html"], (int)answer["caret"]!)
        );
        Assert.Equal("cancelled", (string?)(await server.Rehearse(";fe", libraries))["firings"]![0]!["outcome"]);
        answer = await server.Post(
            "/api/rehearsal",
            new
            {
                typed = ";cl",
                clipboard = " x ",
                libraries,
            }
        );
        Assert.Equal(
            ("[x]", "https://example.org", "Look"),
            ((string?)answer["text"], (string?)answer["opened"]![0], (string?)answer["notices"]![0])
        );
    }

    [Theory]
    [InlineData("""{"typed":"a","now":"soon"}""", "now")]
    [InlineData("""{"typed":"a","zone":"Mars"}""", "zone")]
    [InlineData("""{"typed":"a","locale":"xx-QQ"}""", "locale")]
    [InlineData(
        """{"typed":"a","libraries":[{"name":"x","snippets":[{"name":"y","body":"<p><slot name='snippet' data-ref='x/y'></slot></p>"}]}]}""",
        "body"
    )]
    [InlineData("""{}""", "typed")]
    [InlineData("""{"typed":"a","keys":[]}""", "typed")]
    [InlineData("""{"keys":["a",{"pause":-1}]}""", "keys[1]")]
    [InlineData("""{"keys":[""]}""", "keys[0]")]
    [InlineData("""{"keys":["a","\ud83d"]}""", "keys[1]")]
    [InlineData("""{"keys":[{"app":"\ud83d"}]}""", "keys[0]")]
    [InlineData("""{"typed":"a","field":"velvet"}""", "field")]
    [InlineData(
        """{"typed":"a","libraries":[{"name":"x","snippets":[{"name":"y","triggers":[{"kind":"whistle","text":"a"}]}]}]}""",
        "libraries[0].snippets[0].triggers[0].kind"
    )]
    public async Task Bad_input_names_the_field(string body, string field)
    {
        var (status, problem) = await server.Send(HttpMethod.Post, "/api/rehearsal", body);
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.True(problem!["errors"]!.AsObject().ContainsKey(field), problem.ToJsonString());
    }

    [Theory]
    [InlineData("""{"keys":["Home"]}""", "", 0)]
    [InlineData("""{"keys":["Enter","Home"]}""", "\n", 1)]
    [InlineData("""{"keys":["لا","x"]}""", "لاx", 3)]
    [InlineData("""{"keys":["a","b","ArrowLeft","Delete","End","PageUp","c"]}""", "ac", 2)]
    public async Task Keys_of_every_kind(string body, string text, int caret)
    {
        var answer = await server.Post("/api/rehearsal", body);
        Assert.Equal((text, caret), ((string?)answer["text"], (int)answer["caret"]!));
    }
}
