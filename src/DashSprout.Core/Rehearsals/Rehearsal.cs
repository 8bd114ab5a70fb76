using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;

namespace DashSprout.Core.Rehearsals;

/// <summary>One thing that happens in a rehearsal.</summary>
public abstract record RehearsalStep
{
    private RehearsalStep() { }

    /// <summary>A key is pressed.</summary>
    public sealed record Press(Key Key) : RehearsalStep
    {
        /// <inheritdoc/>
        public override string ToString() => Key.Value;
    }

    /// <summary>Nothing is typed for a while.</summary>
    public sealed record Pause(int Milliseconds) : RehearsalStep
    {
        /// <inheritdoc/>
        public override string ToString() => $"pause {Milliseconds}";
    }

    /// <summary>The mouse is clicked in the field.</summary>
    public sealed record Click : RehearsalStep;

    /// <summary>Another application takes the focus; the rehearsal's one field stays.</summary>
    public sealed record App(string Id) : RehearsalStep;

    /// <summary>The steps that type a text.</summary>
    public static IEnumerable<RehearsalStep> Type(string text) => Key.ForText(text).Select(key => new Press(key));
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
public sealed record RehearsalSetting(
    string App,
    FieldKind Field,
    bool CapsLock,
    RenderContext Context,
    IReadOnlyDictionary<string, string>? Answers
)
{
    /// <summary>
    /// Whether every key is held back until it is decided, as a keyboard far from its host does; nothing else changes
    /// by it.
    /// </summary>
    public bool HoldAll { get; init; }

    /// <summary>The chord that takes a firing back; null when none does.</summary>
    public string? TakeBackChord { get; init; } = TypingEngine.DefaultTakeBackChord;
}

/// <summary>What a rehearsal came to; caret and selection count graphemes of the text.</summary>
/// <param name="Steps">Caret steps before the other end of the selection and before the caret.</param>
public sealed record RehearsalResult(
    string Text,
    string? Html,
    int Caret,
    (int Start, int End)? Selection,
    (int Anchor, int Caret) Steps,
    string? Clipboard,
    IReadOnlyList<string> Opened,
    IReadOnlyList<string> Notices,
    IReadOnlyList<RehearsedFiring> Firings,
    IReadOnlyList<TraceEntry> Trace
);

/// <summary>
/// Typing without touching a real application: a keyboard and a field of our own, with the same host between them as
/// everywhere else. Every run starts with an empty field.
/// </summary>
public static class Rehearsal
{
    private const int MillisecondsPerKey = 50;

    /// <summary>Runs the steps against an index.</summary>
    /// <param name="tracing">Whether to say why, for each step; the trace is empty otherwise.</param>
    public static RehearsalResult Run(
        TriggerIndex index,
        IReadOnlyList<RehearsalStep> steps,
        RehearsalSetting setting,
        bool tracing
    )
    {
        var run = new Running(index, setting, tracing);
        for (var at = 0; at < steps.Count; at++)
            run.Step(at, steps[at]);
        return run.Result();
    }

    private sealed class Running
    {
        private readonly TypingHost host;
        private readonly TextField text;
        private readonly RehearsalSetting setting;
        private readonly List<RehearsedFiring> firings = [];
        private readonly List<TraceEntry> trace = [];
        private readonly List<string> opened = [];
        private readonly List<string> notices = [];
        private readonly List<string> rotations = [];
        private IReadOnlyList<string> chords;
        private HostAnswer last;
        private long now;

        public Running(TriggerIndex index, RehearsalSetting setting, bool tracing)
        {
            this.setting = setting;
            host = new TypingHost(
                new HostServices
                {
                    Index = () => index,
                    Context = () =>
                        setting.Context with
                        {
                            RotationsTaken = part =>
                                setting.Context.RotationsTaken(part) + rotations.Count(turn => turn == part),
                        },
                    TakeBackChord = () => setting.TakeBackChord,
                }
            )
            {
                Tracing = tracing,
            };
            last = host.Focus(setting.App, setting.Field);
            chords = host.Chords();
            text = new TextField(setting.Field) { Clipboard = setting.Context.Clipboard };
        }

        public void Step(int at, RehearsalStep step)
        {
            TraceEntry? entry = null;
            switch (step)
            {
                case RehearsalStep.Press press:
                    now += MillisecondsPerKey;
                    entry = Press(at, press.Key);
                    break;
                case RehearsalStep.Pause pause:
                    now += pause.Milliseconds;
                    var due = last.AskAt is { } askAt && askAt <= now;
                    entry = due ? Take(at, host.Pause(now)) : null;
                    entry ??= new TraceEntry(TraceEvent.Typed, [new TraceReason("nothing was typed")]);
                    break;
                case RehearsalStep.Click:
                    entry = Take(at, host.Click());
                    break;
                case RehearsalStep.App app:
                    entry = Take(at, host.Focus(app.Id, setting.Field));
                    chords = host.Chords();
                    break;
            }
            if (host.Tracing && entry is not null)
                trace.Add(entry);
        }

        public RehearsalResult Result() =>
            new(
                text.Text,
                text.Html,
                text.Caret,
                text.Selection,
                text.Steps,
                text.Clipboard,
                opened,
                notices,
                firings,
                trace
            );

        /// <summary>As a keyboard does: a key that is not held back is in the field before it is decided.</summary>
        private TraceEntry? Press(int at, Key key)
        {
            var held =
                setting.HoldAll
                || last.Next == Hold.Everything
                || (last.Next == Hold.ActingKeys && key.Kind != KeyKind.Typed)
                || chords.Contains(key.Value);
            if (!held)
                text.Press(key);
            host.Clipboard = text.Clipboard;
            var selected = setting.Context.Selection is { Length: 0 } ? text.Selected : setting.Context.Selection;
            return Take(at, host.Press(new Keystroke(key, setting.CapsLock, now), held, selected));
        }

        /// <summary>
        /// Carries an answer out; slips are filled in as the setting says, and everything may be opened.
        /// </summary>
        private TraceEntry? Take(int at, HostAnswer answer)
        {
            last = answer;
            foreach (var step in answer.Steps)
            {
                if (step is DeliveryStep.Open open)
                    opened.Add(open.Target);
                if (step is DeliveryStep.ShowNotice notice)
                    notices.Add(notice.Text);
                text.Apply(step);
            }
            foreach (var ended in answer.Ended)
                Note(at, ended);
            if (answer.Question is null)
                return answer.Trace;
            var next = Take(
                at,
                setting.Answers is { } answers ? host.Fill(host.Question!.Number, answers) : host.Leave()
            );
            return next is null || answer.Trace is null
                ? answer.Trace
                : answer.Trace with
                {
                    Reasons = [.. answer.Trace.Reasons, .. next.Reasons],
                };
        }

        private void Note(int at, Ended ended)
        {
            rotations.AddRange(ended.Rotations);
            if (ended.Outcome == Outcome.TakenBack)
                firings[^1] = firings[^1] with { Outcome = Outcome.TakenBack };
            else
                firings.Add(
                    new RehearsedFiring(at, ended.Firing.Trigger, ended.Deleted, ended.Inserted, ended.Outcome)
                );
        }
    }
}
