using DashSprout.Core.Text;

namespace DashSprout.Core.Libraries;

/// <summary>The rule for names of libraries, folders and snippets.</summary>
public static class Names
{
    /// <summary>The longest name, in grapheme clusters.</summary>
    public const int MaxLength = 120;

    /// <summary>The longest name, in UTF-16 units: a grapheme may have many.</summary>
    public const int MaxUnits = 480;

    /// <summary>
    /// A name without white space around it: 1 to <see cref="MaxLength"/> characters, no control characters and no
    /// slash, which separates the parts of a path such as <c>Berth desk/Bookings/Confirmation</c>.
    /// </summary>
    public static string Check(string field, string? name)
    {
        name = (name ?? "").Trim();
        // Looking at each character of a text without end would take without end.
        if (name.Length > 4 * MaxUnits)
            throw new InvalidInputException(
                field,
                $"The name has {name.Length} units; {MaxUnits} are allowed. Shorten it."
            );
        if (!Graphemes.IsWellFormed(name))
            throw new InvalidInputException(
                field,
                "The name holds half of a character (a lone surrogate). Type it anew."
            );
        name = name.Normalize();
        if (name.Length == 0)
            throw new InvalidInputException(field, "The name is empty. Type at least one character.");
        if (Graphemes.Count(name) > MaxLength)
            throw new InvalidInputException(
                field,
                $"The name has {Graphemes.Count(name)} characters; {MaxLength} are allowed. Shorten it."
            );
        if (name.Length > MaxUnits)
            throw new InvalidInputException(
                field,
                $"The name has {name.Length} units ({Graphemes.Count(name)} characters with many marks); "
                    + $"{MaxUnits} are allowed. Shorten it."
            );
        if (name.Any(char.IsControl))
            throw new InvalidInputException(field, "The name contains a control character. Remove it.");
        if (name.Contains('/'))
            throw new InvalidInputException(
                field,
                "A name cannot contain “/”, which separates folders. Use another sign."
            );
        return name;
    }

    /// <summary>Refuses a list in which a name stands twice, whatever its letter case.</summary>
    public static void CheckUnique(string field, string what, IEnumerable<string> names)
    {
        var seen = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var (name, at) in names.Select((name, at) => (name, at)))
            if (!seen.Add(name))
                throw new InvalidInputException(
                    $"{field}[{at}].name",
                    $"A {what} named “{name}” is here already. Choose another name."
                );
    }
}
