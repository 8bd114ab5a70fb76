using DashSprout.Core.Delivery;

namespace DashSprout.Core.Engine;

/// <summary>One thing that happens in a rehearsal.</summary>
public abstract record RehearsalStep
{
    private RehearsalStep() { }

    /// <summary>A key is pressed.</summary>
    public sealed record Press(Key Key) : RehearsalStep;

    /// <summary>Nothing is typed for a while.</summary>
    public sealed record Pause(int Milliseconds) : RehearsalStep;

    /// <summary>The mouse is clicked in the field.</summary>
    public sealed record Click : RehearsalStep;

    /// <summary>Another application takes the focus; the rehearsal's one field stays.</summary>
    public sealed record App(string Id) : RehearsalStep;

    /// <summary>The steps that type a text.</summary>
    public static IEnumerable<RehearsalStep> Type(string text) => Key.ForText(text).Select(key => new Press(key));
}

/// <summary>What became of a firing.</summary>
public enum Outcome
{
    /// <summary>The text went in.</summary>
    Inserted,

    /// <summary>A fill slip was shown; nothing went in.</summary>
    Slip,

    /// <summary>Something was opened; nothing went in.</summary>
    Opened,

    /// <summary>It was taken back.</summary>
    TakenBack,
}

/// <summary>One firing in a rehearsal.</summary>
/// <param name="Step">Index of the step that decided it.</param>
/// <param name="Deleted">Graphemes that were removed.</param>
/// <param name="Inserted">The plain text that went in.</param>
public sealed record RehearsedFiring(int Step, ActiveTrigger Trigger, int Deleted, string Inserted, Outcome Outcome);

/// <summary>What a rehearsal came to.</summary>
public sealed record RehearsalResult(
    string Text, string? Html, int Caret, IReadOnlyList<RehearsedFiring> Firings, IReadOnlyList<TraceEntry> Trace);

/// <summary>Typing into the engine without touching a real application. Every run starts with an empty field.</summary>
public static class Rehearsal
{
    private const int MillisecondsPerKey = 50;

    /// <summary>Runs the steps against an index.</summary>
    /// <param name="tracing">Whether to say why, for each step; the trace is empty otherwise.</param>
    public static RehearsalResult Run(
        TriggerIndex index, IReadOnlyList<RehearsalStep> steps, string app, FieldKind field, bool capsLock, bool tracing)
    {
        var run = new Running(index, app, field, capsLock, tracing);
        for (var at = 0; at < steps.Count; at++) run.Step(at, steps[at]);
        return run.Result();
    }

    private sealed class Running
    {
        private readonly TypingEngine engine;
        private readonly TextField text;
        private readonly FieldKind field;
        private readonly bool capsLock;
        private readonly List<RehearsedFiring> firings = [];
        private readonly List<TraceEntry> trace = [];
        private long now;

        public Running(TriggerIndex index, string app, FieldKind field, bool capsLock, bool tracing)
        {
            engine = new TypingEngine(() => index) { Tracing = tracing };
            engine.Focus(app);
            text = new TextField(field);
            (this.field, this.capsLock) = (field, capsLock);
        }

        public void Step(int at, RehearsalStep step)
        {
            TraceEntry? settled = null;
            switch (step)
            {
                case RehearsalStep.Press press:
                    now += MillisecondsPerKey;
                    settled = Press(at, press.Key);
                    break;
                case RehearsalStep.Pause pause:
                    now += pause.Milliseconds;
                    if (engine.Tick(now) is Decision.Fires fires) Deliver(at, fires);
                    else if (engine.Tracing) settled = new TraceEntry(TraceEvent.Typed, [new TraceReason("nothing was typed")]);
                    break;
                case RehearsalStep.Click:
                    engine.Click();
                    break;
                case RehearsalStep.App app:
                    engine.Focus(app.Id);
                    break;
            }
            if ((settled ?? engine.LastTrace) is { } entry) trace.Add(entry);
        }

        public RehearsalResult Result() => new(text.Text, text.Html, text.Caret, firings, trace);

        private TraceEntry? Press(int at, Key key)
        {
            switch (engine.Press(new Keystroke(key, capsLock, now)))
            {
                case Decision.Fires { PressAgain: true } fires:
                    var why = engine.LastTrace;
                    Deliver(at, fires);
                    Press(at, key);
                    return why;
                case Decision.Fires fires:
                    Deliver(at, fires);
                    break;
                case Decision.TakesBack takesBack:
                    text.Apply(new DeliveryStep.Delete(takesBack.Delete), heldBack: 0);
                    text.PutIn(takesBack.Typed);
                    firings[^1] = firings[^1] with { Outcome = Outcome.TakenBack };
                    break;
                default:
                    text.Press(key);
                    break;
            }
            return null;
        }

        private void Deliver(int at, Decision.Fires fires)
        {
            var firing = fires.Firing;
            var delivery = Composer.Compose(firing, field);
            foreach (var step in delivery.Steps) text.Apply(step, fires.KeyGraphemes);
            engine.PutIn(delivery.Inserted, delivery.TextOnly);
            firings.Add(new RehearsedFiring(at, firing.Trigger, firing.Typed.Count, delivery.Inserted, Outcome.Inserted));
        }
    }
}
