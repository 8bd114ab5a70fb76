using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Hosting;

/// <summary>
/// What a host offers while somebody types: what follows its text, the offers, and the keys that walk through them and
/// take one.
/// </summary>
internal sealed class HostOffers(HostSurroundings surroundings)
{
    /// <summary>Follows the text that is typed.</summary>
    public ITextFollower Follower { get; } = surroundings.Follow();

    /// <summary>The offers, and which of them would be taken.</summary>
    public OfferList Now { get; private set; } = OfferList.None;

    /// <summary>What would have put in what was just typed in full; null for nothing.</summary>
    public ActiveTrigger? Missed { get; private set; }

    /// <summary>Whether nothing stands behind the caret in its line, as far as the keyboard knows.</summary>
    public bool EndsLine { get; set; } = true;

    /// <summary>The keys that are used here, for the keyboard to hold back.</summary>
    public IEnumerable<string> Chords =>
        Now.All.Count switch
        {
            0 => [],
            1 => [surroundings.TakeKey().Value],
            _ => [surroundings.TakeKey().Value, OfferKeys.Next.Value, OfferKeys.Previous.Value],
        };

    /// <summary>Something new happens at the keyboard.</summary>
    public void Begin() => Missed = null;

    /// <summary>A key goes to the application.</summary>
    public void Pressed(Key key)
    {
        Follower.Pressed(key, EndsLine);
        Missed ??= Follower.Missed;
    }

    /// <summary>The text before the caret is another one now.</summary>
    public void Moved()
    {
        Follower.Moved();
        Missed ??= Follower.Missed;
    }

    /// <summary>
    /// The offer that a key takes; null for none. The arrow takes one at a line's end only, where it would go nowhere.
    /// </summary>
    public Offer? TakenBy(Key key) =>
        Now.Chosen is { } offer && key == surroundings.TakeKey() && (EndsLine || !OfferKeys.IsAtLineEndOnly(key))
            ? offer
            : null;

    /// <summary>Goes to the next offer or the one before; false for another key.</summary>
    public bool Walk(Key key)
    {
        var by =
            key == OfferKeys.Next ? 1
            : key == OfferKeys.Previous ? Now.All.Count - 1
            : 0;
        if (by == 0 || Now.All.Count < 2)
            return false;
        Now = Now with { At = (Now.At + by) % Now.All.Count };
        return true;
    }

    /// <summary>
    /// Takes over what the follower offers; an offer that was walked to stays chosen until they change.
    /// </summary>
    public OfferList Look()
    {
        var all = Follower.Offers;
        if (!ReferenceEquals(all, Now.All))
            Now = all.Count == 0 ? OfferList.None : new OfferList(all, 0);
        return Now;
    }
}
