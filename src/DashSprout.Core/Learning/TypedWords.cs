using System.Globalization;

namespace DashSprout.Core.Learning;

/// <summary>
/// The text that somebody types in one go, and its words by their codes. It has an end: what would not fit is refused.
/// </summary>
internal sealed class TypedWords
{
    /// <summary>The most that is kept, in UTF-16 units.</summary>
    public const int MostUnits = 4096;

    private readonly char[] text = new char[MostUnits];
    private readonly List<TypedWord> words = [];
    private int openAt = -1;

    /// <summary>A word that is complete.</summary>
    /// <param name="Start">Where it begins.</param>
    /// <param name="AfterLine">Whether a line's end or a tab stands before it.</param>
    public readonly record struct TypedWord(int Start, ulong Code, bool AfterLine);

    /// <summary>How long the text is.</summary>
    public int Length { get; private set; }

    /// <summary>How many words are complete.</summary>
    public int Count => words.Count;

    /// <summary>Whether a line's end or a tab was typed behind the last word.</summary>
    public bool EndsLine { get; private set; }

    /// <summary>A complete word; <c>^1</c> is the last one.</summary>
    public TypedWord this[Index at] => words[at];

    /// <summary>The word that is being typed; empty between words.</summary>
    public ReadOnlySpan<char> Open => openAt < 0 ? [] : text.AsSpan(openAt, Length - openAt);

    /// <summary>The text from a place on.</summary>
    public ReadOnlySpan<char> From(int start) => text.AsSpan(start, Length - start);

    /// <summary>Whether so much more fits in.</summary>
    public bool Takes(int units) => Length + units <= MostUnits;

    /// <summary>Adds what goes in between words.</summary>
    public void AddSpace(string typed)
    {
        Add(typed);
        if (typed[0] is '\n' or '\t')
            EndsLine = true;
    }

    /// <summary>Adds what belongs to a word.</summary>
    public void AddLetters(ReadOnlySpan<char> typed)
    {
        if (openAt < 0)
            openAt = Length;
        Add(typed);
    }

    /// <summary>Completes the word that is being typed; false when none is.</summary>
    public bool EndWord()
    {
        if (openAt < 0)
            return false;
        words.Add(new TypedWord(openAt, WordCode.Of(Open), EndsLine));
        (openAt, EndsLine) = (-1, false);
        return true;
    }

    /// <summary>
    /// Takes the last grapheme away; true when a word that was complete is being typed again, and
    /// <see cref="ReadAgain"/> is to follow.
    /// </summary>
    public bool Erase()
    {
        if (Length == 0)
            return false;
        var gone = LastGrapheme();
        var isSpace = char.IsWhiteSpace(text[Length - gone]);
        Length -= gone;
        return isSpace || openAt < 0 || Length <= openAt;
    }

    /// <summary>Goes over the text again.</summary>
    /// <param name="ended">Told at the end of each word.</param>
    public void ReadAgain(Action ended)
    {
        var all = Length;
        Forget();
        for (Length = 0; Length < all; Length++)
        {
            if (!char.IsWhiteSpace(text[Length]))
                openAt = openAt < 0 ? Length : openAt;
            else if (EndWord())
                ended();
            if (text[Length] is '\n' or '\t')
                EndsLine = true;
        }
    }

    /// <summary>Takes graphemes away at the end, as though they had never been typed.</summary>
    public void TakeAway(int graphemes)
    {
        for (; graphemes > 0 && Length > 0; graphemes--)
            Length -= LastGrapheme();
        openAt = -1;
    }

    /// <summary>Begins anew.</summary>
    public void Clear()
    {
        Length = 0;
        Forget();
    }

    /// <inheritdoc/>
    public override string ToString() => new(text, 0, Length);

    private void Add(ReadOnlySpan<char> typed)
    {
        typed.CopyTo(text.AsSpan(Length));
        Length += typed.Length;
    }

    private void Forget()
    {
        words.Clear();
        (openAt, EndsLine) = (-1, false);
    }

    private int LastGrapheme()
    {
        var last = 1;
        // Nearly always one unit; a cluster is looked for from a place that surely begins one.
        if (text[Length - 1] < 0x300)
            return last;
        var from = Math.Max(0, Length - 64);
        for (var at = from; at < Length; at += last)
            last = StringInfo.GetNextTextElementLength(text.AsSpan(at, Length - at));
        return last;
    }
}
