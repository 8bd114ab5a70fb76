using System.Globalization;
using System.Runtime.InteropServices;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;

namespace DashSprout.Core.Learning;

/// <summary>
/// Follows what is typed at one host, word by word: which known texts may be begun there, and which were typed to their end. What was typed in one go is handed on when the caret
/// goes elsewhere; what is erased or taken back before is gone.
/// </summary>
public sealed class TextFollower(Following following) : ITextFollower
{
    private const int MostUnits = 4096, MostActive = 48, MostOffers = 5;

    /// <summary>A beginning is offered from so many words and characters on, when so many characters would follow; tuned with the open text in <c>bench/</c>.</summary>
    private const int FewestWords = 2, FewestTyped = 15, FewestLeft = 6;

    /// <summary>What was typed of a snippet must still be known to the engine.</summary>
    private const int MostBegun = 200;

    /// <summary>A text must save this many keys to be a missed chance.</summary>
    private const int FewestSaved = 5;

    private static readonly HashSet<string> TakesAway = ["Ctrl+Z", "Ctrl+Shift+Z", "Ctrl+Y", "Ctrl+X", "Ctrl+C", "Ctrl+U", "Ctrl+W", "Ctrl+Backspace", "Ctrl+Delete", "Alt+Backspace", "Shift+Delete", "Ctrl+Shift+Backspace"];

    private readonly char[] text = new char[MostUnits];
    private readonly List<FollowedWord> words = [];
    private readonly List<Active> active = [];
    private int length, wordStart = -1;
    private bool newLine;
    private string app = "";
    private FieldKind field;
    private FollowingRules? rules;
    private bool follows;
    private List<Listed> shown = [], found = [];
    private IReadOnlyList<Offer> offers = [];

    private readonly record struct FollowedWord(int Start, ulong Code, bool AfterLine);

    /// <summary>A text that is being typed, as far as it has come.</summary>
    private readonly record struct Active(Beginning Beginning, int Words, int Start, bool OverLines);

    private readonly record struct Listed(Beginning Beginning, int Words, int Start, int Left, int End);

    /// <inheritdoc/>
    public IReadOnlyList<Offer> Offers => offers;

    /// <inheritdoc/>
    public ActiveTrigger? Missed { get; private set; }

    /// <inheritdoc/>
    public void Focus(string app, FieldKind field)
    {
        HandOn();
        (this.app, this.field, rules) = (app, field, null);
    }

    /// <inheritdoc/>
    public void Moved() => HandOn();

    /// <inheritdoc/>
    public void TakenBack() => Drop();

    /// <inheritdoc/>
    public void PutIn(int typed)
    {
        for (; typed > 0 && length > 0; typed--) length -= LastGrapheme();
        wordStart = -1;
        HandOn();
    }

    /// <inheritdoc/>
    public void Taken(Offer offer)
    {
        var at = shown.FindIndex(one => one.Beginning.Triggers.Count > 0 == offer is Offer.OfSnippet && OfferOf(one).Equals(offer));
        if (at < 0) return;
        var (beginning, count, _, left, end) = shown[at];
        beginning.Taken(count);
        if (offer is Offer.OfSnippet) return;
        // Its rest was meant as though it had been typed.
        foreach (var unit in beginning.Text.AsSpan(left..end))
            if (length < MostUnits) text[length++] = unit;
    }

    /// <inheritdoc/>
    public void Pressed(Key key, bool atLineEnd)
    {
        Missed = null;
        if (!Follows()) return;
        if (key.AddsText) Append(key.Text);
        else if (key == Key.Backspace) Erase();
        else if (key.Kind == KeyKind.Silent) return;
        else if (TakesAway.Contains(key.Value)) Drop();
        else HandOn();
        ShowOffers(atLineEnd);
    }

