using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>
/// Several real programs through one real folder at the same moment, killed at random, against a plain model of what was
/// acknowledged: what only one of them wrote is there on all of them in the end, and what several wrote is one of what
/// they wrote, the same everywhere — also where each has a folder of its own and a tool copies from one to the other.
/// <c>DASH_SPROUT_ROUNDS</c> gives more of it.
/// </summary>
public sealed class ManyProgramsTests : IDisposable
{
    private const int Own = 3;

    private static readonly int Rounds = int.Parse(
        Environment.GetEnvironmentVariable("DASH_SPROUT_ROUNDS") ?? "3",
        CultureInfo.InvariantCulture
    );

    private readonly DirectoryInfo root = Directory.CreateTempSubdirectory("dash-sprout-many-");
    private readonly int seed = Random.Shared.Next();
    private CopyingTool? tool;

    private string Shared => Path.Combine(root.FullName, "shared");

    public void Dispose() => root.Delete(recursive: true);

    [Theory]
    [InlineData(2)]
    [InlineData(3)]
    public Task They_agree_in_the_end_and_nothing_acknowledged_is_lost(int programs) => Run(programs, async machines =>
        {
            for (var number = 0; number < programs; number++)
            {
                machines.Add(await Machine.Start(Data(number), number));
                await machines[number].Begin(Shared, programs);
            }
        });

    /// <summary>Each machine has its folder; a tool makes them alike, at any moment, and knows nothing of what is in them.</summary>
    [Theory]
    [InlineData(2, false)]
    [InlineData(3, false)]
    [InlineData(2, true)]
    [InlineData(3, true)]
    public Task Through_a_tool_that_copies_files(int programs, bool leavesCopies) => Run(programs, async machines =>
        {
            var folders = Enumerable.Range(0, programs).Select(at => Path.Combine(root.FullName, $"folder{at}"));
            tool = new CopyingTool(
                [.. folders.Select(folder => Directory.CreateDirectory(folder).FullName)],
                leavesCopies
            );
            for (var number = 0; number < programs; number++)
            {
                machines.Add(await Machine.Start(Data(number), number));
                await machines[number].Begin(tool.Folders[number], programs);
                await tool.Run();
            }
        });

    /// <summary>
    /// Disks of one image: the data folder is a copy, and neither its place nor the machine tell that it is one.
    /// </summary>
    [Fact]
    public Task Copies_of_one_machine_agree_as_well() => Run(2, async machines =>
        {
            machines.Add(await Machine.Start(Data(0), 0));
            await machines[0].Begin(Shared, 2);
            await machines[0].KillAfter(0);
            using (var copying = System.Diagnostics.Process.Start("cp", ["-a", Data(0), Data(1)]))
                await copying.WaitForExitAsync();
            machines.Add(await Machine.Start(Data(1), 1));
            await machines[1].KillAfter(0);
            var (id, copied) = (Path.Combine(Data(0), "machine"), Path.Combine(Data(1), "machine"));
            var lines = await File.ReadAllLinesAsync(copied);
            lines[0] = (await File.ReadAllLinesAsync(id))[0];
            // Into the file that is there, since its number is part of what is written.
            await File.WriteAllTextAsync(copied, string.Join('\n', lines));
            foreach (var machine in machines)
                await machine.Restart();
            await machines[1].Join(Shared);
            Assert.Equal(lines[0], (await File.ReadAllLinesAsync(copied))[0]);
        });

    private string Data(int number) => Path.Combine(root.FullName, $"data{number}");

