using System.Globalization;
using System.IO.Compression;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using DashSprout.Core;
using DashSprout.Core.Safety;
using DashSprout.Core.Text;

namespace DashSprout.Exchange.Lists;

/// <summary>A line of a word list that cannot be read, counted from 1.</summary>
public sealed record BrokenLine(int Line, string Why);

/// <summary>Word lists with counts.</summary>
public static class WordListFile
{
    private const int LongestWord = 64,
        LongestField = 10_000;

    /// <summary>The largest count; many of them must add up to a number still.</summary>
    private const double MostCount = 1e15;
    private static readonly Lazy<WordList> Shipped = new(ReadShipped);

    /// <summary>The English list that comes with the program (WordLists/README.md says where it is from).</summary>
    public static WordList English => Shipped.Value;

    /// <summary>
    /// Reads comma-, semicolon- or tab-separated lines (RFC 4180) of a word and its count; a heading is passed over. A
    /// word that comes twice counts for both.
    /// </summary>
    public static (WordList Words, IReadOnlyList<BrokenLine> Broken) ReadCsv(string csv)
    {
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            HasHeaderRecord = false,
            DetectDelimiter = true,
            BadDataFound = null,
            IgnoreBlankLines = true,
            MaxFieldSize = LongestField,
        };
        using var reader = new CsvReader(new StringReader(csv), configuration);
        var counts = new Dictionary<string, double>(StringComparer.Ordinal);
        var broken = new List<BrokenLine>();
        while (ReadRow(reader))
        {
            var line = reader.Context.Parser!.RawRow;
            var fields = reader.Context.Parser.Record ?? [];
            if (line == 1 && fields.Length == 2 && !fields[1].Any(char.IsDigit))
                continue;
            if (Fault(fields, out var word, out var count) is { } why)
                broken.Add(new BrokenLine(line, why));
            else
                counts[word] = counts.GetValueOrDefault(word) + count;
        }
        return (
            new WordList(counts.OrderByDescending(pair => pair.Value).Select(pair => (pair.Key, pair.Value))),
            broken
        );
    }

    /// <summary>Writes a list so that <see cref="ReadCsv"/> reads it again.</summary>
    public static string WriteCsv(WordList list)
    {
        using var text = new StringWriter();
        using (var writer = new CsvWriter(text, CultureInfo.InvariantCulture))
            foreach (var (word, count) in list.Words)
            {
                writer.WriteField(word);
                writer.WriteField(count);
                writer.NextRecord();
            }
        return text.ToString();
    }

    private static string? Fault(string[] fields, out string word, out double count)
    {
        word = fields.Length > 0 ? fields[0].Trim().Normalize() : "";
        count = 0;
        if (fields.Length < 2)
            return "There is no count. Write the word, a comma and how often it is used.";
        if (fields.Length > 2)
            return $"There are {fields.Length} columns. Write only the word and how often it is used.";
        if (word.Length == 0)
            return "There is no word before the count.";
        if (word.Length > LongestWord || word.Any(char.IsWhiteSpace))
            return $"“{Short(word)}” is no single word.";
        return
            double.TryParse(fields[1].Trim(), NumberStyles.Float, CultureInfo.InvariantCulture, out count)
            && count is > 0 and <= MostCount
            ? null
            : $"“{Short(fields[1].Trim())}” is no count. Write a number above "
                + $"0{(count > MostCount ? $", up to {MostCount:0}" : "")}.";
    }

    private static string Short(string text) => Graphemes.Shortened(text, 20);

    private static bool ReadRow(CsvReader reader)
    {
        try
        {
            return reader.Read();
        }
        catch (MaxFieldSizeException)
        {
            throw new InvalidInputException(
                "csv",
                $"From line {reader.Context.Parser!.RawRow} on a quotation mark is open and does not close "
                    + $"within {LongestField:N0} characters. Close it, or take it out."
            );
        }
    }

    private static WordList ReadShipped()
    {
        using var resource = typeof(WordListFile).Assembly.GetManifestResourceStream("english.tsv.br")!;
        using var reader = new StreamReader(new BrotliStream(resource, CompressionMode.Decompress), Encoding.UTF8);
        var words = new List<(string, double)>();
        while (reader.ReadLine() is { } line)
        {
            var tab = line.IndexOf('\t', StringComparison.Ordinal);
            words.Add((line[..tab], double.Parse(line.AsSpan(tab + 1), CultureInfo.InvariantCulture)));
        }
        return new WordList(words);
    }
}
