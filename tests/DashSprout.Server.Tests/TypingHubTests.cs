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
            ["delete 3  ", "put-in 0 Kind regards\nOffice ", "press 1  Enter"],
            fires.Steps.Select(step => $"{step.Kind} {step.Count} {step.Plain} {step.Key}"));
        Assert.Equal("<p>Kind regards</p><p>Office</p>", fires.Steps[1].Html);
        var back = await Press(hub, "Ctrl+Alt+Z");
        Assert.Equal(("take-back", 20, "kr\n"), (back.Kind, back.Steps[0].Count, back.Steps[1].Plain));
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
