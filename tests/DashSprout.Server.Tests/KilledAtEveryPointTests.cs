using System.Diagnostics;
using System.Text.Json.Nodes;
using Dapper;
using Microsoft.Data.Sqlite;

namespace DashSprout.Server.Tests;

/// <summary>
/// The program killed just before each of its calls that change what is on disk — the first, the second, … of each kind
/// — while it makes a backup, brings in a file, restores, or writes a mirror file. <c>DASH_SPROUT_DEPTH=100</c> takes
/// every point; fewer take some of them, others each time.
/// </summary>
public sealed class KilledAtEveryPointTests : IDisposable
{
    private static readonly string[] Calls =
    [
        "fsync",
        "fdatasync",
        "rename",
        "unlink",
        "ftruncate",
        "openat",
        "pwrite64",
    ];

    /// <summary>Of how many points one is taken.</summary>
    private static readonly int Step = Depth.Step * Depth.Step;

    private readonly DirectoryInfo data = Directory.CreateTempSubdirectory("dash-sprout-");
    private readonly DirectoryInfo mirror = Directory.CreateTempSubdirectory("dash-sprout-mirror-");
    private int count;

    public void Dispose()
    {
        data.Delete(recursive: true);
        mirror.Delete(recursive: true);
    }

    [Fact]
    public Task While_it_makes_a_backup() =>
        AtEveryPoint(async (program, _) => await program.Post("/api/backups", new { }));

    [Fact]
    public Task While_it_brings_in_a_file() =>
        AtEveryPoint(
            async (program, model) =>
            {
                foreach (var name in model.Keys.Where(name => name.StartsWith("Brought/", StringComparison.Ordinal)))
                    model.Remove(name);
                var snippets = Enumerable
                    .Range(0, 40)
                    .Select(at => new { name = $"{count}.{at}", text = $"{count}" })
                    .ToList();
                foreach (var snippet in snippets)
                    model[$"Brought/{snippet.name}"] = snippet.text;
                var libraries = new[] { new { name = "Brought", snippets } };
                await program.Post(
                    "/api/library-file?replace=true",
                    new
                    {
                        format = "dash-sprout-library",
                        version = 1,
                        libraries,
                    }
                );
            }
        );

    [Fact]
    public async Task While_it_restores()
    {
        var (name, kept) = ("", new Dictionary<string, string>());
        using (var program = await ProgramProcess.Start(data.FullName))
        {
            await Add(program, kept);
            name = (string)(await program.Post("/api/backups", new { }))["name"]!;
            await program.Kill();
        }
        await AtEveryPoint(
            async (program, model) =>
            {
                model.Clear();
                foreach (var (key, text) in kept)
                    model[key] = text;
                await program.Post($"/api/backups/{name}/restore", new { });
            },
            kept
        );
    }

    [Fact]
    public async Task While_it_writes_a_mirror_file()
    {
        var begun = new Dictionary<string, string>();
        using (var program = await ProgramProcess.Start(data.FullName))
        {
            await Add(program, begun);
            var library = (await program.Send(HttpMethod.Get, "/api/libraries")).Body!["libraries"]![0]!["id"];
            await program.Post(
                "/api/mirrors",
                new
                {
                    folder = mirror.FullName,
                    libraryIds = new[] { (long)library! },
                    files = Array.Empty<string>(),
                }
            );
            await program.Kill();
        }
        await AtEveryPoint(
            async (program, model) =>
            {
                await Add(program, model);
                await program.Post("/api/mirrors/sync", new { });
            },
            begun,
            async program =>
            {
                await program.Post("/api/mirrors/sync", new { });
                var state = (await program.Send(HttpMethod.Get, "/api/mirrors")).Body![0]!;
                Assert.Equal(("in-step", 0), ((string)state["state"]!, state["conflicts"]!.AsArray().Count));
                var file = Assert.Single(Directory.GetFiles(mirror.FullName));
                Assert.Equal(await Snippets(program), Read(JsonNode.Parse(await File.ReadAllTextAsync(file))!));
            }
        );
    }

