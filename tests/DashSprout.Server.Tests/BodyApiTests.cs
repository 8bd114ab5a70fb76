using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using DashSprout.Core;
using DashSprout.Exchange.Lists;
using DashSprout.Server.Typing;
using Microsoft.AspNetCore.SignalR.Client;

namespace DashSprout.Server.Tests;

/// <summary>
/// Bodies through the program: bounds where they are saved, brought in and looked at; turns that are kept; recorded
/// keys.
/// </summary>
public sealed class BodyApiTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-bodies-");

    public void Dispose() => folder.Delete(recursive: true);

    [Fact]
    public async Task Turns_are_counted_by_what_went_in_and_kept_across_a_restart()
    {
        const string Cycle = "<div><menu data-pick=\"cycle\"><li>A</li><li>B</li><li>C</li></menu></div>";
        using (var server = new TestServer(data: folder.FullName))
        {
            var library = await server.AddLibrary("Turns");
            await server.AddSnippet(library, Html("Cycle", Cycle, ";cy"));
            await using var hub = await Connect(server);
            Assert.Equal("A", await PutIn(hub));
            // Looking at it and trying it out counts nothing.
            for (var round = 0; round < 3; round++)
            {
                Assert.Equal(
                    "B",
                    (string?)
                        (
                            await server.Post(
                                "/api/preview",
                                new { body = Cycle.Replace("<li>A", "<li>B", StringComparison.Ordinal) }
                            )
                        )["plain"]
                );
                Assert.Equal("B", (string?)(await server.Rehearse(";cy"))["text"]);
            }
            Assert.Equal("B", await PutIn(hub));
        }
        using var again = new TestServer(data: folder.FullName);
        await using var other = await Connect(again);
        Assert.Equal("C", await PutIn(other));
        Assert.Equal("A", await PutIn(other));

        static async Task<string> PutIn(HubConnection hub)
        {
            await hub.InvokeAsync<HostMessage>("Focus", new FocusMessage("desk", "post", "plain"));
            HostMessage? last = null;
            foreach (var key in ";cy")
                last = (
                    await hub.InvokeAsync<HostMessage[]>(
                        "Press",
                        "desk",
                        new[] { new KeyMessage(key.ToString(), false, 0, false) }
                    )
                )[0];
            return Assert.Single(last!.Steps, step => step.Plain is not null).Plain!;
        }
    }

    [Fact]
    public async Task Recorded_keys_are_a_body_and_what_is_secret_is_none_of_it()
    {
        using var server = new TestServer();
        var library = await server.AddLibrary("Berth desk");
        await server.AddSnippet(library, TestServer.Snippet("The", "the", TestServer.Abbreviation("teh")));
        await using var hub = await Connect(server);
        Assert.Null(await hub.InvokeAsync<string?>("Record", "desk", true));
        await hub.InvokeAsync<HostMessage>("Focus", new FocusMessage("desk", "permit-portal", "single-line", "Name"));
        await Type("Lyra teh ", "Tab");
        await hub.InvokeAsync<HostMessage>("Focus", new FocusMessage("desk", "permit-portal", "secret", "Pass-phrase"));
        await Type("sesame");
        await hub.InvokeAsync<HostMessage>("Click", "desk");
        await hub.InvokeAsync<HostMessage>("Focus", new FocusMessage("desk", "log-book", "markdown", "Log"));
        await Type("x");
        Assert.Equal(
            "<p><slot name=\"go-to\" data-app=\"permit-portal\" data-field=\"Name\"></slot>Lyra the <kbd>"
                + "Tab</kbd><slot name=\"go-to\" data-app=\"log-book\" data-field=\"Log\"></slot>x</p>",
            await hub.InvokeAsync<string?>("Record", "desk", false)
        );
        var lost = await Assert.ThrowsAsync<Microsoft.AspNetCore.SignalR.HubException>(() =>
            hub.InvokeAsync<string?>("Record", "desk", false)
        );
        Assert.Contains("Record it again", lost.Message, StringComparison.Ordinal);

        async Task Type(string text, params string[] keys)
        {
            foreach (var key in text.Select(letter => letter.ToString()).Concat(keys))
                await hub.InvokeAsync<HostMessage[]>("Press", "desk", new[] { new KeyMessage(key, false, 0, false) });
        }
    }

    /// <summary>What saving refuses, a file does not bring in either.</summary>
    [Theory]
    [InlineData("<p><time data-pattern=\"d\" data-shift=\"P9000Y\"></time></p>", "at most 1000 years")]
    [InlineData("<p><output data-formula=\"rate\"></output></p>", "which is no field")]
    [InlineData(
        "<p><output data-formula=\"rate\"></output><slot name=\"snippet\" data-ref=\"Gone/one\"></slot></p>",
        "which is no field"
    )]
    [InlineData("<p><slot name=\"snippet\" data-ref=\"New/Wrong\"></slot></p>", "contain each other without end")]
    [InlineData("<p><slot name=\"wait\" data-for=\"PT999999999999999999S\"></slot></p>", "is no pause")]
    public async Task A_body_that_cannot_be_saved_is_not_brought_in(string body, string why)
    {
        using var server = new TestServer();
        var libraries = new object[] { new { name = "New", snippets = new[] { new { name = "Wrong", body } } } };
        var (status, answer) = await server.Send(
            HttpMethod.Post,
            "/api/library-file",
            new
            {
                format = "dash-sprout-library",
                version = 1,
                libraries,
            }
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains(
            why,
            answer!.ToJsonString(
                new JsonSerializerOptions
                {
                    Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
                }
            ),
            StringComparison.Ordinal
        );
        Assert.Empty(await server.Rows());
    }

    [Fact]
    public async Task A_body_without_bounds_is_refused_wherever_it_is_given()
    {
        using var server = new TestServer();
        var library = await server.AddLibrary("New");
        var deep = string.Concat(Enumerable.Repeat("<b>", 500)) + string.Concat(Enumerable.Repeat("<p>", 2500));
        Assert.Contains(
            "100 deep",
            await server.Refused("/api/preview", new { body = deep }, "body"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "100 deep",
            (string?)(await server.Post("/api/preview/parts", new { parts = new[] { deep } }))[0]!["problem"],
            StringComparison.Ordinal
        );
        var (status, answer) = await server.Send(
            HttpMethod.Post,
            "/api/snippets",
            new { parentId = library, snippet = new { name = "Deep", body = deep } }
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("100 deep", answer!.ToJsonString(), StringComparison.Ordinal);
        Assert.Contains(
            "nested too deeply",
            await server.Refused("/api/markdown", new { text = new string('[', 2000) + "x" }, "text"),
            StringComparison.Ordinal
        );
    }

    /// <summary>In London 01:30 comes twice on 25 October 2026; the offset tells which is meant.</summary>
    [Theory]
    [InlineData("2026-10-25T01:30:00", "02:30")]
    [InlineData("2026-10-25T01:30:00+01:00", "02:30")]
    [InlineData("2026-10-25T01:30:00Z", "03:30")]
    public async Task Hours_are_real_ones_in_a_rehearsal(string now, string time)
    {
        using var server = new TestServer();
        object[] libraries =
        [
            new
            {
                name = "A",
                snippets = new[]
                {
                    Html("In two hours", "<p><time data-pattern=\"HH:mm\" data-shift=\"PT2H\"></time></p>", ";th"),
                },
            },
        ];
        var answer = await server.Post(
            "/api/rehearsal",
            new
            {
                typed = ";th",
                field = "plain",
                now,
                zone = "Europe/London",
                libraries,
            }
        );
        Assert.Equal(time, (string?)answer["text"]);
    }

    [Theory]
    [InlineData("SECONDLY", "every second")]
    [InlineData("MINUTELY", "every minute")]
    [InlineData("HOURLY", "every hour")]
    public void Holidays_that_repeat_by_the_clock_are_refused(string frequency, string why) =>
        Assert.Contains(
            why,
            Assert.Throws<InvalidInputException>(() => Holidays($"FREQ={frequency}")).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void Holidays_that_repeat_too_often_in_all_are_refused()
    {
        Assert.Equal(3, Holidays("FREQ=YEARLY").Count);
        Assert.Equal(1096, Holidays("FREQ=DAILY").Count);
        var many = string.Concat(Enumerable.Repeat(Event("FREQ=DAILY"), 500));
        Assert.Contains(
            "are allowed",
            Assert
                .Throws<InvalidInputException>(() => HolidayFile.Read("holidays", Calendar(many), 2026, 2028))
                .Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_word_list_with_an_open_quotation_mark_names_its_line()
    {
        var csv = "one,1\n\"two,2\n" + string.Concat(Enumerable.Repeat("word,1\n", 700_000));
        Assert.Contains(
            "From line",
            Assert.Throws<InvalidInputException>(() => WordListFile.ReadCsv(csv)).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "up to",
            Assert.Single(WordListFile.ReadCsv("a,1\nb,1e308\n").Broken).Why,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_slip_of_rows_is_previewed_and_put_in()
    {
        using var server = new TestServer();
        var library = await server.AddLibrary("Fees");
        const string Body =
            "<table><tr data-rows=\"1-3\"><td><input name=\"vessel\" title=\"Vessel\" required></td><td>"
            + "<input name=\"nights\" type=\"number\" data-default=\"2 * 2\"></td></tr></table><p><output "
            + "data-formula=\"sum(nights)\"></output></p>";
        await server.AddSnippet(library, Html("Fee", Body, ";fe"));
        await using var hub = await Connect(server);
        var asks = await Ask(hub, ";fe");
        var field = asks.Slip!.Fields[0];
        Assert.Equal(("vessel", 1, "[1]", 3), (field.Name, field.Row!.Number, field.Row.Key, field.Row.Most));
        var answers = new Dictionary<string, string> { ["vessel[2]"] = "Tern", ["[1]"] = "2" };
        var preview = await hub.InvokeAsync<DashSprout.Server.Bodies.PreviewAnswer>(
            "PreviewSlip",
            "desk",
            asks.Question,
            answers
        );
        Assert.Equal("⟨Vessel⟩\t4\nTern\t4\n8", preview.Plain);
        Assert.Equal(
            "Vessel is needed.",
            Assert.Single(preview.Problems, problem => problem.Field == "vessel[1]").Message
        );
        Assert.Equal("4", preview.Defaults["nights[2]"]);
        answers["vessel[1]"] = "Marram";
        var answer = await hub.InvokeAsync<HostMessage>("FillSlip", "desk", asks.Question, answers);
        Assert.Contains(answer.Steps, step => step.Plain == "Marram\t4\nTern\t4\n8");
        // What was answered is offered again, by the field's name.
        Assert.Equal(["Tern", "Marram"], (await Ask(hub, ";fe")).Slip!.Recent["vessel"]);
        await server.Send(HttpMethod.Delete, "/api/recent-answers");
        Assert.Empty((await Ask(hub, ";fe")).Slip!.Recent);
    }

    [Fact]
    public async Task Answers_of_a_private_snippet_and_of_nobody_who_wants_it_are_not_kept()
    {
        using var server = new TestServer();
        var library = await server.AddLibrary("Private");
        const string Body = "<p><input name=\"code\"></p>";
        await server.AddSnippet(
            library,
            JsonSerializer.SerializeToElement(
                new Dictionary<string, object>
                {
                    ["name"] = "Own",
                    ["body"] = Body,
                    ["private"] = true,
                    ["triggers"] = new[] { TestServer.Abbreviation(";ow", "at-once") },
                }
            )
        );
        await server.AddSnippet(library, Html("Open", Body, ";op"));
        await using var hub = await Connect(server);
        await Fill(";ow", "sesame");
        Assert.Empty((await Ask(hub, ";op")).Slip!.Recent);
        var settings = (await server.Get("/api/settings/typing")).AsObject();
        settings["recentAnswers"] = false;
        await server.Put("/api/settings/typing", settings);
        await Fill(";op", "lilies");
        settings["recentAnswers"] = true;
        await server.Put("/api/settings/typing", settings);
        Assert.Empty((await Ask(hub, ";op")).Slip!.Recent);
        await Fill(";op", "marram");
        Assert.Equal(["marram"], (await Ask(hub, ";op")).Slip!.Recent["code"]);

        async Task Fill(string abbreviation, string answer)
        {
            var asks = await Ask(hub, abbreviation);
            await hub.InvokeAsync<HostMessage>(
                "FillSlip",
                "desk",
                asks.Question,
                new Dictionary<string, string> { ["code"] = answer }
            );
        }
    }

    [Fact]
    public async Task A_live_value_is_read_once_it_is_allowed_and_kept_for_when_it_is_away()
    {
        using var server = new TestServer();
        var file = Path.Combine(folder.FullName, "fees.json");
        var source = new Uri(file).AbsoluteUri;
        await File.WriteAllTextAsync(file, """{ "fees": [ { "a/b": 12.50 } ], "name": "Quay", "list": [] }""");
        string Part(string path) => $"<slot name=\"live\" data-url=\"{source}\" data-path=\"{path}\"></slot>";
        Assert.Contains("has not been allowed yet", await Problem(Part("/name")), StringComparison.Ordinal);
        await server.Put("/api/live-sources", new { source, allowed = true });
        Assert.Equal("Quay", await Value(Part("/name")));
        Assert.Equal("12.50", await Value(Part("/fees/0/a~1b")));
        foreach (var nowhere in (string[])["/fees", "/list/0", "/fees/00/a~1b", "/fees/-1", "/none", ""])
            Assert.Contains("no single value", await Problem(Part(nowhere)), StringComparison.Ordinal);
        File.Delete(file);
        Assert.Equal("Quay", await Value(Part("/name")));
        await server.Put("/api/live-sources", new { source, allowed = false });
        Assert.Contains("has not been allowed yet", await Problem(Part("/name")), StringComparison.Ordinal);

        await File.WriteAllTextAsync(file + ".large", new string(' ', 300_000) + "1");
        await server.Put("/api/live-sources", new { source = source + ".large", allowed = true });
        Assert.Contains(
            "larger than 256 KiB",
            await Problem(Part("").Replace(".json", ".json.large", StringComparison.Ordinal)),
            StringComparison.Ordinal
        );
        await server.Put("/api/live-sources", new { source = "file:///dev/zero", allowed = true });
        Assert.Contains(
            "is a device",
            await Problem("<slot name=\"live\" data-url=\"file:///dev/zero\"></slot>"),
            StringComparison.Ordinal
        );
        await File.WriteAllTextAsync(file + ".half", """{ "a": "\ud800", "\ud800": 1 }""");
        await server.Put("/api/live-sources", new { source = source + ".half", allowed = true });
        Assert.Contains(
            "no single value",
            await Problem(Part("/a").Replace(".json", ".json.half", StringComparison.Ordinal)),
            StringComparison.Ordinal
        );
        await server.Put("/api/live-sources", new { source = "file:///x%00", allowed = true });
        Assert.Contains(
            "a zero byte",
            await Problem("<slot name=\"live\" data-url=\"file:///x%00\"></slot>"),
            StringComparison.Ordinal
        );
        await File.WriteAllTextAsync(file + ".twice", """{ "a": 1, "a": 2 }""");
        await server.Put("/api/live-sources", new { source = source + ".twice", allowed = true });
        Assert.Contains(
            "no single value",
            await Problem(Part("/a").Replace(".json", ".json.twice", StringComparison.Ordinal)),
            StringComparison.Ordinal
        );
        Assert.Equal(
            "Gullhaven",
            await Value("<slot name=\"live\" data-url=\"/harbour/tides.json\" data-path=\"/station\"></slot>")
        );
        Assert.Equal("Gullhaven", (string?)(await server.Get("/harbour/weather.json"))["station"]);
        Assert.Contains(
            "cannot be read",
            (
                await server.Send(
                    HttpMethod.Put,
                    "/api/live-sources",
                    new { source = "javascript:x()", allowed = true }
                )
            ).Body!.ToJsonString(),
            StringComparison.Ordinal
        );

        async Task<JsonNode> Ask(string part) =>
            (await server.Post("/api/preview/parts", new { parts = new[] { part } }))[0]!;
        async Task<string?> Value(string part) => (string?)(await Ask(part))["text"];
        async Task<string> Problem(string part) => (string?)(await Ask(part))["problem"] ?? "";
    }

    /// <summary>A service that never answers holds nothing up for longer than two seconds.</summary>
    [Fact(Timeout = 600_000)]
    public async Task A_source_that_does_not_answer_is_left_after_two_seconds()
    {
        await Task.Run(() => { }, TestContext.Current.CancellationToken);
        using var silent = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0);
        silent.Start();
        using var server = new TestServer();
        var source = $"http://localhost:{((IPEndPoint)silent.LocalEndpoint).Port}/never.json";
        await server.Put("/api/live-sources", new { source, allowed = true });
        var answer = await server.Post(
            "/api/preview/parts",
            new { parts = new[] { $"<slot name=\"live\" data-url=\"{source}\"></slot>" } }
        );
        Assert.Matches("did not answer", (string?)answer[0]!["problem"]);
    }

    private static async Task<HostMessage> Ask(HubConnection hub, string abbreviation)
    {
        await hub.InvokeAsync<HostMessage>("Focus", new FocusMessage("desk", "post", "plain"));
        HostMessage? last = null;
        foreach (var key in abbreviation)
            last = (
                await hub.InvokeAsync<HostMessage[]>(
                    "Press",
                    "desk",
                    new[] { new KeyMessage(key.ToString(), false, 0, false) }
                )
            )[0];
        return last!;
    }

    private static JsonElement Html(string name, string body, string abbreviation) =>
        JsonSerializer.SerializeToElement(
            new
            {
                name,
                body,
                triggers = new[] { TestServer.Abbreviation(abbreviation, "at-once") },
            }
        );

    private static IReadOnlyList<NodaTime.LocalDate> Holidays(string rule) =>
        HolidayFile.Read("holidays", Calendar(Event(rule)), 2026, 2028);

    private static string Event(string rule) =>
        $"BEGIN:VEVENT\r\nUID:{Guid.NewGuid()}\r\nSUMMARY:Harbour day\r\nDTSTART;VALUE=DATE:19700501\r\n"
        + $"RRULE:{rule}\r\nEND:VEVENT\r\n";

    private static string Calendar(string events) =>
        $"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Gullhaven//EN\r\n{events}END:VCALENDAR\r\n";

    private static async Task<HubConnection> Connect(TestServer server)
    {
        var hub = new HubConnectionBuilder()
            .WithUrl("http://localhost/hub/typing", options =>
            {
                options.HttpMessageHandlerFactory = _ => server.Handler;
                options.Transports = Microsoft.AspNetCore.Http.Connections.HttpTransportType.LongPolling;
            })
            .Build();
        await hub.StartAsync();
        return hub;
    }
}
