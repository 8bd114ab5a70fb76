namespace DashSprout.Core.Learning;

/// <summary>Text that somebody has typed in one go.</summary>
public sealed record TypedText(string App, string Text);
