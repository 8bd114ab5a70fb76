using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Slips;

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

/// <summary>How one types in a rehearsal.</summary>
/// <param name="App">The application's id.</param>
/// <param name="CapsLock">Whether Caps Lock is on.</param>
/// <param name="Context">Time, clipboard, selection and the like.</param>
/// <param name="Answers">Answers to the fill slip; null when it is not filled in, so that nothing goes in.</param>
public sealed record RehearsalSetting(string App, FieldKind Field, bool CapsLock, RenderContext Context, IReadOnlyDictionary<string, string>? Answers)
{
    /// <summary>The chord that takes a firing back; null when none does.</summary>
    public string? TakeBackChord { get; init; } = TypingEngine.DefaultTakeBackChord;
}

/// <summary>What a rehearsal came to; caret and selection count graphemes of the text.</summary>
public sealed record RehearsalResult(
    string Text, string? Html, int Caret, (int Start, int End)? Selection, string Clipboard, IReadOnlyList<string> Opened, IReadOnlyList<string> Notices,
    IReadOnlyList<RehearsedFiring> Firings, IReadOnlyList<TraceEntry> Trace);

/// <summary>Typing into the engine without touching a real application. Every run starts with an empty field.</summary>
public static class Rehearsal
{
    private const int MillisecondsPerKey = 50;

    /// <summary>Runs the steps against an index.</summary>
    /// <param name="tracing">Whether to say why, for each step; the trace is empty otherwise.</param>
    public static RehearsalResult Run(TriggerIndex index, IReadOnlyList<RehearsalStep> steps, RehearsalSetting setting, bool tracing)
    {
        var run = new Running(index, setting, tracing);
        for (var at = 0; at < steps.Count; at++) run.Step(at, steps[at]);
        return run.Result();
    }

    private sealed class Running
    {
        private readonly TypingEngine engine;
        private readonly TextField text;
        private readonly RehearsalSetting setting;
        private readonly List<RehearsedFiring> firings = [];
        private readonly List<TraceEntry> trace = [];
        private readonly List<string> opened = [];
        private readonly List<string> notices = [];
        private long now;

        public Running(TriggerIndex index, RehearsalSetting setting, bool tracing)
        {
            engine = new TypingEngine(() => index) { Tracing = tracing, TakeBackChord = setting.TakeBackChord };
            engine.Focus(setting.App);
            text = new TextField(setting.Field) { Clipboard = setting.Context.Clipboard };
            this.setting = setting;
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
                    if (engine.Tick(now) is Decision.Fires fires) settled = Deliver(at, fires);
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

        public RehearsalResult Result() => new(text.Text, text.Html, text.Caret, text.Selection, text.Clipboard, opened, notices, firings, trace);

        private TraceEntry? Press(int at, Key key)
        {
            switch (engine.Press(new Keystroke(key, setting.CapsLock, now)))
            {
                case Decision.Fires fires:
                    var why = Deliver(at, fires, key);
                    if (fires.PressAgain) Press(at, key);
                    return why;
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

        /// <summary>Puts the firing in; the trace entry says so, or why it could not be.</summary>
        private TraceEntry? Deliver(int at, Decision.Fires fires, Key? key = null)
        {
            var firing = fires.Firing;
            var why = engine.LastTrace;
            var body = firing.Trigger.Placed.Snippet.Body;
            var asks = setting.Answers is null && body is Body.Html && SlipForm.Fields(body.Tree, setting.Context.FindSnippet).Count > 0;
            try
            {
                if (asks)
                {
                    LeaveAsTyped(at, fires, key);
                    return why;
                }
                var context = setting.Context with { Answers = setting.Answers ?? new Dictionary<string, string>(), Clipboard = text.Clipboard };
                var delivery = Composer.Compose(firing, setting.Field, context);
                foreach (var step in delivery.Steps)
                {
                    if (step is DeliveryStep.Open open) opened.Add(open.Target);
                    if (step is DeliveryStep.ShowNotice notice) notices.Add(notice.Text);
                    text.Apply(step, fires.KeyGraphemes);
                }
                engine.PutIn(delivery.BeforeCaret, delivery.TakeBackLength);
                if (delivery.Steps.OfType<DeliveryStep.GoTo>().LastOrDefault() is { } goTo) engine.Focus(goTo.App);
                firings.Add(new RehearsedFiring(at, firing.Trigger, firing.Typed.Count, delivery.Inserted, delivery.OpensOnly ? Outcome.Opened : Outcome.Inserted));
                return why;
            }
            catch (RenderingException exception)
            {
                LeaveAsTyped(at, fires, key);
                return why is null ? null : why with { Reasons = [.. why.Reasons, new TraceReason(exception.Message, firing.Trigger)] };
            }
        }

        private void LeaveAsTyped(int at, Decision.Fires fires, Key? key)
        {
            engine.LeaveAsTyped();
            if (!fires.PressAgain && fires.Firing.Typed.Count > 0 && key is { } typed) text.Press(typed);
            firings.Add(new RehearsedFiring(at, fires.Firing.Trigger, 0, "", Outcome.Slip));
        }
    }
}
