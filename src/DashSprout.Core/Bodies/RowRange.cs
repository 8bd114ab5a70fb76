using System.Globalization;

namespace DashSprout.Core.Bodies;

/// <summary>How often a row of a table is repeated: as often as its fields are answered, within these bounds.</summary>
/// <param name="Least">At least once.</param>
/// <param name="Most">At most <see cref="MostRows"/> times.</param>
public sealed record RowRange(int Least, int Most)
{
    /// <summary>The most rows that one row can become.</summary>
    public const int MostRows = 100;

    /// <summary>Reads a range such as <c>1-20</c>.</summary>
    public static RowRange Parse(string field, string source)
    {
        var ends = source.Split('-');
        return
            ends.Length == 2
            && Number(ends[0]) is { } least
            && Number(ends[1]) is { } most
            && least >= 1
            && least <= most
            && most <= MostRows
            ? new RowRange(least, most)
            : throw new InvalidInputException(
                field,
                $"“{source}” is no number of rows. Write the least and the most, such as 1-20; at most "
                    + $"{MostRows} are possible."
            );
    }

    private static int? Number(string text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;

    /// <inheritdoc/>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Least}-{Most}");
}