    private async Task Run(int programs, Func<List<Machine>, Task> begin)
    {
        Directory.CreateDirectory(Shared);
        var chance = new Random(seed);
        var machines = new List<Machine>();
        try
        {
            await begin(machines);
            await Agree(machines, "at the beginning");
            for (var round = 0; round < Rounds; round++)
            {
                // All at once, each at its own pace; one of them may not live to the end of it.
                var victim = chance.Next(3) == 0 ? machines[chance.Next(programs)] : null;
                var seeds = machines.ToDictionary(machine => machine, _ => chance.Next());
                var wait = chance.Next(20, 400);
                var edits = machines.Select(machine => Edits(machine, new Random(seeds[machine]), round)).ToList();
                var working = Task.WhenAll(edits);
                var copying = tool?.Until(working, new Random(chance.Next())) ?? Task.CompletedTask;
                if (victim is not null)
                    await victim.KillAfter(wait);
                await working;
                await copying;
                if (victim is not null)
                    await victim.Restart();
                await Agree(machines, $"seed {seed}, round {round}, killed {victim?.Number}");
            }
        }
        finally
        {
            foreach (var machine in machines)
                machine.Dispose();
        }
    }

    private static async Task Edits(Machine machine, Random chance, int round)
    {
        for (var step = 0; step < 12; step++)
        {
            // Most of the time its own; sometimes the one that belongs to all.
            var name = chance.Next(4) == 0 ? "common" : $"own {machine.Number} {chance.Next(Own)}";
            if (!await machine.Write(name, $"{name}: {round}.{step} of {machine.Number}"))
                return;
        }
    }

    /// <summary>Lets all of them meet until nothing changes any more, and compares them with what was acknowledged.</summary>
    private async Task Agree(IReadOnlyList<Machine> machines, string when)
    {
        var states = new List<Dictionary<string, string>>();
        for (var time = 0; time < 30; time++)
        {
            foreach (var machine in machines)
            {
                await machine.Sync();
                foreach (var conflict in await machine.Conflicts())
                {
                    Assert.True(
                        ((string)conflict!["title"]!).Contains("common", StringComparison.Ordinal),
                        $"{when}: a conflict of what only one of them wrote: {conflict}"
                    );
                    await machine.Decide(conflict);
                }
            }
            if (tool is not null)
                await tool.Run();
            states = [];
            foreach (var machine in machines)
                states.Add(await machine.Texts());
            if (states.TrueForAll(state => Same(state, states[0])) && time > 2)
                break;
        }
        foreach (var state in states)
            Assert.True(
                Same(state, states[0]),
                $"{when}: they differ.\n{string.Join("\n---\n", states.Select(one => string.Join('\n', one)))}"
            );
        foreach (var machine in machines)
        foreach (var (name, text) in states[0])
            if (name.StartsWith($"own {machine.Number} ", StringComparison.Ordinal))
                Assert.True(
                    machine.May(name, text),
                    $"{when}: “{name}” is “{text}”, but “{machine.Sure(name)}” was acknowledged."
                );
        Assert.True(
            machines.Any(machine => machine.Wrote("common", states[0]["common"])),
            $"{when}: {states[0]["common"]}"
        );
        foreach (var machine in machines)
            Assert.Single(Directory.GetFiles(machine.Folder, "*.json"));
    }

    private static bool Same(Dictionary<string, string> one, Dictionary<string, string> other) =>
        one.Count == other.Count && one.All(pair => other.TryGetValue(pair.Key, out var text) && text == pair.Value);

    private sealed class Machine(string data, int number) : IDisposable
    {
        private readonly Dictionary<string, string> sure = [];
        private readonly Dictionary<string, HashSet<string>> tried = [];
        private ProgramProcess program = null!;
        private long library;

        public int Number => number;

        public string Folder { get; private set; } = "";

        public static async Task<Machine> Start(string data, int number)
        {
            var machine = new Machine(data, number);
            await machine.Restart();
            return machine;
        }

        public async Task Restart()
        {
            program?.Dispose();
            program = await ProgramProcess.Start(data);
        }

        public async Task KillAfter(int milliseconds)
        {
            await Task.Delay(milliseconds);
            await program.Kill();
        }

