namespace DashSprout.Server.Packs;

/// <summary>The folder of more packs; null for none.</summary>
public sealed record PackFolder(string? Folder = null);
