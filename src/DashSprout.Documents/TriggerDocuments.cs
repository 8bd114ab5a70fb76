using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Documents;

/// <summary>The applications in which a trigger works.</summary>
public sealed record ScopeDocument(string? Mode = null, IReadOnlyList<string>? Apps = null)
{
    internal static ScopeDocument Of(Scope scope) =>
        scope switch
        {
            Scope.OnlyIn only => new("only-in", only.Apps),
            Scope.NotIn not => new("not-in", not.Apps),
            _ => new("everywhere", []),
        };

    /// <summary>The scope; throws <see cref="InvalidInputException"/> for a mode that is not known.</summary>
    public Scope ToScope() =>
        Mode switch
        {
            null or "everywhere" => Scope.Everywhere,
            "only-in" => new Scope.OnlyIn(SomeApps()),
            "not-in" => new Scope.NotIn(SomeApps()),
            _ => throw new InvalidInputException(
                "mode",
                $"“{Mode}” is not known here. Use one of: everywhere, only-in, not-in."
            ),
        };

    private EquatableList<string> SomeApps() =>
        Apps is { Count: > 0 }
            ? new(Apps)
            : throw new InvalidInputException(
                "apps",
                "No application is named. Name at least one, or let the trigger work everywhere."
            );
}

/// <summary>A trigger as a library file and the API write it; <c>kind</c> and <c>text</c> are required.</summary>
public sealed record TriggerDocument(
    string? Kind = null,
    string? Text = null,
    string? Timing = null,
    string? LeftEdge = null,
    string? Case = null,
    bool? KeepClosingKey = null,
    IReadOnlyList<string>? ClosingKeys = null,
    bool? GivesWay = null,
    ScopeDocument? Scope = null
)
{
    /// <summary>The document of a trigger.</summary>
    public static TriggerDocument Of(Trigger trigger) =>
        trigger switch
        {
            Trigger.Abbreviation abbreviation => Typed("abbreviation", trigger, abbreviation.Rules),
            Trigger.Pattern pattern => Typed("pattern", trigger, pattern.Rules),
            _ => new("hotkey", trigger.Text, Scope: ScopeDocument.Of(trigger.Scope)),
        };

    /// <summary>The same without what is as usual and would be so when it is left out.</summary>
    public TriggerDocument Shortened()
    {
        var everywhere = Scope is { Mode: "everywhere" } ? null : Scope;
        if (Timing is null || Text is null)
            return this with { Scope = everywhere };
        var timing = Wording.Parse<Timing>("timing", Timing);
        var usual = TypingRules.For(Text, timing);
        return this with
        {
            Timing = timing == Core.Triggers.Timing.ClosingKey ? null : Timing,
            LeftEdge = LeftEdge == Wording.Of(usual.LeftEdge) ? null : LeftEdge,
            Case = Case == Wording.Of(usual.Case) ? null : Case,
            KeepClosingKey = KeepClosingKey == usual.KeepClosingKey ? null : KeepClosingKey,
            GivesWay = GivesWay == usual.GivesWay ? null : GivesWay,
            Scope = everywhere,
        };
    }

    /// <summary>
    /// The same with what a place says where the trigger does not say so itself; the default edge of a text is always
    /// its own.
    /// </summary>
    public TriggerDocument Under(TriggerDefaults defaults)
    {
        var scope = Scope ?? (defaults.Scope is { } some ? ScopeDocument.Of(some) : null);
        if (Kind == "hotkey")
            return this with { Scope = scope };
        var said = DefaultsDocument.Of(defaults);
        return this with
        {
            Timing = Timing ?? said.Timing,
            LeftEdge = LeftEdge ?? said.LeftEdge,
            Case = Case ?? said.Case,
            // What stays behind belongs to when it goes off.
            KeepClosingKey = KeepClosingKey ?? (Timing is null ? said.KeepClosingKey : null),
            ClosingKeys = ClosingKeys ?? said.ClosingKeys,
            Scope = scope,
        };
    }

    /// <summary>The trigger as a store kept it.</summary>
    public Trigger ToStored() =>
        Kind == "abbreviation" && Text is not null
            ? Trigger.Abbreviation.Stored(
                Text,
                ToRules(Text),
                Scope is null ? Core.Triggers.Scope.Everywhere : Scope.ToScope()
            )
            : ToTrigger();

    /// <summary>Checks the document.</summary>
    public Trigger ToTrigger()
    {
        var text = Text ?? throw new InvalidInputException("text", "The text of the trigger is missing.");
        var scope = Scope is null
            ? Core.Triggers.Scope.Everywhere
            : InvalidInputException.Within("scope", Scope.ToScope);
        return Kind switch
        {
            "abbreviation" => new Trigger.Abbreviation(text, ToRules(text), scope),
            "pattern" => new Trigger.Pattern(text, ToRules(text), scope),
            "hotkey" => new Trigger.Hotkey(text, scope),
            _ => throw new InvalidInputException(
                "kind",
                $"“{Kind}” is not known here. Use one of: abbreviation, pattern, hotkey."
            ),
        };
    }

    private static TriggerDocument Typed(string kind, Trigger trigger, TypingRules rules) =>
        new(
            kind,
            trigger.Text,
            Wording.Of(rules.Timing),
            Wording.Of(rules.LeftEdge),
            Wording.Of(rules.Case),
            rules.KeepClosingKey,
            rules.ClosingKeys is null ? null : [.. rules.ClosingKeys.Keys.Select(key => key.Value)],
            rules.GivesWay,
            ScopeDocument.Of(trigger.Scope)
        );

    private TypingRules ToRules(string text)
    {
        var timing = Timing is null ? Core.Triggers.Timing.ClosingKey : Wording.Parse<Timing>("timing", Timing);
        var usual = TypingRules.For(text.Normalize(), timing);
        if ((LeftEdge ?? Case) is null && KeepClosingKey is null && ClosingKeys is null && GivesWay is null)
            return usual;
        return new TypingRules(
            timing,
            LeftEdge is null ? usual.LeftEdge : Wording.Parse<LeftEdge>("leftEdge", LeftEdge),
            Case is null ? usual.Case : Wording.Parse<LetterCase>("case", Case),
            KeepClosingKey ?? usual.KeepClosingKey,
            KeyLists.Read("closingKeys", ClosingKeys),
            GivesWay ?? usual.GivesWay
        );
    }
}

internal static class KeyLists
{
    public static ClosingKeys? Read(string field, IReadOnlyList<string>? values) =>
        values is null ? null : ClosingKeys.Parse(field, values);

    public static IReadOnlyList<string>? Write(ClosingKeys keys, ClosingKeys standard) =>
        keys.Equals(standard) ? null : [.. keys.Keys.Select(key => key.Value)];

    /// <summary>
    /// Parses every item of a list; the errors of one name its place, and a missing item is an error.
    /// </summary>
    public static List<TResult> ParseEach<T, TResult>(
        this IReadOnlyList<T?> items,
        string field,
        Func<T, TResult> parse
    )
        where T : class =>
        [
            .. items.Select(
                (item, at) =>
                    InvalidInputException.Within($"{field}[{at}]", () =>
                        parse(item ?? throw new InvalidInputException("", "An entry is null here. Remove it."))
                    )
            ),
        ];
}
