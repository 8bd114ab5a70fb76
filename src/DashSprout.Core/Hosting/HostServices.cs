using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Hosting;

/// <summary>
/// What a host asks of its services; each is asked when it is needed, so that a change holds from the next key on.
/// </summary>
public sealed record HostServices
{
    /// <summary>The triggers.</summary>
    public required Func<TriggerIndex> Index { get; init; }

    /// <summary>
    /// Time, zone, locale, chance and other snippets; the host adds clipboard, selection and answers.
    /// </summary>
    public required Func<RenderContext> Context { get; init; }

    /// <summary>Whether the engine rests in an application.</summary>
    public Func<string, bool> RestsIn { get; init; } = _ => false;

    /// <summary>The chord that takes a firing back; null when none does.</summary>
    public Func<string?> TakeBackChord { get; init; } = () => TypingEngine.DefaultTakeBackChord;

    /// <summary>Whether a waiting word shows what it would become; never in a secret field.</summary>
    public Func<bool> Hints { get; init; } = () => true;

    /// <summary>Told when a character is typed, and nothing but when, in milliseconds from any fixed moment.</summary>
    public Action<long> Typed { get; init; } = _ => { };

    /// <summary>Makes what follows the text that is typed at one host.</summary>
    public Func<ITextFollower> Follow { get; init; } = () => new NoFollower();

    /// <summary>The key that takes an offer.</summary>
    public Func<Key> TakeKey { get; init; } = () => OfferKeys.Usual;

    /// <summary>Whether a snippet may open something without asking.</summary>
    public Func<OpenTarget, bool> MayOpen { get; init; } = _ => true;
}
