using DashSprout.Core;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Server.Bodies;
using DashSprout.Server.Engine;
using DashSprout.Server.Libraries;
using Microsoft.AspNetCore.SignalR;

namespace DashSprout.Server.Typing;

/// <summary>
/// The wire between a page's keyboard and its hosts: each connection has one for each place it types in, and what comes
/// of one connection is decided in order. Nothing is decided here.
/// </summary>
internal sealed class TypingHub(LibraryService libraryService, EngineSwitch engineSwitch, HostWiring hosts) : Hub
{
    private const int MostPlaces = 16;
    private const int MostKeys = 1000;
    private const int HintLength = 60;

    /// <summary>The focus went to a field; said again after a connection was lost and found.</summary>
    public HostMessage Focus(FocusMessage message)
    {
        var place = Place(message.Place);
        place.Chords = null;
        place.Recorder?.Focused(message.App, message.Name);
        return Answer(place, place.Host.Focus(message.App, Kind(message.Field)));
    }

    /// <summary>A click, paste, drop or undo.</summary>
    public HostMessage Click(string name)
    {
        var place = Place(name);
        place.Recorder?.Clicked();
        return Answer(place, place.Host.Click());
    }

    /// <summary>
    /// Keys in the order they were typed. They are decided until one of them sets something off, is used up or may move
    /// the focus; the answers are for those that were decided, and the page sends the others again.
    /// </summary>
    public IReadOnlyList<HostMessage> Press(string name, IReadOnlyList<KeyMessage> keys)
    {
        if (keys.Count is 0 or > MostKeys)
            throw new InvalidInputException("keys", $"Send 1 to {MostKeys} keys at a time.");
        var place = Place(name);
        var answers = new List<HostMessage>();
        foreach (var message in keys)
        {
            var pressed = Key.ReadAll("key", message.Key);
            var composed = message.Composed || pressed.Count > 1;
            var answer = composed
                ? place.Host.Compose([.. Typed(message, pressed)], message.EndsLine)
                : place.Host.Press(
                    new Keystroke(pressed[0], message.CapsLock, message.AtMs),
                    message.Held,
                    message.Selection,
                    message.EndsLine
                );
            answers.Add(Answer(place, answer, message.Held ? [] : pressed));
            if (composed || !GoesOn(answer, pressed[0]))
                break;
        }
        return answers;
    }

    /// <summary>Some time has passed without a key.</summary>
    public HostMessage Pause(string place, long nowMs) => Answer(Place(place), Place(place).Host.Pause(nowMs));

    /// <summary>What gives way is meant at once, because a key comes that the page cannot hold back.</summary>
    public HostMessage Settle(string place) => Answer(Place(place), Place(place).Host.Settle());

    /// <summary>The user stopped a delivery.</summary>
    public HostMessage Stopped(string place) => Answer(Place(place), Place(place).Host.Stopped());

    /// <summary>A snippet was chosen in the finder.</summary>
    public HostMessage Choose(string place, long snippetId, string? selection) =>
        Answer(Place(place), Place(place).Host.Choose(libraryService.Snapshot.Placed(snippetId), selection));

    /// <summary>Tells what is on the page's clipboard; null when it is too long to go in anywhere.</summary>
    public void Clipboard(string place, string? text) => Place(place).Host.Clipboard = text;

    /// <summary>
    /// Begins to record what is typed, or ends it; then gives the body that does it again, null when nothing was typed.
    /// </summary>
    public string? Record(string name, bool on)
    {
        var place = Place(name);
        var ended = place.Recorder;
        if (!on && ended is null)
            throw new HubException(
                "The connection was lost meanwhile, and what was recorded with it. Record it again."
            );
        place.Recorder = on ? new KeyRecorder() : null;
        return ended is { IsEmpty: false } ? ended.ToBody().Source : null;
    }

    /// <summary>Whether the page shows the reasons for each key.</summary>
    public void Look(string place, bool looks) => Place(place).Host.Tracing = looks;

    /// <summary>What was done with the last keys, and why.</summary>
    public IReadOnlyList<RecalledMessage> Explain(string place) =>
        [.. Place(place).Host.Explain().Select(RecalledMessage.Of)];

    /// <summary>What the open slip's snippet comes to with some answers, and what is wrong with them.</summary>
    /// <param name="question">Its number, here and below: what comes late is no answer to the next one.</param>
    public PreviewAnswer PreviewSlip(string place, int question, Dictionary<string, string> answers)
    {
        var host = Place(place).Host;
        if (
            host.Question?.Number != question
            || host is not { Question: HostQuestion.FillIn fill, QuestionContext: { } context }
        )
            throw new HubException("No slip is open.");
        return PreviewEndpoints.Preview(
            fill.Snippet.Snippet.Body,
            context.Writing(fill.Snippet.Snippet.Links) with
            {
                Answers = answers,
                MarksEmpty = true,
            },
            []
        );
    }