        public async Task Begin(string folder, int programs)
        {
            if (number == 0)
            {
                library = (long)(await program.Post("/api/libraries", new { name = "Notices" }))["id"]!;
                foreach (
                    var name in Enumerable
                        .Range(0, programs)
                        .SelectMany(who => Enumerable.Range(0, Own).Select(at => $"own {who} {at}"))
                        .Append("common")
                )
                    await program.Post(
                        "/api/snippets",
                        new { parentId = library, snippet = new { name, text = "begun" } }
                    );
            }
            await program.Post(
                "/api/mirrors",
                new
                {
                    folder,
                    libraryIds = number == 0 ? [library] : Array.Empty<long>(),
                    files = number == 0 ? Array.Empty<string>() : ["Notices.json"],
                }
            );
            await Join(folder);
        }

        public async Task Join(string folder)
        {
            Folder = folder;
            library = (long)(await program.Send(HttpMethod.Get, "/api/mirrors")).Body![0]!["libraryId"]!;
        }

        public Task Sync() => program.Post("/api/mirrors/sync", new { });

        public async Task<JsonArray> Conflicts() =>
            (await program.Send(HttpMethod.Get, "/api/mirrors")).Body![0]!["conflicts"]!.AsArray();

        public async Task Decide(JsonNode conflict)
        {
            var decision = new
            {
                key = (string)conflict["key"]!,
                part = (string)conflict["part"]!,
                source = (string)conflict["source"]!,
                seen = (string)conflict["seen"]!,
                // Each insisting on its own would never end.
                keep = number == 0 ? "here" : "there",
            };
            var (status, answer) = await program.Send(HttpMethod.Post, $"/api/mirrors/{library}/decide", decision);
            Assert.True(status is HttpStatusCode.OK or HttpStatusCode.Conflict, $"{status} {answer}");
        }

        public async Task<Dictionary<string, string>> Texts() =>
            (await program.Send(HttpMethod.Get, $"/api/library-file?library={library}")).Body!["libraries"]![0]![
                "snippets"
            ]!
                .AsArray()
                .ToDictionary(snippet => (string)snippet!["name"]!, snippet => (string)snippet!["text"]!);

        /// <summary>Writes a text; false when the program is gone.</summary>
        public async Task<bool> Write(string name, string text)
        {
            try
            {
                var row = (
                    await program.Post(
                        "/api/libraries/rows",
                        new
                        {
                            view = new { closed = Array.Empty<long>() },
                            from = 0,
                            count = 100,
                        }
                    )
                )["rows"]!.AsArray().First(row => (string)row!["name"]! == name)!;
                var before = (await program.Send(HttpMethod.Get, $"/api/snippets/{row["id"]}")).Body!["snippet"]!;
                var after = before.DeepClone();
                after["text"] = text;
                tried.TryAdd(name, []);
                tried[name].Add(text);
                var (status, answer) = await program.Send(
                    HttpMethod.Patch,
                    $"/api/snippets/{row["id"]}",
                    new
                    {
                        before,
                        after,
                        triggers = Array.Empty<object>(),
                    }
                );
                Assert.Equal(HttpStatusCode.OK, status);
                if (answer!["unsaved"]!.AsArray().Count == 0)
                    sure[name] = text;
                return true;
            }
            catch (HttpRequestException)
            {
                return false;
            }
        }

        /// <summary>Whether a text is what was acknowledged last, or what was under way when the program was killed.</summary>
        public bool May(string name, string text) =>
            text == sure.GetValueOrDefault(name, "begun") || (Wrote(name, text) && Later(name, text));

        public string Sure(string name) => sure.GetValueOrDefault(name, "begun");

        public bool Wrote(string name, string text) =>
            text == "begun" || (tried.TryGetValue(name, out var texts) && texts.Contains(text));

        public void Dispose() => program.Dispose();

        /// <summary>What was tried last is what may have come through without a word.</summary>
        private bool Later(string name, string text)
        {
            if (tried[name].Last() != text)
                return false;
            sure[name] = text;
            return true;
        }
    }
}
