using DashSprout.Core.Text;

namespace DashSprout.Core.Engine;

/// <summary>One key press as a keyboard reports it.</summary>
/// <param name="Key">Which key.</param>
/// <param name="CapsLock">Whether Caps Lock is on.</param>
/// <param name="AtMs">When, in milliseconds from any fixed moment; never goes back.</param>
public readonly record struct Keystroke(Key Key, bool CapsLock = false, long AtMs = 0);
