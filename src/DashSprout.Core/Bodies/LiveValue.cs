namespace DashSprout.Core.Bodies;

/// <summary>A value read from outside.</summary>
public abstract record LiveValue
{
    private LiveValue() { }

    /// <summary>The value as it is now.</summary>
    public sealed record Now(string Text) : LiveValue;

    /// <summary>The last value that could be had, and how long ago, in words.</summary>
    public sealed record Before(string Text, string Age) : LiveValue;

    /// <summary>Why there is none, in words for the user.</summary>
    public sealed record Missing(string Why) : LiveValue;
}
