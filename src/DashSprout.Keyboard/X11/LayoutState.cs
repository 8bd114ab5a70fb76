namespace DashSprout.Keyboard.X11;

/// <summary>The keyboard's modifiers and group at one moment, as the keyboard extension of X tells them.</summary>
internal readonly record struct LayoutState(
    uint Base,
    uint Latched,
    uint Locked,
    uint BaseGroup,
    uint LatchedGroup,
    uint LockedGroup
)
{
    /// <summary>All modifiers in force.</summary>
    public uint Modifiers => Base | Latched | Locked;

    /// <summary>The group in force among some.</summary>
    public uint Group(int groups) => (BaseGroup + LatchedGroup + LockedGroup) % (uint)Math.Max(1, groups);

    /// <summary>Whether letters come in capitals.</summary>
    public bool CapsLock => (Locked & Symbols.Lock) != 0;
}
