using DashSprout.Core.Finding;

namespace DashSprout.Core.Learning;

/// <summary>
/// Remembers the phrases that come back. Every phrase of a typed line is counted in a sketch that keeps no text; only
/// one that came before is kept as text, so what is typed once is not. What is not typed for some time is forgotten,
/// and when there are too many, those go that are typed least. Not safe for use by several threads.
/// </summary>
public sealed class PhraseMemory
{
    /// <summary>How many phrases are kept.</summary>
    public const int MostPhrases = 8192;

    /// <summary>Words that must stay the same in a phrase that varies.</summary>
    private const int FewestSame = 3;

    private const ulong VaryingSeed = 0x9e3779b97f4a7c15;

    private readonly Dictionary<ulong, Phrase> phrases = [];
    private readonly Dictionary<ulong, Phrase> dismissed = [];
    private readonly CountSketch sketch = new();
    private readonly SecretLook secrets;

    /// <summary>An empty memory.</summary>
    public PhraseMemory(SecretLook secrets) => this.secrets = secrets;

    /// <summary>What is typed like these is not learned; set by <see cref="Hide"/>.</summary>
    public PrivateWords Privates { get; private set; } = PrivateWords.None;

    /// <summary>Names of months and days, as they are written.</summary>
    public IReadOnlySet<string> DateNames { get; set; } = DateWords.Of();

    /// <summary>The phrases that came back.</summary>
    public IReadOnlyCollection<Phrase> Phrases => phrases.Values;

    /// <summary>Those that are not to be proposed again.</summary>
    public IReadOnlyCollection<Phrase> Dismissed => dismissed.Values;

    /// <summary>
    /// Told of each phrase that never varies when it is known, with how often its first words came, by their number
    /// from one on.
    /// </summary>
    public Action<Phrase, IReadOnlyList<int>>? Began { get; set; }

    /// <summary>Told of each of those that was typed again.</summary>
    public Action<Phrase>? Came { get; set; }

    /// <summary>Told when phrases are gone.</summary>
    public Action<IReadOnlyCollection<ulong>>? Ended { get; set; }

    /// <summary>Learns what was typed.</summary>
    public void Learn(TypedText typed, DateTimeOffset now)
    {
        foreach (
            var text in typed.Text.Split(
                ['\n', '\t'],
                StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries
            )
        )
        {
            var line = TypedLine.Of(text, secrets, Privates, DateNames);
            for (var from = 0; from < line.Words.Count; from++)
            {
                if (line.Kinds[from] == WordKind.Secret)
                    continue;
                var to = from;
                while (to < line.Words.Count && line.Kinds[to] != WordKind.Secret)
                    to++;
                Learn(line, PhraseUnit.Same(line, from, to), varies: false, typed.App, now);
                Learn(line, PhraseUnit.Varying(line, from, to), varies: true, typed.App, now);
                from = to;
            }
        }
        if (phrases.Count > MostPhrases)
            LetGo(now);
    }

    /// <summary>
    /// Forgets what was typed last before a moment; says whether anything was. What is not to be proposed again stays
    /// so, however long it is.
    /// </summary>
    public bool ForgetBefore(DateTimeOffset moment) => RemoveKnown(phrase => phrase.Use.LastAt < moment);

    /// <summary>Forgets what was typed in some applications only; says whether anything was.</summary>
    public bool ForgetApps(Func<string, bool> isForgotten) => Remove(phrase => phrase.Apps.All(isForgotten));

    /// <summary>
    /// What is typed like private texts is not learned from now on, and what was is forgotten; says whether anything
    /// was.
    /// </summary>
    public bool Hide(PrivateWords words)
    {
        Privates = words;
        return Remove(phrase => phrase.Texts.Any(words.AreIn));
    }

    /// <summary>
    /// Forgets a phrase, and does not remember it again until <see cref="Recall"/>; null when it is not known.
    /// </summary>
    public Phrase? Dismiss(ulong code)
    {
        if (!phrases.TryGetValue(code, out var phrase))
            return null;
        Remove(gone => gone.Code == code);
        dismissed.Add(code, phrase);
        return phrase;
    }

    /// <summary>
    /// Brings back a phrase that was dismissed, with those that go on in it where a text is longer than phrases are;
    /// null when it was not.
    /// </summary>
    public Phrase? Recall(ulong code)
    {
        if (!dismissed.TryGetValue(code, out var phrase))
            return null;
        foreach (var part in new PhraseChains(dismissed.Values).Around(phrase))
        {
            dismissed.Remove(part.Code);
            Put(part);
        }
        return phrase;
    }

    /// <summary>Forgets a phrase as though it had never come; null when it is not known.</summary>
    public Phrase? Forget(ulong code)
    {
        if (!phrases.TryGetValue(code, out var phrase))
            return dismissed.Remove(code, out var gone) ? gone : null;
        Remove(gone => gone.Code == code);
        return phrase;
    }

