namespace DashSprout.Core.Learning;

/// <summary>What stands in a gap between words that some texts share.</summary>
public enum GapKind
{
    /// <summary>Numbers only.</summary>
    Number,

    /// <summary>Dates or times.</summary>
    Date,

    /// <summary>Names, and anything else.</summary>
    Name,
}

/// <summary>A part of texts that are alike.</summary>
public abstract record SharedPart
{
    private SharedPart() { }

    /// <summary>Words that all of them have, with the spaces around them.</summary>
    public sealed record Same(string Text) : SharedPart;

    /// <summary>What each of them has there, in their order; empty where it has nothing.</summary>
    public sealed record Gap(GapKind Kind, EquatableList<string> Texts) : SharedPart;
}

/// <summary>
/// What some texts share, word by word: they are aligned one after the other as in Needleman and Wunsch, “A general
/// method applicable to the search for similarities in the amino acid sequence of two proteins” (1970).
/// </summary>
public static class SharedWords
{
    private const int Match = 2,
        Mismatch = -1,
        Skip = -1;

    /// <summary>The parts of some texts, in their order; at least one text.</summary>
    /// <param name="dateWords">Names of months and days.</param>
    public static IReadOnlyList<SharedPart> Of(IReadOnlyList<string> texts, IReadOnlySet<string> dateWords)
    {
        // A column for each place: the word of each text there, null where it has none.
        var columns = Words(texts[0]).ConvertAll(word => new List<string?> { word });
        for (var text = 1; text < texts.Count; text++)
            columns = Aligned(columns, Words(texts[text]), text);
        var parts = new List<SharedPart>();
        for (var at = 0; at < columns.Count; )
        {
            var from = at;
            var same = IsSame(columns[at]);
            while (at < columns.Count && IsSame(columns[at]) == same)
                at++;
            var run = columns[from..at];
            var space = at < columns.Count ? " " : "";
            if (same)
                AddSame(parts, string.Join(' ', run.Select(column => column[0])) + space);
            else
                AddGap(parts, run, texts.Count, dateWords, space);
        }
        return parts;
    }

    private static void AddSame(List<SharedPart> parts, string text)
    {
        if (parts.Count > 0 && parts[^1] is SharedPart.Same(var before))
            parts[^1] = new SharedPart.Same(before + text);
        else
            parts.Add(new SharedPart.Same(text));
    }

    private static List<string> Words(string text) =>
        [.. text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)];

    private static bool IsSame(List<string?> column) => column.TrueForAll(word => word == column[0]);

    private static List<List<string?>> Aligned(List<List<string?>> columns, List<string> words, int texts)
    {
        var score = new int[columns.Count + 1, words.Count + 1];
        for (var row = 1; row <= columns.Count; row++)
            score[row, 0] = row * Skip;
        for (var word = 1; word <= words.Count; word++)
            score[0, word] = word * Skip;
        for (var row = 1; row <= columns.Count; row++)
        for (var word = 1; word <= words.Count; word++)
            score[row, word] = Math.Max(
                score[row - 1, word - 1] + Fit(row, word),
                Math.Max(score[row - 1, word], score[row, word - 1]) + Skip
            );
        var aligned = new List<List<string?>>();
        for (var (row, word) = (columns.Count, words.Count); row > 0 || word > 0; )
        {
            if (row > 0 && word > 0 && score[row, word] == score[row - 1, word - 1] + Fit(row, word))
                aligned.Add([.. columns[--row], words[--word]]);
            else if (row > 0 && score[row, word] == score[row - 1, word] + Skip)
                aligned.Add([.. columns[--row], null]);
            else
                aligned.Add([.. Enumerable.Repeat<string?>(null, texts), words[--word]]);
        }
        aligned.Reverse();
        return aligned;

        int Fit(int row, int word) => columns[row - 1].Contains(words[word - 1]) ? Match : Mismatch;
    }

    /// <summary>Punctuation behind a gap that all texts have belongs to what they share.</summary>
    private static void AddGap(
        List<SharedPart> parts,
        List<List<string?>> run,
        int texts,
        IReadOnlySet<string> dateWords,
        string space
    )
    {
        var values = Enumerable
            .Range(0, texts)
            .Select(text => string.Join(' ', run.Select(column => column[text]).OfType<string>()))
            .ToList();
        var end = CommonEnd(values);
        values = values.ConvertAll(value => value[..^end.Length]);
        parts.Add(new SharedPart.Gap(KindOf(values, dateWords), new(values)));
        if (end.Length + space.Length > 0)
            AddSame(parts, end + space);
    }

    private static string CommonEnd(List<string> values)
    {
        var length = 0;
        while (
            values.TrueForAll(value =>
                value.Length > length
                && char.IsPunctuation(value[^(length + 1)])
                && value[^(length + 1)] == values[0][^(length + 1)]
            )
        )
            length++;
        return values[0][^length..];
    }

    private static GapKind KindOf(List<string> values, IReadOnlySet<string> dateWords)
    {
        if (
            values.TrueForAll(value =>
                value.Length > 0
                && value.All(unit => char.IsDigit(unit) || unit is '.' or ',' or '-')
                && value.Count(unit => unit is '.' or '-') < 2
            )
        )
            return GapKind.Number;
        return
            values.TrueForAll(value =>
                value.Any(char.IsDigit)
                && Words(value)
                    .TrueForAll(word =>
                        dateWords.Contains(word.Trim('.', ',')) || word.Any(char.IsDigit) && !word.Any(char.IsLetter)
                    )
            )
            || values.TrueForAll(value =>
                value.Length > 0 && Words(value).TrueForAll(word => dateWords.Contains(word.Trim('.', ',')))
            )
            ? GapKind.Date
            : GapKind.Name;
    }
}
