using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using CsCheck;
using DashSprout.Core.Learning;
using DashSprout.Exchange.Lists;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>What is learned from typing, over the hub and the API, on a real data folder.</summary>
public sealed class LearningApiTests : IDisposable
{
    private const string Thanks = "Thank you for your booking at our harbour";

    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-learning-");
    private TestServer server;

    public LearningApiTests() => server = new TestServer(data: folder.FullName);

    private string LearnedFile => Path.Combine(folder.FullName, "learned");

    public void Dispose()
    {
        server.Dispose();
        folder.Delete(recursive: true);
    }

    [Fact]
    public async Task Nothing_is_done_before_it_is_asked_for()
    {
        var settings = (await server.Get("/api/learning"))["settings"]!;
        Assert.Equal(
            (false, false, false, false),
            ((bool)settings["chosen"]!, (bool)settings["learns"]!, (bool)settings["offers"]!, (bool)settings["misses"]!)
        );
        await using var hub = await server.ConnectHub();
        await hub.Focus("post");
        for (var time = 0; time < 4; time++)
            await hub.Type(Thanks + "\n");
        await hub.Click();
        Assert.Null((await hub.Type("Thank you for your b")).Offer);
        Restart();
        Assert.False(File.Exists(LearnedFile));
        Assert.Empty((await server.Get("/api/learning/phrases")).AsArray());
    }

    [Fact]
    public async Task A_phrase_typed_three_times_sprouts_is_offered_and_grows_into_a_snippet()
    {
        await Allow();
        await using var hub = await server.ConnectHub();
        await hub.Focus("post");
        for (var time = 0; time < 3; time++)
            await hub.Type(Thanks + "\n");
        await hub.Click();
        var sprouts = await server.GetWhen("/api/learning/sprouts", answer => answer.AsArray().Count == 1);
        var sprout = sprouts[0]!;
        Assert.Equal(
            (3, (Thanks.Length - 4) * 3, Thanks),
            ((int)sprout["times"]!, (int)sprout["keysAWeek"]!, (string)sprout["parts"]![0]!["text"]!)
        );
        Assert.Equal(
            ("quiet", 0),
            ((string)sprout["abbreviation"]!["grade"]!, (int)sprout["abbreviation"]!["overlaps"]!)
        );

        Assert.Null((await hub.Type("Thank you for ")).Offer);
        Assert.Contains("ArrowRight", (await hub.Type("y")).Chords!);
        var offered = await hub.Type("ou");
        Assert.Equal(
            ("r booking at our harbour", null, "ArrowRight", 1, 1),
            (offered.Offer!.Rest, offered.Offer.Snippet, offered.Offer.Key, offered.Offer.At, offered.Offer.Of)
        );
        var taken = await hub.Press("ArrowRight", held: true);
        Assert.Equal(
            "r booking at our harbour",
            string.Concat(taken.Steps.Where(step => step.Kind == "put-in").Select(step => step.Plain))
        );
        Assert.Null(taken.Offer);
        Assert.Equal(
            "phrases taken 23",
            $"{(await server.Get("/api/savings?days=1"))["snippets"]![0]!["name"]} "
                + $"{(await server.Get("/api/savings?days=1"))["total"]!["keys"]}"
        );

        var library = await server.AddLibrary("Replies");
        var grown = await server.Post(
            $"/api/learning/sprouts/{sprout["code"]}/grow",
            new
            {
                name = "Thanks",
                abbreviation = ";ty",
                parentId = library,
            }
        );
        Assert.Equal(
            (Thanks, ";ty"),
            ((string)grown["snippet"]!["text"]!, (string)grown["snippet"]!["triggers"]![0]!["text"]!)
        );
        Assert.Empty((await server.Get("/api/learning/sprouts")).AsArray());
        await hub.Click();
        offered = await hub.Type("Thank you for yo");
        Assert.Equal(("ur booking at our harbour", "Thanks"), (offered.Offer!.Rest, offered.Offer.Snippet));
    }

