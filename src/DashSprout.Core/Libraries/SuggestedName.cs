using DashSprout.Core.Text;

namespace DashSprout.Core.Libraries;

/// <summary>A name for a snippet that has none, as the page makes one too: the first words of its text.</summary>
public static class SuggestedName
{
    private const int MostWords = 5,
        MostLength = 40;

    /// <summary>The first words without what a name cannot hold; null when there are none.</summary>
    public static string? Of(string text)
    {
        var beginning = text[..Graphemes.Offset(text, 4096)];
        var plain = new string([.. beginning.Select(unit => unit == '/' || char.IsControl(unit) ? ' ' : unit)]);
        var words = string.Join(' ', plain.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Take(MostWords));
        var end = Graphemes.Offset(words, MostLength);
        var name =
            end < words.Length
                ? words[..Graphemes.Offset(words, MostLength - 1)] + "…"
                : words.TrimEnd('.', ',', ';', ':', '!', '?');
        return name.Length > 0 && Graphemes.IsWellFormed(name) ? name : null;
    }
}
