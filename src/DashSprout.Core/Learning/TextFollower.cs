using System.Runtime.InteropServices;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;

namespace DashSprout.Core.Learning;

/// <summary>
/// Follows what is typed at one host, word by word: which known texts may be begun there, and which were typed to their
/// end. What was typed in one go is handed on when the caret goes elsewhere; what is erased or taken back before is
/// gone.
/// </summary>
public sealed class TextFollower(Following following) : ITextFollower
{
    private const int MostActive = 48,
        MostOffers = 5;

    /// <summary>
    /// A beginning is offered from so many words and characters on, when so many characters would follow; tuned with
    /// the open text in <c>bench/</c>.
    /// </summary>
    private const int FewestWords = 2,
        FewestTyped = 15,
        FewestLeft = 6;

    /// <summary>What was typed of a snippet must still be known to the engine.</summary>
    private const int MostBegun = 200;

    /// <summary>A text must save this many keys to be a missed chance.</summary>
    private const int FewestSaved = 5;

    private static readonly HashSet<string> TakesAway =
    [
        "Ctrl+Z",
        "Ctrl+Shift+Z",
        "Ctrl+Y",
        "Ctrl+X",
        "Ctrl+C",
        "Ctrl+U",
        "Ctrl+W",
        "Ctrl+Backspace",
        "Ctrl+Delete",
        "Alt+Backspace",
        "Shift+Delete",
        "Ctrl+Shift+Backspace",
    ];

    private readonly TypedWords typed = new();
    private readonly List<Active> active = [];
    private string app = "";
    private FieldKind field;
    private bool runsCommands;
    private FollowingRules? rules;
    private bool follows;
    private List<Listed> shown = [],
        found = [];
    private IReadOnlyList<Offer> offers = [];

    /// <summary>A text that is being typed, as far as it has come.</summary>
    private readonly record struct Active(Beginning Beginning, int Words, int Start, bool OverLines);

    private readonly record struct Listed(Beginning Beginning, int Words, int Start, int Left, int End);

    /// <inheritdoc/>
    public IReadOnlyList<Offer> Offers => offers;

    /// <inheritdoc/>
    public ActiveTrigger? Missed { get; private set; }

    /// <inheritdoc/>
    public void Focus(string app, FieldKind field, bool runsCommands)
    {
        Moved();
        (this.app, this.field, this.runsCommands, rules) = (app, field, runsCommands, null);
    }

    /// <inheritdoc/>
    public void Moved()
    {
        Missed = null;
        HandOn();
    }

    /// <inheritdoc/>
    public void TakenBack() => Drop();

    /// <inheritdoc/>
    public void PutIn(int graphemes)
    {
        typed.TakeAway(graphemes);
        HandOn();
    }

    /// <inheritdoc/>
    public void Taken(Offer offer)
    {
        var at = shown.FindIndex(one =>
            one.Beginning.Triggers.Count > 0 == offer is Offer.OfSnippet && OfferOf(one).Equals(offer)
        );
        if (at < 0)
            return;
        var (beginning, count, _, left, end) = shown[at];
        beginning.Taken(count, end);
        if (offer is Offer.OfSnippet)
            return;
        // Its rest was meant as though it had been typed.
        if (typed.Takes(end - left))
            typed.AddLetters(beginning.Text.AsSpan(left..end));
    }

    /// <inheritdoc/>
    public void Pressed(Key key, bool atLineEnd)
    {
        Missed = null;
        if (!Follows())
            return;
        if (key.AddsText)
            Append(key.Text);
        else if (key == Key.Backspace)
            Erase();
        else if (key.Kind == KeyKind.Silent)
            return;
        else if (TakesAway.Contains(key.Value))
            Drop();
        else
            HandOn();
        ShowOffers(atLineEnd);
    }

    /// <summary>
    /// Whether this field is followed, by the rules as they are now; what was typed under others is not handed on under
    /// new ones.
    /// </summary>
    private bool Follows()
    {
        var now = following.Rules;
        if (now == rules)
            return follows;
        rules = now;
        follows = now.Admits(app, field, runsCommands);
        Drop();
        return follows;
    }

    private void Append(string key)
    {
        if (!typed.Takes(key.Length))
            HandOn();
        if (!typed.Takes(key.Length))
            return;
        if (!char.IsWhiteSpace(key[0]))
        {
            typed.AddLetters(key);
            return;
        }
        if (typed.EndWord())
            WordEnded(counts: true);
        typed.AddSpace(key);
    }

    private void Erase()
    {
        if (!typed.Erase())
            return;
        active.Clear();
        typed.ReadAgain(() => WordEnded(counts: false));
    }

    /// <summary>
    /// A word is complete: texts that were begun go on with it, and others may begin with the last ones.
    /// </summary>
    private void WordEnded(bool counts)
    {
        GoOn(typed[^1].Code, typed[^1].AfterLine, counts);
        for (var count = 1; count <= 3 && count <= typed.Count; count++)
        {
            var begun = WordCode.None;
            var over = false;
            for (var at = count; at >= 1; at--)
            {
                begun = WordCode.And(begun, typed[^at].Code);
                over |= at < count && typed[^at].AfterLine;
            }
            if (count == 2 && !over)
                Begin(following.Phrases.Find(begun), count, over, counts);
            Begin(following.Snippets.Find(begun), count, over, counts);
        }
    }

