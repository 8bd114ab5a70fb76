using DashSprout.Core.Text;

namespace DashSprout.Core.Libraries;

/// <summary>
/// The rule for tags: words of one's own by which snippets are found. A tag stands on a snippet once, whatever its
/// letter case.
/// </summary>
public static class SnippetTags
{
    /// <summary>How many tags a snippet has at most.</summary>
    public const int Most = 20;

    /// <summary>The longest tag, in grapheme clusters.</summary>
    public const int MaxLength = 40;

    private static readonly StringComparer Same = StringComparer.OrdinalIgnoreCase;

    /// <summary>
    /// Tags without white space around them, in the order given; throws <see cref="InvalidInputException"/> for what
    /// cannot be one.
    /// </summary>
    public static EquatableList<string> Check(string field, IReadOnlyList<string?> tags)
    {
        var own = tags.Select((tag, at) => One($"{field}[{at}]", tag)).Distinct(Same).ToList();
        return own.Count <= Most
            ? Of(own)
            : throw new InvalidInputException(
                field,
                $"There are {own.Count} tags; {Most} are allowed. Take some away."
            );
    }

    /// <summary>The tags with some added and some taken away.</summary>
    public static EquatableList<string> Changed(
        EquatableList<string> tags,
        IEnumerable<string> more,
        IEnumerable<string> fewer
    ) => Of(tags.Union(more, Same).Except(fewer, Same));

    /// <summary>The tags that hold now with what was added and taken away between before and after.</summary>
    public static EquatableList<string> Merge(
        EquatableList<string> before,
        EquatableList<string> after,
        EquatableList<string> current
    ) =>
        before.Equals(after) ? current
        : before.Equals(current) ? after
        : Changed(current, after.Except(before, Same), before.Except(after, Same));

    private static EquatableList<string> Of(IEnumerable<string> tags) =>
        new EquatableList<string>(tags) is { Count: > 0 } some ? some : EquatableList<string>.Empty;

    private static string One(string field, string? tag)
    {
        var own = (tag ?? "").Trim();
        if (own.Length is 0 or > 4 * MaxLength || !Graphemes.IsWellFormed(own) || Graphemes.Count(own) > MaxLength)
            throw new InvalidInputException(field, $"A tag has 1 to {MaxLength} characters. Shorten or mend this one.");
        if (own.Any(unit => char.IsControl(unit) || unit is ',' or '"'))
            throw new InvalidInputException(
                field,
                $"The tag “{own}” holds a comma, a quotation mark or a control character. Leave it out."
            );
        return own.Normalize();
    }
}
