using DashSprout.Core.Triggers;

namespace DashSprout.Core.Libraries;

/// <summary>Closing keys to give to triggers.</summary>
/// <param name="Keys">Null for those of the library.</param>
public sealed record KeysToGive(ClosingKeys? Keys);

/// <summary>What is to change of many snippets at once; what is null stays as it is in each of them.</summary>
public sealed record BulkEdit(
    Timing? Timing = null,
    LeftEdge? LeftEdge = null,
    LetterCase? Case = null,
    bool? KeepClosingKey = null,
    KeysToGive? ClosingKeys = null,
    Scope? Scope = null,
    DeliveryWay? Delivery = null
)
{
    /// <summary>Tags to add.</summary>
    public EquatableList<string> MoreTags { get; init; } = EquatableList<string>.Empty;

    /// <summary>Tags to take away.</summary>
    public EquatableList<string> FewerTags { get; init; } = EquatableList<string>.Empty;

    /// <summary>A snippet with the changes made in it.</summary>
    public Snippet Of(Snippet snippet) =>
        snippet with
        {
            Delivery = Delivery ?? snippet.Delivery,
            Triggers = new(snippet.Triggers.Select(Of)),
            Tags = SnippetTags.Changed(snippet.Tags, MoreTags, FewerTags),
        };

    private Trigger Of(Trigger trigger) =>
        trigger switch
        {
            Trigger.Abbreviation abbreviation => Trigger.Abbreviation.Stored(
                trigger.Text,
                Of(abbreviation.Rules),
                Scope ?? trigger.Scope
            ),
            // Made anew only where something changes: its expression is worked out each time.
            Trigger.Pattern pattern
                when Of(pattern.Rules) is var rules
                    && (rules != pattern.Rules || (Scope ?? trigger.Scope) != trigger.Scope) => new Trigger.Pattern(
                trigger.Text,
                rules,
                Scope ?? trigger.Scope
            ),
            Trigger.Hotkey when Scope is not null => new Trigger.Hotkey(trigger.Text, Scope),
            _ => trigger,
        };

    private TypingRules Of(TypingRules rules)
    {
        var timing = Timing ?? rules.Timing;
        // What stays behind follows the timing where it was as is usual for that.
        var wasUsual = rules.KeepClosingKey == (rules.Timing != Triggers.Timing.DoubleClosingKey);
        return rules with
        {
            Timing = timing,
            LeftEdge = LeftEdge ?? rules.LeftEdge,
            Case = Case ?? rules.Case,
            KeepClosingKey = KeepClosingKey
                ?? (wasUsual ? timing != Triggers.Timing.DoubleClosingKey : rules.KeepClosingKey),
            ClosingKeys = ClosingKeys is null ? rules.ClosingKeys : ClosingKeys.Keys,
        };
    }
}
