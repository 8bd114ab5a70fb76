using DashSprout.Core;
using DashSprout.Core.Hosting;
using DashSprout.Core.Learning;
using DashSprout.Documents;

namespace DashSprout.Server.Learning;

/// <summary>What may be done with what is typed; nothing until the user has chosen.</summary>
/// <param name="Chosen">Whether the user has chosen, and be it that nothing is done.</param>
/// <param name="Learns">Whether phrases that come back are remembered.</param>
/// <param name="Offers">Whether the rest of what is begun is offered.</param>
/// <param name="Misses">Whether it is said when a text was typed in full although a snippet has it.</param>
/// <param name="Scope">The applications in which this holds.</param>
/// <param name="KeepDays">After how many days a phrase is forgotten that is not typed any more.</param>
/// <param name="TakeKey">The key that takes an offer.</param>
public sealed record LearningSettings(
    bool Chosen,
    bool Learns,
    bool Offers,
    bool Misses,
    ScopeDocument Scope,
    int KeepDays,
    string TakeKey
)
{
    private const int MostDays = 730,
        MostApps = 200;

    internal static LearningSettings Default { get; } =
        new(false, false, false, false, new ScopeDocument("everywhere", []), 90, OfferKeys.Usual.Value);

    /// <summary>
    /// The rules for followers; throws <see cref="InvalidInputException"/> for settings that cannot be.
    /// </summary>
    internal FollowingRules ToRules()
    {
        if (KeepDays is < 1 or > MostDays)
            throw new InvalidInputException("keepDays", $"Phrases are kept for 1 to {MostDays} days.");
        if (Scope.Apps?.Count > MostApps)
            throw new InvalidInputException("scope.apps", $"Name at most {MostApps} applications.");
        return new FollowingRules(
            Learns,
            Offers,
            Misses,
            InvalidInputException.Within("scope", Scope.ToScope),
            OfferKeys.Read("takeKey", TakeKey)
        )
        {
            Practice = new([Typing.HostWiring.ProofLine, DrillEndpoints.App]),
        };
    }
}
