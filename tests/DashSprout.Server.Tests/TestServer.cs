using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Mvc.Testing;

namespace DashSprout.Server.Tests;

/// <summary>The program in this process, on a data folder of its own that is removed at the end.</summary>
public sealed class TestServer : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-");
    private readonly WebApplicationFactory<Program> factory;

    /// <param name="data">A data folder to use and to leave there; null for one of its own.</param>
    public TestServer(bool demo = false, string? data = null)
    {
        Folder = data ?? folder.FullName;
        factory = new WebApplicationFactory<Program>().WithWebHostBuilder(host =>
        {
            host.UseSetting("data", Folder);
            if (!demo)
                host.UseSetting("empty", "true");
        });
        Client = factory.CreateClient();
        // The library that is there for a new user would be in the way of nearly every test.
        if (!demo && data is null)
            Client.DeleteAsync(new Uri("/api/items/1", UriKind.Relative)).GetAwaiter().GetResult();
    }

    public HttpClient Client { get; }

    /// <summary>Where the data lies.</summary>
    public string Folder { get; }

    public HttpMessageHandler Handler => factory.Server.CreateHandler();

    public static JsonElement Snippet(string name, string text, params object[] triggers) =>
        JsonSerializer.SerializeToElement(
            new
            {
                name,
                text,
                triggers,
            }
        );

    public static object Abbreviation(string text, string timing = "closing-key", object? scope = null) =>
        new
        {
            kind = "abbreviation",
            text,
            timing,
            scope = scope ?? new { mode = "everywhere", apps = Array.Empty<string>() },
        };

    /// <summary>Sends a body and reads the answer, whatever its status.</summary>
    public async Task<(HttpStatusCode Status, JsonNode? Body)> Send(
        HttpMethod method,
        string address,
        object? body = null
    )
    {
        using var request = new HttpRequestMessage(method, address);
        if (body is string text)
            request.Content = new StringContent(text, System.Text.Encoding.UTF8, "application/json");
        else if (body is not null)
            request.Content = JsonContent.Create(body);
        using var response = await Client.SendAsync(request);
        var answer = await response.Content.ReadAsStringAsync();
        return (response.StatusCode, answer.Length == 0 ? null : JsonNode.Parse(answer));
    }

    /// <summary>Posts what must succeed.</summary>
    public Task<JsonNode> Post(string address, object body) => MustSucceed(HttpMethod.Post, address, body);

    /// <summary>Puts what must succeed.</summary>
    public Task<JsonNode> Put(string address, object body) => MustSucceed(HttpMethod.Put, address, body);

    /// <summary>Gets what must be there.</summary>
    public Task<JsonNode> Get(string address) => MustSucceed(HttpMethod.Get, address, null);

    /// <summary>Gets something again and again until it is as wanted, for ten seconds at most.</summary>
    public async Task<JsonNode> GetWhen(string address, Func<JsonNode, bool> wanted)
    {
        for (var began = Stopwatch.StartNew(); began.Elapsed < Patience.Longest; await Task.Delay(50))
            if (await Get(address) is var answer && wanted(answer))
                return answer;
        throw new TimeoutException($"{address} was not as wanted within {Patience.Longest}.");
    }

    /// <summary>Posts what must be refused, and gives the error at a field.</summary>
    public async Task<string> Refused(string address, object body, string field)
    {
        var (status, answer) = await Send(HttpMethod.Post, address, body);
        Assert.Equal(HttpStatusCode.BadRequest, status);
        return (string)answer!["errors"]![field]![0]!;
    }

    private async Task<JsonNode> MustSucceed(HttpMethod method, string address, object? body)
    {
        var (status, answer) = await Send(method, address, body);
        Assert.True((int)status < 300, $"{address}: {status} {answer}");
        return answer ?? new JsonObject();
    }

    public Task<JsonNode> Rehearse(string typed, object? libraries = null, string field = "plain") =>
        Post(
            "/api/rehearsal",
            new
            {
                typed,
                field,
                app = "post",
                libraries,
            }
        );

    public async Task<long> AddLibrary(string name) => (long)(await Post("/api/libraries", new { name }))["id"]!;

    public async Task<long> AddSnippet(long parentId, object snippet) =>
        (long)(await Post("/api/snippets", new { parentId, snippet }))["id"]!;

    public async Task<long> AddFolder(long parentId, string name) =>
        (long)(await Post("/api/folders", new { parentId, name }))["id"]!;

    /// <summary>The rows of the whole table.</summary>
    public async Task<JsonArray> Rows() =>
        (
            await Post(
                "/api/libraries/rows",
                new
                {
                    view = new { closed = Array.Empty<long>() },
                    from = 0,
                    count = 500,
                }
            )
        )["rows"]!.AsArray();

    /// <summary>Saves parts of a snippet, and gives what could not be saved.</summary>
    public async Task<JsonArray> Save(long id, object after)
    {
        var before = (await Get($"/api/snippets/{id}"))["snippet"]!.AsObject();
        var wanted = before.DeepClone().AsObject();
        foreach (var (name, value) in JsonSerializer.SerializeToNode(after)!.AsObject())
            wanted[name] = value?.DeepClone();
        if (wanted["body"] is not null && before["body"] is null)
            wanted["text"] = null;
        if (wanted["text"] is not null && before["text"] is null)
            wanted["body"] = null;
        var were = before["triggers"]!.AsArray();
        var are = wanted["triggers"]!.AsArray();
        var triggers = Enumerable
            .Range(0, Math.Max(were.Count, are.Count))
            .Select(at => new { before = were.ElementAtOrDefault(at), after = are.ElementAtOrDefault(at) })
            .Where(pair => !JsonNode.DeepEquals(pair.before, pair.after))
            .ToArray();
        var (status, answer) = await Send(
            HttpMethod.Patch,
            $"/api/snippets/{id}",
            new
            {
                before,
                after = wanted,
                triggers,
            }
        );
        Assert.True(status == HttpStatusCode.OK, $"{status} {answer}");
        return answer!["unsaved"]!.AsArray();
    }

    public void Dispose()
    {
        factory.Dispose();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        if (folder.Exists)
            folder.Delete(recursive: true);
        folder.Refresh();
    }
}
