using DashSprout.Core.Engine;
using DashSprout.Core.Triggers;

namespace DashSprout.Server.Typing;

/// <summary>How the engine treats everybody who types.</summary>
/// <param name="TakeBack">Whether the chord takes a firing back.</param>
/// <param name="TakeBackChord">The chord.</param>
/// <param name="Hints">Whether an abbreviation that waits for its closing key shows what it would become.</param>
public sealed record TypingSettings(bool TakeBack, string TakeBackChord, bool Hints);

/// <summary>Whether the engine is listening or resting, and its settings, for everybody who types; kept across restarts.</summary>
internal sealed class EngineSwitch(Store.Settings settings)
{
    private const string RestingName = "engine.resting";
    private volatile bool resting;
    private volatile TypingSettings typing = new(true, TypingEngine.DefaultTakeBackChord, true);

    public bool Resting => resting;

    public TypingSettings Typing => typing;

    public void Open()
    {
        resting = settings.Get(RestingName) == "true";
        typing = new TypingSettings(
            settings.Get("engine.take-back") != "false",
            settings.Get("engine.take-back-chord") ?? TypingEngine.DefaultTakeBackChord,
            settings.Get("engine.hints") != "false");
    }

    public void Set(bool rest)
    {
        settings.Set(RestingName, rest ? "true" : "false");
        resting = rest;
    }

    public void Set(TypingSettings given)
    {
        var chord = Core.InvalidInputException.Within("takeBackChord", () => new Trigger.Hotkey(given.TakeBackChord, Scope.Everywhere)).Chord;
        given = given with { TakeBackChord = chord.Value };
        settings.Set("engine.take-back", given.TakeBack ? "true" : "false");
        settings.Set("engine.take-back-chord", given.TakeBackChord);
        settings.Set("engine.hints", given.Hints ? "true" : "false");
        typing = given;
    }
}
