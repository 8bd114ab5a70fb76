namespace DashSprout.Keyboard.X11;

/// <summary>A key with the modifiers that make it type something.</summary>
internal readonly record struct Stroke(byte Keycode, uint Modifiers);
