using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Safety;

/// <summary>Keys to try a trigger with, and what the engine made of them.</summary>
public sealed record TriedKeys(IReadOnlyList<Key> Keys, bool WentOff, string Text, string Why);

/// <summary>Shows a trigger's rules by typing them: the plain way, behind a letter, and in capitals.</summary>
public static class TryOut
{
    /// <summary>What comes of typing a trigger; nothing for patterns, which do not say what to type.</summary>
    public static IReadOnlyList<TriedKeys> Of(TriggerIndex index, ActiveTrigger trigger, RenderContext context)
    {
        if (trigger.Trigger is Trigger.Hotkey hotkey)
            return [Try(index, trigger, [hotkey.Chord], context)];
        if (trigger.Trigger is not Trigger.Abbreviation { Text: var text })
            return [];
        var closing = trigger.ClosingKeys.Keys is [var first, ..] ? first : default(Key?);
        Key[] end = (trigger.Rules!.Timing, closing) switch
        {
            (Timing.ClosingKey, { } key) => [key],
            (Timing.DoubleClosingKey, { } key) => [key, key],
            _ => [],
        };
        var tries = new List<TriedKeys>
        {
            Try(index, trigger, [.. Key.ForText(text), .. end], context),
            Try(index, trigger, [.. Key.ForText("a" + text), .. end], context),
        };
        var capitals = text.ToUpperInvariant();
        if (capitals != text && Graphemes.Count(capitals) == Graphemes.Count(text))
            tries.Add(Try(index, trigger, [.. Key.ForText(capitals), .. end], context));
        return tries;
    }

    /// <summary>What comes of typing something of one's own, for a pattern, which does not say what to type.</summary>
    public static TriedKeys Typing(TriggerIndex index, ActiveTrigger trigger, string text, RenderContext context) =>
        Try(index, trigger, [.. Key.ForText(text)], context);

    private static TriedKeys Try(TriggerIndex index, ActiveTrigger trigger, Key[] keys, RenderContext context)
    {
        var app = trigger.Trigger.Scope is Scope.OnlyIn only ? only.Apps[0] : "";
        var setting = new RehearsalSetting(app, FieldKind.Plain, false, context, new Dictionary<string, string>());
        var result = Rehearsal.Run(
            index,
            [.. keys.Select(key => new RehearsalStep.Press(key)), new RehearsalStep.Pause(TypingEngine.PauseMs)],
            setting,
            tracing: true
        );
        var own = result.Trace.LastOrDefault(entry =>
            entry.Reasons.Any(reason => reason.Trigger?.Trigger.Text == trigger.Trigger.Text)
        );
        return new TriedKeys(
            keys,
            result.Firings.Any(firing => ReferenceEquals(firing.Trigger, trigger)),
            result.Text,
            own?.Why ?? "no trigger ends here"
        );
    }
}
