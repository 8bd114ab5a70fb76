namespace DashSprout.Core.Hosting;

/// <summary>What went wrong, in words for whoever types.</summary>
public static class FaultWords
{
    /// <summary>The words of a fault that has some for people, or what the program knows of its own fault.</summary>
    public static string Of(Exception fault) =>
        fault is InvalidInputException ? fault.Message : $"Something in the program went wrong: {fault.Message}";
}
