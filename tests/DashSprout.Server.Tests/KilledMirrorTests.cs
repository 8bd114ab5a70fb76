using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>
/// A program that is killed while it writes a mirror file takes nothing of its own for another machine's: one machine
/// alone never has a conflict, and in the end the file says what was acknowledged. <c>DASH_SPROUT_KILLS</c> kills it more
/// often.
/// </summary>
public sealed class KilledMirrorTests
{
    private static readonly int Rounds = int.Parse(
        Environment.GetEnvironmentVariable("DASH_SPROUT_KILLS") ?? "5",
        CultureInfo.InvariantCulture
    );

    [Fact]
    public async Task One_machine_has_no_conflict_with_itself()
    {
        var chance = new Random(7);
        var data = Directory.CreateTempSubdirectory("dash-sprout-");
        var folder = Directory.CreateTempSubdirectory("dash-sprout-mirror-");
        long id = 0;
        string? sure = null;
        var tried = "";
        for (var round = 0; round <= Rounds; round++)
        {
            using var program = await ProgramProcess.Start(data.FullName);
            if (round == 0)
            {
                var library = (long)(await program.Post("/api/libraries", new { name = "Notices" }))["id"]!;
                var snippet = new { name = "Gale", text = "0" };
                id = (long)(await program.Post("/api/snippets", new { parentId = library, snippet }))["id"]!;
                await program.Post(
                    "/api/mirrors",
                    new
                    {
                        folder = folder.FullName,
                        libraryIds = new[] { library },
                        files = Array.Empty<string>(),
                    }
                );
            }
            // An edit right after the start meets what the program that was killed has left.
            await Edit(program, $"{round} begins");
            await program.Post("/api/mirrors/sync", new { });
            var mirror = (await program.Send(HttpMethod.Get, "/api/mirrors")).Body![0]!;
            Assert.Equal(("in-step", 0), ((string)mirror["state"]!, mirror["conflicts"]!.AsArray().Count));
            Assert.Equal($"{round} begins", Written(folder.FullName));
            if (round == Rounds)
                break;
            var killed = Task.Run(async () =>
            {
                await Task.Delay(chance.Next(5, 400));
                await program.Kill();
            });
            try
            {
                for (var step = 0; ; step++)
                {
                    tried = $"{round}.{step}";
                    await Edit(program, tried);
                    sure = tried;
                    await program.Post("/api/mirrors/sync", new { });
                }
            }
            catch (HttpRequestException)
            {
                // It is gone, perhaps in the middle of writing.
            }
            await killed;
            Assert.NotNull(sure);
        }
        data.Delete(recursive: true);
        folder.Delete(recursive: true);

        async Task Edit(ProgramProcess program, string text)
        {
            var before = (await program.Send(HttpMethod.Get, $"/api/snippets/{id}")).Body!["snippet"]!;
            // What was acknowledged is there; what was under way may be.
            if (sure is not null && (string)before["text"]! is var now && now != sure)
                Assert.Equal(tried, now);
            var after = before.DeepClone();
            after["text"] = text;
            var (status, answer) = await program.Send(
                HttpMethod.Patch,
                $"/api/snippets/{id}",
                new
                {
                    before,
                    after,
                    triggers = Array.Empty<object>(),
                }
            );
            Assert.Equal(HttpStatusCode.OK, status);
            Assert.Empty(answer!["unsaved"]!.AsArray());
            (sure, tried) = (text, text);
        }
    }

    private static string Written(string folder) =>
        (string)
            JsonNode.Parse(File.ReadAllText(Path.Combine(folder, "Notices.json")))!["libraries"]![0]!["snippets"]![0]![
                "text"
            ]!;
}
