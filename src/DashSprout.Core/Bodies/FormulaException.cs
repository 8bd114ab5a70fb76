namespace DashSprout.Core.Bodies;

/// <summary>
/// Thrown when a formula cannot be worked out with the answers as they are; the message is for the user.
/// </summary>
public sealed class FormulaException(string message) : Exception(message);
