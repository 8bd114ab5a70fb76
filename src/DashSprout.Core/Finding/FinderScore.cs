namespace DashSprout.Core.Finding;

/// <summary>How well a snippet answers to what is typed into the finder; higher is better, 0 is not at all.</summary>
public static class FinderScore
{
    /// <summary>What a match in the content alone is worth: less than any in the name or a trigger.</summary>
    public const double Content = 20;

    /// <summary>What use adds at most.</summary>
    private const double MostOfUse = 18;

    /// <summary>The score of a name or an abbreviation for a query that has been folded.</summary>
    /// <remarks>
    /// The same text beats a text that begins with the query, then a word that begins with it, then its letters
    /// anywhere together, then its letters in order with gaps: the more of them stand at word starts and the fewer
    /// gaps, the better.
    /// </remarks>
    public static double Of(ReadOnlySpan<char> query, ReadOnlySpan<char> text)
    {
        if (query.IsEmpty || query.Length > text.Length)
            return 0;
        if (text.SequenceEqual(query))
            return 120;
        var at = text.IndexOf(query);
        if (at == 0)
            return 100 - Share(text.Length - query.Length, 20);
        if (at > 0)
            return IsStart(text, at) ? 80 - Share(at, 20) : 50 - Share(at, 20);
        return InOrder(query, text);
    }

    /// <summary>
    /// What use adds: often used and lately used ones come first among equals, and never before what answers better by
    /// its name.
    /// </summary>
    /// <param name="weight">What the uses count now (<see cref="FadingUse"/>).</param>
    public static double OfUse(double weight) => Math.Min(3 * Math.Log2(1 + weight), MostOfUse);

    private static double InOrder(ReadOnlySpan<char> query, ReadOnlySpan<char> text)
    {
        var place = 0;
        var starts = 0;
        var gaps = 0;
        var last = -1;
        foreach (var letter in query)
        {
            if (letter == ' ')
                continue;
            // A word's start is preferred to the next best place.
            var next = -1;
            for (var at = place; at < text.Length; at++)
            {
                if (text[at] != letter)
                    continue;
                if (next < 0)
                    next = at;
                if (IsStart(text, at) || at == last + 1)
                {
                    next = at;
                    break;
                }
            }
            if (next < 0)
                return 0;
            if (IsStart(text, next))
                starts++;
            if (last >= 0 && next > last + 1)
                gaps++;
            last = next;
            place = next + 1;
        }
        return Math.Max(1, 25 + 6 * starts - 5 * gaps - Share(text.Length, 40));
    }

    private static bool IsStart(ReadOnlySpan<char> text, int at) => at == 0 || !char.IsLetterOrDigit(text[at - 1]);

    private static double Share(int length, int most) => 10.0 * Math.Min(length, most) / most;
}
