using System.Globalization;
using DashSprout.Core;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Server.Bodies;
using DashSprout.Server.Engine;

namespace DashSprout.Server.Typing;

/// <summary>Something that was typed, on its way to the host.</summary>
/// <param name="Key">A W3C UI Events <c>key</c> value, or a chord; with <c>Composed</c> the composed text.</param>
/// <param name="AtMs">When, in the page's own milliseconds.</param>
/// <param name="Held">Whether the page held it back.</param>
/// <param name="Selection">The text selected in the field, if any; null when it is too long.</param>
/// <param name="EndsLine">Whether nothing stands behind the caret in its line.</param>
/// <param name="Composed">Whether it is a text that an input method or dead keys composed, and that is in the
/// field.</param>
public sealed record KeyMessage(
    string Key,
    bool CapsLock,
    long AtMs,
    bool Held,
    string? Selection = "",
    bool Composed = false,
    bool EndsLine = true
);

/// <summary>The focus went to a field.</summary>
/// <param name="Place">Which of the connection's places is typed in, such as <c>desk</c> or <c>proof-line</c>.</param>
/// <param name="Name">The field's name, for what is recorded.</param>
public sealed record FocusMessage(string Place, string App, string Field, string Name = "");

/// <summary>What a page does after something happened at its keyboard; see <see cref="HostAnswer"/>.</summary>
/// <param name="Steps">To be carried out now, in order; a held key that goes on is one of them.</param>
/// <param name="Next"><c>nothing</c>, <c>acting-keys</c> or <c>everything</c>: what the page holds back next.</param>
/// <param name="AskAt">When it asks again by <c>Pause</c>, in its own milliseconds; null for never.</param>
/// <param name="Question">The number of what is asked, for its answer; null when nothing is.</param>
/// <param name="Slip">A slip to fill in or leave.</param>
/// <param name="Opens">What would be opened, to be confirmed or left.</param>
/// <param name="Hint">What waits for its closing key now, if it is to be shown.</param>
/// <param name="Offer">How the text may go on; null when nothing is offered.</param>
/// <param name="Missed">What would have put in what was just typed in full; null for nothing.</param>
/// <param name="Fired">Which snippets went in or were taken back.</param>
/// <param name="Problem">Why a snippet was not put in, for the user.</param>
/// <param name="Trace">What was done and why; null while the page does not look.</param>
/// <param name="Chords">The chords that set something off here from now on; null when they are as before.</param>
public sealed record HostMessage(
    IReadOnlyList<StepMessage> Steps,
    string Next,
    long? AskAt,
    int? Question,
    SlipMessage? Slip,
    IReadOnlyList<string>? Opens,
    HintMessage? Hint,
    OfferMessage? Offer,
    MissedMessage? Missed,
    IReadOnlyList<FiredMessage> Fired,
    string? Problem,
    TraceMessage? Trace,
    IReadOnlyList<string>? Chords
);

/// <summary>A slip to fill in before the text goes in.</summary>
/// <param name="Recent">Answers given before, the latest first, by the name of the field.</param>
public sealed record SlipMessage(
    long SnippetId,
    string Snippet,
    IReadOnlyList<FieldAnswer> Fields,
    IReadOnlyDictionary<string, IReadOnlyList<string>> Recent
)
{
    internal static SlipMessage? Of(HostQuestion? question, CultureInfo language, ILookup<string, string> recent) =>
        question is HostQuestion.FillIn fill
            ? new(
                fill.Snippet.Id,
                fill.Snippet.Snippet.Name,
                [.. fill.Slip.Fields.Select(field => FieldAnswer.Of(field, language))],
                recent.ToDictionary(group => group.Key, IReadOnlyList<string> (group) => [.. group])
            )
            : null;
}

/// <summary>An abbreviation that is complete and waits for its closing key.</summary>
public sealed record HintMessage(string Trigger, string Snippet, string Preview);