    [Fact]
    public async Task What_varies_grows_into_a_snippet_with_fields()
    {
        await Allow();
        await using var hub = await server.ConnectHub();
        await hub.Focus("post");
        foreach (var (name, berth) in new[] { ("Marram", 4), ("Tern", 12), ("Knot", 7) })
            await hub.Type($"Dear Captain {name}, berth {berth} is free for you\n");
        await hub.Click();
        var sprout = (await server.GetWhen("/api/learning/sprouts", answer => answer.AsArray().Count == 1))[0]!;
        var grown = await server.Post(
            $"/api/learning/sprouts/{sprout["code"]}/grow",
            new { name = "Free berth", abbreviation = ";fb" }
        );
        Assert.Equal(
            "<p>Dear Captain <input name=\"name\" title=\"Name\">, berth <input name=\"number\" "
                + "title=\"Number\" type=\"number\"> is free for you</p>",
            (string)grown["snippet"]!["body"]!
        );
        Assert.Empty((await server.Get("/api/learning/sprouts")).AsArray());
    }

    [Fact]
    public async Task A_missed_chance_is_said_in_passing_and_listed()
    {
        var library = await server.AddLibrary("Replies");
        var id = await server.AddSnippet(library, Snippet("Thanks", Thanks, Abbreviation(";ty")));
        await server.AddSnippet(library, Snippet("Nearly", Thanks + " today", Abbreviation(";nearly")));
        await Allow();
        await server.Get("/api/learning/chances");
        await using var hub = await server.ConnectHub();
        await hub.Focus("post");
        await hub.Type("x");
        await server.Get("/api/learning/sprouts");
        var missed = await hub.Type($" {Thanks} ");
        Assert.Equal((";ty", "Thanks"), (missed.Missed!.Trigger, missed.Missed.Snippet));
        Assert.Null((await hub.Type($"{Thanks} ")).Missed);
        var chances = await server.Get("/api/learning/chances");
        Assert.Equal(
            (id, 2, (Thanks.Length - 3) * 2),
            (
                (long)chances["missed"]![0]!["snippet"]!["id"]!,
                (int)chances["missed"]![0]!["times"]!,
                (int)chances["missed"]![0]!["keys"]!
            )
        );
        Assert.Equal(
            ("Thanks", "Nearly", 88),
            (
                (string)chances["nearlySame"]![0]!["one"]!["name"]!,
                (string)chances["nearlySame"]![0]!["other"]!["name"]!,
                (int)chances["nearlySame"]![0]!["percent"]!
            )
        );
        Assert.Empty(chances["unused"]!.AsArray());
        await server.Send(HttpMethod.Delete, $"/api/items/{id}");
        await server.Get("/api/learning/sprouts");
        Assert.Empty((await server.Get("/api/learning/chances"))["missed"]!.AsArray());
    }

    [Fact]
    public async Task It_is_kept_sealed_found_again_and_deleted_for_good()
    {
        await Allow();
        await Learn("post", Thanks, Thanks, Thanks);
        Restart();
        Assert.Equal(Thanks, (string)(await server.Get("/api/learning/phrases"))[0]!["texts"]![0]!);
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(LearnedFile));
        Assert.True(File.ReadAllBytes(LearnedFile).AsSpan().IndexOf("booking"u8) < 0);
        Assert.Contains("booking", Kept(), StringComparison.Ordinal);

