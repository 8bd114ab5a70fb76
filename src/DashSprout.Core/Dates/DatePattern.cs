using System.Globalization;
using System.Text;
using NodaTime;

namespace DashSprout.Core.Dates;

/// <summary>
/// A date pattern in the letters of Unicode Technical Standard #35 (part 4, Dates), filled with the names .NET has for
/// a culture. What a person would use in text is there; other letters are refused with their position. Weeks follow the
/// culture, and ISO 8601 for the culture without a region (<c>und</c>).
/// </summary>
public sealed class DatePattern : IEquatable<DatePattern>
{
    private readonly List<Part> parts;

    private DatePattern(string source, List<Part> parts)
    {
        Source = source;
        this.parts = parts;
    }

    /// <summary>Letter 0 is text between fields.</summary>
    private readonly record struct Part(char Letter, int Count, string Text);

    /// <summary>The pattern as written.</summary>
    public string Source { get; }

    /// <summary>Whether anything in it depends on the time of day.</summary>
    public bool HasTime => parts.Exists(part => "aHhKkmsSAzZOXxV".Contains(part.Letter));

    /// <summary>Reads a pattern; an error names the letter and its position, counted from 1.</summary>
    public static DatePattern Parse(string field, string source)
    {
        if (source.Length == 0)
            throw new InvalidInputException(field, "The date pattern is empty. Write for example d MMMM y.");
        if (source.Length > 200)
            throw new InvalidInputException(field, "The date pattern is longer than 200 characters. Shorten it.");
        var parts = new List<Part>();
        var text = new StringBuilder();
        for (var at = 0; at < source.Length; )
        {
            var letter = source[at];
            if (letter == '\'')
            {
                at = Quoted(field, source, at, text);
                continue;
            }
            if (!char.IsAsciiLetter(letter))
            {
                text.Append(letter);
                at++;
                continue;
            }
            var end = at;
            while (end < source.Length && source[end] == letter)
                end++;
            var most = Most(letter);
            if (most == 0)
                throw new InvalidInputException(
                    field,
                    $"“{new string(letter, end - at)}” at position {at + 1} is no date field this program "
                        + "knows. Put letters that are text between apostrophes, like 'of'."
                );
            if (
                end - at > most
                || (letter == 'V' && end - at != 2)
                || (letter is 'e' or 'c' or 'E' && end - at == 6 && most < 6)
            )
                throw new InvalidInputException(
                    field,
                    $"“{new string(letter, end - at)}” at position {at + 1} has {end - at} letters; "
                        + $"{(letter == 'V' ? "exactly 2" : $"at most {most}")} are known."
                );
            if (text.Length > 0)
                parts.Add(new Part('\0', 0, text.ToString()));
            text.Clear();
            parts.Add(new Part(letter, end - at, ""));
            at = end;
        }
        if (text.Length > 0)
            parts.Add(new Part('\0', 0, text.ToString()));
        return new DatePattern(source, parts);
    }

    /// <summary>Writes a moment in the pattern.</summary>
    public string Format(ZonedDateTime moment, CultureInfo culture)
    {
        var text = new StringBuilder();
        foreach (var part in parts)
            text.Append(part.Letter == '\0' ? part.Text : DateFields.Write(part.Letter, part.Count, moment, culture));
        return text.ToString();
    }

    /// <inheritdoc/>
    public bool Equals(DatePattern? other) => other is not null && Source == other.Source;

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as DatePattern);

    /// <inheritdoc/>
    public override int GetHashCode() => Source.GetHashCode(StringComparison.Ordinal);

    /// <summary>How many times a letter may stand in a row; 0 for letters that are not known.</summary>
    private static int Most(char letter) =>
        letter switch
        {
            'G' => 3,
            'y' or 'Y' or 'u' => 9,
            'Q' or 'q' => 4,
            'M' or 'L' => 5,
            'w' or 'd' or 'h' or 'H' or 'k' or 'K' or 'm' or 's' => 2,
            'W' or 'F' => 1,
            'D' => 3,
            'E' or 'e' or 'c' => 6,
            'a' => 3,
            'S' or 'A' => 9,
            'z' => 3,
            'Z' => 5,
            'O' => 4,
            'X' or 'x' => 5,
            'V' => 2,
            _ => 0,
        };

    private static int Quoted(string field, string source, int at, StringBuilder text)
    {
        if (at + 1 < source.Length && source[at + 1] == '\'')
        {
            text.Append('\'');
            return at + 2;
        }
        for (var end = at + 1; end < source.Length; end++)
        {
            if (source[end] != '\'')
            {
                text.Append(source[end]);
                continue;
            }
            if (end + 1 < source.Length && source[end + 1] == '\'')
            {
                text.Append('\'');
                end++;
                continue;
            }
            return end + 1;
        }
        throw new InvalidInputException(
            field,
            $"The text that begins with an apostrophe at position {at + 1} has no closing apostrophe."
        );
    }
}
