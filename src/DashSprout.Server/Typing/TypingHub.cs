using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Slips;
using DashSprout.Server.Bodies;
using DashSprout.Server.Libraries;
using DashSprout.Server.Settings;
using DashSprout.Store;
using Microsoft.AspNetCore.SignalR;

namespace DashSprout.Server.Typing;

/// <summary>
/// Where pages send their keys. Each connection has an engine for each place it types in; keys of one connection are
/// decided one after the other.
/// </summary>
internal sealed class TypingHub(Catalog catalog, EngineSwitch engineSwitch, Surroundings surroundings, FiringLog log, SafetyStore store) : Hub
{
    private const int MostPlaces = 16;
    private const int HintLength = 60;

    private static readonly DecisionMessage Resting = DecisionMessage.Nothing(
        "pass-on", new TraceMessage("resting", [new ReasonMessage("the engine is resting", null, null)]));

    public void Focus(FocusMessage message)
    {
        var place = Place(message.Place);
        place.Leave();
        place.Field = Words.Parse<FieldKind>("field", message.Field);
        place.App = message.App;
        place.Engine.Focus(message.App);
    }

    public void Click(string place)
    {
        var at = Place(place);
        at.Leave();
        at.Engine.Click();
    }

    /// <summary>Tells what is on the page's clipboard.</summary>
    public void Clipboard(string place, string text) => Place(place).Clipboard = text;

    public DecisionMessage Press(KeyMessage message)
    {
        var place = Place(message.Place);
        place.Leave();
        if (engineSwitch.RestsIn(place.App))
        {
            place.Engine.Click();
            return Resting;
        }
        place.Selection = message.Selection ?? "";
        place.Engine.TakeBackChord = engineSwitch.Typing.TakeBack ? engineSwitch.Typing.TakeBackChord : null;
        return Answer(place, place.Engine.Press(new Keystroke(Key.Parse("key", message.Key), message.CapsLock, message.AtMs)));
    }

    public DecisionMessage Tick(string place, long nowMs)
    {
        var at = Place(place);
        return Answer(at, at.Engine.Tick(nowMs));
    }

    /// <summary>What the open slip's snippet comes to with some answers, and what is wrong with them.</summary>
    public PreviewAnswer PreviewSlip(string place, Dictionary<string, string> answers)
    {
        var at = Place(place);
        var open = at.Open ?? throw new HubException("No slip is open.");
        return PreviewEndpoints.Preview(open.Firing.Trigger.Placed.Snippet.Body, Surrounding(at) with { Answers = answers, Groups = open.Firing.Groups }, []);
    }

    /// <summary>Puts the open slip's snippet in with some answers.</summary>
    public DecisionMessage FillSlip(string place, Dictionary<string, string> answers)
    {
        var at = Place(place);
        var open = at.Open ?? throw new HubException("No slip is open.");
        return Deliver(at, open, answers);
    }

    /// <summary>A snippet was chosen in the finder.</summary>
    public DecisionMessage Choose(string place, long snippetId, string selection)
    {
        var at = Place(place);
        at.Leave();
        at.Selection = selection;
        return Answer(at, at.Engine.Choose(catalog.Shelf.Placed(catalog.Shelf.Snippet(snippetId))));
    }

    /// <summary>What the open firing would open may be opened, from now on without asking.</summary>
    public DecisionMessage ConfirmOpen(string place)
    {
        var at = Place(place);
        if (at is not { Open: { } open, Asked: { } composed }) throw new HubException("Nothing waits to be opened.");
        foreach (var target in Targets(composed)) store.ConfirmOpen(open.Firing.Trigger.Placed.Id, target);
        return Finish(at, open, composed);
    }

    /// <summary>Closes the open slip or question; what was typed stays.</summary>
    public void LeaveSlip(string place) => Place(place).Leave();

    private DecisionMessage Answer(TypingPlace place, Decision decision)
    {
        switch (decision)
        {
            case Decision.Fires fires:
                place.Open = fires;
                var body = fires.Firing.Trigger.Placed.Snippet.Body;
                var fields = body is Body.Html ? SlipForm.Fields(body.Tree, catalog.Shelf.FindBody) : [];
                return fields.Count > 0 ? Ask(place, fires, fields) : Deliver(place, fires, new Dictionary<string, string>());
            case Decision.TakesBack back:
                if (back.Firing.Trigger.Trigger is not Core.Triggers.Trigger.Chosen) log.TakenBack(back.Firing.Trigger);
                return DecisionMessage.Nothing("take-back", TraceMessage.Of(place.Engine.LastTrace)) with
                {
                    Steps = [new StepMessage("delete", back.Delete), new StepMessage("put-in", 0, back.Typed)],
                };
            default:
                return DecisionMessage.Nothing(decision is Decision.Waits ? "waits" : "pass-on", TraceMessage.Of(place.Engine.LastTrace)) with { Hint = Hint(place) };
        }
    }