    /// <summary>Whether this field is followed, by the rules as they are now; what was typed under others is not handed on under new ones.</summary>
    private bool Follows()
    {
        var now = following.Rules;
        if (now == rules) return follows;
        rules = now;
        follows = now.Admits(app, field);
        Drop();
        return follows;
    }

    private void Append(string typed)
    {
        if (length + typed.Length > MostUnits)
        {
            HandOn();
            if (typed.Length > MostUnits) return;
        }
        var isSpace = char.IsWhiteSpace(typed[0]);
        if (isSpace) EndWord(counts: true);
        else if (wordStart < 0) wordStart = length;
        typed.CopyTo(text.AsSpan(length));
        length += typed.Length;
        if (typed[0] is '\n' or '\t') newLine = true;
    }

    private void EndWord(bool counts)
    {
        if (wordStart < 0) return;
        var code = WordCode.Of(text.AsSpan(wordStart, length - wordStart));
        words.Add(new FollowedWord(wordStart, code, newLine));
        (wordStart, newLine) = (-1, false);
        GoOn(code, words[^1].AfterLine, counts);
        var begun = WordCode.None;
        for (var count = 1; count <= 3 && count <= words.Count; count++)
        {
            begun = WordCode.None;
            var over = false;
            for (var at = words.Count - count; at < words.Count; at++)
            {
                begun = WordCode.And(begun, words[at].Code);
                over |= at > words.Count - count && words[at].AfterLine;
            }
            if (count == 2 && !over) Begin(following.Phrases.Find(begun), count, over, counts);
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
            if (count >= beginning.Words.Length || beginning.Words[count] != code || (afterLine && beginning.Triggers.Count == 0)) continue;
            var next = new Active(beginning, count + 1, start, over || afterLine);
            if (counts) Reached(next);
            active[kept++] = next;
        }
        active.RemoveRange(kept, active.Count - kept);
    }

    private void Begin(ReadOnlySpan<Beginning> found, int count, bool over, bool counts)
    {
        foreach (var beginning in found)
        {
            if (beginning.First != count || active.Count >= MostActive) continue;
            var begun = new Active(beginning, count, words[^count].Start, over);
            if (counts) Reached(begun);
            active.Add(begun);
        }
    }

    private void Reached(in Active one)
    {
        one.Beginning.Reached(one.Words);
        if (one.Words < one.Beginning.Words.Length || one.Beginning is not { IsWhole: true, Triggers.Count: > 0 } || rules is not { Misses: true } || rules.Practice.Has(app)) return;
        var trigger = one.Beginning.Triggers.FirstOrDefault(candidate => candidate.Trigger.Scope.Admits(app));
        if (trigger is null || one.Beginning.KeysSavedBy(trigger) < FewestSaved) return;
        if (following.Missed(trigger, one.Beginning.KeysSavedBy(trigger))) Missed = trigger;
    }

    private void Erase()
    {
        if (length == 0) return;
        var gone = LastGrapheme();
        var isSpace = char.IsWhiteSpace(text[length - gone]);
        length -= gone;
        if (!isSpace && wordStart >= 0 && length > wordStart) return;
        // A word that was complete is being typed again.
        ReadAgain();
    }

    private void ReadAgain()
    {
        var all = length;
        Forget();
        for (length = 0; length < all; length++)
        {
            if (char.IsWhiteSpace(text[length])) EndWord(counts: false);
            else if (wordStart < 0) wordStart = length;
            if (text[length] is '\n' or '\t') newLine = true;
        }
    }

    private int LastGrapheme()
    {
        var last = 1;
        // Nearly always one unit; a cluster is looked for from a place that surely begins one.
        if (text[length - 1] < 0x300) return last;
        var from = Math.Max(0, length - 64);
        for (var at = from; at < length; at += last) last = StringInfo.GetNextTextElementLength(text.AsSpan(at, length - at));
        return last;
    }

