using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Dapper;
using Microsoft.Data.Sqlite;

namespace DashSprout.Server.Tests;

/// <summary>
/// The program killed at random moments, again and again: every change that was acknowledged is there, imports and
/// restores are there whole or not at all, and the file is sound. <c>DASH_SPROUT_KILLS</c> sets how many rounds each of
/// the two folders goes through.
/// </summary>
public sealed class KilledProgramTests
{
    private const int ImportSize = 300;

    private static readonly int Rounds = int.Parse(
        Environment.GetEnvironmentVariable("DASH_SPROUT_KILLS") ?? "8",
        System.Globalization.CultureInfo.InvariantCulture
    );

    /// <summary>Two programs side by side, each on its own folder.</summary>
    [Fact]
    public Task What_was_acknowledged_is_there_whenever_the_program_is_killed() => Task.WhenAll(Kill(1), Kill(2));

    private static async Task Kill(int seed)
    {
        var chance = new Random(seed);
        var folder = Directory.CreateTempSubdirectory("dash-sprout-");
        var model = new Dictionary<string, string>();
        var backups = new Dictionary<string, Dictionary<string, string>>();
        var pending = model;
        var count = 0;
        for (var round = 0; round < Rounds; round++)
        {
            using var program = await ProgramProcess.Start(folder.FullName);
            var found = await Snippets(program);
            // What was under way when it was killed is there whole or not at all.
            Assert.True(
                Same(found, model) || Same(found, pending),
                $"seed {seed}, round {round}: {Difference(found, model)}"
            );
            model = found;
            // The switch of the typing settings and the chord beside it are one: both or neither.
            var settings = (await program.Send(HttpMethod.Get, "/api/settings/typing")).Body!;
            Assert.Equal((bool)settings["hints"]!, (string?)settings["chords"]!["rest"] == "Ctrl+Alt+R");

            var until = DateTime.UtcNow.AddMilliseconds(chance.Next(30, 500));
            var killed = Task.Run(async () =>
            {
                var left = until - DateTime.UtcNow;
                if (left > TimeSpan.Zero)
                    await Task.Delay(left);
                await program.Kill();
            });
            try
            {
                while (true)
                {
                    pending = new(model);
                    await Step(program, chance, pending, backups, ++count);
                    model = pending;
                }
            }
            catch (Exception exception) when (exception is HttpRequestException or System.Net.Sockets.SocketException)
            {
                // The program is gone, perhaps in the middle of a change.
            }
            await killed;
        }
        using (
            var connection = new SqliteConnection(
                $"Data Source={Path.Combine(folder.FullName, "dash-sprout.sqlite")};Pooling=False"
            )
        )
        {
            connection.Open();
            Assert.Equal("ok", connection.QuerySingle<string>("PRAGMA integrity_check"));
        }
        Assert.False(Directory.Exists(Path.Combine(folder.FullName, "set-aside")));
        folder.Delete(recursive: true);
    }

    /// <summary>One change: first in the model, since the program may be killed before it answers.</summary>
    private static async Task Step(
        ProgramProcess program,
        Random chance,
        Dictionary<string, string> model,
        Dictionary<string, Dictionary<string, string>> backups,
        int count
    )
    {
        switch (chance.Next(12))
        {
            case 0:
                var brought = Enumerable
                    .Range(0, ImportSize)
                    .Select(at => new { name = $"{count}.{at}", text = $"{count}" })
                    .ToList();
                foreach (
                    var name in model.Keys.Where(name => name.StartsWith("Brought/", StringComparison.Ordinal)).ToList()
                )
                    model.Remove(name);
                foreach (var snippet in brought)
                    model[$"Brought/{snippet.name}"] = snippet.text;
                await Good(
                    program.Client.PostAsJsonAsync(
                        "/api/library-file?replace=true",
                        new
                        {
                            format = "dash-sprout-library",
                            version = 1,
                            libraries = new[] { new { name = "Brought", snippets = brought } },
                        }
                    )
                );
                break;
            case 1:
                var made = await Good(program.Client.PostAsync(new Uri("/api/backups", UriKind.Relative), null));
                backups[(string)made!["name"]!] = new(model);
                break;
            case 2 when await LastBackup(program, backups) is { } backup:
                model.Clear();
                foreach (var (name, text) in backups[backup])
                    model[name] = text;
                await Good(program.Client.PostAsync(new Uri($"/api/backups/{backup}/restore", UriKind.Relative), null));
                break;
            case 3:
                var hints = chance.Next(2) == 0;
                var rest = hints ? "Ctrl+Alt+R" : "Ctrl+Alt+Q";
                await Good(
                    program.Client.PutAsJsonAsync(
                        "/api/settings/typing",
                        new
                        {
                            takeBack = true,
                            hints,
                            chords = new
                            {
                                finder = "Ctrl+Alt+ ",
                                gather = "Ctrl+Alt+N",
                                rest,
                                record = "Ctrl+Alt+Shift+R",
                                takeBack = "Ctrl+Alt+Z",
                                proofLine = "Ctrl+Alt+P",
                                why = "Ctrl+Alt+W",
                                help = "F1",
                            },
                        }
                    )
                );
                break;
            default:
                model[$"My snippets/s{count}"] = $"{count}";
                await Good(
                    program.Client.PostAsJsonAsync(
                        "/api/snippets",
                        new { snippet = new { name = $"s{count}", text = $"{count}" } }
                    )
                );
                break;
        }
    }

    private static async Task<JsonNode?> Good(Task<HttpResponseMessage> sending)
    {
        using var answer = await sending;
        var text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.IsSuccessStatusCode, text);
        return text.Length == 0 ? null : JsonNode.Parse(text);
    }

    /// <summary>The newest of the backups that were made here; older ones may have been let go.</summary>
    private static async Task<string?> LastBackup(
        ProgramProcess program,
        Dictionary<string, Dictionary<string, string>> backups
    ) =>
        (await Good(program.Client.GetAsync(new Uri("/api/backups", UriKind.Relative))))!
            .AsArray()
            .Select(backup => (string)backup!["name"]!)
            .FirstOrDefault(backups.ContainsKey);

    private static async Task<Dictionary<string, string>> Snippets(ProgramProcess program)
    {
        var file = await Good(program.Client.GetAsync(new Uri("/api/library-file", UriKind.Relative)));
        return file!["libraries"]!
            .AsArray()
            .SelectMany(library =>
                (library!["snippets"]?.AsArray() ?? []).Select(snippet =>
                    (Name: $"{library["name"]}/{snippet!["name"]}", Text: (string)snippet["text"]!)
                )
            )
            .ToDictionary(pair => pair.Name, pair => pair.Text);
    }

    private static bool Same(Dictionary<string, string> one, Dictionary<string, string> other) =>
        one.Count == other.Count && one.All(pair => other.TryGetValue(pair.Key, out var text) && text == pair.Value);

    private static string Difference(Dictionary<string, string> found, Dictionary<string, string> wanted) =>
        $"missing {string.Join(", ", wanted.Keys.Except(found.Keys).Take(5))}; too many "
        + $"{string.Join(", ", found.Keys.Except(wanted.Keys).Take(5))}";
}
