using DashSprout.Server.Bodies;
using DashSprout.Server.Typing;
using Microsoft.AspNetCore.SignalR.Client;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>The typing hub as a page uses it.</summary>
public sealed class TypingHubTests : IDisposable
{
    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Keys_come_back_as_decisions()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards\nOffice", Abbreviation("kr")));
        await using var hub = await Connect();
        await hub.InvokeAsync("Focus", new FocusMessage("desk", "post", "rich"));
        Assert.Equal("pass-on", (await Press(hub, "k")).Kind);
        var waits = await Press(hub, "r");
        Assert.Equal(("kr", "Kind regards ⏎ Office"), (waits.Hint!.Trigger, waits.Hint.FirstWords));
        var fires = await Press(hub, "Enter");
        Assert.Equal("deliver", fires.Kind);
        Assert.Equal(1, fires.KeyGraphemes);
        Assert.Equal(
            ["delete 3  ", "set-clipboard 0 Kind regards\nOffice ", "paste 0  ", "press 1  Enter", "restore-clipboard 0  "],
            fires.Steps.Select(step => $"{step.Kind} {step.Count} {step.Plain} {step.Key}"));
        Assert.Equal("<p>Kind regards</p><p>Office</p>", fires.Steps[1].Html);
        var back = await Press(hub, "Ctrl+Alt+Z");
        Assert.Equal(("take-back", 20, "kr\n"), (back.Kind, back.Steps[0].Count, back.Steps[1].Plain));

