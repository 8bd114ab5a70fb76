using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Server.Libraries;
using Microsoft.AspNetCore.SignalR;

namespace DashSprout.Server.Typing;

/// <summary>
/// Where pages send their keys. Each connection has an engine for each place it types in; keys of one connection are
/// decided one after the other.
/// </summary>
internal sealed class TypingHub(Catalog catalog, EngineSwitch engineSwitch) : Hub
{
    private const int MostPlaces = 16;

    private static readonly DecisionMessage Resting = new(
        "pass-on", [], 0, false, null, new TraceMessage("resting", [new ReasonMessage("the engine is resting", null, null)]), null);

    public void Focus(FocusMessage message)
    {
        var place = Place(message.Place);
        place.Field = Words.Parse<FieldKind>("field", message.Field);
        place.Engine.Focus(message.App);
    }

    public void Click(string place) => Place(place).Engine.Click();

    public DecisionMessage Press(KeyMessage message)
    {
        var place = Place(message.Place);
        if (engineSwitch.Resting)
        {
            place.Engine.Click();
            return Resting;
        }
        return Answer(place, place.Engine.Press(new Keystroke(Key.Parse("key", message.Key), message.CapsLock, message.AtMs)));
    }

    public DecisionMessage Tick(string place, long nowMs)
    {
        var at = Place(place);
        return Answer(at, at.Engine.Tick(nowMs));
    }

    private static DecisionMessage Answer(TypingPlace place, Decision decision)
    {
        switch (decision)
        {
            case Decision.Fires fires:
                var trace = TraceMessage.Of(place.Engine.LastTrace);
                var delivery = Composer.Compose(fires.Firing, place.Field);
                place.Engine.PutIn(delivery.Inserted, delivery.TextOnly);
                var placed = fires.Firing.Trigger.Placed;
                return new DecisionMessage("deliver", [.. delivery.Steps.Select(StepMessage.Of)], fires.KeyGraphemes, fires.PressAgain, null, trace,
                    new FiredMessage(placed.Id, placed.Library, placed.Snippet.Name, fires.Firing.Trigger.Trigger.Text));
            case Decision.TakesBack back:
                return new DecisionMessage("take-back", [new StepMessage("delete", back.Delete), new StepMessage("put-in", 0, back.Typed)],
                    0, false, null, TraceMessage.Of(place.Engine.LastTrace), null);
            default:
                return new DecisionMessage(decision is Decision.Waits ? "waits" : "pass-on", [], 0, false, Hint(place), TraceMessage.Of(place.Engine.LastTrace), null);
        }
    }

    private static HintMessage? Hint(TypingPlace place)
    {
        if (place.Field == FieldKind.Secret || place.Engine.Hint is not { } hint) return null;
        var snippet = hint.Placed.Snippet;
        var text = BodyText.Render(snippet.Body).ReplaceLineEndings(" ⏎ ");
        return new HintMessage(hint.Trigger.Text, snippet.Name, text.Length > 60 ? text[..60] + "…" : text);
    }

    private TypingPlace Place(string name)
    {
        if (Context.Items.TryGetValue(name, out var known)) return (TypingPlace)known!;
        if (Context.Items.Count >= MostPlaces) throw new HubException("One connection types in too many places.");
        var place = new TypingPlace(new TypingEngine(() => catalog.Shelf.Index) { Tracing = true });
        Context.Items[name] = place;
        return place;
    }

    private sealed class TypingPlace(TypingEngine engine)
    {
        public TypingEngine Engine { get; } = engine;

        public FieldKind Field { get; set; } = FieldKind.Plain;
    }
}
