using System.Buffers;
using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace DashSprout.Exchange.Files;

/// <summary>A record of a table.</summary>
/// <param name="Line">The line it begins at, from 1.</param>
/// <param name="Problem">Why it cannot be read; null when it can.</param>
public sealed record DelimitedRow(int Line, IReadOnlyList<string> Cells, string? Problem);

/// <summary>
/// Tables as text (RFC 4180), also with another separator. A cell that a spreadsheet would take for a formula has an
/// apostrophe in front of it, which is taken off again when it is read.
/// </summary>
public static class DelimitedText
{
    /// <summary>The separators that are known; texts have the later ones more often.</summary>
    public static IReadOnlyList<char> Separators { get; } = ['\t', ';', '|', ','];

    private const int LookedAt = 40;

    private static readonly SearchValues<char> Quoted = SearchValues.Create(",;\"\r\n\t");

    /// <summary>
    /// The separator of a table: the one that divides its first records into the most cells, each record into as many,
    /// with the fewest empty ones.
    /// </summary>
    public static char SeparatorOf(string text)
    {
        var head = text.Length > 64 * 1024 ? text[..(64 * 1024)] : text;
        return Separators.MaxBy(separator =>
        {
            var records = Read(head, separator).Take(LookedAt).Select(row => row.Cells).ToList();
            var counts = records.ConvertAll(cells => cells.Count);
            var full = records.SelectMany(cells => cells).Average(cell => cell.Length > 0 ? (double?)1 : 0) ?? 0;
            var most = counts
                .GroupBy(count => count)
                .OrderByDescending(group => group.Count())
                .ThenByDescending(group => group.Key)
                .FirstOrDefault();
            return most is null || most.Key < 2
                ? 0
                : (double)most.Count() / counts.Count * 100 + Math.Min(most.Key, 30) + full;
        });
    }

    /// <summary>The records of a table; those without anything in them are left out.</summary>
    public static IEnumerable<DelimitedRow> Read(string text, char separator)
    {
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            HasHeaderRecord = false,
            Delimiter = separator.ToString(),
            BadDataFound = null,
            IgnoreBlankLines = true,
            TrimOptions = TrimOptions.None,
        };
        using var parser = new CsvParser(new StringReader(text), configuration);
        while (parser.Read())
        {
            var raw = parser.RawRecord.AsSpan().TrimEnd('\n');
            var start = parser.RawRow - raw.Count('\n');
            var cells = (parser.Record ?? []).Select(Unescaped).ToList();
            if (cells.All(string.IsNullOrWhiteSpace))
                continue;
            yield return new DelimitedRow(
                start,
                cells,
                raw.Count('"') % 2 == 1 && cells.Exists(cell => cell.Contains('\n'))
                    ? "A quotation mark is opened and not closed. Close it, or double those that are meant as signs."
                    : null
            );
        }
    }

    /// <summary>Writes a table with commas.</summary>
    public static string Write(IEnumerable<IReadOnlyList<string>> rows)
    {
        var text = new StringBuilder();
        foreach (var row in rows)
            text.AppendJoin(',', row.Select(Written)).Append("\r\n");
        return text.ToString();
    }

    private static string Written(string cell)
    {
        var safe = IsFormula(cell) ? "'" + cell : cell;
        return safe.AsSpan().IndexOfAny(Quoted) >= 0 || safe.StartsWith(' ') || safe.EndsWith(' ')
            ? $"\"{safe.Replace("\"", "\"\"", StringComparison.Ordinal)}\""
            : safe;
    }

    private static string Unescaped(string cell) => cell.StartsWith('\'') && IsFormula(cell[1..]) ? cell[1..] : cell;

    private static bool IsFormula(string cell) =>
        cell.AsSpan().TrimStart('\'') is [var first, ..] && first is ('=' or '+' or '-' or '@' or '\t' or '\r');
}
