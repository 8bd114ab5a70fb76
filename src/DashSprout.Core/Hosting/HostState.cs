using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;

namespace DashSprout.Core.Hosting;

/// <summary>What a host is at, with what it holds while it is.</summary>
internal abstract record HostState
{
    private HostState() { }

    /// <summary>
    /// Nothing waits: each key is looked at. All events are answered; answers to questions come late and do nothing.
    /// </summary>
    /// <param name="Takeable">The firing that the next key may take back; null when there is none.</param>
    public sealed record Idle(Ended? Takeable) : HostState
    {
        /// <summary>Nothing waits, and nothing can be taken back.</summary>
        public static Idle Still { get; } = new Idle(Takeable: null);
    }

    /// <summary>
    /// A firing waits for an answer, and nothing of it has gone in: <see cref="TypingHost.Fill"/>,
    /// <see cref="TypingHost.Confirm"/> and <see cref="TypingHost.Leave"/> go on with it; time passes without a word;
    /// everything else leaves it.
    /// </summary>
    /// <param name="Composed">What is to go in once the question is answered with yes; null for a slip.</param>
    /// <param name="Behind">What was composed behind it. It stands in the field until the text goes in.</param>
    public sealed record Asking(
        OpenFiring Firing,
        HostQuestion Question,
        ComposedDelivery? Composed,
        IReadOnlyList<Keystroke> Behind
    ) : HostState;

    /// <summary>A firing is being worked out and put in; the state while one event is answered, never between two.</summary>
    public sealed record Delivering(OpenFiring Firing) : HostState;

    /// <summary>
    /// The engine rests here, and nothing is known of what was typed: every key goes on, and nobody hears of it. A
    /// snippet that is chosen by hand goes in.
    /// </summary>
    public sealed record Resting : HostState
    {
        /// <summary>It rests.</summary>
        public static Resting Here { get; } = new Resting();
    }
}

/// <summary>A firing that has not come to its end.</summary>
/// <param name="InField">How many of its typed graphemes are in the field.</param>
/// <param name="Key">The key that set it off; null after a pause or a choice.</param>
/// <param name="Held">Whether that key was held back.</param>
internal sealed record OpenFiring(Decision.Fires Fires, int InField, Keystroke? Key, bool Held)
{
    /// <summary>What is put in, with the rules of its place.</summary>
    public PlacedSnippet Placed => Fires.Firing.Trigger.Placed;

    /// <summary>The answers, once they are given.</summary>
    public IReadOnlyDictionary<string, string> Answers { get; init; } = new Dictionary<string, string>();

    /// <summary>
    /// The key that goes to the application when nothing goes in: held back, and part of what was typed.
    /// </summary>
    public Keystroke? KeptBack => Held && Fires is { PressAgain: false, Firing.Typed.Count: > 0 } ? Key : null;
}
