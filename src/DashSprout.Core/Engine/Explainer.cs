using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>Collects the reasons for one key, in words for the user; nothing here runs while nobody looks.</summary>
internal sealed class Explainer(TypedTail tail, Matcher matcher)
{
    private const int MostReasons = 4;
    private readonly List<TraceReason> reasons = [];
    private TraceEvent happened;

    public TraceEntry Entry => new(happened, [.. reasons]);

    public void Begin()
    {
        reasons.Clear();
        happened = TraceEvent.Typed;
    }

    public void Note(TraceEvent what, string why, ActiveTrigger? trigger = null, TriggerRule? rule = null)
    {
        happened = what;
        var known = reasons.Exists(reason => reason.Why == why);
        if (!known && reasons.Count < MostReasons)
            reasons.Add(new TraceReason(why, trigger, rule));
    }

    /// <summary>Says what nearly went off on a key that set nothing off.</summary>
    public void ExplainQuietKey(Key key, Key last, bool grew)
    {
        foreach (var (entry, start, textEnd) in Ending(key, last, grew))
        {
            var atEnd = textEnd == tail.End;
            if (!entry.Placed.Active)
            {
                var off =
                    !entry.Placed.LibraryEnabled ? $"library *{entry.Placed.Library}*"
                    : entry.Placed.OffFolder is { } folder ? $"folder *{folder}*"
                    : $"snippet *{entry.Placed.Snippet.Name}*";
                Near($"`{entry.Trigger.Text}` stays quiet: {off} is off", entry, TriggerRule.Switch);
                continue;
            }
            var timing = entry.Rules!.Timing;
            var obstacle = matcher.Obstacle(
                entry,
                start,
                textEnd,
                atEnd && entry.ClosingKeys.Keys is [var any, ..] ? any : key
            );
            switch (obstacle)
            {
                case null when atEnd && timing == Timing.ClosingKey:
                    Note(
                        TraceEvent.Waits,
                        $"`{entry.Trigger.Text}` waits for a closing key",
                        entry,
                        TriggerRule.Timing
                    );
                    break;
                case null when timing == Timing.DoubleClosingKey:
                    Note(
                        TraceEvent.Waits,
                        $"`{entry.Trigger.Text}` waits for a closing key pressed twice",
                        entry,
                        TriggerRule.Timing
                    );
                    break;
                case TriggerRule.Timing:
                    Near(
                        $"`{entry.Trigger.Text}` does not go off: {Shown(key)} is none of its closing keys",
                        entry,
                        TriggerRule.Timing
                    );
                    break;
                case TriggerRule.Scope:
                    Near($"`{entry.Trigger.Text}` stays quiet: not in this application", entry, TriggerRule.Scope);
                    break;
                case TriggerRule.LetterCase:
                    Near(
                        $"`{entry.Trigger.Text}` wants exact case: you typed `{tail.Written(start, textEnd)}`",
                        entry,
                        TriggerRule.LetterCase
                    );
                    break;
                case TriggerRule.LeftEdge:
                    var wanted = entry.Rules.LeftEdge == LeftEdge.Word ? "not at a word's start" : "not after a space";
                    Near(
                        $"`{entry.Trigger.Text}` stays quiet: {wanted}: `{tail[start - 1].Text}` stands before it",
                        entry,
                        TriggerRule.LeftEdge
                    );
                    break;
                case TriggerRule.Quiet:
                    Near(
                        $"`{entry.Trigger.Text}` is quiet: you took it back or left it alone",
                        entry,
                        TriggerRule.Quiet
                    );
                    break;
            }
        }
        if (reasons.Count == 0)
            Note(TraceEvent.Typed, "no trigger ends here");
    }

    /// <summary>Says which others would have gone off on the same key.</summary>
    public void ExplainLosers(Key key, Key last, bool grew, in Match winner)
    {
        foreach (var (entry, start, textEnd) in Ending(key, last, grew))
        {
            if (ReferenceEquals(entry, winner.Trigger) || !entry.Placed.Active)
                continue;
            var onThisKey = entry.Rules!.Timing == Timing.AtOnce == (textEnd == tail.End);
            if (onThisKey && matcher.Obstacle(entry, start, textEnd, key) is null)
                Note(
                    TraceEvent.Fires,
                    $"`{entry.Trigger.Text}` in *{entry.Placed.Library}* loses to "
                        + $"`{winner.Trigger.Trigger.Text}` in *{winner.Trigger.Placed.Library}*",
                    entry,
                    TriggerRule.Priority
                );
        }
    }

    private void Near(string why, ActiveTrigger entry, TriggerRule? rule) =>
        Note(happened == TraceEvent.Waits ? TraceEvent.Waits : TraceEvent.NearMiss, why, entry, rule);

    /// <summary>
    /// Every abbreviation that ends at the caret or, for a key that is no letter or digit, right before it.
    /// </summary>
    private IEnumerable<(ActiveTrigger Entry, int Start, int TextEnd)> Ending(Key key, Key last, bool grew)
    {
        var found = new List<(ActiveTrigger Entry, int Start, int TextEnd)>();
        Walk(tail.End, entry => true);
        if (grew && !char.IsLetterOrDigit(key.Text, 0))
        {
            Walk(tail.End - 1, entry => entry.Rules!.Timing != Timing.AtOnce);
            if (last.Closing == key.Closing)
                Walk(tail.End - 2, entry => entry.Rules!.Timing == Timing.DoubleClosingKey);
        }
        return found.OrderByDescending(match => match.TextEnd - match.Start);

        void Walk(int textEnd, Func<ActiveTrigger, bool> wanted)
        {
            foreach (var root in (TrieNode[])[matcher.Index.Backward, matcher.Index.Off])
            {
                foreach (var (start, entries) in new ReverseWalk(tail, root, textEnd))
                    found.AddRange(entries.Where(wanted).Select(entry => (entry, start, textEnd)));
            }
        }
    }

    private static string Shown(Key key) =>
        key.Value == " " ? "Space"
        : key.Kind == KeyKind.Named ? key.Value
        : $"`{key.Value}`";
}
