using DashSprout.Core;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Server.Bodies;

namespace DashSprout.Server.Typing;

/// <summary>A key press on its way to the engine.</summary>
/// <param name="Place">Which of the connection's places is typed in, such as <c>desk</c> or <c>proof-line</c>.</param>
/// <param name="Key">A W3C UI Events <c>key</c> value, or a chord.</param>
/// <param name="AtMs">When, in the page's own milliseconds.</param>
/// <param name="Selection">The text selected in the field, if any.</param>
public sealed record KeyMessage(string Place, string Key, bool CapsLock, long AtMs, string? Selection = null);

/// <summary>The focus went to a field.</summary>
public sealed record FocusMessage(string Place, string App, string Field);

/// <summary>What a page is to do with a key it has held back.</summary>
/// <param name="Kind"><c>pass-on</c>, <c>waits</c> (pass on, then tick after 700 ms), <c>deliver</c>, <c>take-back</c>, or
/// <c>slip</c> (show the slip, then fill or leave it), or <c>confirm-open</c> (show what would be opened, then confirm or leave it).</param>
/// <param name="Steps">The delivery, when there is one.</param>
/// <param name="KeyGraphemes">How many graphemes of a deletion the held key itself would have added: 1 or 0.</param>
/// <param name="PressAgain">Whether the key is to be pressed again after the delivery.</param>
/// <param name="Opens">What would be opened, when it is to be confirmed first.</param>
/// <param name="Hint">What waits for its closing key now, if anything.</param>
public sealed record DecisionMessage(
    string Kind, IReadOnlyList<StepMessage> Steps, int KeyGraphemes, bool PressAgain, HintMessage? Hint, TraceMessage? Trace, FiredMessage? Fired,
    SlipMessage? Slip, IReadOnlyList<string>? Opens = null)
{
    internal static DecisionMessage Nothing(string kind, TraceMessage? trace) => new(kind, [], 0, false, null, trace, null, null);
}

/// <summary>A slip to fill in before the text goes in.</summary>
public sealed record SlipMessage(long SnippetId, string Snippet, IReadOnlyList<FieldAnswer> Fields);

/// <summary>One step of a delivery.</summary>
/// <param name="Kind">
/// <c>delete</c>, <c>put-in</c>, <c>set-clipboard</c>, <c>paste</c>, <c>restore-clipboard</c>, <c>press</c>, <c>move-back</c>, <c>select-back</c>,
/// <c>wait</c> (count in milliseconds), <c>go-to</c> (the application in plain, the field in key), <c>open</c> or <c>notice</c> (both in plain).
/// </param>
public sealed record StepMessage(string Kind, int Count = 0, string? Plain = null, string? Html = null, string? Key = null)
{
    internal static StepMessage Of(DeliveryStep step) => step switch
    {
        DeliveryStep.Delete delete => new("delete", delete.Graphemes),
        DeliveryStep.PutIn putIn => new("put-in", 0, putIn.Plain, putIn.Html),
        DeliveryStep.SetClipboard set => new("set-clipboard", 0, set.Plain, set.Html),
        DeliveryStep.Paste => new("paste"),
        DeliveryStep.RestoreClipboard => new("restore-clipboard"),
        DeliveryStep.GoTo goTo => new("go-to", 0, goTo.App, Key: goTo.Field),
        DeliveryStep.Press press => new("press", 1, Key: press.Key.Value),
        DeliveryStep.MoveBack move => new("move-back", move.Steps),
        DeliveryStep.SelectBack select => new("select-back", select.Steps),
        DeliveryStep.Wait wait => new("wait", (int)wait.For.TotalMilliseconds),
        DeliveryStep.Open open => new("open", 0, open.Target),
        DeliveryStep.ShowNotice notice => new("notice", 0, notice.Text),
        _ => throw new ArgumentOutOfRangeException(nameof(step)),
    };
}

/// <summary>An abbreviation that is complete and waits for its closing key.</summary>
public sealed record HintMessage(string Trigger, string Snippet, string FirstWords);

/// <summary>Which snippet went off.</summary>
public sealed record FiredMessage(long SnippetId, string Library, string Snippet, string Trigger);

/// <summary>What the engine did and why.</summary>
public sealed record TraceMessage(string Event, IReadOnlyList<ReasonMessage> Reasons)
{
    internal static TraceMessage? Of(TraceEntry? entry) => entry is null ? null : new(
        Words.Of(entry.Event),
        [.. entry.Reasons.Select(reason => new ReasonMessage(
            reason.Why, reason.Trigger?.Placed.Id, reason.Rule is { } rule ? Words.Of(rule) : null))]);
}

/// <summary>One reason; abbreviations stand in back-quotes, names in asterisks.</summary>
/// <param name="SnippetId">The snippet whose trigger it speaks of.</param>
/// <param name="Rule">The rule of the trigger that decided.</param>
public sealed record ReasonMessage(string Why, long? SnippetId, string? Rule);

/// <summary>Whether and where the engine listens, the chords it answers to, and its settings.</summary>
/// <param name="Until">When a rest ends by itself, in milliseconds since 1970; null when it does not.</param>
/// <param name="RestingApps">The applications in which it rests anyway.</param>
public sealed record EngineState(bool Listening, long? Until, IReadOnlyList<string> RestingApps, IReadOnlyList<string> Chords, TypingSettings Settings);

/// <summary>What the hub's methods take and give, so that the pages' types come from the API's document too.</summary>
public sealed record TypingContract(KeyMessage Key, FocusMessage Focus, DecisionMessage Decision, PreviewAnswer Preview);
