namespace DashSprout.Core.Engine;

/// <summary>What is to be done with a key press.</summary>
public abstract record Decision
{
    private Decision() { }

    /// <summary>The key goes to the application as it is.</summary>
    public static Decision PassOn { get; } = new PassesOn();

    /// <summary>The key was used: it keeps a word quiet, and the application does not get it.</summary>
    public static Decision KeepQuiet { get; } = new KeepsQuiet();

    /// <summary>The key goes to the application as it is.</summary>
    public sealed record PassesOn : Decision;

    /// <summary>The key was used up.</summary>
    public sealed record KeepsQuiet : Decision;

    /// <summary>
    /// A trigger goes off. The host renders the body and answers with <see cref="TypingEngine.PutIn"/> or
    /// <see cref="TypingEngine.LeaveAsTyped"/> before the next key.
    /// </summary>
    /// <param name="KeyGraphemes">How many of the typed graphemes the key being decided has just added, 1 or 0: a host
    /// that held the key back has that many fewer to remove.
    /// </param>
    /// <param name="PressAgain">True when a trigger that gave way goes off before the key: the key has not been looked
    /// at and must be pressed again after the delivery. False when the key belongs to what is removed.
    /// </param>
    public sealed record Fires(Firing Firing, int KeyGraphemes, bool PressAgain) : Decision;

    /// <summary>The last firing is taken back: its text is removed and what was typed put in again.</summary>
    /// <param name="Delete">Caret steps of the text that was put in.</param>
    public sealed record TakesBack(Firing Firing, int Delete) : Decision;
}