        await server.Send(HttpMethod.Delete, "/api/learning");
        Assert.False(File.Exists(LearnedFile));
        Assert.Empty((await server.Get("/api/learning/sprouts")).AsArray());
        await server.Send(HttpMethod.Post, "/api/learning/restore");
        Assert.Single((await server.Get("/api/learning/sprouts")).AsArray());
        Assert.Equal(HttpStatusCode.Conflict, (await server.Send(HttpMethod.Post, "/api/learning/restore")).Status);
        await server.Send(HttpMethod.Delete, "/api/learning");
        Restart();
        Assert.False(File.Exists(LearnedFile));
        Assert.Empty((await server.Get("/api/learning/phrases")).AsArray());
    }

    [Fact]
    public async Task One_phrase_is_forgotten_and_one_is_never_proposed_again()
    {
        await Allow();
        await Learn(
            "post",
            Thanks,
            Thanks,
            Thanks,
            "the quay is closed for repairs",
            "the quay is closed for repairs",
            "the quay is closed for repairs"
        );
        var sprouts = (await server.GetWhen("/api/learning/sprouts", answer => answer.AsArray().Count == 2)).AsArray();
        var (first, second) = ((string)sprouts[0]!["code"]!, (string)sprouts[1]!["code"]!);
        await server.Send(HttpMethod.Post, $"/api/learning/sprouts/{first}/dismiss");
        Restart();
        Assert.Equal(second, (string)Assert.Single((await server.Get("/api/learning/sprouts")).AsArray())!["code"]!);
        Assert.True(
            (bool)
                (await server.Get("/api/learning/phrases"))
                    .AsArray()
                    .Single(phrase => (string)phrase!["code"]! == first)!["dismissed"]!
        );
        await server.Send(HttpMethod.Post, $"/api/learning/sprouts/{first}/recall");
        Assert.Equal(2, (await server.Get("/api/learning/sprouts")).AsArray().Count);
        Assert.Equal(
            HttpStatusCode.NoContent,
            (await server.Send(HttpMethod.Delete, $"/api/learning/phrases/{first}")).Status
        );
        Assert.Equal(
            "This phrase is not remembered any more. Look at the list again.",
            await server.Refused($"/api/learning/sprouts/{first}/dismiss", new { }, "code")
        );
        Assert.Equal(
            "This is no phrase’s code. Look at the list again.",
            await server.Refused("/api/learning/sprouts/nonsense/recall", new { }, "code")
        );
        Assert.Equal(
            "abbreviation.text",
            (
                await server.Send(
                    HttpMethod.Post,
                    $"/api/learning/sprouts/{second}/grow",
                    new { name = "Quay", abbreviation = "with space" }
                )
            ).Body!["errors"]!
                .AsObject()
                .Single()
                .Key
        );
    }

    [Fact]
    public async Task Settings_that_cannot_be_are_refused_and_nothing_is_changed()
    {
        async Task<string> Refused(object part, string field)
        {
            var settings = (await server.Get("/api/learning"))["settings"]!.AsObject();
            foreach (var (name, value) in System.Text.Json.JsonSerializer.SerializeToNode(part)!.AsObject())
                settings[name] = value?.DeepClone();
            var (status, answer) = await server.Send(HttpMethod.Put, "/api/learning/settings", settings);
            Assert.Equal(HttpStatusCode.BadRequest, status);
            return (string)answer!["errors"]![field]![0]!;
        }
        Assert.Equal("Phrases are kept for 1 to 730 days.", await Refused(new { keepDays = 0 }, "keepDays"));
        Assert.StartsWith(
            "“Enter” is used in ordinary typing",
            await Refused(new { takeKey = "Enter" }, "takeKey"),
            StringComparison.Ordinal
        );
        Assert.StartsWith(
            "“sometimes” is not known here",
            await Refused(new { scope = new { mode = "sometimes", apps = Array.Empty<string>() } }, "scope.mode"),
            StringComparison.Ordinal
        );
        Assert.False((bool)(await server.Get("/api/learning"))["settings"]!["chosen"]!);
    }

    [Fact]
    public async Task What_was_learned_where_one_does_not_want_it_any_more_is_forgotten()
    {
        await Allow();
        await Learn("post", Thanks, Thanks);
        await Learn("console", "grep the harbour log for storms", "grep the harbour log for storms");
        await server.GetWhen("/api/learning/phrases", answer => answer.AsArray().Count == 2);
        await Allow(scope: new { mode = "not-in", apps = new[] { "console" } });
        Assert.Equal(
            Thanks,
            (string)Assert.Single((await server.Get("/api/learning/phrases")).AsArray())!["texts"]![0]!
        );
        await Learn("console", "grep the harbour log for storms", "grep the harbour log for storms");
        await Learn("proof-line", "only a try on the proof line", "only a try on the proof line");
        await Learn("post", "this one is learned again", "this one is learned again");
        Assert.Equal(
            2,
            (await server.GetWhen("/api/learning/phrases", answer => answer.AsArray().Count > 1)).AsArray().Count
        );
    }

    [Fact]
    public async Task What_becomes_private_is_forgotten_and_never_learned_again()
    {
        await Allow();
        var library = await server.AddLibrary("Replies");
        await Learn("post", Thanks, Thanks, Thanks);
        await server.GetWhen("/api/learning/phrases", answer => answer.AsArray().Count == 1);
        var id = await server.AddSnippet(library, Snippet("Thanks", Thanks, Abbreviation(";ty")));
        await server.Save(id, new { @private = true });
        Assert.Empty((await server.Get("/api/learning/phrases")).AsArray());
        await Learn("post", Thanks, Thanks, $"well, {Thanks} and so on", $"well, {Thanks} and so on");
        Restart();
        Assert.DoesNotContain("booking", Kept(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("nothing of ours")]
    [InlineData("")]
    public async Task A_store_that_cannot_be_read_is_dropped_with_a_message_and_stops_nothing(string content)
    {
        await Allow();
        await Learn("post", Thanks, Thanks);
        server.Dispose();
        await File.WriteAllTextAsync(LearnedFile, content);
        server = new TestServer(data: folder.FullName);
        Assert.Contains(
            "could not be read, so it was dropped",
            (string)(await server.Get("/api/notices"))["notices"]![0]!["text"]!,
            StringComparison.Ordinal
        );
        Assert.False(File.Exists(LearnedFile));
        await Learn("post", Thanks, Thanks);
        await server.GetWhen("/api/learning/phrases", answer => answer.AsArray().Count == 1);
    }

    /// <summary>Whatever bytes are there, the program starts.</summary>
    [Fact]
    public async Task A_store_that_was_changed_at_any_place_is_dropped()
    {
        await Allow();
        await Learn("post", Thanks, Thanks);
        server.Dispose();
        var sound = await File.ReadAllBytesAsync(LearnedFile);
        foreach (var at in new[] { 0, 3, sound.Length / 2, sound.Length - 1 })
        {
            var changed = sound.ToArray();
            changed[at] ^= 0x41;
            await File.WriteAllBytesAsync(LearnedFile, changed);
            using var again = new TestServer(data: folder.FullName);
            Assert.NotNull((string?)(await again.Get("/api/learning"))["fault"]);
        }
        server = new TestServer(data: folder.FullName);
    }

    /// <summary>
    /// Nothing of a secret field, no number with a check digit, no pass-phrase and no private text is in what is kept,
    /// opened and looked through byte by byte.
    /// </summary>
    [Fact]
    public async Task What_is_kept_holds_no_secrets()
    {
        await Allow();
        var library = await server.AddLibrary("Secrets");
        var id = await server.AddSnippet(
            library,
            Snippet("Gate", "the gate opens with four herons at dawn", Abbreviation(";gate"))
        );
        await server.Save(id, new { @private = true });
        var numbers = new List<string>();
        Gen.Select(Gen.Char['0', '9'].Array[9, 18], Gen.Int[2, 5])
            .Sample(
                (digits, group) =>
                {
                    var number = new string(digits);
                    number += Enumerable.Range(0, 10).First(last => SecretLook.HasCheckDigit($"{number}{last}"));
                    lock (numbers)
                        numbers.Add(string.Join(' ', number.Chunk(group).Select(part => new string(part))));
                },
                iter: 30,
                threads: 1
            );
        await using var hub = await server.ConnectHub();
        for (var time = 0; time < 3; time++)
        {
            await hub.Focus("portal", "secret");
            await hub.Type("cormorant seventeen breakwater\n");
            await hub.Focus("post");
            await hub.Type("to begin with, the gate opens with four herons at dawn or later\n");
            await hub.Type("my word for the portal is qX7#vKp2 as you know it\n");
            await hub.Type("what I typed by mistake here");
            await hub.Press("Ctrl+Z");
            foreach (var number in numbers)
                await hub.Type($"please send the fee to {number} until the end of the week\n");
            await hub.Click();
        }
        await server.GetWhen("/api/learning/phrases", answer =>
            answer
                .AsArray()
                .Any(phrase => ((string)phrase!["texts"]![0]!).Contains("end of the week", StringComparison.Ordinal))
        );
        Restart();
        var kept = Kept();
        Assert.Contains("until the end of the week", kept, StringComparison.Ordinal);
        Assert.All((string[])["cormorant", "seventeen", "gate opens", "herons", "qX7#vKp2", "by mistake"], secret =>
            Assert.DoesNotContain(secret, kept, StringComparison.Ordinal)
        );
        // The codes are numbers too; texts are what is in quotation marks.
        var texts = JsonNode.Parse(kept)!["phrases"]!
            .AsArray()
            .SelectMany(phrase => phrase!["texts"]!.AsArray().Select(text => (string)text!));
        Assert.DoesNotContain(texts, text => text.Any(char.IsDigit));
    }

    [Fact]
    public async Task Words_of_several_languages_are_no_pass_phrases()
    {
        var look = new SecretLook(LetterPairs.Of(WordListFile.English));
        var english = WordListFile.English.Words.Select(word => word.Word).Where(word => word.Length >= 8).ToList();
        Assert.InRange(english.Count(word => look.LooksUnguessable(word)), 0, english.Count / 500);
        foreach (var (language, most) in new[] { ("fr", 100), ("es", 100), ("de", 50) })
        {
            var pack = await File.ReadAllTextAsync(
                Path.Combine(AppContext.BaseDirectory, "packs", $"emoji-{language}.json")
            );
            var words = System
                .Text.RegularExpressions.Regex.Matches(
                    JsonNode
                        .Parse(pack)!
                        .ToJsonString(
                            new() { Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }
                        ),
                    @"\p{L}{8,}"
                )
                .Select(match => match.Value)
                .Distinct()
                .ToList();
            Assert.InRange(words.Count(word => look.LooksUnguessable(word)), 0, words.Count / most);
        }
        var random = new Random(3);
        Assert.InRange(
            Enumerable
                .Range(0, 1000)
                .Count(_ =>
                    look.LooksUnguessable(
                        string.Concat(Enumerable.Range(0, 12).Select(_ => (char)('a' + random.Next(26))))
                    )
                ),
            930,
            1000
        );
    }

    private Task<JsonNode> Allow(object? scope = null) =>
        server.Put(
            "/api/learning/settings",
            new
            {
                chosen = true,
                learns = true,
                offers = true,
                misses = true,
                scope = scope ?? new { mode = "everywhere", apps = Array.Empty<string>() },
                keepDays = 90,
                takeKey = "ArrowRight",
            }
        );

    private async Task Learn(string app, params string[] lines)
    {
        await using var hub = await server.ConnectHub();
        await hub.Focus(app);
        await hub.Type(string.Join('\n', lines) + "\n");
        await hub.Click();
    }

    private void Restart()
    {
        server.Dispose();
        server = new TestServer(data: folder.FullName);
    }

    /// <summary>What is kept, opened with the key.</summary>
    private string Kept()
    {
        var packed = DataKeys.In(Path.Combine(folder.FullName, "keys")).OpenWhole(File.ReadAllBytes(LearnedFile))!;
        using var unpacked = new GZipStream(new MemoryStream(packed), CompressionMode.Decompress);
        using var reader = new StreamReader(unpacked, Encoding.UTF8);
        return System.Text.RegularExpressions.Regex.Replace(
            reader.ReadToEnd(),
            "\"cells\":\"[^\"]*\"",
            "\"cells\":\"\""
        );
    }
}
