using System.Net;

namespace DashSprout.Server.Tests;

/// <summary>The keyboard link's settings, where no link is made.</summary>
public sealed class KeyboardApiTests
{
    [Fact]
    public async Task A_new_program_is_not_linked_and_says_so()
    {
        using var server = new TestServer();
        var state = await server.Get("/api/keyboard");
        Assert.False((bool)state["linked"]!);
        Assert.Null(state["problem"]);
        Assert.False((bool)state["settings"]!["enabled"]!);
        Assert.Empty(state["apps"]!.AsArray());
        var check = await server.Post("/api/keyboard/check", "");
        Assert.False((bool)check["isGood"]!);
        Assert.Contains("switched off", (string)check["lines"]![0]!["words"]!, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Settings_are_kept_across_a_restart()
    {
        var folder = Directory.CreateTempSubdirectory("dash-sprout-keyboard-");
        try
        {
            var settings = new
            {
                enabled = false,
                hints = false,
                tray = true,
                apps = new[]
                {
                    new
                    {
                        app = "XTerm",
                        pasteChord = "Ctrl+Shift+V",
                        alwaysType = false,
                        delayMs = 3,
                    },
                },
            };
            using (var server = new TestServer(data: folder.FullName))
                await server.Put("/api/keyboard", settings);
            using (var server = new TestServer(data: folder.FullName))
            {
                var kept = (await server.Get("/api/keyboard"))["settings"]!;
                Assert.False((bool)kept["hints"]!);
                Assert.Equal("Ctrl+Shift+V", (string)kept["apps"]![0]!["pasteChord"]!);
                Assert.Equal(3, (int)kept["apps"]![0]!["delayMs"]!);
            }
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    [Theory]
    [InlineData("v", 0, "apps[0].pasteChord", "Pasting needs a chord")]
    [InlineData("Ctrl+Nothing", 0, "apps[0].pasteChord", "is not a key")]
    [InlineData("Ctrl+V", 51, "apps[0].delayMs", "from 0 to 50 milliseconds")]
    public async Task What_makes_no_sense_is_refused_at_its_place(string chord, int delayMs, string field, string why)
    {
        using var server = new TestServer();
        var (status, problem) = await server.Send(
            HttpMethod.Put,
            "/api/keyboard",
            new
            {
                enabled = false,
                hints = true,
                tray = true,
                apps = new[]
                {
                    new
                    {
                        app = "XTerm",
                        pasteChord = chord,
                        alwaysType = false,
                        delayMs,
                    },
                },
            }
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains(why, (string)problem!["errors"]![field]![0]!, StringComparison.Ordinal);
        Assert.Empty((await server.Get("/api/keyboard"))["settings"]!["apps"]!.AsArray());
    }

    [Fact]
    public async Task An_icon_of_an_application_that_was_never_typed_in_is_not_there()
    {
        using var server = new TestServer();
        var (status, _) = await server.Send(HttpMethod.Get, "/api/keyboard/icons/..%2F..%2Fetc%2Fpasswd");
        Assert.Equal(HttpStatusCode.NotFound, status);
    }
}