    /// <summary>Does one thing again and again, and kills the program at another point each time.</summary>
    /// <param name="act">The thing; it says in the model what is to be there afterwards, before it asks for it.</param>
    private async Task AtEveryPoint(
        Func<ProgramProcess, Dictionary<string, string>, Task> act,
        Dictionary<string, string>? begun = null,
        Func<ProgramProcess, Task>? alsoAfter = null
    )
    {
        var model = new Dictionary<string, string>(begun ?? []);
        var killed = 0;
        var program = await ProgramProcess.Start(data.FullName);
        foreach (var call in Calls)
        {
            // Pages are written by the hundred, and one is like the next: the steps grow.
            for (
                var point = 1 + Random.Shared.Next(Step);
                ;
                point += call == "pwrite64" ? Math.Max(Step, point / 2) : Step
            )
            {
                count++;
                await Add(program, model);
                var pending = new Dictionary<string, string>(model);
                using (var fate = await Fate.Of(program.Id, call, point))
                {
                    try
                    {
                        await act(program, pending);
                        model = pending;
                        break;
                    }
                    catch (HttpRequestException) when (program.HasExited(Patience.Longest))
                    {
                        killed++;
                    }
                }
                program.Dispose();
                program = await ProgramProcess.Start(data.FullName);
                var found = await Snippets(program);
                Assert.True(
                    Same(found, model) || Same(found, pending),
                    $"killed before {call} number {point}: {string.Join(", ", found.Keys)}"
                );
                model = found;
                if (alsoAfter is not null)
                    await alsoAfter(program);
                await Sound(program);
            }
        }
        program.Dispose();
        Assert.True(killed > 0, "It was never killed.");
    }

    /// <summary>Nothing was set aside, and each backup that is listed is a sound file.</summary>
    private async Task Sound(ProgramProcess program)
    {
        Assert.False(Directory.Exists(Path.Combine(data.FullName, "set-aside")));
        var (_, backups) = await program.Send(HttpMethod.Get, "/api/backups");
        foreach (var backup in backups!.AsArray())
        {
            var file = Path.Combine(data.FullName, "backups", $"{backup!["name"]}");
            using var connection = new SqliteConnection($"Data Source={file};Mode=ReadOnly;Pooling=False");
            connection.Open();
            Assert.Equal("ok", connection.QuerySingle<string>("PRAGMA integrity_check"));
        }
    }

    private async Task Add(ProgramProcess program, Dictionary<string, string> model)
    {
        var name = $"s{++count}";
        model[$"My snippets/{name}"] = $"{count}";
        await program.Post("/api/snippets", new { snippet = new { name, text = $"{count}" } });
    }

    private static async Task<Dictionary<string, string>> Snippets(ProgramProcess program) =>
        Read((await program.Send(HttpMethod.Get, "/api/library-file")).Body!);

    private static Dictionary<string, string> Read(JsonNode file) =>
        file["libraries"]!
            .AsArray()
            .SelectMany(library =>
                (library!["snippets"]?.AsArray() ?? []).Select(snippet =>
                    (Name: $"{library["name"]}/{snippet!["name"]}", Text: (string)snippet["text"]!)
                )
            )
            .ToDictionary(pair => pair.Name, pair => pair.Text);

    private static bool Same(Dictionary<string, string> one, Dictionary<string, string> other) =>
        one.Count == other.Count && one.All(pair => other.TryGetValue(pair.Key, out var text) && text == pair.Value);

    /// <summary>Kills a process just before one of its system calls, by way of strace.</summary>
    private sealed class Fate(Process strace) : IDisposable
    {
        public static async Task<Fate> Of(int process, string call, int point)
        {
            var strace = Process.Start(
                new ProcessStartInfo(
                    "strace",
                    [
                        "-f",
                        "-p",
                        $"{process}",
                        "-o",
                        "/dev/null",
                        "-e",
                        $"trace={call}",
                        "-e",
                        $"inject={call}:signal=KILL:when={point}",
                    ]
                )
                {
                    RedirectStandardError = true,
                }
            )!;
            var said = await strace.StandardError.ReadLineAsync(Patience.Token);
            if (said?.Contains("Operation not permitted", StringComparison.Ordinal) == true)
                Assert.Skip("This system lets no program trace another (kernel.yama.ptrace_scope, or a container).");
            Assert.True(said?.Contains("attached", StringComparison.Ordinal), $"strace says: {said}");
            _ = strace.StandardError.ReadToEndAsync();
            return new Fate(strace);
        }

        /// <summary>Lets the process live, if it does.</summary>
        public void Dispose()
        {
            if (!strace.HasExited)
                strace.Kill();
            strace.WaitForExit();
            strace.Dispose();
        }
    }
}
