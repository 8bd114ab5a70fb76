using DashSprout.Server.Bodies;
using DashSprout.Server.Engine;
using DashSprout.Server.Typing;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>The typing hub as a page uses it.</summary>
public sealed class TypingHubTests : IDisposable
{
    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Keys_come_back_as_steps_and_as_what_is_held_back_next()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards\nOffice", Abbreviation("kr")));
        await using var hub = await Connect();
        Assert.Equal("nothing", (await Focus(hub, "post", "rich")).Next);
        var waits = await Type(hub, "kr");
        Assert.Equal(
            ("acting-keys", "kr", "Kind regards ⏎ Office"),
            (waits.Next, waits.Hint!.Trigger, waits.Hint.Preview)
        );
        var fires = await Press(hub, "Enter", held: true);
        Assert.Equal(
            [
                "delete 2  ",
                "remember 0  ",
                "set-clipboard 0 Kind regards\nOffice ",
                "paste 0  ",
                "press 1  Enter",
                "restore-clipboard 0  ",
            ],
            fires.Steps.Select(step => $"{step.Kind} {step.Count} {step.Plain} {step.Key}")
        );
        Assert.Equal(
            ["Kind regards", "Office"],
            fires.Steps[2].Flow!.Lines.Select(line => Assert.Single(line.Pieces).Text)
        );
        Assert.Equal("Regards inserted", $"{Assert.Single(fires.Fired).Snippet} {fires.Fired[0].Outcome}");
        var back = await Press(hub, "Ctrl+Alt+Z", held: true);
        Assert.Equal(
            ["take-back 20  ", "put-in 0 kr ", "press 0  Enter"],
            back.Steps.Select(step => $"{step.Kind} {(step.Kind == "press" ? 0 : step.Count)} {step.Plain} {step.Key}")
        );

