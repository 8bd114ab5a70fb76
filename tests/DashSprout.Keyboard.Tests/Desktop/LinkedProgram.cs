using System.Diagnostics;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>The published program, linked to a display, with the demo data of the harbour office.</summary>
internal sealed class LinkedProgram : IDisposable
{
    private readonly Process process;
    private readonly long before;

    /// <param name="linked">Whether its keyboard link is on.</param>
    public LinkedProgram(VirtualDesktop desktop, bool linked = true)
    {
        Desktop = desktop;
        Port = FreePort();
        Client = new HttpClient { BaseAddress = new Uri($"http://localhost:{Port}") };
        var server = Path.Combine(Root(), "artifacts", "server");
        if (!File.Exists(Path.Combine(server, "DashSprout.Server.dll")))
            throw new InvalidOperationException("The program is not put together yet: run ./start or ./test once.");
        process = desktop.Start(
            Environment.ProcessPath is { } path && Path.GetFileName(path) == "dotnet" ? path : DotnetPath(),
            Path.Combine(server, "DashSprout.Server.dll"),
            "--port",
            $"{Port}",
            "--data",
            Path.Combine(desktop.Folder, "data"),
            "--keyboard",
            linked ? "on" : "off",
            "--contentRoot",
            server
        );
        Wait.Until("the program", () => Answers());
        if (linked)
            Wait.Until("the link", () => State().GetProperty("linked").GetBoolean());
        before = Expansions();
    }

    public VirtualDesktop Desktop { get; }

    public int Port { get; }

    public HttpClient Client { get; }

    public int Pid => process.Id;

    /// <summary>Whether it has ended, and the display knows that.</summary>
    public bool HasEnded => process.HasExited;

    /// <summary>What the program says of its link.</summary>
    public JsonElement State() => Client.GetFromJsonAsync<JsonElement>("/api/keyboard").GetAwaiter().GetResult();

    /// <summary>Waits until the companion window can be shown.</summary>
    public void AwaitCompanion() =>
        Wait.Until("the companion window", () => State().GetProperty("companionReady").GetBoolean());

    /// <summary>Waits until so many snippets have gone in since it began.</summary>
    public void AwaitExpansions(int count) => Wait.Until($"expansion {count}", () => Expansions() - before >= count);

    /// <summary>Has the link check itself.</summary>
    public JsonElement Check()
    {
        using var answer = Client.PostAsync("/api/keyboard/check", null).GetAwaiter().GetResult();
        return answer.Content.ReadFromJsonAsync<JsonElement>().GetAwaiter().GetResult();
    }

    public void Dispose() => Client.Dispose();

    /// <summary>How many snippets have gone in today and yesterday.</summary>
    private long Expansions() =>
        Client
            .GetFromJsonAsync<JsonElement>("/api/savings?days=2")
            .GetAwaiter()
            .GetResult()
            .GetProperty("total")
            .GetProperty("expansions")
            .GetInt64();

    /// <summary>Where dotnet is, since the program may look for others elsewhere.</summary>
    private static string DotnetPath() =>
        (Environment.GetEnvironmentVariable("PATH") ?? "")
            .Split(':')
            .Select(folder => Path.Combine(folder, "dotnet"))
            .FirstOrDefault(File.Exists)
        ?? "dotnet";

    private bool Answers()
    {
        try
        {
            using var answer = Client.GetAsync("/healthz").GetAwaiter().GetResult();
            return answer.IsSuccessStatusCode;
        }
        catch (HttpRequestException)
        {
            return false;
        }
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(System.Net.IPAddress.Loopback, 0);
        listener.Start();
        return ((System.Net.IPEndPoint)listener.LocalEndpoint).Port;
    }

    private static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "DashSprout.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}
