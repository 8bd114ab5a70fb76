using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Slips;

namespace DashSprout.Core.Hosting;

/// <summary>Something a delivery waits for; nothing has gone in yet.</summary>
public abstract record HostQuestion
{
    private HostQuestion() { }

    /// <summary>
    /// Counts the questions of a host from 1: an answer that comes late is no answer to the next one.
    /// </summary>
    public int Number { get; init; }

    /// <summary>
    /// The snippet has fields: answered by <see cref="TypingHost.Fill"/> or <see cref="TypingHost.Leave"/>.
    /// </summary>
    public sealed record FillIn(PlacedSnippet Snippet, Slip Slip) : HostQuestion;

    /// <summary>
    /// The snippet opens something for the first time: answered by <see cref="TypingHost.Confirm"/> or
    /// <see cref="TypingHost.Leave"/>.
    /// </summary>
    public sealed record MayOpen(PlacedSnippet Snippet, IReadOnlyList<OpenTarget> Openings) : HostQuestion
    {
        /// <summary>What would be opened.</summary>
        public IReadOnlyList<string> Targets => [.. Openings.Select(opening => opening.Target)];
    }
}

/// <summary>What became of a firing.</summary>
public enum Outcome
{
    /// <summary>The text went in.</summary>
    Inserted,

    /// <summary>A fill slip was left, or the text could not be worked out; nothing went in.</summary>
    Cancelled,

    /// <summary>Something was opened; no text of the snippet went in.</summary>
    Opened,

    /// <summary>It was taken back.</summary>
    TakenBack,
}

/// <summary>A firing that has come to its end.</summary>
/// <param name="Deleted">Graphemes that were removed, those included that were held back.</param>
/// <param name="Inserted">The plain text that went in.</param>
public sealed record Ended(Firing Firing, Outcome Outcome, int Deleted, string Inserted)
{
    /// <summary>The parts that have taken a turn by it, by name, for whoever counts them.</summary>
    public IReadOnlyList<string> Rotations { get; init; } = [];

    /// <summary>The application in which it went off.</summary>
    public string App { get; init; } = "";

    /// <summary>The answers that somebody gave in the slip.</summary>
    public IReadOnlyCollection<string> Answers { get; init; } = [];

    /// <summary>What was taken back; null for all other outcomes.</summary>
    public Ended? Undone { get; init; }
}

/// <summary>What a keyboard does after something happened at it.</summary>
/// <param name="Steps">To be carried out now, in order. A key that was held back and goes to the application is one of
/// them; if none presses it, the host has used it.
/// </param>
/// <param name="Next">What the keyboard holds back from now on; while it carries steps out, it holds everything
/// back.</param>
/// <param name="AskAt">When it calls <see cref="TypingHost.Pause"/>, unless something happens before; null for
/// never.</param>
/// <param name="Question">What is asked of the user; null for nothing.</param>
/// <param name="Hint">The abbreviation that only waits for its closing key, if it is to be shown.</param>
/// <param name="Offers">How the text may go on, and which of them the key would take that takes one.</param>
/// <param name="Missed">What would have put in what was just typed in full; null for nothing.</param>
/// <param name="Ended">Firings that have come to their end.</param>
/// <param name="Problem">Why a snippet that went off was not put in, in words for the user; null when none was.</param>
/// <param name="Trace">What was done and why; null while nobody looks.</param>
public readonly record struct HostAnswer(
    IReadOnlyList<DeliveryStep> Steps,
    Hold Next,
    long? AskAt,
    HostQuestion? Question,
    ActiveTrigger? Hint,
    OfferList Offers,
    ActiveTrigger? Missed,
    IReadOnlyList<Ended> Ended,
    string? Problem,
    TraceEntry? Trace
);
