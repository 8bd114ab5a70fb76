using System.Text.Json.Nodes;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;
using DashSprout.Core.Triggers;
using DashSprout.Documents;

namespace DashSprout.Server.Tests;

/// <summary>
/// The pack packList: packs are looked at, added, brought up to date without losing one's own changes, and taken away.
/// </summary>
public sealed class PackApiTests : IDisposable
{
    private readonly TestServer server = new();
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-packs-");

    public static TheoryData<string> Shipped =>
        [
            .. Directory
                .GetFiles(Path.Combine(AppContext.BaseDirectory, "packs"), "*.json")
                .Select(path => Path.GetFileName(path)!),
        ];

    [Theory]
    [MemberData(nameof(Shipped))]
    public void Every_pack_that_ships_is_sound(string file)
    {
        var pack = PackFile.Read(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "packs", file)));
        Assert.Equal(file, $"{pack.Id}.json");
        Assert.NotEmpty(pack.Licence);
        var snippets = pack.Library.Entries.OfType<SharedSnippet>().ToList();
        Assert.NotEmpty(snippets);
        Assert.All(snippets, entry => Assert.NotEmpty(entry.Snippet.Triggers));
        // Nothing in it answers to the same keys, and every body can be worked out.
        var texts = snippets
            .SelectMany(entry =>
                entry
                    .Snippet.Triggers.OfType<Trigger.Abbreviation>()
                    .Select(trigger => (trigger.Text, trigger.Rules.Case))
            )
            .ToList();
        Assert.Equal(
            texts.Count,
            texts
                .Select(text => text.Case == LetterCase.Exact ? text.Text : text.Text.ToUpperInvariant())
                .Distinct()
                .Count()
        );
        Assert.All(snippets, entry =>
            Assert.NotNull(Renderer.Render(entry.Snippet.Body, new RenderContext(), Capitals.AsWritten))
        );
    }

    [Fact]
    public async Task A_pack_is_looked_at_added_and_typed()
    {
        var packList = await server.Get("/api/packs");
        var symbols = packList["packs"]!.AsArray().First(pack => (string)pack!["id"]! == "symbols")!;
        Assert.Equal(("offered", "MIT"), ((string)symbols["state"]!, (string)symbols["licence"]!));
        Assert.NotEmpty(symbols["examples"]!.AsArray());

        var preview = await Look("symbols");
        Assert.Equal((int)symbols["snippets"]!, (int)preview["preview"]!["adds"]!);
        await Bring(preview);
        Assert.Equal("1 ½ cups", (string)(await server.Rehearse("1 ;frac12  cups"))["text"]!);
        var now = (await server.Get("/api/packs"))["packs"]!
            .AsArray()
            .First(pack => (string)pack!["id"]! == "symbols")!;
        Assert.Equal(("added", "Symbols and fractions"), ((string)now["state"]!, (string)now["library"]!));

        // Taking it away is as with any library, and can be undone.
        await server.Send(HttpMethod.Delete, $"/api/items/{now["libraryId"]}");
        Assert.Equal("offered", (string)(await Pack("symbols"))["state"]!);
        await server.Post("/api/changes/undo", new { });
        Assert.Equal("added", (string)(await Pack("symbols"))["state"]!);
    }

    [Fact]
    public async Task What_a_pack_would_get_in_the_way_of_is_shown_before()
    {
        var library = await server.AddLibrary("Own");
        await server.AddSnippet(library, TestServer.Snippet("Fraction", "a half", TestServer.Abbreviation(";frac12")));
        var preview = (await Look("symbols"))["preview"]!;
        Assert.True((int)preview["overlaps"]! > 0);
    }

    [Fact]
    public async Task Ones_own_changes_survive_an_update()
    {
        Write(
            "1",
            ("Hello", ";hi", "Hello there."),
            ("Bye", ";bye", "Good-bye."),
            ("Thanks", ";thx", "Thank you."),
            ("Old", ";old", "Old one.")
        );
        await server.Put("/api/packs/folder", new { folder = folder.FullName });
        await Bring(await Look("greetings"));
        var id = await Id("Hello");
        await server.Save(id, new { text = "Hello, harbour!" });
        await server.Save(await Id("Bye"), new { triggers = new[] { TestServer.Abbreviation(";cu") } });
        await server.Send(HttpMethod.Delete, $"/api/items/{await Id("Thanks")}");
        await server.AddSnippet((long)(await Pack("greetings"))["libraryId"]!, TestServer.Snippet("Mine", "My own."));

        Write(
            "2",
            ("Hello", ";hi", "Hello to you."),
            ("Bye", ";bye", "Farewell."),
            ("Thanks", ";thx", "Many thanks."),
            ("New", ";new", "A new one.")
        );
        Assert.Equal("changed", (string)(await Pack("greetings"))["state"]!);
        var look = await Look("greetings");
        Assert.Contains("Hello", look["preview"]!["notes"]!.ToJsonString(), StringComparison.Ordinal);
        await Bring(look);

        Assert.Equal("added", (string)(await Pack("greetings"))["state"]!);
        Assert.Equal("Hello, harbour!", await Text("Hello"));
        Assert.Equal("Farewell.", await Text("Bye"));
        Assert.Equal(
            ";cu",
            (string)(await server.Get($"/api/snippets/{await Id("Bye")}"))["snippet"]!["triggers"]![0]!["text"]!
        );
        Assert.Equal("A new one.", await Text("New"));
        Assert.Equal("My own.", await Text("Mine"));
        var names = (await server.Rows()).Select(row => (string)row!["name"]!).ToList();
        Assert.DoesNotContain("Thanks", names);
        Assert.DoesNotContain("Old", names);
        // The same state again changes nothing more.
        Assert.Equal(0, (int)(await Look("greetings"))["preview"]!["changes"]!);
    }

    [Fact]
    public async Task What_is_no_pack_is_said_and_the_rest_is_there()
    {
        await File.WriteAllTextAsync(
            Path.Combine(folder.FullName, "plain.json"),
            "{ \"format\": \"dash-sprout-library\", \"version\": 1, \"libraries\": [] }"
        );
        await File.WriteAllTextAsync(Path.Combine(folder.FullName, "broken.json"), "{ nonsense");
        Write("1", ("Hello", ";hi", "Hello there."));
        var packList = await server.Put("/api/packs/folder", new { folder = folder.FullName });
        Assert.Contains("licence", packList["problems"]!.ToJsonString(), StringComparison.Ordinal);
        Assert.Contains("broken.json", packList["problems"]!.ToJsonString(), StringComparison.Ordinal);
        Assert.Contains(packList["packs"]!.AsArray(), pack =>
            (string)pack!["id"]! == "greetings" && (bool)pack["own"]!
        );
        var (status, answer) = await server.Send(
            HttpMethod.Put,
            "/api/packs/folder",
            new { folder = "/nowhere/at/all" }
        );
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);
        Assert.Contains("no folder", answer!.ToJsonString(), StringComparison.Ordinal);
    }

    public void Dispose()
    {
        server.Dispose();
        folder.Delete(recursive: true);
    }

    private void Write(string state, params (string Name, string Abbreviation, string Text)[] snippets)
    {
        var entries = snippets.Select(one =>
            (SharedEntry)
                new SharedSnippet(
                    one.Abbreviation,
                    SharedLibrary.Top,
                    LibraryTrees.Snip(one.Name) with
                    {
                        Body = new Body.Plain(one.Text),
                        Triggers = new([
                            new Trigger.Abbreviation(
                                one.Abbreviation,
                                TypingRules.For(one.Abbreviation, Timing.AtOnce),
                                Scope.Everywhere
                            ),
                        ]),
                    }
                )
        );
        var library = new SharedLibrary(
            new SharedRoot("Greetings", true, LibraryRules.Default),
            new(entries),
            Core.EquatableList<string>.Empty
        );
        File.WriteAllText(
            Path.Combine(folder.FullName, "greetings.json"),
            PackFile.Write(new Pack("greetings", "Greetings.", "CC0 1.0", "a test", state, library))
        );
    }

    private async Task<JsonNode> Look(string id)
    {
        var import = await server.Post($"/api/packs/{id}/look", new { });
        return await server.GetWhen($"/api/imports/{import["id"]}", one =>
            (string)one["state"]! is "ready" or "failed"
        );
    }

    private Task<JsonNode> Bring(JsonNode import) => server.Post($"/api/imports/{import["id"]}/bring", new { });

    private async Task<JsonNode> Pack(string id) =>
        (await server.Get("/api/packs"))["packs"]!.AsArray().First(pack => (string)pack!["id"]! == id)!;

    private async Task<long> Id(string name) =>
        (long)(await server.Rows()).First(row => (string)row!["name"]! == name)!["id"]!;

    private async Task<string> Text(string name) =>
        (string)(await server.Get($"/api/snippets/{await Id(name)}"))["snippet"]!["text"]!;
}
