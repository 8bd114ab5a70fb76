using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Slips;
using DashSprout.Core.Text;

namespace DashSprout.Core.Hosting;

/// <summary>
/// What stands between a keyboard and the engine, the same for all keyboards: it is told what happens, and says what is
/// to be done now and what the keyboard holds back next. A pure state machine without clock or I/O, for one place where
/// somebody types. A key that sets nothing off and was not held back allocates nothing.
/// </summary>
public sealed class TypingHost
{
    private static readonly IReadOnlyList<DeliveryStep> NoSteps = [];
    private static readonly IReadOnlyList<Ended> NothingEnded = [];
    private static readonly TraceEntry RestingTrace = new(
        TraceEvent.Resting,
        [new TraceReason("the engine is resting")]
    );

    private readonly HostSurroundings surroundings;
    private readonly TypingEngine engine;
    private readonly HostOffers offers;
    private readonly KeyRecall recall = new();
    private readonly Queue<Keystroke> behind = new();
    private OpenFiring? open;
    private Ended? takeable;
    private string? selection = "";
    private List<DeliveryStep>? steps;
    private List<Ended>? ended;
    private TraceEntry? trace;
    private string? problem;
    private int questions;

    /// <summary>A host that does not know yet where the focus is.</summary>
    public TypingHost(HostSurroundings surroundings)
    {
        this.surroundings = surroundings;
        engine = new TypingEngine(surroundings.Index);
        offers = new HostOffers(surroundings);
    }

    /// <summary>A firing that waits for an answer.</summary>
    /// <param name="InField">How many of its typed graphemes are in the field.</param>
    /// <param name="Key">The key that set it off; null after a pause or a choice.</param>
    /// <param name="Held">Whether that key was held back.</param>
    private sealed record OpenFiring(
        Decision.Fires Fires,
        int InField,
        Keystroke? Key,
        bool Held,
        HostQuestion Question
    )
    {
        /// <summary>The answers, once they are given.</summary>
        public IReadOnlyDictionary<string, string> Answers { get; init; } = new Dictionary<string, string>();

        public ComposedDelivery? Composed { get; init; }
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
    public HostQuestion? Question => open?.Question;

    /// <summary>What the open slip's snippet would be worked out from.</summary>
    public RenderContext? QuestionContext => open is { } firing ? Context(firing) : null;

    /// <summary>Whether somebody looks at the reasons; they are made only then.</summary>
    public bool Tracing
    {
        get => engine.Tracing;
        set => engine.Tracing = value;
    }

    /// <summary>Whether the next key may take the last firing back.</summary>
    public bool CanTakeBack => takeable is not null;

    /// <summary>How the text may go on, and which of the offers would be taken.</summary>
    public OfferList Offers => offers.Now;

    /// <summary>
    /// The chords that set something off or take something back here, for the keyboard to hold back always; none while
    /// the engine rests.
    /// </summary>
    public IReadOnlyList<string> Chords()
    {
        if (surroundings.RestsIn(App))
            return [];
        var hotkeys = surroundings
            .Index()
            .Hotkeys.Where(chord => chord.Value.Any(hotkey => hotkey.Trigger.Scope.Admits(App)))
            .Select(chord => chord.Key);
        if (CanTakeBack && surroundings.TakeBackChord() is { } takesBack)
            hotkeys = hotkeys.Append(takesBack);
        return [.. hotkeys.Concat(offers.Chords).Distinct().Order(StringComparer.Ordinal)];
    }

    /// <summary>
    /// What was done with the last keys, and why: worked out when somebody asks, and never for secret fields.
    /// </summary>
    public IReadOnlyList<RecalledKey> Explain() => recall.Explain(surroundings.Index);

    /// <summary>
    /// The focus went to a field, or the keyboard's link was found again; what was typed before no longer counts.
    /// </summary>
    public HostAnswer Focus(string app, FieldKind field)
    {
        Begin();
        Abandon();
        (App, Field) = (app, field);
        engine.Focus(app);
        offers.Follower.Focus(app, field);
        recall.Focus(app, field == FieldKind.Secret);
        trace = engine.LastTrace;
        return Answer();
    }

    /// <summary>The caret was moved or the text changed past the keyboard: a click, a paste, a drop, an undo.</summary>
    public HostAnswer Click()
    {
        Begin();
        Abandon();
        Forget();
        return Answer();
    }

    /// <summary>
    /// The keyboard knows what stands before the caret although it was not typed here, as some applications tell it
    /// after a click: its last character counts for left edges.
    /// </summary>
    public HostAnswer StandsBefore(string text)
    {
        Begin();
        Abandon();
        Forget();
        if (text.Length > 0)
            engine.StandsBefore(Graphemes.Last(text));
        return Answer();
    }

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
        Begin();
        Abandon();
        (selection, offers.EndsLine) = (selected, endsLine);
        Take(keystroke, held);
        Finish();
        return Answer();
    }

