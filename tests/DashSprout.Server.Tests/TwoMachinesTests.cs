using System.Diagnostics;
using System.Net;
using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>
/// Two programs with two data folders edit at random, through one mirror folder and through two clones of a Git
/// repository, until both agree; nothing that was acknowledged is lost unless somebody who saw it replaced it.
/// </summary>
public sealed class TwoMachinesTests : IDisposable
{
    private readonly DirectoryInfo root = Directory.CreateTempSubdirectory("dash-sprout-two-");

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(19)]
    public async Task Through_one_folder(int seed)
    {
        using var one = new Machine(Path.Combine(root.FullName, "shared"));
        using var other = new Machine(Path.Combine(root.FullName, "shared"));
        await new Play(new Random(seed), [one, other], machine => machine.Sync()).Run();
    }

    [Theory]
    [InlineData(6)]
    [InlineData(10)]
    [InlineData(12)]
    [InlineData(16)]
    [InlineData(18)]
    public async Task Through_two_clones_of_a_repository(int seed)
    {
        var bare = Path.Combine(root.FullName, "bare.git");
        Git(root.FullName, "init", "-q", "--bare", "-b", "main", bare);
        using var one = new Machine(Path.Combine(root.FullName, "one"));
        using var other = new Machine(Path.Combine(root.FullName, "other"));
        Git(root.FullName, "clone", "-q", bare, one.Folder);
        Git(root.FullName, "clone", "-q", bare, other.Folder);
        await new Play(new Random(seed), [one, other], Carry).Run();

        static async Task Carry(Machine machine)
        {
            await machine.Sync();
            Commit(machine.Folder);
            // What Git cannot merge itself it leaves with marks, and the program takes both sides in.
            Git(machine.Folder, "pull", "-q", "--no-rebase", "--no-edit", "origin", "main");
            await machine.Sync();
            Commit(machine.Folder);
            Git(machine.Folder, "push", "-q", "origin", "HEAD:main");
        }

        static void Commit(string folder)
        {
            Git(folder, "add", "-A");
            Git(folder, "commit", "-q", "-m", "Snippets");
        }
    }

    public void Dispose() => root.Delete(recursive: true);

    private static void Git(string folder, params string[] words)
    {
        var start = new ProcessStartInfo(
            "git",
            [
                "-c",
                "user.name=Gullhaven",
                "-c",
                "user.email=clerk@example.org",
                "-c",
                "init.defaultBranch=main",
                .. words,
            ]
        )
        {
            WorkingDirectory = folder,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            Environment = { ["GIT_CONFIG_GLOBAL"] = "/dev/null", ["GIT_CONFIG_SYSTEM"] = "/dev/null" },
        };
        using var git = Process.Start(start)!;
        // A commit of nothing, a pull of nothing and one with conflicts end with a fault; what comes of them is looked
        // at in the end.
        git.StandardOutput.ReadToEnd();
        git.WaitForExit();
    }

    private sealed class Machine : IDisposable
    {
        private readonly TestServer server = new();

        public Machine(string folder)
        {
            Folder = folder;
            Directory.CreateDirectory(folder);
        }

        public string Folder { get; }

        public Task<JsonNode> Sync() => server.Post("/api/mirrors/sync", new { });

        public async Task Begin(bool first)
        {
            long[] libraries = first ? [await server.AddLibrary("Notices")] : [];
            await server.Post(
                "/api/mirrors",
                new
                {
                    folder = Folder,
                    libraryIds = libraries,
                    files = first ? Array.Empty<string>() : ["Notices.json"],
                }
            );
        }

        public async Task<IReadOnlyList<(long Id, string Name, string Text)>> Snippets()
        {
            var all = new List<(long, string, string)>();
            foreach (var row in (await server.Rows()).Where(row => (string)row!["kind"]! == "snippet"))
                // What another machine has deleted may go at any moment.
                if (await server.Send(HttpMethod.Get, $"/api/snippets/{row!["id"]}") is (HttpStatusCode.OK, { } found))
                    all.Add(((long)row["id"]!, (string)row["name"]!, (string)found["snippet"]!["text"]!));
            return all;
        }

        public async Task<string> Tree() =>
            string.Join(
                '\n',
                (await server.Rows()).Select(row =>
                    $"{row!["depth"]} {row["kind"]} {row["name"]} {row["beginning"]} {row["enabled"]}"
                )
            );

        public async Task<IReadOnlyList<long>> Holders() =>
            [
                .. (await server.Rows())
                    .Where(row => (string)row!["kind"]! != "snippet")
                    .Select(row => (long)row!["id"]!),
            ];

        public async Task<bool> Do(HttpMethod method, string address, object? body) =>
            (int)(await server.Send(method, address, body)).Status < 300;

        public async Task<bool> Write(long id, object after) => (await server.Save(id, after)).Count == 0;

        /// <summary>
        /// Writes a text, and says which one it took the place of; null when that was another one by then.
        /// </summary>
        public async Task<string?> Write(long id, string text)
        {
            var before = (await server.Get($"/api/snippets/{id}"))["snippet"]!.AsObject();
            var after = before.DeepClone().AsObject();
            after["text"] = text;
            var (status, answer) = await server.Send(
                HttpMethod.Patch,
                $"/api/snippets/{id}",
                new
                {
                    before,
                    after,
                    triggers = Array.Empty<object>(),
                }
            );
            return status == HttpStatusCode.OK && answer!["unsaved"]!.AsArray().Count == 0
                ? (string)before["text"]!
                : null;
        }

        public async Task<JsonArray> Conflicts() => (await server.Get("/api/mirrors"))[0]!["conflicts"]!.AsArray();

        public async Task<HttpStatusCode> Decide(JsonNode conflict, string keep)
        {
            var library = (long)(await server.Get("/api/mirrors"))[0]!["libraryId"]!;
            var decision = new
            {
                key = (string)conflict["key"]!,
                part = (string)conflict["part"]!,
                source = (string)conflict["source"]!,
                seen = (string)conflict["seen"]!,
                keep,
            };
            return (await server.Send(HttpMethod.Post, $"/api/mirrors/{library}/decide", decision)).Status;
        }

        public void Dispose() => server.Dispose();
    }

    private sealed class Play(Random random, Machine[] machines, Func<Machine, Task> carry)
    {
        private readonly HashSet<string> written = [];
        private readonly HashSet<string> replaced = [];
        private int count;

        public async Task Run()
        {
            await machines[0].Begin(first: true);
            await carry(machines[0]);
            // The file comes to the other by whatever carries it.
            await carry(machines[0]);
            if (!File.Exists(Path.Combine(machines[1].Folder, "Notices.json")))
                Git(machines[1].Folder, "pull", "-q", "origin", "main");
            await machines[1].Begin(first: false);
            foreach (var machine in machines)
                await carry(machine);

            for (var step = 0; step < 40; step++)
            {
                var machine = machines[random.Next(machines.Length)];
                if (random.Next(4) == 0)
                    await carry(machine);
                else
                    await Edit(machine);
            }
            for (var round = 0; round < 6; round++)
                foreach (var machine in machines)
                {
                    foreach (var conflict in await machine.Conflicts())
                        await Choose(machine, conflict!);
                    await carry(machine);
                }

            Assert.Empty(await machines[0].Conflicts());
            Assert.Empty(await machines[1].Conflicts());
            Assert.Equal(await machines[0].Tree(), await machines[1].Tree());
            var alive = (await machines[0].Snippets()).Select(snippet => snippet.Text).ToHashSet();
            Assert.DoesNotContain(written, token => !alive.Contains(token) && !replaced.Contains(token));
            Assert.Single(Directory.GetFiles(machines[0].Folder, "*.json"));
        }

        private async Task Edit(Machine machine)
        {
            var token = $"text {count++}";
            var snippets = await machine.Snippets();
            var holders = await machine.Holders();
            var kind = snippets.Count == 0 ? 0 : random.Next(8);
            var chosen = snippets.Count == 0 ? default : snippets[random.Next(snippets.Count)];
            var holder = holders[random.Next(holders.Count)];
            switch (kind)
            {
                case 0 or 1:
                    if (
                        await machine.Do(
                            HttpMethod.Post,
                            "/api/snippets",
                            new { parentId = holder, snippet = TestServer.Snippet($"Snippet {random.Next(8)}", token) }
                        )
                    )
                        written.Add(token);
                    break;
                case 2:
                    await machine.Do(
                        HttpMethod.Post,
                        "/api/folders",
                        new { parentId = holder, name = $"Folder {random.Next(3)}" }
                    );
                    break;
                case 3:
                    // What is deleted is what was seen, whatever comes from the folder meanwhile.
                    if (await machine.Write(chosen.Id, $"deleted {count}") is not { } deleted)
                        break;
                    replaced.Add(deleted);
                    await machine.Do(HttpMethod.Delete, $"/api/items/{chosen.Id}", null);
                    break;
                case 4:
                    await machine.Do(HttpMethod.Post, $"/api/items/{chosen.Id}/move", new { parentId = holder });
                    break;
                case 5:
                    await machine.Write(chosen.Id, new { name = $"Snippet {random.Next(8)}" });
                    break;
                default:
                    if (await machine.Write(chosen.Id, token) is not { } old)
                        break;
                    written.Add(token);
                    replaced.Add(old);
                    break;
            }
        }

        private async Task Choose(Machine machine, JsonNode conflict)
        {
            var here = random.Next(2) == 0;
            if (await machine.Decide(conflict, here ? "here" : "there") != HttpStatusCode.OK)
                return;
            if ((string)conflict["part"]! == "body")
                replaced.Add((string)(here ? conflict["there"] : conflict["here"])!);
        }
    }
}
