using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using DashSprout.Core.Bodies;
using DashSprout.Server.Behind;
using DashSprout.Server.Data;
using DashSprout.Store.Features;
using DashSprout.Store.Files;

namespace DashSprout.Server.Live;

/// <summary>
/// Reads values of JSON documents outside for live parts: from files and addresses that the user has allowed once, and
/// from the harbour's own stand-in service. Nothing waits longer than two seconds, nothing larger than 256 KiB is read,
/// and what could be had before is kept for when it cannot be had.
/// </summary>
internal sealed class LiveValues(LiveStore store, HarbourService harbour, TimeProvider clock)
    : IHeldData,
        IWorksBehind,
        IDisposable
{
    /// <summary>The longest that anything waits for a value.</summary>
    public static readonly TimeSpan Patience = TimeSpan.FromSeconds(2);

    private const int MostBytes = 256 * 1024,
        LongestValue = 2000;
    private static readonly TimeSpan Fresh = TimeSpan.FromSeconds(5);
    private readonly HttpClient client = new(new SocketsHttpHandler { AllowAutoRedirect = false, UseProxy = false })
    {
        Timeout = Patience,
        MaxResponseContentBufferSize = MostBytes,
    };
    private readonly WorkBehind watched = new(
        "Live values",
        "Reads the sources that you have allowed, when a snippet wants a value of them.",
        null,
        null
    );
    private readonly Lock gate = new(),
        consent = new();
    private readonly Dictionary<string, Known> known = [];

    /// <summary>A document as it was read last.</summary>
    /// <param name="Fault">Why the last try failed; null when it did not.</param>
    private sealed record Known(
        JsonNode? Document,
        DateTimeOffset At,
        string? Fault,
        DateTimeOffset TriedAt,
        Task? Trying
    );

    public IEnumerable<WorkBehind> Works => [watched];

    public void Open() { }

    /// <summary>What may be read stays what the user allows now.</summary>
    public void Replace(Action replace)
    {
        lock (consent)
        {
            var allowed = store.Allowed();
            replace();
            foreach (var source in store.Allowed().Except(allowed))
                store.Allow(source, false);
            foreach (var source in allowed)
                store.Allow(source, true);
        }
    }

    /// <summary>Allows a source, or no longer.</summary>
    public void Allow(string source, bool allowed)
    {
        lock (consent)
            store.Allow(source, allowed);
    }

    /// <summary>Every source that is allowed.</summary>
    public IReadOnlySet<string> Allowed() => store.Allowed();

    /// <summary>A value, its wait for a new one bounded.</summary>
    public LiveValue Read(string source, string path, TimeSpan patience)
    {
        if (!source.StartsWith('/') && !store.Allowed().Contains(source))
            return new LiveValue.Missing(
                $"“{source}” has not been allowed yet. Open the part in the editor and allow it once."
            );
        var before = Latest(source);
        if (clock.GetUtcNow() - before.TriedAt >= Fresh)
        {
            var trying = Try(source);
            trying.Wait(patience);
            before = Latest(source);
        }
        if (before.Document is null)
            return new LiveValue.Missing(
                before.Fault is { } why
                    ? $"“{source}” cannot be read: {why}"
                    : $"“{source}” did not answer in time, and there is no value from before."
            );
        var value = At(before.Document, path);
        if (value is null)
            return new LiveValue.Missing($"“{source}” has no single value at {(path.Length == 0 ? "its top" : path)}.");
        var age = clock.GetUtcNow() - before.At;
        return before.Fault is null && age < Fresh + Patience
            ? new LiveValue.Now(value)
            : new LiveValue.Before(value, Words(age));
    }

    public void Dispose() => client.Dispose();

    private Known Latest(string source)
    {
        lock (gate)
            return known.GetValueOrDefault(source) ?? new Known(null, default, null, DateTimeOffset.MinValue, null);
    }

    /// <summary>One try at a time; those who come meanwhile wait for the same.</summary>
    private Task Try(string source)
    {
        lock (gate)
        {
            var before = Latest(source);
            if (before.Trying is { IsCompleted: false } trying)
                return trying;
            var next = Task.Run(() => Fetch(source));
            known[source] = before with { Trying = next };
            return next;
        }
    }

    private async Task Fetch(string source)
    {
        JsonNode? document = null;
        string? fault = null;
        try
        {
            document = JsonNode.Parse(await Content(source), documentOptions: new JsonDocumentOptions { MaxDepth = 32 })
                ?? throw new JsonException();
        }
        catch (JsonException)
        {
            fault = "It is no JSON document.";
        }
        catch (Exception exception)
            when (exception
                    is HttpRequestException
                        or IOException
                        or UnauthorizedAccessException
                        or TaskCanceledException
                        or NotSupportedException
                        or InvalidDataException
            )
        {
            fault = exception is TaskCanceledException ? "It did not answer within two seconds." : exception.Message;
        }
        catch (Exception exception)
        {
            // Whoever waits for the value is told, whatever it was.
            fault = $"What it answers cannot be read ({exception.GetType().Name}).";
            watched.Failed($"A source could not be read: {fault}");
        }
        var now = clock.GetUtcNow();
        if (fault is null)
            watched.Did(now, TimeSpan.Zero);
        lock (gate)
        {
            var before = Latest(source);
            known[source] = fault is null
                ? new Known(document, now, null, now, null)
                : before with
                {
                    Fault = fault,
                    TriedAt = now,
                    Trying = null,
                };
        }
    }

    private async Task<string> Content(string source)
    {
        if (source.StartsWith('/'))
            return harbour.Document(source) ?? throw new IOException("The program has no such document.");
        var address = new Uri(source);
        if (address.Scheme != Uri.UriSchemeFile)
        {
            using var answer = await client.GetAsync(address);
            if (!answer.IsSuccessStatusCode)
                throw new IOException($"It answered {(int)answer.StatusCode}.");
            // JSON is UTF-8 (RFC 8259, section 8.1), whatever else the answer says of itself.
            return Encoding.UTF8.GetString(await answer.Content.ReadAsByteArrayAsync()).TrimStart('\uFEFF');
        }
        if (address.LocalPath.Contains('\0', StringComparison.Ordinal))
            throw new IOException("Its address holds a zero byte. Write the path of the file anew.");
        // The user has named this file; where a link stands there, what it leads to is meant.
        var path = File.ResolveLinkTarget(address.LocalPath, returnFinalTarget: true)?.FullName ?? address.LocalPath;
        return PlainFile.ReadText(path, MostBytes);
    }

    /// <summary>The value a JSON Pointer (RFC 6901) leads to; null for none, and for what is no single value.</summary>
    internal static string? At(JsonNode document, string path)
    {
        try
        {
            return Led(document, path);
        }
        catch (Exception exception) when (exception is ArgumentException or InvalidOperationException)
        {
            // An object with two members of one name leads to neither, and half of a character is no text.
            return null;
        }
    }

    private static string? Led(JsonNode document, string path)
    {
        JsonNode? here = document;
        foreach (
            var token in path.Split('/')
                .Skip(1)
                .Select(token =>
                    token.Replace("~1", "/", StringComparison.Ordinal).Replace("~0", "~", StringComparison.Ordinal)
                )
        )
        {
            here = here switch
            {
                JsonObject inside => inside[token],
                JsonArray list
                    when token.Length <= 6
                        && token.All(char.IsAsciiDigit)
                        && (token == "0" || !token.StartsWith('0'))
                        && int.Parse(token, System.Globalization.CultureInfo.InvariantCulture) is var at
                        && at < list.Count => list[at],
                _ => null,
            };
            if (here is null)
                return null;
        }
        var text = here is JsonValue value
            ? value.GetValueKind() == JsonValueKind.String
                ? value.GetValue<string>()
                : value.ToJsonString()
            : null;
        return text?.Length <= LongestValue ? text : null;
    }

    private static string Words(TimeSpan age) =>
        age < TimeSpan.FromMinutes(1) ? "a moment old"
        : age < TimeSpan.FromHours(1) ? $"{(int)age.TotalMinutes} min old"
        : age < TimeSpan.FromDays(1) ? $"{(int)age.TotalHours} h old"
        : $"{(int)age.TotalDays} d old";
}
