using System.Text;
using System.Text.Json.Nodes;

namespace DashSprout.Server.Tests;

/// <summary>
/// Every address of the API's own document (OpenAPI), with what nobody should send: nulls in every place, values of a
/// wrong kind, huge and odd ones. The answer is in words and never that the program has made a mistake.
/// <c>DASH_SPROUT_DEPTH</c> sends more of them.
/// </summary>
public sealed class EveryAddressTests
{
    private static readonly JsonNode Document = JsonNode.Parse(
        File.ReadAllText(Path.Combine(Folders.Root, "openapi", "dash-sprout.json"))
    )!;

    /// <summary>As JSON: a lone surrogate stands escaped, as a client would send it.</summary>
    private static readonly string[] Odd =
    [
        "null",
        "true",
        "-1",
        "0",
        "1.5",
        "1e400",
        "99999999999999999999",
        "\"\"",
        "\"x\"",
        "\"\\ud800\"",
        "\"\\u0000\"",
        "\"../../x\"",
        $"\"{new string('a', 70_000)}\"",
        $"\"{new string(' ', 70_000)}\"",
        "[]",
        "[null]",
        "[[]]",
        "[1]",
        "{}",
        "{\"x\":null}",
        "{\"\":{}}",
        string.Concat(Enumerable.Repeat("[", 60)) + string.Concat(Enumerable.Repeat("]", 60)),
    ];

    [Fact]
    public async Task No_address_makes_a_mistake_whatever_is_sent_there()
    {
        var folder = Directory.CreateTempSubdirectory("dash-sprout-");
        using var program = await ProgramProcess.Start(folder.FullName);
        var mistakes = new List<string>();
        var sent = 0;
        foreach (var (path, operations) in Document["paths"]!.AsObject())
        foreach (var (method, operation) in operations!.AsObject())
        {
            var parameters = operation!["parameters"]?.AsArray() ?? [];
            var schema = operation["requestBody"]?["content"]?["application/json"]?["schema"];
            List<string?> bodies = schema is null ? [null] : [.. Bodies(schema)];
            foreach (var body in bodies)
                await Try(Filled(path, parameters, _ => "1"), body);
            foreach (var parameter in parameters)
            foreach (
                var value in (string[])
                    ["", "x", "-1", "9999999999999999999", "%00", "%ED%A0%80", "..%2F..%2Fx", new('9', 3000)]
            )
            {
                // A path with a zero byte never comes through the web server, which refuses it without words.
                if (value == "%00" && (string)parameter!["in"]! == "path")
                    continue;
                await Try(
                    Filled(path, parameters, name => name == (string)parameter!["name"]! ? value : "1"),
                    bodies[0]
                );
            }
            foreach (
                var type in (string[])
                    ["application/json; charset=nonsense", "text/plain", "x", "application/json; charset="]
            )
                await Try(Filled(path, parameters, _ => "1"), bodies[0] ?? "{}", type);

            async Task Try(string address, string? body, string type = "application/json")
            {
                sent++;
                using var request = new HttpRequestMessage(new HttpMethod(method.ToUpperInvariant()), address);
                if (body is not null)
                {
                    request.Content = new ByteArrayContent(Encoding.UTF8.GetBytes(body));
                    request.Content.Headers.TryAddWithoutValidation("Content-Type", type);
                }
                HttpResponseMessage answer;
                try
                {
                    answer = await program.Client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
                }
                catch (TaskCanceledException)
                {
                    mistakes.Add($"no answer: {method} {Short(address)} {Short(body)} {type}");
                    return;
                }
                using var _ = answer;
                if ((int)answer.StatusCode == 500)
                    mistakes.Add($"{method} {Short(address)} {Short(body)} {type}");
                else if ((int)answer.StatusCode >= 400)
                {
                    var words = await answer.Content.ReadAsStringAsync();
                    if (words.Length == 0 || !words.StartsWith('{') || JsonNode.Parse(words)!["title"] is null)
                        mistakes.Add(
                            $"without words: {answer.StatusCode} {method} {Short(address)} {Short(body)} {type}"
                        );
                }
            }
        }
        Assert.True(mistakes.Count == 0, $"{mistakes.Count} of {sent}:\n{string.Join('\n', mistakes.Take(60))}");
        Assert.True(sent > 1000);
        await program.Kill();
        folder.Delete(recursive: true);
    }

    private static string Short(string? text) => text is null or { Length: <= 200 } ? text ?? "" : $"{text[..200]}…";

    private static string Filled(string path, JsonArray parameters, Func<string, string> valueOf)
    {
        var query = new List<string>();
        foreach (var parameter in parameters)
        {
            var name = (string)parameter!["name"]!;
            if ((string)parameter["in"]! == "path")
                path = path.Replace($"{{{name}}}", valueOf(name), StringComparison.Ordinal);
            else if ((string)parameter["in"]! == "query")
                query.Add($"{name}={valueOf(name)}");
        }
        return query.Count == 0 ? path : $"{path}?{string.Join('&', query)}";
    }

    /// <summary>
    /// A body as the schema wants it, then the same with each odd value in each place; at the given depth some of them.
    /// </summary>
    private static IEnumerable<string> Bodies(JsonNode schema)
    {
        var sample = Sample(schema, 0);
        yield return Text(sample);
        foreach (var odd in Odd)
            yield return odd;
        yield return "{";
        var places = new List<Func<string, string>>();
        Places(sample, odd => odd, places);
        var step = Depth.Step;
        var at = Random.Shared.Next(step);
        foreach (var place in places)
        foreach (var odd in Odd)
            if (at++ % step == 0)
                yield return place(odd);
    }

    private static string Text(JsonNode? node) => node?.ToJsonString() ?? "null";

    private static void Places(JsonNode? node, Func<string, string> around, List<Func<string, string>> places)
    {
        if (node is JsonObject fields)
            foreach (var (name, value) in fields)
            {
                string Put(string odd)
                {
                    var written = fields.Select(field =>
                        $"{JsonValue.Create(field.Key)!.ToJsonString()}:{(field.Key == name ? odd : Text(field.Value))}"
                    );
                    return around($"{{{string.Join(',', written)}}}");
                }
                places.Add(Put);
                Places(value, Put, places);
            }
        else if (node is JsonArray { Count: > 0 } items)
        {
            string Put(string odd) => around($"[{odd}]");
            places.Add(Put);
            Places(items[0], Put, places);
        }
    }

    /// <summary>The least of what a schema wants, with one entry in each list.</summary>
    private static JsonNode? Sample(JsonNode? schema, int depth)
    {
        if (schema is null || depth > 6)
            return null;
        if ((string?)schema["$ref"] is { } reference)
            return Sample(Document["components"]!["schemas"]![reference.Split('/')[^1]], depth + 1);
        if ((schema["oneOf"] ?? schema["anyOf"] ?? schema["allOf"]) is JsonArray choices)
            return Sample(choices.FirstOrDefault(choice => (string?)choice!["type"] != "null"), depth + 1);
        if (schema["enum"] is JsonArray values)
            return values[0]?.DeepClone();
        var type = schema["type"] is JsonArray several
            ? several.Select(one => (string)one!).First(one => one != "null")
            : (string?)schema["type"];
        switch (type)
        {
            case "object":
                var fields = new JsonObject();
                foreach (var (name, value) in schema["properties"]?.AsObject() ?? [])
                    fields[name] = Sample(value, depth + 1);
                return fields;
            case "array":
                return new JsonArray(Sample(schema["items"], depth + 1));
            case "integer" or "number":
                return 1;
            case "boolean":
                return false;
            default:
                return "a";
        }
    }
}
