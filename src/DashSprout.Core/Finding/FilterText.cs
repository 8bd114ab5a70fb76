using DashSprout.Core.Libraries;

namespace DashSprout.Core.Finding;

/// <summary>A word of a filter.</summary>
/// <param name="At">Where it begins.</param>
/// <param name="Quoted">Whether it stands in quotation marks, so that it is nothing but itself.</param>
internal readonly record struct FilterWord(string Text, int At, bool Quoted)
{
    public bool Is(string text) => !Quoted && Text.Equals(text, StringComparison.OrdinalIgnoreCase);
}

/// <summary>How one could go on with a filter.</summary>
/// <param name="Filter">The whole filter then.</param>
/// <param name="Word">What would be added, or stand for what was begun.</param>
public sealed record FilterSuggestion(string Filter, string Word, string Meaning);

/// <summary>A filter as text: its words, and how one could go on.</summary>
public static class FilterText
{
    private const int Most = 12;

    /// <summary>Its words; white space divides them, outside quotation marks.</summary>
    internal static IReadOnlyList<FilterWord> Words(string text)
    {
        var words = new List<FilterWord>();
        for (var at = 0; at < text.Length; )
        {
            if (char.IsWhiteSpace(text[at]))
            {
                at++;
                continue;
            }
            var start = at;
            var word = new System.Text.StringBuilder();
            var inside = false;
            for (; at < text.Length && (inside || !char.IsWhiteSpace(text[at])); at++)
            {
                if (text[at] == '"')
                    inside = !inside;
                else
                    word.Append(text[at]);
            }
            if (word.Length > 0)
                words.Add(new FilterWord(word.ToString(), start, text[start] == '"'));
        }
        return words;
    }

    /// <summary>What may be meant by the word that stands last, or could be added.</summary>
    public static IReadOnlyList<FilterSuggestion> Suggest(string text, LibraryTree now)
    {
        var words = Words(text);
        var open = words.Count > 0 && !char.IsWhiteSpace(text[^1]) ? words[^1] : (FilterWord?)null;
        if (open is { Quoted: true })
            return [];
        var begun = open?.Text ?? "";
        if (
            FilterKey.All.FirstOrDefault(key => begun.StartsWith(key.Key + ":", StringComparison.OrdinalIgnoreCase)) is
            { } known
        )
        {
            var value = begun[(known.Key.Length + 1)..];
            return
            [
                .. known
                    .Values(now)
                    .Where(name =>
                        name.Contains(value, StringComparison.OrdinalIgnoreCase)
                        && !name.Equals(value, StringComparison.OrdinalIgnoreCase)
                    )
                    .Order(StringComparer.OrdinalIgnoreCase)
                    .Take(Most)
                    .Select(name =>
                        Made(1, $"{known.Key}:{(name.Any(char.IsWhiteSpace) ? $"\"{name}\"" : name)} ", known.Meaning)
                    ),
            ];
        }
        var rules = FilterRule
            .All.Select(rule => (Word: rule.Text + " ", rule.Meaning))
            .Concat([
                (Word: "changed since ", Meaning: "changed on that day or later"),
                (Word: "used since ", Meaning: "went off on that day or later"),
            ])
            .Concat(FilterKey.All.Select(key => (Word: key.Key + ":", key.Meaning)))
            .Append((Word: "not ", Meaning: "turns round what stands behind it"))
            .ToList();
        if (words.Count == 0)
            return [.. rules.Select(rule => Made(0, rule.Word, rule.Meaning))];
        // What was begun may be some words long already: "never u", "has a".
        for (var length = Math.Min(3, words.Count); length > 0; length--)
        {
            var last = words.Skip(words.Count - length).ToList();
            if (last.Any(word => word.Quoted))
                continue;
            var phrase = string.Join(' ', last.Select(word => word.Text)) + (open is null ? " " : "");
            var found = rules
                .Where(rule =>
                    rule.Word.StartsWith(phrase, StringComparison.OrdinalIgnoreCase) && rule.Word.TrimEnd() != phrase
                )
                .ToList();
            if (found.Count > 0)
                return [.. found.Take(Most).Select(rule => Made(length, rule.Word, rule.Meaning))];
        }
        return [];

        FilterSuggestion Made(int replaced, string word, string meaning)
        {
            var before = replaced == 0 ? text : text[..words[words.Count - replaced].At];
            return new FilterSuggestion(before + word, word.TrimEnd(), meaning);
        }
    }
}