    /// <summary>Forgets everything.</summary>
    public void Clear()
    {
        Remove(_ => true);
        dismissed.Clear();
        sketch.Clear();
    }

    /// <summary>All that is remembered.</summary>
    public LearnedState State() =>
        new([.. phrases.Values], [.. dismissed.Values], sketch.Cells.ToArray(), sketch.Counted);

    /// <summary>Remembers what was kept; false when it cannot be what was kept, and then nothing is changed.</summary>
    public bool Restore(LearnedState state)
    {
        if (
            state.Phrases.Any(phrase => phrase.Texts.Count == 0 || phrase.Texts.Any(text => text.Length == 0))
            || !sketch.Restore(state.Cells, state.Counted)
        )
            return false;
        Remove(_ => true);
        dismissed.Clear();
        foreach (var phrase in state.Dismissed)
            dismissed[phrase.Code] = phrase;
        foreach (var phrase in state.Phrases)
            Put(phrase);
        return true;
    }

    private void Learn(TypedLine line, List<PhraseUnit> units, bool varies, string app, DateTimeOffset now)
    {
        // Where the longest phrase that began before ended; what lies in it is a part only.
        var reach = 0;
        for (var start = 0; start < units.Count; start++)
        {
            var code = varies ? VaryingSeed : WordCode.None;
            var (same, gaps, counted, longest) = (0, 0, 0, 0);
            ulong longestCode = 0;
            for (var length = 1; length <= Phrase.MostWords && start + length <= units.Count; length++)
            {
                var unit = units[start + length - 1];
                if (unit.To - units[start].From > Phrase.MostWords)
                    break;
                code = WordCode.And(code, unit.Code);
                if (unit.Varies)
                    gaps++;
                else
                    same++;
                if (varies ? gaps == 0 || same < FewestSame : length < 2)
                    continue;
                var times = sketch.Add(code);
                if (times < 2 || length < Phrase.FewestWords)
                    continue;
                if (phrases.TryGetValue(code, out var known))
                {
                    var seen = PhraseUnit.TextOf(line, units, start, length);
                    phrases[code] = known.Seen(seen.Length <= Phrase.Longest ? seen : known.Text, app, now);
                    Came?.Invoke(phrases[code]);
                }
                (longest, longestCode, counted) = (length, code, times);
            }
            if (longest == 0 || start + longest <= reach)
                continue;
            reach = start + longest;
            if (phrases.ContainsKey(longestCode) || dismissed.ContainsKey(longestCode))
                continue;
            var text = PhraseUnit.TextOf(line, units, start, longest);
            if (text.Length is < Phrase.Shortest or > Phrase.Longest)
                continue;
            var use = new FadingUse(counted, now);
            Put(new Phrase(longestCode, varies, new([text]), counted, now, use, new([app])));
        }
    }

    /// <summary>
    /// How often the first words of a phrase came, by their number from one on; of the first alone nothing is known.
    /// </summary>
    private List<int> FirstWords(Phrase phrase)
    {
        var counts = new List<int>();
        var code = WordCode.None;
        foreach (var word in TypedLine.WordsOf(phrase.Text))
        {
            code = WordCode.And(code, WordCode.Of(phrase.Text.AsSpan()[word]));
            counts.Add(sketch.Estimate(code));
        }
        // The sketch forgets sooner than the phrase; the shares are what counts.
        var share = counts[^1] == 0 ? 0 : (double)phrase.Times / counts[^1];
        return counts.ConvertAll(count => Math.Max(phrase.Times, (int)Math.Round(count * share)));
    }

    private void Put(Phrase phrase)
    {
        phrases[phrase.Code] = phrase;
        if (!phrase.Varies)
            Began?.Invoke(phrase, FirstWords(phrase));
    }

    /// <summary>The quarter that is typed least goes.</summary>
    private void LetGo(DateTimeOffset now)
    {
        var least = phrases
            .Values.OrderBy(phrase => phrase.Use.At(now))
            .ThenBy(phrase => phrase.Use.LastAt)
            .Take(MostPhrases / 4)
            .Select(phrase => phrase.Code)
            .ToHashSet();
        RemoveKnown(phrase => least.Contains(phrase.Code));
    }

    private bool Remove(Func<Phrase, bool> isGone)
    {
        var unwanted = dismissed.Values.Where(isGone).ToList();
        foreach (var phrase in unwanted)
            dismissed.Remove(phrase.Code);
        return RemoveKnown(isGone) || unwanted.Count > 0;
    }

    private bool RemoveKnown(Func<Phrase, bool> isGone)
    {
        var gone = phrases.Values.Where(isGone).Select(phrase => phrase.Code).ToList();
        foreach (var code in gone)
            phrases.Remove(code);
        if (gone.Count > 0)
            Ended?.Invoke(gone);
        return gone.Count > 0;
    }
}
