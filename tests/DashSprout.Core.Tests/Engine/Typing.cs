using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Engine;

/// <summary>Short ways to define snippets and to type.</summary>
internal static class Typing
{
    /// <summary>A snippet with one abbreviation; rules are the defaults but for what is given.</summary>
    public static Snippet Snip(
        string abbreviation,
        string text,
        Timing timing = Timing.ClosingKey,
        LeftEdge? edge = null,
        LetterCase letterCase = LetterCase.Either,
        bool? keep = null,
        string? closing = null,
        bool givesWay = true,
        Scope? scope = null,
        bool on = true
    )
    {
        var rules = TypingRules.For(abbreviation, timing);
        rules = rules with
        {
            LeftEdge = edge ?? rules.LeftEdge,
            Case = letterCase,
            KeepClosingKey = keep ?? rules.KeepClosingKey,
            ClosingKeys = closing is null
                ? null
                : ClosingKeys.Parse("closingKeys", [.. Key.ForText(closing).Select(key => key.Value)]),
            GivesWay = givesWay,
        };
        return With(text, new Trigger.Abbreviation(abbreviation, rules, scope ?? Scope.Everywhere)) with
        {
            Enabled = on,
        };
    }

    public static Snippet AtOnce(
        string abbreviation,
        string text,
        LeftEdge? edge = null,
        LetterCase letterCase = LetterCase.Either,
        bool givesWay = true
    ) => Snip(abbreviation, text, Timing.AtOnce, edge, letterCase, givesWay: givesWay);

    public static Snippet With(string text, params Trigger[] triggers) =>
        new(text, true, "", false, DeliveryWay.Automatic, false, new Body.Plain(text), new(triggers));

    public static Library Lib(string name, params Snippet[] snippets) =>
        new(name, true, LibraryRules.Default, EquatableList<Folder>.Empty, new(snippets));

    public static TriggerIndex Index(params Library[] libraries) => TriggerIndex.Of(PlacedSnippet.All(libraries));

    public static TriggerIndex Index(params Snippet[] snippets) => Index(Lib("Test", snippets));

    /// <summary>Types into an empty plain field; <c>|</c> in what comes back marks nothing special.</summary>
    public static RehearsalResult Type(
        this TriggerIndex index,
        string typed,
        FieldKind field = FieldKind.Plain,
        bool caps = false,
        string app = "post"
    ) =>
        Rehearsal.Run(
            index,
            [.. RehearsalStep.Type(typed)],
            new RehearsalSetting(app, field, caps, new RenderContext(), null),
            tracing: true
        );

    /// <summary>
    /// Presses keys and other steps given in words: a key value, <c>pause 800</c>, <c>click</c> or <c>app console</c>.
    /// </summary>
    public static RehearsalResult Keys(this TriggerIndex index, params string[] steps) =>
        Rehearsal.Run(
            index,
            [.. steps.SelectMany(Step)],
            new RehearsalSetting("post", FieldKind.Plain, false, new RenderContext(), null),
            tracing: true
        );

    /// <summary>The same for other kinds of fields and other settings.</summary>
    public static RehearsalResult Keys(this TriggerIndex index, RehearsalSetting setting, params string[] steps) =>
        Rehearsal.Run(index, [.. steps.SelectMany(Step)], setting, tracing: false);

    public static RehearsalSetting In(FieldKind field, string app = "post") =>
        new(app, field, false, new RenderContext(), new Dictionary<string, string>());

    private static IEnumerable<RehearsalStep> Step(string step) =>
        step.Split(' ', 2) switch
        {
            ["pause", var ms] =>
            [
                new RehearsalStep.Pause(int.Parse(ms, System.Globalization.CultureInfo.InvariantCulture)),
            ],
            ["click"] => [new RehearsalStep.Click()],
            ["app", var id] => [new RehearsalStep.App(id)],
            ["type", var text] => RehearsalStep.Type(text),
            _ => [new RehearsalStep.Press(Key.Parse("keys", step))],
        };
}
