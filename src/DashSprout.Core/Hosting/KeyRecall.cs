using DashSprout.Core.Engine;

namespace DashSprout.Core.Hosting;

/// <summary>A key that was typed, where, and what was done with it and why.</summary>
public sealed record RecalledKey(string App, Keystroke Keystroke, TraceEntry Trace);

/// <summary>
/// The last things that happened at a keyboard, so that they can be explained when somebody asks: an engine of its own
/// is told them again and says why. Nothing is made while nobody asks, and nothing is kept of secret fields.
/// </summary>
internal sealed class KeyRecall
{
    private const int Most = 64;

    private readonly Past[] past = new Past[Most];
    private int count;
    private string firstApp = "";
    private bool secret;

    private enum What
    {
        Focus,
        Forget,
        Press,
        Pause,
        PutIn,
        LeaveAsTyped,
    }

    private readonly record struct Past(
        What What,
        Keystroke Keystroke = default,
        string? Text = null,
        bool Flag = false,
        int? Steps = null
    );

    public void Focus(string app, bool isSecret)
    {
        secret = isSecret;
        Keep(new Past(What.Focus, Text: app));
    }

    /// <summary>The field is of another kind than it was taken for.</summary>
    public void FieldTold(bool isSecret) => secret = isSecret;

    public void Forget() => Keep(new Past(What.Forget));

    public void Press(in Keystroke keystroke, string? takeBackChord, bool hintsShown)
    {
        if (!secret)
            Keep(new Past(What.Press, keystroke, takeBackChord, hintsShown));
    }

    public void Pause(long nowMs)
    {
        if (!secret)
            Keep(new Past(What.Pause, new Keystroke(default, AtMs: nowMs)));
    }

    public void PutIn(string? neighbour, bool keysBehind, int? takeBackSteps)
    {
        if (!secret)
            Keep(new Past(What.PutIn, Text: neighbour, Flag: keysBehind, Steps: takeBackSteps));
    }

    public void LeaveAsTyped()
    {
        if (!secret)
            Keep(new Past(What.LeaveAsTyped));
    }

    /// <summary>What was done with the keys that are remembered, by the triggers as they are now.</summary>
    public IReadOnlyList<RecalledKey> Explain(Func<TriggerIndex> index)
    {
        var engine = new TypingEngine(index) { Tracing = true };
        var explained = new List<RecalledKey>();
        var app = firstApp;
        var waits = false;
        engine.Focus(app);
        for (var at = Math.Max(0, count - Most); at < count; at++)
        {
            var one = past[at % Most];
            if (waits && one.What == What.PutIn)
                engine.PutIn(one.Text, one.Flag, one.Steps);
            else if (waits)
                engine.LeaveAsTyped();
            waits = false;
            switch (one.What)
            {
                case What.Focus:
                    engine.Focus(app = one.Text!);
                    break;
                case What.Forget:
                    engine.Click();
                    break;
                case What.Pause:
                    waits = engine.Tick(one.Keystroke.AtMs) is Decision.Fires;
                    break;
                case What.Press:
                    (engine.TakeBackChord, engine.HintsShown) = (one.Text, one.Flag);
                    waits = engine.Press(one.Keystroke) is Decision.Fires;
                    explained.Add(new RecalledKey(app, one.Keystroke, engine.LastTrace!));
                    break;
            }
        }
        return explained;
    }

    private void Keep(in Past one)
    {
        ref var slot = ref past[count % Most];
        if (count >= Most && slot.What == What.Focus)
            firstApp = slot.Text!;
        slot = one;
        count++;
    }
}
