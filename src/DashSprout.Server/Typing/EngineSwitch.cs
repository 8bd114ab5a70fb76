namespace DashSprout.Server.Typing;

/// <summary>Whether the engine is listening or resting, for everybody who types; kept across restarts.</summary>
internal sealed class EngineSwitch(Store.Settings settings)
{
    private const string Name = "engine.resting";
    private volatile bool resting;

    public bool Resting => resting;

    public void Open() => resting = settings.Get(Name) == "true";

    public void Set(bool rest)
    {
        settings.Set(Name, rest ? "true" : "false");
        resting = rest;
    }
}
