using DashSprout.Core.Safety;

namespace DashSprout.Core.Learning;

/// <summary>
/// How likely one letter follows another in a language, to tell words from letters by chance: the information of each
/// letter given the one before (Shannon, “Prediction and Entropy of Printed English”, 1951).
/// </summary>
public sealed class LetterPairs
{
    private const int Letters = 26,
        Edge = Letters;

    private readonly float[] bits = new float[(Letters + 1) * (Letters + 1)];

    private LetterPairs(double[] counts)
    {
        for (var before = 0; before <= Letters; before++)
        {
            var row = counts.AsSpan(before * (Letters + 1), Letters + 1);
            double total = Letters + 1;
            foreach (var count in row)
                total += count;
            // No pair is impossible.
            for (var letter = 0; letter <= Letters; letter++)
                bits[before * (Letters + 1) + letter] = (float)-Math.Log2((row[letter] + 1) / total);
        }
    }

    /// <summary>The pairs of a language's words; each word counts once, so that rare ones are no surprise.</summary>
    public static LetterPairs Of(WordList words)
    {
        var counts = new double[(Letters + 1) * (Letters + 1)];
        foreach (var (word, _) in words.Words)
        {
            var before = Edge;
            foreach (var unit in word)
            {
                var letter = Letter(unit);
                counts[before * (Letters + 1) + letter]++;
                before = letter;
            }
        }
        return new LetterPairs(counts);
    }

    /// <summary>
    /// The information of a word in bits a letter; letters of other scripts and with accents say nothing.
    /// </summary>
    public double BitsALetter(ReadOnlySpan<char> word)
    {
        double sum = 0;
        var (count, before) = (0, Edge);
        foreach (var unit in word)
        {
            var letter = Letter(unit);
            if (letter != Edge)
            {
                sum += bits[before * (Letters + 1) + letter];
                count++;
            }
            before = letter;
        }
        return count == 0 ? 0 : sum / count;
    }

    private static int Letter(char unit) =>
        (char)(unit | 0x20) is >= 'a' and <= 'z' and var letter && unit < 0x80 ? letter - 'a' : Edge;
}
