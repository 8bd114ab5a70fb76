namespace DashSprout.Keyboard.Linking;

/// <summary>Where steps are carried out.</summary>
/// <param name="Window">The window that must keep the focus; 0 when any may have it.</param>
/// <param name="IsSecret">Whether the field hides what is typed: nothing goes through the clipboard.</param>
/// <param name="IsTerminal">Whether it pastes from PRIMARY.</param>
internal sealed record DeliveryPlace(nint Window, AppDelivery Delivery, bool IsSecret, bool IsTerminal)
{
    /// <summary>How the application takes it.</summary>
    public Manners Manners { get; init; } = Manners.Usual;
}

/// <summary>
/// Thrown when a delivery ends before its end, with the reason for the user; null when it needs none.
/// </summary>
internal sealed class DeliveryStopped(string? reason) : Exception(reason)
{
    public string? Reason { get; } = reason;
}