    /// <summary>
    /// A text was composed by an input method or dead keys and is in the field: it counts as typed, grapheme by
    /// grapheme. When one of them sets something off, those behind it are taken out and typed after it.
    /// </summary>
    /// <param name="endsLine">Whether nothing stands behind the caret in its line.</param>
    public HostAnswer Compose(IReadOnlyList<Keystroke> keystrokes, bool endsLine = true)
    {
        Begin();
        Abandon();
        (selection, offers.EndsLine) = ("", endsLine);
        for (var at = 0; at < keystrokes.Count; at++)
        {
            var left = keystrokes.Count - at - 1;
            var before = open is null && steps is null;
            var decision = Decide(keystrokes[at]);
            if (decision is not null && before && left > 0)
            {
                Add(new DeliveryStep.Delete(left));
                foreach (var later in keystrokes.Skip(at + 1))
                    behind.Enqueue(later);
            }
            if (decision is not null)
                CarryOut(decision, keystrokes[at], held: false);
            if (behind.Count > 0 || open is not null)
                break;
        }
        Finish();
        return Answer();
    }

    /// <summary>Some time has passed without a key.</summary>
    public HostAnswer Pause(long nowMs)
    {
        Begin();
        if (open is not null)
            return Answer();
        var decision = engine.Tick(nowMs);
        if (decision is Decision.Fires fires)
        {
            trace = engine.LastTrace;
            recall.Pause(nowMs);
            Go(fires, null, held: false);
        }
        Finish();
        return Answer();
    }

    /// <summary>
    /// What gives way is meant at once: the keyboard is about to pass a key on that it cannot hold back.
    /// </summary>
    public HostAnswer Settle() => Pause(long.MaxValue);

    /// <summary>A snippet was chosen by hand; it goes in where the caret is.</summary>
    public HostAnswer Choose(PlacedSnippet snippet, string? selected)
    {
        Begin();
        Abandon();
        selection = selected;
        recall.Forget();
        var fires = engine.Choose(snippet);
        trace = engine.LastTrace;
        Go(fires, null, held: false);
        Finish();
        return Answer();
    }

    /// <summary>Answers the open slip.</summary>
    /// <param name="question">Its number; answers to another one than the open one do nothing.</param>
    public HostAnswer Fill(int question, IReadOnlyDictionary<string, string> answers)
    {
        Begin();
        if (open is { Question: HostQuestion.FillIn } firing && firing.Question.Number == question)
            Deliver(firing with { Answers = answers });
        Finish();
        return Answer();
    }

    /// <summary>What waits to be opened may be opened.</summary>
    /// <param name="question">Its number.</param>
    public HostAnswer Confirm(int question)
    {
        Begin();
        if (
            open is { Question: HostQuestion.MayOpen, Composed: { } composed } firing
            && firing.Question.Number == question
        )
            PutIn(firing, composed);
        Finish();
        return Answer();
    }

    /// <summary>Leaves the open slip or question: what was typed stays, and that word is left alone.</summary>
    /// <param name="question">Its number; null for whichever is open.</param>
    public HostAnswer Leave(int? question = null)
    {
        Begin();
        if (open is { } firing && (question ?? firing.Question.Number) == firing.Question.Number)
            LeaveAsTyped(firing);
        Finish();
        return Answer();
    }

    // ---- one key -------------------------------------------------------------------------------------------------

    private void Take(in Keystroke keystroke, bool held)
    {
        var key = keystroke.Key;
        if (surroundings.RestsIn(App))
        {
            Forget();
            trace = RestingTrace;
            if (held)
                Add(new DeliveryStep.Press(key));
            return;
        }
        if (!held && engine.ActingKeysMatter && ActedAlready(key))
        {
            Forget();
            return;
        }
        if (held && ((offers.TakenBy(key) is { } offer && TakeOffer(offer, keystroke)) || offers.Walk(key)))
            return;
        if (Decide(keystroke) is { } decision)
        {
            CarryOut(decision, keystroke, held);
            return;
        }
        if (held)
            Add(new DeliveryStep.Press(key));
        if (!SendsLine(key))
            return;
        engine.Click();
        offers.Moved();
        recall.Forget();
    }

