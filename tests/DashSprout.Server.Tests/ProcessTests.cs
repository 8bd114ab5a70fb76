using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json.Nodes;
using DashSprout.Server.Typing;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;

namespace DashSprout.Server.Tests;

/// <summary>The program as a process of its own.</summary>
public sealed class ProcessTests
{
    [Fact]
    public async Task A_saved_snippet_is_there_after_the_program_was_killed()
    {
        var folder = Directory.CreateTempSubdirectory("dash-sprout-");
        try
        {
            var port = FreePort();
            using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{port}") };
            using (var first = await Start(client, port, folder.FullName))
            {
                var library = (await (await client.PostAsJsonAsync("/api/libraries", new { name = "Berths" })).Content.ReadFromJsonAsync<JsonNode>())!["id"];
                var saved = await client.PostAsJsonAsync("/api/snippets", new { libraryId = (long)library!, snippet = TestServer.Snippet("a", "kept", TestServer.Abbreviation("ab")) });
                Assert.Equal(HttpStatusCode.OK, saved.StatusCode);
                first.Kill();
                await first.WaitForExitAsync();
            }
            using var second = await Start(client, port, folder.FullName);
            var answer = await (await client.PostAsJsonAsync("/api/rehearsal", new { typed = "ab " })).Content.ReadFromJsonAsync<JsonNode>();
            Assert.Equal("kept ", (string?)answer!["text"]);
            second.Kill();
            await second.WaitForExitAsync();
            Assert.DoesNotContain("kept", await second.StandardOutput.ReadToEndAsync(), StringComparison.Ordinal);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    /// <summary>Whatever is sent, well or badly made, none of it is written to the log or comes back in an error.</summary>
    [Fact]
    public async Task What_is_typed_is_in_no_log_and_no_error()
    {
        const string Secret = "sesame-and-lilies";
        var folder = Directory.CreateTempSubdirectory("dash-sprout-");
        var port = FreePort();
        using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{port}") };
        using var program = await Start(client, port, folder.FullName);
        await using var hub = new HubConnectionBuilder().WithUrl($"http://127.0.0.1:{port}/hub/typing").Build();
        await hub.StartAsync();
        await hub.InvokeAsync("Focus", new FocusMessage("desk", "permit-portal", "secret"));
        object?[][] calls =
        [
            ["Press", "desk", new[] { new KeyMessage(Secret, false, 0, false) }],
            ["Press", "desk", new[] { new KeyMessage("a" + new string('\u0301', 100) + Secret, false, 0, false) }],
            ["Press", "desk", new[] { new KeyMessage(new string('x', 5000) + Secret, false, 0, false) }],
            ["Press", "desk", Secret], ["Press", Secret], ["Press", "desk", Array.Empty<KeyMessage>()],
            ["Focus", new FocusMessage("desk", "post", Secret)], ["Choose", "desk", 999_999L, Secret], ["FillSlip", "desk", Secret],
            ["PreviewSlip", "desk", new Dictionary<string, string> { ["x"] = Secret }], ["Clipboard", "desk", Secret],
        ];
        var answers = new List<string>();
        foreach (var call in calls)
        {
            try
            {
                await hub.InvokeCoreAsync((string)call[0]!, call[1..]);
            }
            catch (Exception exception) when (exception is HubException or InvalidOperationException)
            {
                answers.Add(exception.Message);
            }
        }
        program.Kill();
        await program.WaitForExitAsync();
        var log = await program.StandardOutput.ReadToEndAsync();
        Assert.DoesNotContain(Secret, log, StringComparison.Ordinal);
        Assert.DoesNotContain(answers, answer => answer.Contains(Secret, StringComparison.Ordinal));
        Assert.NotEmpty(answers);
        folder.Delete(recursive: true);
    }

    private static async Task<Process> Start(HttpClient client, int port, string data)
    {
        var program = typeof(Program).Assembly.Location;
        var start = new ProcessStartInfo("dotnet", [program, "--port", $"{port}", "--data", data, "--empty", "true"])
        {
            RedirectStandardOutput = true,
            WorkingDirectory = Path.GetDirectoryName(program)!,
        };
        var process = Process.Start(start)!;
        for (var attempt = 0; attempt < 150; attempt++)
        {
            Assert.False(process.HasExited, "The program ended by itself.");
            try
            {
                if ((await client.GetAsync(new Uri("/healthz", UriKind.Relative))).IsSuccessStatusCode) return process;
            }
            catch (HttpRequestException)
            {
                await Task.Delay(100);
            }
        }
        process.Kill();
        throw new TimeoutException("The program was not ready within 15 seconds.");
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
