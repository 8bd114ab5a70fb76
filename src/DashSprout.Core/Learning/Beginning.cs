using DashSprout.Core.Engine;
using DashSprout.Core.Text;

namespace DashSprout.Core.Learning;

/// <summary>
/// A text that somebody may be about to type, and how often its first words were followed by all of it. Its counts may
/// be told by several threads.
/// </summary>
public sealed class Beginning
{
    /// <summary>The most words of a text that are followed.</summary>
    public const int MostWords = 200;

    /// <summary>
    /// A snippet is trusted before anything is known of it: it is offered until it was passed over twice, and again
    /// once it was typed in full more often.
    /// </summary>
    private const double Trust = 4,
        SnippetDoubt = 4;

    /// <summary>
    /// Of a phrase something is known; what it is doubted by was tuned with the open text in <c>bench/</c>.
    /// </summary>
    private const double PhraseDoubt = 0.5;

    /// <summary>What an offer must be: right two times in three.</summary>
    private const double FewestChance = 2.0 / 3;

    /// <summary>How often a phrase must have come before it is offered.</summary>
    private const int FewestTimes = 3;

    private readonly int[] reached;

    /// <summary>A phrase that came back.</summary>
    /// <param name="firstWords">How often its first words came, by their number from one on.</param>
    public Beginning(Phrase phrase, IReadOnlyList<int> firstWords)
        : this(phrase.Text, isWhole: true, fewest: 2)
    {
        Code = phrase.Code;
        for (var at = 0; at < reached.Length && at < firstWords.Count; at++)
            reached[at] = firstWords[at];
    }

    /// <summary>The text of a snippet.</summary>
    /// <param name="triggers">What sets it off.</param>
    /// <param name="isWhole">Whether the text is all that the snippet puts in.</param>
    public Beginning(string text, bool isWhole, IReadOnlyList<ActiveTrigger> triggers)
        : this(text, isWhole, fewest: 3) => Triggers = triggers;

    private Beginning(string text, bool isWhole, int fewest)
    {
        var words = TypedLine.WordsOf(text);
        Text = text;
        IsWhole = isWhole && words.Count <= MostWords;
        Starts = [.. words.Take(MostWords).Select(word => word.Start.Value)];
        Ends =
        [
            .. words
                .Take(MostWords)
                .Select(word =>
                    word.Start.Value
                    + WordCode.Core(text.AsSpan()[word]).End.GetOffset(word.End.Value - word.Start.Value)
                ),
        ];
        Words = [.. words.Take(MostWords).Select(word => WordCode.Of(text.AsSpan()[word]))];
        First = Words.Length < 2 ? Words.Length : Math.Min(fewest, Words.Length - 1);
        reached = new int[Words.Length];
    }

    /// <summary>The text.</summary>
    public string Text { get; }

    /// <summary>The phrase it is of; 0 for a snippet's.</summary>
    public ulong Code { get; }

    /// <summary>What sets the snippet off that puts it in; empty for a phrase.</summary>
    public IReadOnlyList<ActiveTrigger> Triggers { get; } = [];

    /// <summary>Whether the text is all that would go in.</summary>
    internal bool IsWhole { get; }

    /// <summary>The codes of its words.</summary>
    internal ulong[] Words { get; }

    /// <summary>Where its words begin.</summary>
    internal int[] Starts { get; }

    /// <summary>Where the letters of its words end.</summary>
    private int[] Ends { get; }

    /// <summary>By how many words it is known.</summary>
    internal int First { get; }

    /// <summary>The code of the words that it is known by.</summary>
    internal ulong FirstCode => Words.Take(First).Aggregate(WordCode.None, WordCode.And);

    /// <summary>How many keys its abbreviation would have saved; 0 for what has none.</summary>
    internal int KeysSavedBy(ActiveTrigger trigger) =>
        Graphemes.Count(Text) - Math.Max(1, Graphemes.Count(trigger.Trigger.Text));

    /// <summary>
    /// Where the text ends that is likely to follow its first words: all of it for a snippet, as much as came two times
    /// in three for a phrase; 0 when that is nothing.
    /// </summary>
    internal int LikelyEnd(int words)
    {
        if (Triggers.Count > 0)
            return Chance(words, Words.Length) >= FewestChance ? Text.Length : 0;
        for (var end = Words.Length; end > words; end--)
            if (Chance(words, end) >= FewestChance && Volatile.Read(ref reached[end - 1]) >= FewestTimes)
                return end == Words.Length ? Text.Length : Ends[end - 1];
        return 0;
    }

    /// <summary>The share of times that all of it followed its first words, from 0 to 1.</summary>
    internal double Chance(int words) => Chance(words, Words.Length);

    /// <summary>The share of times that so many words of it followed its first ones, from 0 to 1.</summary>
    private double Chance(int words, int all)
    {
        var (after, before) = (Volatile.Read(ref reached[all - 1]), Volatile.Read(ref reached[words - 1]));
        return Triggers.Count > 0 ? (after + Trust) / (before + SnippetDoubt) : after / (before + PhraseDoubt);
    }

    /// <summary>Its first words were typed.</summary>
    internal void Reached(int words) => Interlocked.Increment(ref reached[words - 1]);

    /// <summary>All of it came so often.</summary>
    internal void Came(int times)
    {
        foreach (ref var count in reached.AsSpan())
            if (Volatile.Read(ref count) < times)
                Volatile.Write(ref count, times);
    }

    /// <summary>It was taken up to a place in it when so many words of it stood there.</summary>
    internal void Taken(int words, int end)
    {
        for (var at = words; at < reached.Length && Starts[at] < end; at++)
            Interlocked.Increment(ref reached[at]);
    }
}