        // It is counted for the trigger.
        var board = await server.GetWhen("/api/safety", answer => answer["takenBack"]!.AsArray().Count > 0);
        Assert.Equal(
            "kr 1 1",
            $"{board["takenBack"]![0]!["trigger"]} {board["takenBack"]![0]!["fired"]} "
                + $"{board["takenBack"]![0]!["takenBack"]}"
        );
    }

    /// <summary>What was saved is counted by day, without any text; what is taken back saved nothing.</summary>
    [Fact]
    public async Task What_is_saved_is_counted_and_can_be_deleted()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards", Abbreviation(";kr", "at-once")));
        await server.AddSnippet(
            library,
            System.Text.Json.JsonSerializer.SerializeToElement(
                new
                {
                    name = "Gate code",
                    text = "heron-4711",
                    @private = true,
                    triggers = new[] { Abbreviation(";gc", "at-once") },
                }
            )
        );
        await using var hub = await Connect();
        await Focus(hub, "post", "plain");
        await Type(hub, ";kr ;kr ;gc");
        await Type(hub, " ;kr");
        await Press(hub, "Ctrl+Alt+Z", held: true);

        var answer = await server.Get("/api/savings?days=7");
        // Three times 12 characters for 3 keys, once 10 for 3, and one of the first taken back.
        Assert.Equal(
            (4, 1, 2 * 9 + 7),
            ((int)answer["total"]!["expansions"]!, (int)answer["total"]!["takenBack"]!, (int)answer["total"]!["keys"]!)
        );
        Assert.Equal(7, answer["days"]!.AsArray().Count);
        Assert.Equal(25, (int)answer["days"]![6]!["figures"]!["keys"]!);
        Assert.Equal(
            "Regards, private snippets",
            string.Join(", ", answer["snippets"]!.AsArray().Select(one => (string)one!["name"]!))
        );
        Assert.Equal("post", (string)answer["apps"]![0]!["name"]!);
        Assert.Contains(
            "25 keystrokes saved",
            await server.Client.GetStringAsync(new Uri("/api/savings/summary", UriKind.Relative)),
            StringComparison.Ordinal
        );
        var csv = await server.Client.GetStringAsync(new Uri("/api/savings.csv", UriKind.Relative));
        Assert.Contains(",Berths,Regards,post,3,1,18,24,0", csv, StringComparison.Ordinal);
        Assert.DoesNotContain("Gate code", csv, StringComparison.Ordinal);

        await server.Send(HttpMethod.Delete, "/api/savings");
        Assert.Null((await server.Get("/api/savings?days=7"))["first"]);
        await server.Send(HttpMethod.Post, "/api/savings/restore");
        Assert.Equal(25, (int)(await server.Get("/api/savings?days=7"))["total"]!["keys"]!);
        Assert.Equal(
            System.Net.HttpStatusCode.BadRequest,
            (await server.Send(HttpMethod.Get, "/api/savings?days=0")).Status
        );
    }

    /// <summary>What is practised comes again by Leitner's boxes, and practice counts as no work.</summary>
    [Fact]
    public async Task A_drill_asks_what_can_be_practised()
    {
        var library = await server.AddLibrary("Berths");
        var id = await server.AddSnippet(library, Snippet("Regards", "Kind regards", Abbreviation(";kr", "at-once")));
        await server.AddSnippet(library, Snippet("Mooring", "Moored.", Abbreviation("mrd")));
        await server.AddSnippet(library, Snippet("Nothing sets it off", "Never."));
        await server.AddSnippet(
            library,
            System.Text.Json.JsonSerializer.SerializeToElement(
                new
                {
                    name = "Secret",
                    text = "4711",
                    @private = true,
                    triggers = new[] { Abbreviation(";se") },
                }
            )
        );
        await server.AddSnippet(
            library,
            System.Text.Json.JsonSerializer.SerializeToElement(
                new
                {
                    name = "Asks",
                    body = "<p><input name=\"n\"></p>",
                    triggers = new[] { Abbreviation(";as") },
                }
            )
        );
        var drill = await server.Get("/api/drill");
        Assert.Equal([";kr", "mrd"], drill["questions"]!.AsArray().Select(one => (string)one!["trigger"]!).Order());
        Assert.Equal((0, 0, 2), ((int)drill["known"]!, (int)drill["learning"]!, (int)drill["new"]!));

        await using var hub = await Connect();
        await Focus(hub, "drill", "plain");
        Assert.Equal("Regards", Assert.Single((await Type(hub, ";kr")).Fired).Snippet);
        Assert.Null((await server.Get("/api/savings?days=1"))["first"]);
        drill = await server.Post(
            "/api/drill/answers",
            new
            {
                snippetId = id,
                trigger = ";kr",
                right = true,
            }
        );
        Assert.Equal(["mrd"], drill["questions"]!.AsArray().Select(one => (string)one!["trigger"]!));
        Assert.Equal(
            (1, 1, 1, 0),
            (
                (int)drill["learning"]!,
                (int)drill["new"]!,
                (int)drill["days"]![0]!["known"]!,
                (int)drill["days"]![0]!["unknown"]!
            )
        );
        Assert.Contains(
            "no abbreviation",
            await server.Refused(
                "/api/drill/answers",
                new
                {
                    snippetId = id,
                    trigger = ";zz",
                    right = true,
                },
                "trigger"
            ),
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// Formatting and leading white space arrive as structure: nothing has to be read back from HTML.
    /// </summary>
    [Fact]
    public async Task Rich_text_is_structure()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(
            library,
            System.Text.Json.JsonSerializer.SerializeToElement(
                new
                {
                    name = "List",
                    body = "<ul><li><p>one</p></li><li><p style=\"text-align: center\"><strong>two</strong> <a "
                        + "href=\"https://example.org/\">link</a></p></li></ul>",
                    triggers = new[] { Abbreviation(";l", "at-once") },
                }
            )
        );
        await server.AddSnippet(library, Snippet("Spaced", "  led by spaces", Abbreviation(";s", "at-once")));
        await using var hub = await Connect();
        await Focus(hub, "post", "rich");
        var flow = (await Type(hub, ";l")).Steps.Single(step => step.Kind == "set-clipboard").Flow!;
        Assert.Equal(
            ["bullets item paragraph", "bullets item paragraph"],
            flow.Lines.Select(line => string.Join(' ', line.Frames.Select(frame => frame.Kind)))
        );
        Assert.Equal(flow.Lines[0].Frames[0].Id, flow.Lines[1].Frames[0].Id);
        Assert.NotEqual(flow.Lines[0].Frames[1].Id, flow.Lines[1].Frames[1].Id);
        Assert.Equal("center", flow.Lines[1].Frames[2].Align);
        Assert.Equal(
            ["two strong", " ", "link link"],
            flow.Lines[1]
                .Pieces.Select(piece => string.Join(' ', [piece.Text, .. piece.Marks.Select(mark => mark.Kind)]))
        );
        var spaced = (await Type(hub, " ;s")).Steps.Single(step => step.Kind == "put-in");
        Assert.Equal("  led by spaces", spaced.Flow!.Lines[0].Pieces[0].Text);
    }

    [Fact]
    public async Task Keys_of_one_message_are_decided_in_order_until_one_sets_something_off()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Berth", "berth", Abbreviation(";b", "at-once")));
        await using var hub = await Connect();
        await Focus(hub, "post", "plain");
        var answers = await hub.InvokeAsync<HostMessage[]>(
            "Press",
            "desk",
            "a ;bcd".Select(key => new KeyMessage(key.ToString(), false, 0, true)).ToArray()
        );
        Assert.Equal(
            ["press a", "press  ", "press ;", "delete,remember,put-in"],
            answers.Select(answer =>
                string.Join(
                    ',',
                    answer.Steps.Select(step => $"{step.Kind} {step.Key}".Trim(' ') + (step.Key == " " ? "  " : ""))
                )
            )
        );
        answers = await hub.InvokeAsync<HostMessage[]>("Press", "desk", new[] { Held("c"), Held("Tab"), Held("d") });
        Assert.Equal(2, answers.Length);
        static KeyMessage Held(string key) => new(key, false, 0, true);
    }

    [Fact]
    public async Task Take_back_and_hints_can_be_switched_off()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards", Abbreviation("kr")));
        await server.Put("/api/settings/typing", Settings() with { TakeBack = false, Hints = false });
        await using var hub = await Connect();
        await Focus(hub, "post", "plain");
        var waits = await Type(hub, "kr");
        Assert.Null(waits.Hint);
        Assert.Equal("acting-keys", waits.Next);
        Assert.Single((await Press(hub, " ")).Fired);
        Assert.Empty((await Press(hub, "Ctrl+Alt+Z")).Fired);
        var (status, answer) = await server.Send(
            HttpMethod.Put,
            "/api/settings/typing",
            Settings() with
            {
                Chords = Settings().Chords with { TakeBack = "z" },
            }
        );
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);
        Assert.Contains(
            "“z” holds neither Ctrl, Alt nor Meta",
            (string)answer!["errors"]!["chords.takeBack.text"]![0]!,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_slip_is_asked_previewed_and_filled_or_left()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(
            library,
            System.Text.Json.JsonSerializer.SerializeToElement(
                new
                {
                    name = "Fee",
                    body = "<p>Dear <input name=\"skipper\" required>, that is <input name=\"nights\" "
                        + "type=\"number\" min=\"1\"> nights: <output data-formula=\"nights * 2.5\" "
                        + "data-pattern=\"0.00\"></output></p>",
                    triggers = new[] { Abbreviation(";fe", "at-once") },
                }
            )
        );
        await using var hub = await Connect();
        await Focus(hub, "post", "plain");
        var asks = await Type(hub, ";fe");
        Assert.Equal("everything", asks.Next);
        Assert.Equal(
            ["skipper text True", "nights number False"],
            asks.Slip!.Fields.Select(field => $"{field.Name} {field.Type} {field.Required}")
        );

        var preview = await hub.InvokeAsync<PreviewAnswer>(
            "PreviewSlip",
            "desk",
            1,
            new Dictionary<string, string> { ["nights"] = "0" }
        );
        Assert.Equal(["skipper is needed.", "The least is 1."], preview.Problems.Select(problem => problem.Message));
        preview = await hub.InvokeAsync<PreviewAnswer>(
            "PreviewSlip",
            "desk",
            1,
            new Dictionary<string, string> { ["skipper"] = "Marram" }
        );
        Assert.Equal("nights: a number is missing.", preview.Problem);

        var filled = await hub.InvokeAsync<HostMessage>(
            "FillSlip",
            "desk",
            asks.Question,
            new Dictionary<string, string> { ["skipper"] = "Marram", ["nights"] = "3" }
        );
        Assert.Equal("Dear Marram, that is 3 nights: 7.50", filled.Steps.Single(step => step.Kind == "put-in").Plain);

        // The next slip has a number of its own, and answers to the first one do nothing to it.
        Assert.Equal(2, (await Type(hub, " ;fe")).Question);
        Assert.NotNull(
            (
                await hub.InvokeAsync<HostMessage>(
                    "FillSlip",
                    "desk",
                    1,
                    new Dictionary<string, string> { ["skipper"] = "Marram", ["nights"] = "3" }
                )
            ).Slip
        );
        Assert.Equal(
            "cancelled",
            Assert.Single((await hub.InvokeAsync<HostMessage>("LeaveSlip", "desk", 2)).Fired).Outcome
        );
        Assert.Empty((await Press(hub, " ")).Steps);
        await Assert.ThrowsAsync<HubException>(() =>
            hub.InvokeAsync<PreviewAnswer>("PreviewSlip", "desk", 2, new Dictionary<string, string>())
        );
    }

    [Fact]
    public async Task A_resting_engine_passes_everything_on_and_tells_every_page()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards", Abbreviation(";kr", "at-once")));
        await using var hub = await Connect();
        var told = new TaskCompletionSource<EngineState>();
        hub.On<EngineState>("engine", told.SetResult);
        await server.Send(HttpMethod.Put, "/api/engine", new { listening = false });
        Assert.False((await told.Task).Listening);
        Assert.Empty((await Type(hub, ";kr")).Steps);
        await server.Send(HttpMethod.Put, "/api/engine", new { listening = true });
        Assert.Single((await Type(hub, ";kr")).Fired);
    }

    [Fact]
    public async Task A_chosen_snippet_goes_in_and_the_clipboard_is_at_hand()
    {
        var library = await server.AddLibrary("Berths");
        var id = await server.AddSnippet(
            library,
            System.Text.Json.JsonSerializer.SerializeToElement(
                new
                {
                    name = "Quoted",
                    body = "<p><strong><slot name=\"selection\">none</slot></strong>: <slot name=\"clipboard\" "
                        + "data-trim></slot></p>",
                    delivery = "keystrokes",
                }
            )
        );
        await using var hub = await Connect();
        await Focus(hub, "log-book", "markdown");
        await hub.InvokeAsync("Look", "desk", true);
        await hub.InvokeAsync("Clipboard", "desk", "  heron ");
        var chosen = await hub.InvokeAsync<HostMessage>("Choose", "desk", id, "tide");
        Assert.Equal(["remember ", "put-in tide: heron"], chosen.Steps.Select(step => $"{step.Kind} {step.Plain}"));
        Assert.Equal("*Quoted* was chosen in the finder", chosen.Trace!.Reasons[0].Why);
        Assert.Equal("taken-back", Assert.Single((await Press(hub, "Ctrl+Alt+Z")).Fired).Outcome);
        Assert.Equal(
            1,
            (int)(await server.GetWhen("/api/finder?query=quoted", answer => answer.AsArray().Count == 1))[0]!["uses"]!
        );
    }

    [Fact]
    public async Task What_a_snippet_from_a_file_opens_is_confirmed_once()
    {
        await server.Post(
            "/api/library-file",
            new
            {
                format = "dash-sprout-library",
                version = 1,
                libraries = new[]
                {
                    new
                    {
                        name = "File",
                        snippets = new[]
                        {
                            new
                            {
                                name = "Tides",
                                body = "<p><a data-open href=\"https://tides.example.org/\"></a></p>",
                                triggers = new[] { Abbreviation("/td", "at-once") },
                            },
                        },
                    },
                },
            }
        );
        await using var hub = await Connect();
        await Focus(hub, "post", "rich");
        var asks = await Type(hub, "/td");
        Assert.Equal("https://tides.example.org/", asks.Opens!.Single());
        await hub.InvokeAsync<HostMessage>("LeaveSlip", "desk", asks.Question);
        asks = await Type(hub, " /td");
        Assert.Single(asks.Opens!);
        var opens = await hub.InvokeAsync<HostMessage>("ConfirmOpen", "desk", asks.Question);
        Assert.Equal(
            ["delete ", "open https://tides.example.org/"],
            opens.Steps.Select(step => $"{step.Kind} {step.Plain}")
        );
        Assert.Null((await Type(hub, " /td")).Opens);
    }

    [Fact]
    public async Task The_engine_rests_in_one_application_and_for_a_time()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards", Abbreviation(";kr", "at-once")));
        await using var hub = await Connect();
        await hub.InvokeAsync("Look", "desk", true);
        await server.Put("/api/engine", new { listening = false, app = "console" });
        Assert.Equal(["resting", "fires"], [await In("console"), await In("post")]);
        var state = await server.Put("/api/engine", new { listening = false, forMinutes = 15 });
        Assert.InRange(
            (long)state["until"]!,
            DateTimeOffset.UtcNow.AddMinutes(14).ToUnixTimeMilliseconds(),
            DateTimeOffset.UtcNow.AddMinutes(16).ToUnixTimeMilliseconds()
        );
        Assert.Equal("resting", await In("post"));
        await server.Put("/api/engine", new { listening = true });
        await server.Put("/api/engine", new { listening = true, app = "console" });
        Assert.Equal("fires", await In("console"));
        var (status, _) = await server.Send(HttpMethod.Put, "/api/engine", new { listening = false, forMinutes = 0 });
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);

        async Task<string> In(string app)
        {
            await Focus(hub, app, "plain");
            return (await Type(hub, ";kr")).Trace!.Event;
        }
    }

    [Fact]
    public async Task Chords_are_told_when_they_change_and_none_while_the_engine_rests()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(
            library,
            Snippet(
                "Tides",
                "tides",
                new
                {
                    kind = "hotkey",
                    text = "Ctrl+Alt+T",
                    scope = new { mode = "only-in", apps = new[] { "console" } },
                }
            )
        );
        await using var hub = await Connect();
        Assert.Empty((await Focus(hub, "post", "plain")).Chords!);
        Assert.Equal(["Ctrl+Alt+T"], (await Focus(hub, "console", "plain")).Chords!);
        Assert.Null((await Press(hub, "a")).Chords);
        await server.AddSnippet(library, Snippet("Berths", "berths", new { kind = "hotkey", text = "Ctrl+Alt+B" }));
        Assert.Equal(["Ctrl+Alt+B", "Ctrl+Alt+T"], (await Press(hub, "a")).Chords!);
        await server.Put("/api/engine", new { listening = false });
        Assert.Empty((await Press(hub, "a")).Chords!);
    }

    [Fact]
    public async Task Reasons_are_made_for_who_looks_and_the_last_keys_are_explained_on_request()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(library, Snippet("Regards", "Kind regards", Abbreviation("kr")));
        await using var hub = await Connect();
        await Focus(hub, "post", "plain");
        Assert.Null((await Type(hub, "okr")).Trace);
        var why = await hub.InvokeAsync<RecalledMessage[]>("Explain", "desk");
        Assert.Equal(
            ("post", "r", "`kr` stays quiet: not at a word's start: `o` stands before it"),
            (why[^1].App, why[^1].Key, why[^1].Trace.Reasons[0].Why)
        );
        await hub.InvokeAsync("Look", "desk", true);
        Assert.Equal("typed", (await Type(hub, "x")).Trace!.Event);
    }

    /// <summary>
    /// A new connection knows neither tail nor focus; told where the focus is, scopes, kinds and hints are right again.
    /// </summary>
    [Fact]
    public async Task A_connection_that_was_lost_is_told_again_where_the_focus_is()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(
            library,
            Snippet(
                "Regards",
                "Kind regards\nOffice",
                Abbreviation("kr", scope: new { mode = "only-in", apps = new[] { "post" } })
            )
        );
        var first = await Connect();
        await Focus(first, "post", "rich");
        await Type(first, "k");
        await first.DisposeAsync();
        await using var hub = await Connect();
        await Focus(hub, "post", "rich");
        Assert.Null((await Type(hub, "r")).Hint);
        Assert.NotNull((await Type(hub, " kr ")).Steps.Single(step => step.Kind == "set-clipboard").Flow);
        await Focus(hub, "permit-portal", "secret");
        Assert.Null((await Type(hub, "kr")).Hint);
    }

    [Theory]
    [InlineData("لا", true)]
    [InlineData("sesame", true)]
    [InlineData("", false)]
    public async Task A_key_of_several_letters_is_its_graphemes_and_nothing_typed_is_in_an_error(
        string key,
        bool isTyped
    )
    {
        await using var hub = await Connect();
        await Focus(hub, "post", "plain");
        if (isTyped)
        {
            Assert.Empty((await Press(hub, key)).Steps);
            return;
        }
        Assert.Contains(
            "A key is missing",
            (await Assert.ThrowsAsync<HubException>(() => Press(hub, key))).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_selection_of_a_million_characters_goes_in_and_a_longer_one_is_said()
    {
        var library = await server.AddLibrary("Berths");
        await server.AddSnippet(
            library,
            System.Text.Json.JsonSerializer.SerializeToElement(
                new
                {
                    name = "Quote",
                    body = "<p>[<slot name=\"selection\"></slot>]</p>",
                    triggers = new[] { new { kind = "hotkey", text = "Ctrl+Alt+J" } },
                }
            )
        );
        await using var hub = await Connect();
        await Focus(hub, "post", "plain");
        var large = new string('ß', 1_000_000);
        var answer = (
            await hub.InvokeAsync<HostMessage[]>(
                "Press",
                "desk",
                new[] { new KeyMessage("Ctrl+Alt+J", false, 0, true, large) }
            )
        )[0];
        Assert.Contains(answer.Steps, step => step.Plain == $"[{large}]");
        answer = (
            await hub.InvokeAsync<HostMessage[]>(
                "Press",
                "desk",
                new[] { new KeyMessage("Ctrl+Alt+J", false, 0, true, null) }
            )
        )[0];
        Assert.Contains("The selection holds more than 1,000,000 characters", answer.Problem, StringComparison.Ordinal);
    }

    private static TypingSettings Settings() =>
        new(
            true,
            true,
            new(
                "Ctrl+Alt+ ",
                "Ctrl+Alt+N",
                "Ctrl+Alt+R",
                "Ctrl+Alt+Shift+R",
                "Ctrl+Alt+Z",
                "Ctrl+Alt+P",
                "Ctrl+Alt+W",
                "F1"
            )
        );

    private static Task<HostMessage> Focus(HubConnection hub, string app, string field) =>
        HubTyping.Focus(hub, app, field);

    private static Task<HostMessage> Press(HubConnection hub, string key, bool held = false) =>
        HubTyping.Press(hub, key, held);

    private static Task<HostMessage> Type(HubConnection hub, string text) => HubTyping.Type(hub, text);

    private Task<HubConnection> Connect() => server.ConnectHub();
}
