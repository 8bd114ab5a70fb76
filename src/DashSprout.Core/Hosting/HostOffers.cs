using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Hosting;

/// <summary>
/// What a host offers while somebody types: what follows its text, the offers, and the keys that walk through them and
/// take one.
/// </summary>
internal sealed class HostOffers(HostServices services)
{
    private readonly HostServices services = services;
    private ITextFollower follower = services.Follow();
    private Exception? fault;

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
            1 => [services.TakeKey().Value],
            _ => [services.TakeKey().Value, OfferKeys.Next.Value, OfferKeys.Previous.Value],
        };

    /// <summary>Something new happens at the keyboard.</summary>
    public void Begin() => Missed = null;

    /// <summary>The focus went to a field: what could not follow before is tried anew.</summary>
    public void Focus(string app, FieldKind field, bool runsCommands)
    {
        if (follower is NoFollower)
            Tell(this, static (own, _) => own.follower = own.services.Follow());
        Tell((app, field, runsCommands), static (own, to) => own.follower.Focus(to.app, to.field, to.runsCommands));
    }

    /// <summary>The field is of another kind than it was taken for: what was typed so far is handed on to nobody.</summary>
    public void FieldTold(string app, FieldKind field, bool runsCommands)
    {
        TakenBack();
        Focus(app, field, runsCommands);
    }

    /// <summary>A key goes to the application.</summary>
    public void Pressed(Key key) => Tell(key, static (own, pressed) =>
        {
            own.follower.Pressed(pressed, own.EndsLine);
            own.Missed ??= own.follower.Missed;
        });

    /// <summary>The text before the caret is another one now.</summary>
    public void Moved() => Tell(this, static (own, _) =>
        {
            own.follower.Moved();
            own.Missed ??= own.follower.Missed;
        });

    /// <summary>A snippet went in, in the place of some graphemes that were typed.</summary>
    public void PutIn(int graphemes) => Tell(graphemes, static (own, count) => own.follower.PutIn(count));

    /// <summary>What was typed last has been taken back.</summary>
    public void TakenBack() => Tell(this, static (own, _) => own.follower.TakenBack());

    /// <summary>An offer is taken.</summary>
    public void Taken(Offer offer) => Tell(offer, static (own, taken) => own.follower.Taken(taken));

    /// <summary>Nobody knows any more what stands before the caret, and nothing of it is handed on.</summary>
    public void Drop()
    {
        TakenBack();
        (Now, Missed) = (OfferList.None, null);
    }

    /// <summary>What went wrong since it was asked last; null for nothing.</summary>
    public Exception? TakeFault()
    {
        var taken = fault;
        fault = null;
        return taken;
    }

    /// <summary>
    /// Tells the follower something. Nobody's typing depends on it: when it fails, nothing is followed in this field
    /// any more.
    /// </summary>
    private void Tell<T>(T what, Action<HostOffers, T> tell)
    {
        try
        {
            tell(this, what);
        }
        catch (Exception exception)
        {
            follower = new NoFollower();
            fault = exception;
        }
    }

    /// <summary>
    /// The offer that a key takes; null for none. The arrow takes one at a line's end only, where it would go nowhere.
    /// </summary>
    public Offer? TakenBy(Key key) =>
        Now.Chosen is { } offer && key == services.TakeKey() && (EndsLine || !OfferKeys.IsAtLineEndOnly(key))
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
        Tell(this, static (own, _) =>
        {
            if (own.follower.Offers is var all && !ReferenceEquals(all, own.Now.All))
                own.Now = all.Count == 0 ? OfferList.None : new OfferList(all, 0);
        });
        return Now;
    }
}
