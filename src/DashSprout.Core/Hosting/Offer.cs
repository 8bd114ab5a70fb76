using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Hosting;

/// <summary>How the text that is being typed may go on.</summary>
/// <param name="Rest">What would follow what stands there, in plain words.</param>
/// <param name="Begun">How many graphemes that stand there it takes the place of.</param>
public abstract record Offer(string Rest, int Begun)
{
    /// <summary>What goes in when it is taken.</summary>
    public abstract PlacedSnippet Snippet { get; }

    /// <summary>A phrase that was typed before: its rest goes in.</summary>
    public sealed record OfPhrase(string Rest) : Offer(Rest, 0)
    {
        /// <inheritdoc/>
        public override PlacedSnippet Snippet => PlacedSnippet.Unplaced("a phrase that you type often").Holding(Rest);
    }

    /// <summary>A snippet's text: the snippet goes in, in the place of what was typed of it.</summary>
    public sealed record OfSnippet(string Rest, int Begun, PlacedSnippet Known) : Offer(Rest, Begun)
    {
        /// <inheritdoc/>
        public override PlacedSnippet Snippet => Known;
    }
}

/// <summary>Offers, and which of them would be taken.</summary>
/// <param name="At">Its place among them, from 0 on.</param>
public readonly record struct OfferList(IReadOnlyList<Offer> All, int At)
{
    /// <summary>No offers.</summary>
    public static OfferList None { get; } = new([], 0);

    /// <summary>The one that would be taken; null for none.</summary>
    public Offer? Chosen => All.Count == 0 ? null : All[At];
}

/// <summary>
/// Follows the text that is typed at one host, and says how it may go on. Not safe for use by several threads.
/// </summary>
public interface ITextFollower
{
    /// <summary>
    /// How the text may go on, the likeliest first; the same list as before when nothing has changed.
    /// </summary>
    IReadOnlyList<Offer> Offers { get; }

    /// <summary>
    /// A trigger that would have put in what was just typed in full; null when there is none, or it was told lately.
    /// </summary>
    ActiveTrigger? Missed { get; }

    /// <summary>The focus went to a field.</summary>
    /// <param name="runsCommands">Whether it is a terminal.</param>
    void Focus(string app, FieldKind field, bool runsCommands);

    /// <summary>A key goes to the application, or is in it already.</summary>
    /// <param name="atLineEnd">Whether nothing but a line's end stands behind the caret.</param>
    void Pressed(Key key, bool atLineEnd);

    /// <summary>A snippet went in, in the place of some graphemes that were typed.</summary>
    void PutIn(int graphemes);

    /// <summary>The text before the caret is another one now.</summary>
    void Moved();

    /// <summary>What was typed last has been taken back.</summary>
    void TakenBack();

    /// <summary>An offer is taken.</summary>
    void Taken(Offer offer);
}

/// <summary>A follower that follows nothing.</summary>
public sealed class NoFollower : ITextFollower
{
    /// <inheritdoc/>
    public IReadOnlyList<Offer> Offers => [];

    /// <inheritdoc/>
    public ActiveTrigger? Missed => null;

    /// <inheritdoc/>
    public void Focus(string app, FieldKind field, bool runsCommands) { }

    /// <inheritdoc/>
    public void Pressed(Key key, bool atLineEnd) { }

    /// <inheritdoc/>
    public void PutIn(int graphemes) { }

    /// <inheritdoc/>
    public void Moved() { }

    /// <inheritdoc/>
    public void TakenBack() { }

    /// <inheritdoc/>
    public void Taken(Offer offer) { }
}
