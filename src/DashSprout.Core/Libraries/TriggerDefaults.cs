using DashSprout.Core.Triggers;

namespace DashSprout.Core.Libraries;

/// <summary>
/// What new snippets and their triggers begin with in a library or folder. What is null is not said here: what lies
/// around decides, and in the end the usual rules.
/// </summary>
/// <param name="Delivery">How a new snippet's text reaches the application.</param>
public sealed record TriggerDefaults(
    Timing? Timing = null,
    LeftEdge? LeftEdge = null,
    LetterCase? Case = null,
    bool? KeepClosingKey = null,
    ClosingKeys? ClosingKeys = null,
    Scope? Scope = null,
    DeliveryWay? Delivery = null
)
{
    /// <summary>Nothing is said.</summary>
    public static TriggerDefaults None { get; } = new();

    /// <summary>The same where it says something, and what lies around it where it does not.</summary>
    public TriggerDefaults Over(TriggerDefaults around) =>
        new(
            Timing ?? around.Timing,
            LeftEdge ?? around.LeftEdge,
            Case ?? around.Case,
            // What stays behind belongs to when it goes off.
            KeepClosingKey ?? (Timing is null ? around.KeepClosingKey : null),
            ClosingKeys ?? around.ClosingKeys,
            Scope ?? around.Scope,
            Delivery ?? around.Delivery
        );
}
