using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Hosting;

/// <summary>
/// What stands between a keyboard and the engine, the same for all keyboards: it is told what happens, and says what is
/// to be done now and what the keyboard holds back next. A pure state machine without clock or I/O, for one place where
/// somebody types. A key that sets nothing off and was not held back allocates nothing.
/// </summary>
public sealed partial class TypingHost
{
    private static readonly TraceEntry RestingTrace = new(
        TraceEvent.Resting,
        [new TraceReason("the engine is resting")]
    );

    private readonly HostServices services;
    private readonly TypingEngine engine;
    private readonly HostOffers offers;
    private readonly KeyRecall recall = new();

    /// <summary>What is still to be typed, behind what is being decided; each is held back.</summary>
    private readonly Queue<Keystroke> behind = new();

    private HostState state = HostState.Idle.Still;
    private AnswerSoFar answer;

    /// <summary>The held key that is being decided; it goes to the application when that fails.</summary>
    private Keystroke? deciding;
    private string? selection = "";
    private string? saidFault;
    private int questions;

    /// <summary>A host that does not know yet where the focus is.</summary>
    public TypingHost(HostServices services)
    {
        this.services = services;
        engine = new TypingEngine(services.Index);
        offers = new HostOffers(services);
    }

    /// <summary>The application that has the focus.</summary>
    public string App { get; private set; } = "";

    /// <summary>What the field takes that has the focus.</summary>
    public FieldKind Field { get; private set; } = FieldKind.Plain;

    /// <summary>The text on the keyboard's clipboard; null when it is too long to go in anywhere.</summary>
    public string? Clipboard
    {
        set => ReadClipboard = () => value;
    }

    /// <summary>
    /// How the selection is read by a keyboard that does not tell it with each key; null for one that does.
    /// </summary>
    public Func<string?>? ReadSelection { get; set; }

    /// <summary>How the keyboard's clipboard is read; only what uses it asks.</summary>
    public Func<string?> ReadClipboard { get; set; } = () => "";

    /// <summary>What is asked of the user; null for nothing.</summary>
    public HostQuestion? Question => (state as HostState.Asking)?.Question;

    /// <summary>What the open slip's snippet would be worked out from.</summary>
    public RenderContext? QuestionContext => state is HostState.Asking asking ? Context(asking.Firing) : null;

    /// <summary>Whether somebody looks at the reasons; they are made only then.</summary>
    public bool Tracing
    {
        get => engine.Tracing;
        set => engine.Tracing = value;
    }

    /// <summary>Whether the next key may take the last firing back.</summary>
    public bool CanTakeBack => state is HostState.Idle { Takeable: not null };

    /// <summary>How the text may go on, and which of the offers would be taken.</summary>
    public OfferList Offers => offers.Now;

    /// <summary>
    /// The chords that set something off or take something back here, for the keyboard to hold back always; none while
    /// the engine rests.
    /// </summary>
    public IReadOnlyList<string> Chords()
    {
        if (services.RestsIn(App))
            return [];
        var hotkeys = services
            .Index()
            .Hotkeys.Where(chord => chord.Value.Any(hotkey => hotkey.Trigger.Scope.Admits(App)))
            .Select(chord => chord.Key);
        if (CanTakeBack && services.TakeBackChord() is { } takesBack)
            hotkeys = hotkeys.Append(takesBack);
        return [.. hotkeys.Concat(offers.Chords).Distinct().Order(StringComparer.Ordinal)];
    }

    /// <summary>
    /// What was done with the last keys, and why: worked out when somebody asks, and never for secret fields.
    /// </summary>
    public IReadOnlyList<RecalledKey> Explain() => recall.Explain(services.Index);

    /// <summary>
    /// The focus went to a field, or the keyboard's link was found again; what was typed before no longer counts.
    /// </summary>
    /// <param name="runsCommands">Whether it is a terminal, in which a pass-phrase looks like any other line.</param>
    public HostAnswer Focus(string app, FieldKind field, bool runsCommands = false) =>
        Hear((app, field, runsCommands), static (host, to) =>
        {
            (host.App, host.Field) = (to.app, to.field);
            host.engine.Focus(to.app);
            host.offers.Focus(to.app, to.field, to.runsCommands);
            host.recall.Focus(to.app, to.field == FieldKind.Secret);
            host.state = HostState.Idle.Still;
            host.answer.Trace = host.engine.LastTrace;
            host.LookForRest();
        });

    /// <summary>
    /// The field with the focus has told of what kind it is: what was typed there counts, but nothing of it is learned.
    /// </summary>
    public HostAnswer FieldTold(FieldKind field, bool runsCommands = false) =>
        Hear((field, runsCommands), static (host, told) =>
        {
            host.Field = told.field;
            host.offers.FieldTold(host.App, told.field, told.runsCommands);
            host.recall.FieldTold(told.field == FieldKind.Secret);
        });

