namespace DashSprout.Keyboard.X11;

/// <summary>What has become of something that was to be shown.</summary>
internal abstract record Showing
{
    private Showing() { }

    /// <summary>It is there and takes the keys.</summary>
    public sealed record HasFocus : Showing;

    /// <summary>Its page is still loading, or it opens in the user's browser.</summary>
    public sealed record Comes : Showing;

    /// <summary>It did not come; the user is told why where there is a reason.</summary>
    public sealed record NotSeen(string? Problem) : Showing;
}
