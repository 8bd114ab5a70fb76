using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>The program as a process of its own, on a data folder and a free port.</summary>
internal sealed class ProgramProcess : IDisposable
{
    private readonly Process process;

    /// <summary>What it writes, taken as it comes: a full pipe would hold the program.</summary>
    private readonly Task<string> said,
        complained;

    private ProgramProcess(Process process, int port)
    {
        this.process = process;
        (said, complained) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
        Port = port;
        Client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{port}") };
    }

    public int Port { get; }

    public HttpClient Client { get; }

    /// <summary>The id of its process.</summary>
    public int Id => process.Id;

    /// <summary>Starts the program and waits until it is ready.</summary>
    public static async Task<ProgramProcess> Start(string data, int? port = null)
    {
        var program = Launch(data, port ?? FreePort());
        for (var began = Stopwatch.StartNew(); began.Elapsed < Patience.Longest; )
        {
            if (program.process.HasExited)
                Assert.Fail($"The program ended by itself: {await program.complained}");
            try
            {
                using var answer = await program.Client.GetAsync(new Uri("/healthz", UriKind.Relative));
                if (answer.IsSuccessStatusCode)
                    return program;
            }
            catch (HttpRequestException)
            {
                await Task.Delay(50);
            }
        }
        program.Dispose();
        throw new TimeoutException($"The program was not ready within {Patience.Longest}.");
    }

    /// <summary>Starts the program where it cannot start, and gives what it ended with and said.</summary>
    public static async Task<(int Code, string Words)> StartInVain(string data, int? port = null)
    {
        using var program = Launch(data, port ?? FreePort());
        await program.process.WaitForExitAsync().WaitAsync(Patience.Longest);
        Assert.DoesNotContain("   at ", await program.said, StringComparison.Ordinal);
        return (program.process.ExitCode, (await program.complained).Trim());
    }

    public static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    public async Task<(HttpStatusCode Status, JsonNode? Body)> Send(
        HttpMethod method,
        string address,
        object? body = null
    )
    {
        using var request = new HttpRequestMessage(method, address)
        {
            Content = body is null ? null : JsonContent.Create(body),
        };
        using var answer = await Client.SendAsync(request);
        var text = await answer.Content.ReadAsStringAsync();
        return (answer.StatusCode, text.Length == 0 ? null : JsonNode.Parse(text));
    }

    public async Task<JsonNode> Post(string address, object body)
    {
        var (status, answer) = await Send(HttpMethod.Post, address, body);
        Assert.True((int)status < 300, $"{address}: {status} {answer}");
        return answer ?? new JsonObject();
    }

    /// <summary>Ends it at once, as a power cut would, and gives what it wrote to its log.</summary>
    public async Task<string> Kill()
    {
        process.Kill();
        await process.WaitForExitAsync();
        return await said;
    }

    /// <summary>Whether it is gone, or goes within a time.</summary>
    public bool HasExited(TimeSpan within) => process.WaitForExit(within);

    public void Dispose()
    {
        if (!process.HasExited)
            process.Kill();
        process.Dispose();
        Client.Dispose();
    }

    private static ProgramProcess Launch(string data, int port)
    {
        var program = typeof(Program).Assembly.Location;
        return new ProgramProcess(
            Process.Start(
                new ProcessStartInfo("dotnet", [program, "--port", $"{port}", "--data", data, "--empty", "true"])
                {
                    RedirectStandardOutput = true,
                    RedirectStandardError = true,
                    WorkingDirectory = Path.GetDirectoryName(program)!,
                }
            )!,
            port
        );
    }
}
