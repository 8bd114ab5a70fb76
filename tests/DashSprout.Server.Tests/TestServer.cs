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

    public static object Abbreviation(string text, string timing = "closing-key") => new { kind = "abbreviation", text, timing };

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
    public async Task<JsonNode> Post(string address, object body)
    {
        var (status, answer) = await Send(HttpMethod.Post, address, body);
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
