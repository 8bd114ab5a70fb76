namespace DashSprout.Core.Triggers;

/// <summary>The applications in which a trigger works, by application id.</summary>
public abstract record Scope
{
    private Scope() { }

    /// <summary>Works in every application.</summary>
    public static Scope Everywhere { get; } = new EverywhereScope();

    /// <summary>Whether a trigger of this scope works in the application.</summary>
    public abstract bool Admits(string app);

    /// <summary>The scope that admits what one of the two admits.</summary>
    public static Scope Union(Scope one, Scope other) =>
        (one, other) switch
        {
            (EverywhereScope, _) or (_, EverywhereScope) => Everywhere,
            (OnlyIn a, OnlyIn b) => a.Apps.All(b.Admits) ? b
            : b.Apps.All(a.Admits) ? a
            : new OnlyIn(new(a.Apps.Union(b.Apps))),
            (NotIn a, NotIn b) => Without(a.Apps.Intersect(b.Apps)),
            (OnlyIn a, NotIn b) => Without(b.Apps.Except(a.Apps)),
            (NotIn a, OnlyIn b) => Without(a.Apps.Except(b.Apps)),
            _ => Everywhere,
        };

    private static Scope Without(IEnumerable<string> apps) =>
        new EquatableList<string>(apps) is { Count: > 0 } some ? new NotIn(some) : Everywhere;

    /// <summary>Every application.</summary>
    public sealed record EverywhereScope : Scope
    {
        /// <inheritdoc/>
        public override bool Admits(string app) => true;
    }

    /// <summary>Only the named applications.</summary>
    public sealed record OnlyIn(EquatableList<string> Apps) : Scope
    {
        /// <inheritdoc/>
        public override bool Admits(string app) => Apps.Has(app);
    }

    /// <summary>Every application but the named ones.</summary>
    public sealed record NotIn(EquatableList<string> Apps) : Scope
    {
        /// <inheritdoc/>
        public override bool Admits(string app) => !Apps.Has(app);
    }
}
