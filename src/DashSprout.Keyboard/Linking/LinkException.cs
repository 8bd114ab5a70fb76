namespace DashSprout.Keyboard.Linking;

/// <summary>Thrown when the link to the display cannot be made or is over; the message is for the user.</summary>
public sealed class LinkException(string message) : Exception(message);
