namespace DashSprout.Core.Triggers;

/// <summary>The applications in which a trigger works, by application id.</summary>
public abstract record Scope
{
    private Scope() { }

    /// <summary>Works in every application.</summary>
    public static Scope Everywhere { get; } = new EverywhereScope();

    /// <summary>Whether a trigger of this scope works in the application.</summary>
    public abstract bool Admits(string app);

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
        public override bool Admits(string app) => Apps.Contains(app);
    }

    /// <summary>Every application but the named ones.</summary>
    public sealed record NotIn(EquatableList<string> Apps) : Scope
    {
        /// <inheritdoc/>
        public override bool Admits(string app) => !Apps.Contains(app);
    }
}
