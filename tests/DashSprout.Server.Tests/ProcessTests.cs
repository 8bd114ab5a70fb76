using DashSprout.Server.Typing;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;

namespace DashSprout.Server.Tests;

/// <summary>The program as a process of its own.</summary>
public sealed class ProcessTests
{
    /// <summary>
    /// Whatever is sent, well or badly made, none of it is written to the log or comes back in an error.
    /// </summary>
    [Fact]
    public async Task What_is_typed_is_in_no_log_and_no_error()
    {
        const string Secret = "sesame-and-lilies";
        var folder = Directory.CreateTempSubdirectory("dash-sprout-");
        using var program = await ProgramProcess.Start(folder.FullName);
        await using var hub = new HubConnectionBuilder().WithUrl($"http://127.0.0.1:{program.Port}/hub/typing").Build();
        await hub.StartAsync();
        await hub.InvokeAsync("Focus", new FocusMessage("desk", "permit-portal", "secret"));
        object?[][] calls =
        [
            ["Press", "desk", new[] { new KeyMessage(Secret, false, 0, false) }],
            ["Press", "desk", new[] { new KeyMessage("a" + new string('\u0301', 100) + Secret, false, 0, false) }],
            ["Press", "desk", new[] { new KeyMessage(new string('x', 5000) + Secret, false, 0, false) }],
            ["Press", "desk", Secret],
            ["Press", Secret],
            ["Press", "desk", Array.Empty<KeyMessage>()],
            ["Focus", new FocusMessage("desk", "post", Secret)],
            ["Choose", "desk", 999_999L, Secret],
            ["FillSlip", "desk", 1, Secret],
            ["PreviewSlip", "desk", 1, new Dictionary<string, string> { ["x"] = Secret }],
            ["Clipboard", "desk", Secret],
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
        var log = await program.Kill();
        Assert.DoesNotContain(Secret, log, StringComparison.Ordinal);
        Assert.DoesNotContain(answers, answer => answer.Contains(Secret, StringComparison.Ordinal));
        Assert.NotEmpty(answers);
        folder.Delete(recursive: true);
    }

    [Fact]
    public async Task What_cannot_start_says_why_in_words_and_ends()
    {
        var folder = Directory.CreateTempSubdirectory("dash-sprout-");
        using (var program = await ProgramProcess.Start(folder.FullName))
        {
            var (code, words) = await ProgramProcess.StartInVain(folder.FullName);
            Assert.Equal(
                (2, true),
                (
                    code,
                    words.StartsWith(
                        $"The data folder {folder.FullName} is in use by Dash Sprout at "
                            + $"http://localhost:{program.Port}",
                        StringComparison.Ordinal
                    )
                )
            );
            var other = Directory.CreateTempSubdirectory("dash-sprout-");
            (code, words) = await ProgramProcess.StartInVain(other.FullName, program.Port);
            Assert.Equal(
                (2, $"Port {program.Port} is in use already. Stop what uses it, or choose another one with --port."),
                (code, words)
            );
            other.Delete(recursive: true);
        }
        folder.Delete(recursive: true);
    }

    [Fact]
    public async Task What_is_too_large_is_refused_with_words_and_nothing_is_kept_of_it()
    {
        var folder = Directory.CreateTempSubdirectory("dash-sprout-");
        using (var program = await ProgramProcess.Start(folder.FullName))
        {
            var (status, problem) = await program.Send(
                HttpMethod.Post,
                "/api/snippets",
                new { snippet = new { name = "a", text = new string('x', 9 * 1024 * 1024) } }
            );
            Assert.Equal(System.Net.HttpStatusCode.RequestEntityTooLarge, status);
            Assert.Contains("Split it into smaller parts", (string?)problem!["detail"], StringComparison.Ordinal);
            Assert.Equal(
                1,
                (int)
                    (
                        await program.Post(
                            "/api/libraries/rows",
                            new
                            {
                                view = new { closed = Array.Empty<long>() },
                                from = 0,
                                count = 10,
                            }
                        )
                    )["total"]!
            );
        }
        folder.Delete(recursive: true);
    }
}
