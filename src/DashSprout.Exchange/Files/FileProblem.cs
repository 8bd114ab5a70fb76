using DashSprout.Core;

namespace DashSprout.Exchange.Files;

/// <summary>The one door for files from outside: whatever happens inside a reader is said here in words.</summary>
public static class FileProblem
{
    /// <summary>What is wrong with a file, and how to mend it.</summary>
    public static string Of(string name, Exception exception) =>
        exception is InvalidInputException or IOException or UnauthorizedAccessException
            ? exception.Message
            : $"“{name}” cannot be made sense of ({exception.GetType().Name}). Save it anew where it was made, or take "
                + "it away.";
}