    /// <summary>Puts in what is offered; false when it cannot be any more.</summary>
    private bool TakeOffer(Offer offer, in Keystroke keystroke)
    {
        if (engine.Take(offer.Snippet, offer.Begun) is not { } fires)
            return false;
        trace ??= engine.LastTrace;
        recall.Forget();
        takeable = null;
        offers.Follower.Taken(offer);
        Go(fires, keystroke, held: false);
        return true;
    }

    /// <summary>
    /// Whether a key takes what was typed away in this field: it sends the line, or goes on to another field.
    /// </summary>
    private bool SendsLine(Key key) =>
        key.AddsText && key.Kind != KeyKind.Typed && (Field is FieldKind.SingleLine or FieldKind.Secret);

    /// <summary>
    /// Whether a key that was not held back has done something that cannot be made undone: it moved the caret away from
    /// what gives way, deleted what could be taken back, or sent a line off.
    /// </summary>
    private bool ActedAlready(Key key) =>
        key.Kind is KeyKind.Named or KeyKind.Chord
        && (
            key.AddsText ? SendsLine(key)
            : key == Key.Backspace ? takeable is { Firing.Trigger.Placed.Rules.BackspaceTakesBack: true }
            : key != Key.Escape && engine.GivesWay
        );

    /// <summary>What the engine decides; null when the key goes to the application.</summary>
    private Decision? Decide(in Keystroke keystroke)
    {
        engine.TakeBackChord = surroundings.TakeBackChord();
        engine.HintsShown = Field != FieldKind.Secret && surroundings.Hints();
        recall.Press(keystroke, engine.TakeBackChord, engine.HintsShown);
        if (keystroke.Key.Kind == KeyKind.Typed && Field != FieldKind.Secret)
            surroundings.Typed(keystroke.AtMs);
        var decision = engine.Press(keystroke);
        trace ??= engine.LastTrace;
        if (decision is Decision.PassesOn or Decision.Fires { KeyGraphemes: > 0 })
            offers.Pressed(keystroke.Key);
        if (keystroke.Key.Kind != KeyKind.Silent && decision is not Decision.TakesBack)
            takeable = null;
        return decision is Decision.PassesOn ? null : decision;
    }

    private void CarryOut(Decision decision, in Keystroke keystroke, bool held)
    {
        if (decision is Decision.Fires fires)
            Go(fires, keystroke, held);
        if (decision is Decision.TakesBack back)
            TakeBack(back);
    }

    /// <summary>A firing: asks first when there is something to ask.</summary>
    private void Go(Decision.Fires fires, Keystroke? key, bool held)
    {
        var placed = fires.Firing.Trigger.Placed;
        placed = placed with { Snippet = placed.Snippet.For(Field) };
        var inField = fires.Firing.Typed.Count - (held ? fires.KeyGraphemes : 0);
        var slip = Slip.Of(placed.Snippet.Body, surroundings.Context().FindSnippet);
        var firing = new OpenFiring(
            fires,
            inField,
            key,
            held,
            slip is null
                ? new HostQuestion.MayOpen(placed, []) { Number = ++questions }
                : new HostQuestion.FillIn(placed, slip) { Number = ++questions }
        );
        if (slip is null)
            Deliver(firing);
        else
            open = firing;
    }

    private void Deliver(OpenFiring firing)
    {
        var placed = firing.Fires.Firing.Trigger.Placed;
        try
        {
            var composed = Composer.Compose(firing.Fires.Firing, firing.InField, Field, Context(firing));
            var unasked = composed.Opened.Where(opening => !surroundings.MayOpen(opening)).ToList();
            if (unasked.Count == 0)
                PutIn(firing, composed);
            else
                open = firing with
                {
                    Question = new HostQuestion.MayOpen(placed, unasked) { Number = ++questions },
                    Composed = composed,
                };
        }
        catch (RenderingException exception)
        {
            LeaveAsTyped(firing);
            problem = $"“{placed.Snippet.Name}” was not put in. {exception.Message}";
            if (trace is not null)
                trace = trace with
                {
                    Reasons = [.. trace.Reasons, new TraceReason(exception.Message, firing.Fires.Firing.Trigger)],
                };
        }
    }