/// <summary>How the text that is being typed may go on.</summary>
/// <param name="Rest">What would follow, shortened.</param>
/// <param name="Snippet">The snippet that has it; null for a phrase that was typed before.</param>
/// <param name="Key">The key that takes it.</param>
/// <param name="At">Its place among all that are offered, from 1 on.</param>
/// <param name="Of">How many are offered; the arrows with Alt walk through them.</param>
public sealed record OfferMessage(string Rest, string? Snippet, string Key, int At, int Of)
{
    private const int Longest = 120;

    internal static OfferMessage? For(OfferList offers, string key) =>
        offers.Chosen is not { } offer
            ? null
            : new(
                Shortened(offer.Rest.ReplaceLineEndings(" ⏎ ")),
                (offer as Offer.OfSnippet)?.Snippet.Snippet.Name,
                key,
                offers.At + 1,
                offers.All.Count
            );

    private static string Shortened(string text) => Graphemes.Shortened(text, Longest);
}

/// <summary>A trigger that would have put in what was just typed.</summary>
public sealed record MissedMessage(string Trigger, string Snippet);

/// <summary>Which snippet went in, was left or was taken back.</summary>
public sealed record FiredMessage(long SnippetId, string Library, string Snippet, string Trigger, string Outcome)
{
    internal static FiredMessage Of(Ended ended)
    {
        var placed = ended.Firing.Trigger.Placed;
        return new(
            placed.Id,
            placed.Library,
            placed.Snippet.Name,
            ended.Firing.Trigger.Trigger.Text,
            Wording.Of(ended.Outcome)
        );
    }
}

/// <summary>What was done and why.</summary>
public sealed record TraceMessage(string Event, IReadOnlyList<ReasonMessage> Reasons)
{
    internal static TraceMessage Of(TraceEntry entry) =>
        new(
            Wording.Of(entry.Event),
            [
                .. entry.Reasons.Select(reason => new ReasonMessage(
                    reason.Why,
                    reason.Trigger?.Placed.Id,
                    reason.Rule is { } rule ? Wording.Of(rule) : null
                )),
            ]
        );
}

/// <summary>One reason; abbreviations stand in back-quotes, names in asterisks.</summary>
/// <param name="SnippetId">The snippet whose trigger it speaks of.</param>
/// <param name="Rule">The rule of the trigger that decided.</param>
public sealed record ReasonMessage(string Why, long? SnippetId, string? Rule);

/// <summary>One of the last keys, and what was done with it.</summary>
public sealed record RecalledMessage(string App, string Key, TraceMessage Trace)
{
    internal static RecalledMessage Of(RecalledKey recalled) =>
        new(recalled.App, recalled.Keystroke.Key.Value, TraceMessage.Of(recalled.Trace));
}

/// <summary>Whether and where the engine listens, and its settings.</summary>
/// <param name="Until">When a rest ends by itself, in milliseconds since 1970; null when it does not.</param>
/// <param name="RestingApps">The applications in which it rests anyway.</param>
public sealed record EngineState(
    bool Listening,
    long? Until,
    IReadOnlyList<string> RestingApps,
    TypingSettings Settings
);

/// <summary>What the companion window is to show.</summary>
/// <param name="Number">Counts what is shown; the page answers with it.</param>
/// <param name="Kind"><c>finder</c>, <c>gather</c>, <c>recorded</c>, <c>slip</c> or <c>open</c>.</param>
/// <param name="Text">What the new snippet is made of: the text with <c>gather</c>, the body with
/// <c>recorded</c>.</param>
public sealed record CompanionMessage(
    int Number,
    string Kind,
    string? Text,
    SlipMessage? Slip,
    IReadOnlyList<string>? Opens
);

/// <summary>What the hub's methods take and give, so that the pages' types come from the API's document too.</summary>
public sealed record TypingContract(
    KeyMessage Key,
    FocusMessage Focus,
    HostMessage Answer,
    PreviewAnswer Preview,
    RecalledMessage Recalled,
    CompanionMessage Companion
);
