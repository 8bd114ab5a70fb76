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

    public TestServer(bool demo = false)
    {
        factory = new WebApplicationFactory<Program>().WithWebHostBuilder(host =>
        {
            host.UseSetting("data", folder.FullName);
            if (!demo) host.UseSetting("empty", "true");
        });
        Client = factory.CreateClient();
    }

    public HttpClient Client { get; }

    public HttpMessageHandler Handler => factory.Server.CreateHandler();

    public static JsonElement Snippet(string name, string text, params object[] triggers) =>
        JsonSerializer.SerializeToElement(new { name, text, triggers });

    public static object Abbreviation(string text, string timing = "closing-key", object? scope = null) =>
        new { kind = "abbreviation", text, timing, scope = scope ?? new { mode = "everywhere", apps = Array.Empty<string>() } };

    /// <summary>Sends a body and reads the answer, whatever its status.</summary>
    public async Task<(HttpStatusCode Status, JsonNode? Body)> Send(HttpMethod method, string address, object? body = null)
    {
        using var request = new HttpRequestMessage(method, address);
        if (body is string text) request.Content = new StringContent(text, System.Text.Encoding.UTF8, "application/json");
        else if (body is not null) request.Content = JsonContent.Create(body);
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
        for (var round = 0; round < 200; round++)
        {
            var answer = await Get(address);
            if (wanted(answer)) return answer;
            await Task.Delay(50);
        }
        throw new TimeoutException($"{address} was not as wanted within ten seconds.");
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
        Post("/api/rehearsal", new { typed, field, app = "post", libraries });

    public async Task<long> AddLibrary(string name) => (long)(await Post("/api/libraries", new { name }))["id"]!;

    public async Task<long> AddSnippet(long libraryId, JsonElement snippet, long? folderId = null) =>
        (long)(await Post("/api/snippets", new { libraryId, folderId, snippet }))["id"]!;

    public void Dispose()
    {
        factory.Dispose();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        folder.Delete(recursive: true);
    }
}
