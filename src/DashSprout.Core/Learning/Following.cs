using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Learning;

/// <summary>What may be done with what is typed; everything is off until the user asks for it.</summary>
/// <param name="Learns">Whether phrases that come back are remembered.</param>
/// <param name="Offers">Whether the rest of what is begun is offered.</param>
/// <param name="Misses">Whether it is said when a text was typed in full although a snippet has it.</param>
/// <param name="Where">The applications in which this holds.</param>
/// <param name="Take">The key that takes an offer.</param>
public sealed record FollowingRules(bool Learns, bool Offers, bool Misses, Scope Where, Key Take)
{
    /// <summary>
    /// Applications in which somebody only tries things out: nothing of that is remembered or counted.
    /// </summary>
    public EquatableList<string> Practice { get; init; } = EquatableList<string>.Empty;

    /// <summary>Nothing is followed.</summary>
    public static FollowingRules Off { get; } = new(false, false, false, Scope.Everywhere, OfferKeys.Usual);

    /// <summary>
    /// Whether what is typed in a field is followed; never in one for pass-phrases, and in a terminal, which cannot tell
    /// them from other lines, only when it was named.
    /// </summary>
    public bool Admits(string app, FieldKind field, bool runsCommands) =>
        (Learns || Offers || Misses)
        && field != FieldKind.Secret
        && app.Length > 0
        && Where.Admits(app)
        && (!runsCommands || Where is Scope.OnlyIn);
}

/// <summary>What the followers of all hosts share; they may be asked by several threads.</summary>
public sealed class Following
{
    private volatile FollowingRules rules = FollowingRules.Off;
    private volatile SnippetBeginnings snippets = SnippetBeginnings.None;

    /// <summary>What may be done with what is typed.</summary>
    public FollowingRules Rules
    {
        get => rules;
        set => rules = value;
    }

    /// <summary>The texts of snippets.</summary>
    public SnippetBeginnings Snippets
    {
        get => snippets;
        set => snippets = value;
    }

    /// <summary>The phrases that came back.</summary>
    public PhraseBeginnings Phrases { get; } = new();

    /// <summary>Told what was typed in one go; whoever learns it takes it away from the thread that types.</summary>
    public Action<TypedText> Typed { get; init; } = _ => { };

    /// <summary>
    /// Told when a text was typed in full although a trigger would have put it in, with the keys that it would have
    /// saved; says whether it is shown.
    /// </summary>
    public Func<ActiveTrigger, int, bool> Missed { get; init; } = (_, _) => false;
}