    private static DecisionMessage Ask(TypingPlace place, Decision.Fires fires, IReadOnlyList<SlipField> fields)
    {
        var snippet = fires.Firing.Trigger.Placed;
        return DecisionMessage.Nothing("slip", TraceMessage.Of(place.Engine.LastTrace)) with
        {
            PressAgain = fires.PressAgain,
            Slip = new SlipMessage(snippet.Id, snippet.Snippet.Name, [.. fields.Select(FieldAnswer.Of)]),
        };
    }

    private DecisionMessage Deliver(TypingPlace place, Decision.Fires fires, IReadOnlyDictionary<string, string> answers)
    {
        var trace = TraceMessage.Of(place.Engine.LastTrace);
        var placed = fires.Firing.Trigger.Placed;
        try
        {
            var delivery = Composer.Compose(fires.Firing, place.Field, Surrounding(place) with { Answers = answers });
            var unasked = Targets(delivery).Where(target => !store.MayOpen(placed.Id, target)).ToList();
            if (unasked.Count == 0) return Finish(place, fires, delivery);
            place.Asked = delivery;
            return DecisionMessage.Nothing("confirm-open", trace) with { PressAgain = fires.PressAgain, Opens = unasked };
        }
        catch (RenderingException exception)
        {
            place.Leave();
            var reasons = (trace?.Reasons ?? []).Append(new ReasonMessage(exception.Message, placed.Id, null));
            return DecisionMessage.Nothing("pass-on", new TraceMessage("near-miss", [.. reasons])) with { PressAgain = fires.PressAgain };
        }
    }

    private static IEnumerable<string> Targets(ComposedDelivery delivery) => delivery.Steps.OfType<DeliveryStep.Open>().Select(open => open.Target);

    private DecisionMessage Finish(TypingPlace place, Decision.Fires fires, ComposedDelivery delivery)
    {
        var placed = fires.Firing.Trigger.Placed;
        var trace = TraceMessage.Of(place.Engine.LastTrace);
        place.Engine.PutIn(delivery.BeforeCaret, delivery.TakeBackLength);
        place.Open = null;
        place.Asked = null;
        log.Fired(fires.Firing.Trigger);
        return new DecisionMessage("deliver", [.. delivery.Steps.Select(StepMessage.Of)], fires.KeyGraphemes, fires.PressAgain, null, trace,
            new FiredMessage(placed.Id, placed.Library, placed.Snippet.Name, fires.Firing.Trigger.Trigger.Text), null);
    }

    private RenderContext Surrounding(TypingPlace place) => surroundings.Now(place.Clipboard, place.Selection);

    private HintMessage? Hint(TypingPlace place)
    {
        if (!engineSwitch.Typing.Hints || place.Field == FieldKind.Secret || place.Engine.Hint is not { } hint) return null;
        var snippet = hint.Placed.Snippet;
        var text = Sketch.Of(snippet.Body).ReplaceLineEndings(" ⏎ ");
        return new HintMessage(hint.Trigger.Text, snippet.Name, text.Length > HintLength ? text[..HintLength] + "…" : text);
    }

    private TypingPlace Place(string name)
    {
        if (Context.Items.TryGetValue(name, out var known)) return (TypingPlace)known!;
        if (Context.Items.Count >= MostPlaces) throw new HubException("One connection types in too many places.");
        var made = new TypingPlace(new TypingEngine(() => catalog.Shelf.Index) { Tracing = true });
        Context.Items[name] = made;
        return made;
    }

    private sealed class TypingPlace(TypingEngine engine)
    {
        public TypingEngine Engine { get; } = engine;

        public FieldKind Field { get; set; } = FieldKind.Plain;

        public string Clipboard { get; set; } = "";

        public string Selection { get; set; } = "";

        public string App { get; set; } = "";

        /// <summary>The firing whose slip is open, or that waits until what it opens is confirmed.</summary>
        public Decision.Fires? Open { get; set; }

        /// <summary>What the open firing comes to once it is confirmed.</summary>
        public ComposedDelivery? Asked { get; set; }

        public void Leave()
        {
            if (Open is null) return;
            Open = null;
            Asked = null;
            Engine.LeaveAsTyped();
        }
    }
}