    /// <summary>What was begun goes on with this word, or was not meant.</summary>
    private void GoOn(ulong code, bool afterLine, bool counts)
    {
        var kept = 0;
        for (var at = 0; at < active.Count; at++)
        {
            var (beginning, count, start, over) = active[at];
            if (
                count >= beginning.Words.Length
                || beginning.Words[count] != code
                || (afterLine && beginning.Triggers.Count == 0)
            )
                continue;
            var next = new Active(beginning, count + 1, start, over || afterLine);
            if (counts)
                Reached(next);
            active[kept++] = next;
        }
        active.RemoveRange(kept, active.Count - kept);
    }

    private void Begin(ReadOnlySpan<Beginning> found, int count, bool over, bool counts)
    {
        foreach (var beginning in found)
        {
            if (beginning.First != count || active.Count >= MostActive)
                continue;
            var begun = new Active(beginning, count, typed[^count].Start, over);
            if (counts)
                Reached(begun);
            active.Add(begun);
        }
    }

    private void Reached(in Active one)
    {
        one.Beginning.Reached(one.Words);
        if (
            one.Words < one.Beginning.Words.Length
            || one.Beginning is not { IsWhole: true, Triggers.Count: > 0 }
            || rules is not { Misses: true }
            || rules.Practice.Has(app)
        )
            return;
        var trigger = one.Beginning.Triggers.FirstOrDefault(candidate => candidate.Trigger.Scope.Admits(app));
        if (trigger is null || one.Beginning.KeysSavedBy(trigger) < FewestSaved)
            return;
        if (following.Missed(trigger, one.Beginning.KeysSavedBy(trigger)))
            Missed = trigger;
    }

    /// <summary>Hands on what was typed in one go, and begins anew.</summary>
    private void HandOn()
    {
        if (typed.Length > 0 && follows && rules == following.Rules)
        {
            if (typed.EndWord())
                WordEnded(counts: true);
            if (rules!.Learns && !rules.Practice.Has(app))
                following.Typed(new TypedText(app, typed.ToString()));
        }
        Drop();
    }

    private void Drop()
    {
        typed.Clear();
        active.Clear();
        ShowNone();
    }

    private void ShowNone()
    {
        if (shown.Count == 0)
            return;
        shown.Clear();
        offers = [];
    }

    private void ShowOffers(bool atLineEnd)
    {
        if (
            active.Count == 0
            || rules is not { Offers: true }
            || typed.Length == 0
            || (!atLineEnd && OfferKeys.IsAtLineEndOnly(rules.Take))
        )
        {
            ShowNone();
            return;
        }
        found.Clear();
        foreach (var one in active)
            if (LeftOf(one) is var (left, end))
                PutInOrder(new Listed(one.Beginning, one.Words, one.Start, left, end));
        if (found.Count > MostOffers)
            found.RemoveRange(MostOffers, found.Count - MostOffers);
        if (CollectionsMarshal.AsSpan(found).SequenceEqual(CollectionsMarshal.AsSpan(shown)))
            return;
        (shown, found) = (found, shown);
        offers = shown.Count == 0 ? [] : [.. shown.Select(OfferOf)];
    }

    /// <summary>
    /// What more words were typed of comes first, then what is likelier, then what would save most; the same text is
    /// there once.
    /// </summary>
    private void PutInOrder(in Listed one)
    {
        var rest = one.Beginning.Text.AsSpan(one.Left..one.End);
        for (var other = 0; other < found.Count; other++)
        {
            if (!found[other].Beginning.Text.AsSpan(found[other].Left..found[other].End).SequenceEqual(rest))
                continue;
            // A snippet has more to it than a phrase.
            if (one.Beginning.Triggers.Count == 0 || found[other].Beginning.Triggers.Count > 0)
                return;
            found.RemoveAt(other);
            break;
        }
        var rank = RankOf(one);
        var at = 0;
        while (at < found.Count && rank.CompareTo(RankOf(found[at])) <= 0)
            at++;
        found.Insert(at, one);
    }

    private static (int Words, double Chance, int Length) RankOf(in Listed one) =>
        (one.Words, one.Beginning.Chance(one.Words), one.End - one.Left);

    /// <summary>What is left of a text and likely to follow; null when it is not to be offered.</summary>
    private (int Left, int End)? LeftOf(in Active one)
    {
        var beginning = one.Beginning;
        if (one.Words < FewestWords || one.OverLines || typed.EndsLine || one.Words >= beginning.Words.Length)
            return null;
        var open = typed.Open;
        var end = beginning.LikelyEnd(one.Words);
        if (end <= beginning.Starts[one.Words])
            return null;
        var rest = beginning.Text.AsSpan(beginning.Starts[one.Words]..end);
        if (
            open.Length >= rest.Length
            || rest.Length - open.Length < FewestLeft
            || typed.Length - one.Start < FewestTyped
        )
            return null;
        for (var at = 0; at < open.Length; at++)
            if (CaseFolding.Fold(open[at]) != CaseFolding.Fold(rest[at]))
                return null;
        if (
            beginning.Triggers.Count > 0
            && (
                typed.Length - one.Start > MostBegun
                || !beginning.Triggers.Any(trigger => trigger.Trigger.Scope.Admits(app))
            )
        )
            return null;
        return (beginning.Starts[one.Words] + open.Length, end);
    }

    private Offer OfferOf(Listed one)
    {
        var rest = one.Beginning.Text[one.Left..one.End];
        return one.Beginning.Triggers.Count == 0
            ? new Offer.OfPhrase(rest)
            : new Offer.OfSnippet(
                one.Beginning.IsWhole ? rest : rest + "…",
                Graphemes.Count(typed.From(one.Start)),
                one.Beginning.Triggers[0].Placed
            );
    }
}