        // It is counted for the trigger.
        var board = await server.GetWhen("/api/safety", answer => answer["takenBack"]!.AsArray().Count > 0);
        Assert.Equal("kr 1 1", $"{board["takenBack"]![0]!["trigger"]} {board["takenBack"]![0]!["fired"]} {board["takenBack"]![0]!["takenBack"]}");
    }

    [Fact]
    public async Task Take_back_and_hints_can_be_switched_off()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards", Abbreviation("kr")));
        await server.Put("/api/settings/typing", Settings() with { TakeBack = false, Hints = false });
        await using var hub = await Connect();
        await hub.InvokeAsync("Focus", new FocusMessage("desk", "post", "plain"));
        await Press(hub, "k");
        Assert.Null((await Press(hub, "r")).Hint);
        Assert.Equal("deliver", (await Press(hub, " ")).Kind);
        Assert.Equal("pass-on", (await Press(hub, "Ctrl+Alt+Z")).Kind);
        var (status, answer) = await server.Send(HttpMethod.Put, "/api/settings/typing", Settings() with { TakeBackChord = "z" });
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);
        Assert.Contains("“z” holds neither Ctrl, Alt nor Meta", (string)answer!["errors"]!["takeBackChord.text"]![0]!, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_slip_is_asked_previewed_and_filled_or_left()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, System.Text.Json.JsonSerializer.SerializeToElement(new
        {
            name = "Fee",
            body = "<p>Dear <input name=\"skipper\" required>, that is <input name=\"nights\" type=\"number\" min=\"1\"> nights: <output data-formula=\"nights * 2.5\" data-pattern=\"0.00\"></output></p>",
            triggers = new[] { Abbreviation(";fe", "at-once") },
        }));
        await using var hub = await Connect();
        await hub.InvokeAsync("Focus", new FocusMessage("desk", "post", "plain"));
        await Press(hub, ";");
        await Press(hub, "f");
        var asks = await Press(hub, "e");
        Assert.Equal("slip", asks.Kind);
        Assert.Equal(["skipper text True", "nights number False"], asks.Slip!.Fields.Select(field => $"{field.Name} {field.Type} {field.Required}"));

        var preview = await hub.InvokeAsync<PreviewAnswer>("PreviewSlip", "desk", new Dictionary<string, string> { ["nights"] = "0" });
        Assert.Equal(["skipper is needed.", "The least is 1."], preview.Problems.Select(problem => problem.Message));
        preview = await hub.InvokeAsync<PreviewAnswer>("PreviewSlip", "desk", new Dictionary<string, string> { ["skipper"] = "Marram" });
        Assert.Equal("nights: a number is missing.", preview.Problem);

        var filled = await hub.InvokeAsync<DecisionMessage>("FillSlip", "desk", new Dictionary<string, string> { ["skipper"] = "Marram", ["nights"] = "3" });
        Assert.Equal("Dear Marram, that is 3 nights: 7.50", filled.Steps[1].Plain);

        foreach (var key in (string[])[" ", ";", "f", "e"]) await Press(hub, key);
        await hub.InvokeAsync("LeaveSlip", "desk");
        Assert.Equal("pass-on", (await Press(hub, " ")).Kind);
    }

    [Fact]
    public async Task A_resting_engine_passes_everything_on_and_tells_every_page()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards", Abbreviation(";kr", "at-once")));
        await using var hub = await Connect();
        var told = new TaskCompletionSource<EngineState>();
        hub.On<EngineState>("engine", told.SetResult);
        await server.Send(HttpMethod.Put, "/api/engine", new { listening = false });
        Assert.False((await told.Task).Listening);
        foreach (var key in (string[])[";", "k", "r"]) Assert.Equal("pass-on", (await Press(hub, key)).Kind);
        await server.Send(HttpMethod.Put, "/api/engine", new { listening = true });
        foreach (var key in (string[])[";", "k"]) Assert.Equal("pass-on", (await Press(hub, key)).Kind);
        Assert.Equal("deliver", (await Press(hub, "r")).Kind);
    }

    [Fact]
    public async Task A_chosen_snippet_goes_in_and_the_clipboard_is_at_hand()
    {
        var library = await server.AddLibrary("Berths");
        var id = await server.AddSnippet(library, System.Text.Json.JsonSerializer.SerializeToElement(new
        {
            name = "Quoted",
            body = "<p><strong><slot name=\"selection\">none</slot></strong>: <slot name=\"clipboard\" data-trim></slot></p>",
            delivery = "keystrokes",
        }));
        await using var hub = await Connect();
        await hub.InvokeAsync("Focus", new FocusMessage("desk", "log-book", "markdown"));
        await hub.InvokeAsync("Clipboard", "desk", "  heron ");
        var chosen = await hub.InvokeAsync<DecisionMessage>("Choose", "desk", id, "tide");
        Assert.Equal(["put-in tide: heron"], chosen.Steps.Select(step => $"{step.Kind} {step.Plain}"));
        Assert.Equal("*Quoted* was chosen in the finder", chosen.Trace!.Reasons[0].Why);
        Assert.Equal("take-back", (await Press(hub, "Ctrl+Alt+Z")).Kind);
        Assert.Equal(1, (int)(await server.GetWhen("/api/finder?query=quoted", answer => answer.AsArray().Count == 1))[0]!["uses"]!);
    }

    [Fact]
    public async Task What_a_snippet_from_a_file_opens_is_confirmed_once()
    {
        await server.Post("/api/library-file", new
        {
            format = "dash-sprout-library",
            version = 1,
            libraries = new[]
            {
                new { name = "File", snippets = new[] { new { name = "Tides", body = "<p><a data-open href=\"https://tides.example.org/\"></a></p>", triggers = new[] { Abbreviation("/td", "at-once") } } } },
            },
        });
        await using var hub = await Connect();
        await hub.InvokeAsync("Focus", new FocusMessage("desk", "post", "rich"));
        var asks = await Type("/td");
        Assert.Equal(("confirm-open", "https://tides.example.org/"), (asks.Kind, asks.Opens!.Single()));
        await hub.InvokeAsync("LeaveSlip", "desk");
        Assert.Equal("confirm-open", (await Type(" /td")).Kind);
        var opens = await hub.InvokeAsync<DecisionMessage>("ConfirmOpen", "desk");
        Assert.Equal(["delete ", "open https://tides.example.org/"], opens.Steps.Select(step => $"{step.Kind} {step.Plain}"));
        Assert.Equal("deliver", (await Type(" /td")).Kind);

        async Task<DecisionMessage> Type(string text)
        {
            DecisionMessage? last = null;
            foreach (var key in text) last = await Press(hub, key.ToString());
            return last!;
        }
    }

    [Fact]
    public async Task The_engine_rests_in_one_application_and_for_a_time()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards", Abbreviation(";kr", "at-once")));
        await using var hub = await Connect();
        await server.Put("/api/engine", new { listening = false, app = "console" });
        Assert.Equal(["resting", "fires"], [await In("console"), await In("post")]);
        var state = await server.Put("/api/engine", new { listening = false, forMinutes = 15 });
        Assert.InRange((long)state["until"]!, DateTimeOffset.UtcNow.AddMinutes(14).ToUnixTimeMilliseconds(), DateTimeOffset.UtcNow.AddMinutes(16).ToUnixTimeMilliseconds());
        Assert.Equal("resting", await In("post"));
        await server.Put("/api/engine", new { listening = true });
        await server.Put("/api/engine", new { listening = true, app = "console" });
        Assert.Equal("fires", await In("console"));
        var (status, _) = await server.Send(HttpMethod.Put, "/api/engine", new { listening = false, forMinutes = 0 });
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);

        async Task<string> In(string app)
        {
            await hub.InvokeAsync("Focus", new FocusMessage("desk", app, "plain"));
            foreach (var key in (string[])[";", "k"]) await Press(hub, key);
            return (await Press(hub, "r")).Trace!.Event;
        }
    }

    private static TypingSettings Settings() => new(true, "Ctrl+Alt+Z", true, "Ctrl+Alt+ ", "Ctrl+Alt+N", "Ctrl+Alt+R");

    private static Task<DecisionMessage> Press(HubConnection hub, string key) =>
        hub.InvokeAsync<DecisionMessage>("Press", new KeyMessage("desk", key, false, 0));

    private async Task<HubConnection> Connect()
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
