namespace DashSprout.Keyboard.Linking;

/// <summary>What has reached the application while its keys were about to be held.</summary>
/// <param name="Characters">How many characters were typed.</param>
/// <param name="HasMoved">Whether something else was done that cannot be undone: the caret is elsewhere.</param>
internal readonly record struct Slipped(int Characters, bool HasMoved);

/// <summary>What a link can do to the keys of whoever types.</summary>
internal interface IKeyHold
{
    /// <summary>Whether keys are held now.</summary>
    bool IsOn { get; }

    /// <summary>
    /// Holds all keys while something is done, then handles those that came meanwhile until none are left.
    /// </summary>
    /// <param name="act">Told what has slipped; says whether it was taken out, so that it is typed again behind.</param>
    void WhileHeld(Func<Slipped, bool> act);

    /// <summary>The next keys that are typed are the link's own: modifiers that somebody holds are up.</summary>
    void Blank();
}
