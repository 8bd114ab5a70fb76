using System.Text.Json;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Text;
using DashSprout.Documents;
using DashSprout.Server.Bodies;
using DashSprout.Server.Libraries;
using DashSprout.Server.Settings;

namespace DashSprout.Server.Rehearsals;

/// <summary>What to rehearse. Give <c>typed</c> or <c>keys</c>.</summary>
/// <param name="Typed">A text, one key for each grapheme; a line end is Enter, a tab is Tab.</param>
/// <param name="Keys">Key values, <c>{"pause": 800}</c>, <c>{"click": true}</c> or <c>{"app": "console"}</c>.</param>
/// <param name="Libraries">Used instead of the stored ones when given; nothing is stored.</param>
public sealed record RehearsalRequest(
    string? Typed = null,
    IReadOnlyList<JsonElement>? Keys = null,
    string? App = null,
    string? Field = null,
    string? Now = null,
    string? Zone = null,
    string? Locale = null,
    string? Clipboard = null,
    string? Selection = null,
    bool CapsLock = false,
    IReadOnlyDictionary<string, string>? Answers = null,
    IReadOnlyList<LibraryDocument>? Libraries = null
);

/// <summary>What a rehearsal came to; caret and selection count graphemes of the text.</summary>
public sealed record RehearsalAnswer(
    string Text,
    string? Html,
    int Caret,
    SelectionAnswer? Selection,
    StepsAnswer Steps,
    string Clipboard,
    IReadOnlyList<string> Opened,
    IReadOnlyList<string> Notices,
    IReadOnlyList<FiringAnswer> Firings,
    IReadOnlyList<TraceAnswer> Trace
);

/// <summary>
/// Caret steps, as an arrow key takes them, before the caret and before the other end of what is selected.
/// </summary>
public sealed record StepsAnswer(int Anchor, int Caret);

/// <summary>What is left selected.</summary>
public sealed record SelectionAnswer(int Start, int End);

/// <summary>One firing.</summary>
/// <param name="Key">Index of the key that decided it.</param>
public sealed record FiringAnswer(
    int Key,
    string Library,
    string Snippet,
    string Trigger,
    int Deleted,
    string Inserted,
    string Outcome
);

/// <summary>What the engine did with one key, and why.</summary>
public sealed record TraceAnswer(int Key, string Event, string Why);

internal static class RehearsalEndpoints
{
    private const int MostKeys = 100_000;

    public static void MapRehearsal(this IEndpointRouteBuilder api) =>
        api.MapPost(
            "/rehearsal",
            (
                RehearsalRequest request,
                LibraryService libraryService,
                RenderContextSource contexts,
                Engine.EngineSwitch engineSwitch
            ) =>
            {
                var context = PreviewEndpoints.Context(
                    new PreviewRequest(
                        null,
                        null,
                        request.Now,
                        request.Zone,
                        request.Locale,
                        request.Clipboard,
                        request.Selection
                    ),
                    contexts
                );
                var index = libraryService.Snapshot.Index;
                if (request.Libraries is not null)
                {
                    var placed = PlacedSnippet.All(LibraryFile.ToLibraries(request.Libraries)).ToList();
                    index = TriggerIndex.Of(placed);
                    var bodies = placed.ToDictionary(snippet => snippet.Path, snippet => snippet.Snippet.Body);
                    foreach (var snippet in placed)
                    foreach (var body in snippet.Snippet.Bodies)
                        BodyCheck.Check(body, snippet.Path, bodies.GetValueOrDefault);
                    context = context with
                    {
                        FindSnippet = bodies.GetValueOrDefault,
                        NameSnippet = path => path,
                        RotationsTaken = _ => 0,
                    };
                }
                var field = request.Field is null ? FieldKind.Plain : Wording.Parse<FieldKind>("field", request.Field);
                var setting = new RehearsalSetting(request.App ?? "", field, request.CapsLock, context, request.Answers)
                {
                    TakeBackChord = engineSwitch.Typing.TakesBack,
                };
                var result = Rehearsal.Run(index, Steps(request), setting, tracing: true);
                return new RehearsalAnswer(
                    result.Text,
                    result.Html,
                    result.Caret,
                    result.Selection is { } selection ? new SelectionAnswer(selection.Start, selection.End) : null,
                    new StepsAnswer(result.Steps.Anchor, result.Steps.Caret),
                    result.Clipboard ?? "",
                    result.Opened,
                    result.Notices,
                    [
                        .. result.Firings.Select(firing => new FiringAnswer(
                            firing.Step,
                            firing.Trigger.Placed.Library,
                            firing.Trigger.Placed.Snippet.Name,
                            firing.Trigger.Trigger.Text,
                            firing.Deleted,
                            firing.Inserted,
                            Wording.Of(firing.Outcome)
                        )),
                    ],
                    [.. result.Trace.Select((entry, at) => new TraceAnswer(at, Wording.Of(entry.Event), entry.Why))]
                );
            }
        );

    private static List<RehearsalStep> Steps(RehearsalRequest request)
    {
        if (request.Typed is null == request.Keys is null)
            throw new InvalidInputException("typed", "Give either “typed” or “keys”, and not both.");
        List<RehearsalStep> steps = request.Typed is { } typed
            ? [.. RehearsalStep.Type(typed)]
            : [.. request.Keys!.SelectMany((key, at) => Step($"keys[{at}]", key))];
        return steps.Count <= MostKeys
            ? steps
            : throw new InvalidInputException(
                "keys",
                $"There are {steps.Count} keys; {MostKeys} are allowed in one rehearsal."
            );
    }

    private static IEnumerable<RehearsalStep> Step(string field, JsonElement key)
    {
        if (key.ValueKind == JsonValueKind.String)
            return Key.ReadAll(field, Text(field, key)).Select(one => new RehearsalStep.Press(one));
        if (key.ValueKind == JsonValueKind.Object && key.EnumerateObject().ToList() is [var only])
        {
            if (
                only.Name == "pause"
                && only.Value.ValueKind == JsonValueKind.Number
                && only.Value.TryGetInt32(out var ms)
                && ms >= 0
            )
                return [new RehearsalStep.Pause(ms)];
            if (only.Name == "click" && only.Value.ValueKind == JsonValueKind.True)
                return [new RehearsalStep.Click()];
            if (only.Name == "app" && only.Value.ValueKind == JsonValueKind.String)
                return [new RehearsalStep.App(Text(field, only.Value))];
        }
        throw new InvalidInputException(
            field,
            "This is no key. Write a key value, {\"pause\": 800}, {\"click\": true} or {\"app\": \"console\"}."
        );
    }

    /// <summary>A JSON text may hold half of a character, which no text of ours can.</summary>
    private static string Text(string field, JsonElement text)
    {
        try
        {
            return text.GetString()!;
        }
        catch (InvalidOperationException)
        {
            throw new InvalidInputException(
                field,
                "Half of a character (a lone surrogate) is no key. Send both halves together."
            );
        }
    }
}
