using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>An abbreviation that is nearly what was typed.</summary>
/// <param name="Typed">The word that was typed.</param>
/// <param name="Slips">How many letters are wrong, missing, too many or exchanged.</param>
public sealed record NearAbbreviation(ActiveTrigger Trigger, string Typed, int Slips);

/// <summary>Finds the abbreviations that somebody may have meant: for the question why nothing went off.</summary>
public static class NearestAbbreviation
{
    private const int MostSlips = 2;

    /// <summary>
    /// The abbreviations nearest to the last word of a text, the nearest first; letters exchanged with their neighbour
    /// count as one slip (Damerau 1964). Short abbreviations allow one slip, others two.
    /// </summary>
    public static IReadOnlyList<NearAbbreviation> Of(TriggerIndex index, string typed, int most = 3)
    {
        var word = typed.Split((char[])[' ', '\t', '\n'], StringSplitOptions.RemoveEmptyEntries).LastOrDefault() ?? "";
        if (word.Length is 0 or > Trigger.Abbreviation.MaxLength)
            return [];
        var bare = word.TrimEnd([.. ".,;:!?)]}\"'’”"]);
        string[] spellings =
            bare.Length > 0 && bare != word
                ? [CaseFolding.Fold(word), CaseFolding.Fold(bare)]
                : [CaseFolding.Fold(word)];
        return
        [
            .. index
                .All.Where(trigger => trigger.Trigger is Trigger.Abbreviation)
                .Select(trigger => new NearAbbreviation(
                    trigger,
                    word,
                    spellings.Min(spelling => Slips(spelling, trigger.Folded))
                ))
                .Where(near => near.Slips <= (near.Trigger.Length <= 3 ? 1 : MostSlips))
                .OrderBy(near => near.Slips)
                .ThenByDescending(near => near.Trigger.Placed.Active)
                .ThenBy(near => near.Trigger.Placed.Rank)
                .Take(most),
        ];
    }

    /// <summary>
    /// The distance of two texts where an exchange of neighbours counts once; more than the most allowed is not worked
    /// out.
    /// </summary>
    internal static int Slips(string a, string b)
    {
        if (Math.Abs(a.Length - b.Length) > MostSlips)
            return MostSlips + 1;
        var distance = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++)
            distance[i, 0] = i;
        for (var j = 0; j <= b.Length; j++)
            distance[0, j] = j;
        for (var i = 1; i <= a.Length; i++)
        for (var j = 1; j <= b.Length; j++)
        {
            var replaced = distance[i - 1, j - 1] + (a[i - 1] == b[j - 1] ? 0 : 1);
            distance[i, j] = Math.Min(replaced, Math.Min(distance[i - 1, j], distance[i, j - 1]) + 1);
            if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                distance[i, j] = Math.Min(distance[i, j], distance[i - 2, j - 2] + 1);
        }
        return distance[a.Length, b.Length];
    }
}
