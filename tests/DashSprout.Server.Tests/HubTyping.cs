using DashSprout.Server.Typing;
using Microsoft.AspNetCore.SignalR.Client;

namespace DashSprout.Server.Tests;

/// <summary>Types over the hub, as a page does.</summary>
internal static class HubTyping
{
    /// <summary>A connection like a page's.</summary>
    public static async Task<HubConnection> ConnectHub(this TestServer server)
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

    public static Task<HostMessage> Focus(this HubConnection hub, string app, string field = "plain") =>
        hub.InvokeAsync<HostMessage>("Focus", new FocusMessage("desk", app, field));

    public static Task<HostMessage> Click(this HubConnection hub) => hub.InvokeAsync<HostMessage>("Click", "desk");

    public static async Task<HostMessage> Press(
        this HubConnection hub,
        string key,
        bool held = false,
        bool endsLine = true
    ) =>
        (
            await hub.InvokeAsync<HostMessage[]>(
                "Press",
                "desk",
                new[] { new KeyMessage(key, false, 0, held, EndsLine: endsLine) }
            )
        )[0];

    /// <summary>Types a text; keys that were not decided are sent again, as a page does. Line ends are Enter.</summary>
    public static async Task<HostMessage> Type(this HubConnection hub, string text)
    {
        HostMessage? last = null;
        var keys = text.Select(unit => new KeyMessage(unit == '\n' ? "Enter" : unit.ToString(), false, 0, false))
            .ToArray();
        for (var at = 0; at < keys.Length; )
        {
            var answers = await hub.InvokeAsync<HostMessage[]>("Press", "desk", keys[at..]);
            at += answers.Length;
            last = answers[^1];
        }
        return last!;
    }
}