    /// <summary>Puts the open slip's snippet in with some answers.</summary>
    public HostMessage FillSlip(string name, int question, Dictionary<string, string> answers)
    {
        var place = Place(name);
        if (place.Host.Question?.Number == question)
            hosts.Filled(place.Host.Question, answers);
        return Answer(place, place.Host.Fill(question, answers));
    }

    /// <summary>What waits to be opened may be opened, from now on without asking.</summary>
    public HostMessage ConfirmOpen(string place, int question)
    {
        var host = Place(place).Host;
        if (host.Question is HostQuestion.MayOpen asked && asked.Number == question)
            hosts.Confirm(asked);
        return Answer(Place(place), host.Confirm(question));
    }

    /// <summary>Closes the open slip or question; what was typed stays.</summary>
    public HostMessage LeaveSlip(string place, int question) => Answer(Place(place), Place(place).Host.Leave(question));

    /// <summary>A kind of field; an unknown word is not repeated, since nobody knows what it is.</summary>
    private static FieldKind Kind(string word) =>
        Enum.GetValues<FieldKind>()
            .Where(kind => Wording.Of(kind) == word)
            .Select(kind => (FieldKind?)kind)
            .FirstOrDefault()
        ?? throw new HubException(
            "This kind of field is not known. Use one of: "
                + $"{string.Join(", ", Enum.GetValues<FieldKind>().Select(Wording.Of))}."
        );

    private static IEnumerable<Keystroke> Typed(KeyMessage message, IReadOnlyList<Key> keys) =>
        keys.Select(key => new Keystroke(key, message.CapsLock, message.AtMs));

    /// <summary>Whether the next key can be decided before this answer is carried out.</summary>
    private static bool GoesOn(HostAnswer answer, Key key) =>
        key.Kind == KeyKind.Typed
        && answer.Question is null
        && answer.Ended.Count == 0
        && answer.Steps is [] or [DeliveryStep.Press { Key.Kind: KeyKind.Typed }];

    private HostMessage Answer(HostedPlace place, HostAnswer answer, IReadOnlyList<Key>? inTheField = null)
    {
        if (place.Host.Field != FieldKind.Secret)
            place.Recorder?.Decided(inTheField ?? [], answer.Steps);
        foreach (var ended in answer.Ended)
            hosts.Count(ended);
        return new HostMessage(
            [.. answer.Steps.Select(StepMessage.Of)],
            Wording.Of(answer.Next),
            answer.AskAt,
            answer.Question?.Number,
            hosts.Slip(answer.Question),
            (answer.Question as HostQuestion.MayOpen)?.Targets,
            answer.Hint is null ? null : Hint(answer.Hint),
            answer.Offers.Chosen is null ? null : OfferMessage.For(answer.Offers, hosts.Services.TakeKey().Value),
            answer.Missed is { } missed ? new MissedMessage(missed.Trigger.Text, missed.Placed.Snippet.Name) : null,
            [.. answer.Ended.Select(FiredMessage.Of)],
            answer.Problem,
            answer.Trace is null ? null : TraceMessage.Of(answer.Trace),
            NewChords(place)
        );
    }

    /// <summary>The chords to hold back, when they may have changed since they were told last.</summary>
    private IReadOnlyList<string>? NewChords(HostedPlace place)
    {
        var index = libraryService.Snapshot.Index;
        var rests = engineSwitch.RestsIn(place.Host.App);
        var now = (index, place.Host.App, rests, place.Host.CanTakeBack, Math.Min(2, place.Host.Offers.All.Count));
        if (place.Chords == now)
            return null;
        place.Chords = now;
        return place.Host.Chords();
    }

    private static HintMessage Hint(ActiveTrigger hint)
    {
        var snippet = hint.Placed.Snippet;
        var text = Graphemes.Shortened(snippet.Preview().ReplaceLineEndings(" ⏎ "), HintLength);
        return new HintMessage(hint.Trigger.Text, snippet.Name, text);
    }

    private HostedPlace Place(string name)
    {
        if (Context.Items.TryGetValue(name, out var known))
            return (HostedPlace)known!;
        if (Context.Items.Count >= MostPlaces)
            throw new HubException("One connection types in too many places.");
        var made = new HostedPlace(new TypingHost(hosts.Services));
        Context.Items[name] = made;
        return made;
    }

    /// <summary>A place where a page types.</summary>
    private sealed class HostedPlace(TypingHost host)
    {
        public TypingHost Host { get; } = host;

        /// <summary>Records what is typed; null when nobody asked for it.</summary>
        public KeyRecorder? Recorder { get; set; }

        /// <summary>What the chords depended on that were told last.</summary>
        public (TriggerIndex Index, string App, bool Rests, bool CanTakeBack, int Offers)? Chords { get; set; }
    }
}
