namespace DashSprout.Server.Tests;

/// <summary>
/// Several machines through one mirror folder, each of which goes back to backups of its own now and then, against a plain
/// model: going back is a change like any other, it reaches all of them, and what was added meanwhile is never taken for
/// something else.
/// </summary>
public sealed class RestoredMachinesTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-mirror-");
    private readonly TestServer[] machines = [new(), new(), new()];

    public void Dispose()
    {
        foreach (var machine in machines)
            machine.Dispose();
        folder.Delete(recursive: true);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task Going_back_on_one_machine_goes_back_on_all(int seed)
    {
        var chance = new Random(seed);
        var model = new Dictionary<string, string>();
        var backups = new List<(TestServer Machine, string Name, Dictionary<string, string> Model)>();
        await Begin();
        for (var step = 0; step < 40; step++)
        {
            var machine = machines[chance.Next(machines.Length)];
            var name = model.Count == 0 ? "" : model.Keys.ElementAt(chance.Next(model.Count));
            switch (chance.Next(6))
            {
                case 0 when name.Length > 0:
                    await machine.Send(HttpMethod.Delete, $"/api/items/{await Id(machine, name)}");
                    model.Remove(name);
                    break;
                case 1:
                    var backup = (string)(await machine.Post("/api/backups", new { }))["name"]!;
                    backups.Add((machine, backup, new(model)));
                    break;
                case 2 when backups.Count > 0:
                    var (where, kept, then) = backups[chance.Next(backups.Count)];
                    await where.Post($"/api/backups/{kept}/restore", new { });
                    model = new(then);
                    break;
                case 3 when name.Length > 0:
                    await machine.Save(await Id(machine, name), new { text = $"{step}" });
                    model[name] = $"{step}";
                    break;
                default:
                    await machine.AddSnippet(await Library(machine), TestServer.Snippet($"s{step}", $"{step}"));
                    model[$"s{step}"] = $"{step}";
                    break;
            }
            await Sync();
            foreach (var one in machines)
            {
                Assert.Equal(Lines(model), Lines(await Texts(one)));
                Assert.Empty((await one.Get("/api/mirrors"))[0]!["conflicts"]!.AsArray());
            }
        }
        Assert.NotEmpty(backups);
    }

    private static string Lines(Dictionary<string, string> texts) =>
        string.Join('\n', texts.Select(pair => $"{pair.Key}: {pair.Value}").Order(StringComparer.Ordinal));

    private async Task Begin()
    {
        foreach (var machine in machines)
        {
            long[] libraries = machine == machines[0] ? [await machine.AddLibrary("Notices")] : [];
            await machine.Post(
                "/api/mirrors",
                new
                {
                    folder = folder.FullName,
                    libraryIds = libraries,
                    files = libraries.Length > 0 ? Array.Empty<string>() : ["Notices.json"],
                }
            );
        }
        await Sync();
    }

    private async Task Sync()
    {
        for (var time = 0; time < 3; time++)
            foreach (var machine in machines)
                await machine.Post("/api/mirrors/sync", new { });
    }

    private static async Task<long> Library(TestServer machine) =>
        (long)(await machine.Get("/api/mirrors"))[0]!["libraryId"]!;

    private static async Task<long> Id(TestServer machine, string name) =>
        (long)(await machine.Rows()).First(row => (string)row!["name"]! == name)!["id"]!;

    private static async Task<Dictionary<string, string>> Texts(TestServer machine) =>
        (
            (await machine.Get($"/api/library-file?library={await Library(machine)}"))["libraries"]![0]!
                ["snippets"]
                ?.AsArray()
            ?? []
        ).ToDictionary(snippet => (string)snippet!["name"]!, snippet => (string)snippet!["text"]!);
}