    private void PutIn(OpenFiring firing, ComposedDelivery composed)
    {
        open = null;
        foreach (var step in composed.Steps)
            Add(step);
        engine.PutIn(composed.Neighbour, composed.KeysBehind, composed.TakeBackSteps);
        offers.Follower.PutIn(firing.Fires.Firing.Typed.Count);
        recall.PutIn(composed.Neighbour, composed.KeysBehind, composed.TakeBackSteps);
        var done = new Ended(
            firing.Fires.Firing,
            composed.OpensOnly ? Outcome.Opened : Outcome.Inserted,
            firing.Fires.Firing.Typed.Count,
            composed.Inserted
        )
        {
            Turns = composed.Turns,
            App = App,
            Answers = [.. firing.Answers.Values],
        };
        takeable = composed.TakeBackSteps is null ? null : done;
        (ended ??= []).Add(done);
        if (composed.Steps.OfType<DeliveryStep.GoTo>().LastOrDefault() is { } goTo)
        {
            App = goTo.App;
            engine.Focus(goTo.App);
            offers.Follower.Focus(goTo.App, Field);
            recall.Focus(goTo.App, isSecret: false);
        }
        if (firing is { Fires.PressAgain: true, Key: { } again })
            Take(again, firing.Held);
    }

    private void LeaveAsTyped(OpenFiring firing)
    {
        open = null;
        engine.LeaveAsTyped();
        recall.LeaveAsTyped();
        (ended ??= []).Add(new Ended(firing.Fires.Firing, Outcome.Slip, 0, ""));
        if (firing.Key is not { } key)
            return;
        if (firing.Fires.PressAgain)
            Take(key, firing.Held);
        else if (firing.Held && firing.Fires.Firing.Typed.Count > 0)
            Add(new DeliveryStep.Press(key.Key));
    }

    private void TakeBack(Decision.TakesBack back)
    {
        foreach (var step in TakeBackSteps.Of(back.Firing, back.Delete, Field))
            Add(step);
        offers.Follower.TakenBack();
        (ended ??= []).Add(new Ended(back.Firing, Outcome.TakenBack, 0, "") { App = App, Undone = takeable });
        takeable = null;
    }

    private Func<string?> SelectionAsTold()
    {
        var told = selection;
        return () => told;
    }

    private RenderContext Context(OpenFiring firing) =>
        surroundings.Context() with
        {
            ReadClipboard = ReadClipboard,
            ReadSelection = ReadSelection ?? SelectionAsTold(),
            Answers = firing.Answers,
            Groups = firing.Fires.Firing.Groups,
            Self = References.To(firing.Fires.Firing.Trigger.Placed.Id),
        };

    // ---- the answer ----------------------------------------------------------------------------------------------

    private void Begin()
    {
        (steps, ended, trace, problem) = (null, null, null, null);
        offers.Begin();
    }

    private void Add(DeliveryStep step) => (steps ??= []).Add(step);

    /// <summary>What was composed behind a firing is typed after it.</summary>
    private void Finish()
    {
        while (open is null && behind.TryDequeue(out var keystroke))
            Take(keystroke, held: true);
    }

    private void Forget()
    {
        engine.Click();
        offers.Moved();
        recall.Forget();
        takeable = null;
        trace = engine.LastTrace;
    }

    /// <summary>Something happened while a question was open: it is left, and nothing more comes of it.</summary>
    private void Abandon()
    {
        if (behind.Count > 0)
            behind.Clear();
        if (open is not { } firing)
            return;
        open = null;
        engine.LeaveAsTyped();
        recall.LeaveAsTyped();
        (ended ??= []).Add(new Ended(firing.Fires.Firing, Outcome.Slip, 0, ""));
    }

    private HostAnswer Answer()
    {
        var resting = open is null && surroundings.RestsIn(App);
        var said = resting || open is not null ? OfferList.None : offers.Look();
        var next =
            open is not null ? Hold.Everything
            : engine.ActingKeysMatter && !resting ? Hold.ActingKeys
            : Hold.Nothing;
        return new HostAnswer(
            steps ?? NoSteps,
            next,
            open is null ? engine.SettlesAt : null,
            open?.Question,
            engine.Hint,
            said,
            offers.Missed,
            ended ?? NothingEnded,
            problem,
            Tracing ? trace : null
        );
    }
}