    /// <summary>Hands on what was typed in one go, and begins anew.</summary>
    private void HandOn()
    {
        if (length > 0 && follows && rules == following.Rules)
        {
            EndWord(counts: true);
            if (rules!.Learns && !rules.Practice.Has(app)) following.Typed(new TypedText(app, new string(text, 0, length)));
        }
        Drop();
    }

    private void Drop()
    {
        length = 0;
        Forget();
        ShowNone();
    }

    private void Forget()
    {
        words.Clear();
        active.Clear();
        (wordStart, newLine) = (-1, false);
    }

    private void ShowNone()
    {
        if (shown.Count == 0) return;
        shown.Clear();
        offers = [];
    }

    private void ShowOffers(bool atLineEnd)
    {
        if (active.Count == 0 || rules is not { Offers: true } || length == 0 || (!atLineEnd && OfferKeys.IsAtLineEndOnly(rules.Take)))
        {
            ShowNone();
            return;
        }
        found.Clear();
        foreach (var one in active)
            if (LeftOf(one) is var (left, end)) PutInOrder(new Listed(one.Beginning, one.Words, one.Start, left, end));
        if (found.Count > MostOffers) found.RemoveRange(MostOffers, found.Count - MostOffers);
        if (CollectionsMarshal.AsSpan(found).SequenceEqual(CollectionsMarshal.AsSpan(shown))) return;
        (shown, found) = (found, shown);
        offers = shown.Count == 0 ? [] : [.. shown.Select(OfferOf)];
    }

    /// <summary>What more words were typed of comes first, then what is likelier, then what would save most; the same text is there once.</summary>
    private void PutInOrder(in Listed one)
    {
        var rest = one.Beginning.Text.AsSpan(one.Left..one.End);
        for (var other = 0; other < found.Count; other++)
        {
            if (!found[other].Beginning.Text.AsSpan(found[other].Left..found[other].End).SequenceEqual(rest)) continue;
            // A snippet has more to it than a phrase.
            if (one.Beginning.Triggers.Count == 0 || found[other].Beginning.Triggers.Count > 0) return;
            found.RemoveAt(other);
            break;
        }
        var rank = RankOf(one);
        var at = 0;
        while (at < found.Count && rank.CompareTo(RankOf(found[at])) <= 0) at++;
        found.Insert(at, one);
    }

    private static (int Words, double Chance, int Length) RankOf(in Listed one) => (one.Words, one.Beginning.Chance(one.Words), one.End - one.Left);

    /// <summary>What is left of a text and likely to follow; null when it is not to be offered.</summary>
    private (int Left, int End)? LeftOf(in Active one)
    {
        var beginning = one.Beginning;
        if (one.Words < FewestWords || one.OverLines || newLine || one.Words >= beginning.Words.Length) return null;
        var typed = wordStart < 0 ? default : text.AsSpan(wordStart, length - wordStart);
        var end = beginning.LikelyEnd(one.Words);
        if (end <= beginning.Starts[one.Words]) return null;
        var rest = beginning.Text.AsSpan(beginning.Starts[one.Words]..end);
        if (typed.Length >= rest.Length || rest.Length - typed.Length < FewestLeft || length - one.Start < FewestTyped) return null;
        for (var at = 0; at < typed.Length; at++)
            if (CaseFolding.Fold(typed[at]) != CaseFolding.Fold(rest[at])) return null;
        if (beginning.Triggers.Count > 0 && (length - one.Start > MostBegun || !beginning.Triggers.Any(trigger => trigger.Trigger.Scope.Admits(app)))) return null;
        return (beginning.Starts[one.Words] + typed.Length, end);
    }

    private Offer OfferOf(Listed one)
    {
        var rest = one.Beginning.Text[one.Left..one.End];
        return one.Beginning.Triggers.Count == 0
            ? new Offer.OfPhrase(rest)
            : new Offer.OfSnippet(one.Beginning.IsWhole ? rest : rest + "…", Graphemes.Count(text.AsSpan(one.Start, length - one.Start)), one.Beginning.Triggers[0].Placed);
    }
}