    /// <summary>The caret was moved or the text changed past the keyboard: a click, a paste, a drop, an undo.</summary>
    public HostAnswer Click() => StandsBefore("");

    /// <summary>
    /// The keyboard knows what stands before the caret although it was not typed here, as some applications tell it
    /// after a click: its last character counts for left edges.
    /// </summary>
    public HostAnswer StandsBefore(string text) => Hear(text, static (host, before) =>
        {
            if (host.state is HostState.Resting)
                return;
            host.Forget();
            if (before.Length > 0)
                host.engine.StandsBefore(Graphemes.Last(before));
            host.answer.Trace = host.engine.LastTrace;
        });

    /// <summary>The link to the keyboard is lost: nothing is known any more of what is typed.</summary>
    public HostAnswer LinkLost() => Click();

    /// <summary>A delivery was stopped by the user before its end: nobody knows what stands before the caret.</summary>
    public HostAnswer Stopped() => Click();

    /// <summary>A key was pressed.</summary>
    /// <param name="held">Whether the keyboard held it back; the application has it already otherwise.</param>
    /// <param name="selected">The text selected in the field, where the keyboard knows it; null when it is too
    /// long.</param>
    /// <param name="endsLine">Whether nothing stands behind the caret in its line, as far as the keyboard
    /// knows.</param>
    public HostAnswer Press(in Keystroke keystroke, bool held, string? selected = "", bool endsLine = true)
    {
        (selection, offers.EndsLine) = (selected, endsLine);
        // Known before anything can fail, so that a key that was held back is given on whatever happens.
        deciding = held ? keystroke : null;
        return Hear((keystroke, held), static (host, key) => host.Take(key.keystroke, key.held));
    }

    /// <summary>
    /// A text was composed by an input method or dead keys and is in the field: it counts as typed, grapheme by
    /// grapheme. When one of them sets something off, those behind it are taken out and typed after it.
    /// </summary>
    /// <param name="endsLine">Whether nothing stands behind the caret in its line.</param>
    public HostAnswer Compose(IReadOnlyList<Keystroke> keystrokes, bool endsLine = true)
    {
        (selection, offers.EndsLine) = ("", endsLine);
        return Hear(keystrokes, static (host, composed) => host.TakeComposed(composed));
    }

    /// <summary>Some time has passed without a key.</summary>
    public HostAnswer Pause(long nowMs) =>
        Hear(
            nowMs,
            static (host, now) =>
            {
                if (host.state is not HostState.Idle || host.engine.Tick(now) is not Decision.Fires fires)
                    return;
                host.answer.Trace = host.engine.LastTrace;
                host.recall.Pause(now);
                host.Go(fires, null, held: false);
            },
            leaves: false
        );

    /// <summary>
    /// What gives way is meant at once: the keyboard is about to pass a key on that it cannot hold back.
    /// </summary>
    public HostAnswer Settle() => Pause(long.MaxValue);

    /// <summary>
    /// A snippet was chosen by hand; it goes in where the caret is, also while the engine rests: somebody wants it.
    /// </summary>
    public HostAnswer Choose(PlacedSnippet snippet, string? selected)
    {
        selection = selected;
        return Hear(snippet, static (host, chosen) =>
        {
            host.recall.Forget();
            var fires = host.engine.Choose(chosen);
            host.answer.Trace = host.engine.LastTrace;
            host.Go(fires, null, held: false);
        });
    }

    /// <summary>Answers the open slip.</summary>
    /// <param name="question">Its number; answers to another one than the open one do nothing.</param>
    public HostAnswer Fill(int question, IReadOnlyDictionary<string, string> answers) =>
        Hear(
            (question, answers),
            static (host, given) =>
            {
                if (host.Asked(given.question) is { Question: HostQuestion.FillIn } asked)
                    host.Deliver(asked.Firing with { Answers = given.answers }, asked.Behind);
            },
            leaves: false
        );

    /// <summary>What waits to be opened may be opened.</summary>
    /// <param name="question">Its number.</param>
    public HostAnswer Confirm(int question) =>
        Hear(
            question,
            static (host, number) =>
            {
                if (host.Asked(number) is { Composed: { } composed } asked)
                    host.PutIn(asked.Firing, composed, asked.Behind);
            },
            leaves: false
        );

    /// <summary>Leaves the open slip or question: what was typed stays, and that word is left alone.</summary>
    /// <param name="question">Its number; null for whichever is open.</param>
    public HostAnswer Leave(int? question = null) =>
        Hear(
            question,
            static (host, number) =>
            {
                if (host.Asked(number) is not { } asked)
                    return;
                host.LeaveAsTyped(asked.Firing);
                host.TakeComposed(asked.Behind);
            },
            leaves: false
        );
}
