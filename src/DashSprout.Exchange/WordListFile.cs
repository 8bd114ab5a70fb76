using System.IO.Compression;
using System.Text;
using DashSprout.Core.Safety;

namespace DashSprout.Exchange;

/// <summary>Word lists with counts.</summary>
public static class WordListFile
{
    private static readonly Lazy<WordList> Shipped = new(ReadShipped);

    /// <summary>The English list that comes with the program (WordLists/README.md says where it is from).</summary>
    public static WordList English => Shipped.Value;

    private static WordList ReadShipped()
    {
        using var resource = typeof(WordListFile).Assembly.GetManifestResourceStream("english.tsv.br")!;
        using var reader = new StreamReader(new BrotliStream(resource, CompressionMode.Decompress), Encoding.UTF8);
        var words = new List<(string, double)>();
        while (reader.ReadLine() is { } line)
        {
            var tab = line.IndexOf('\t', StringComparison.Ordinal);
            words.Add((line[..tab], double.Parse(line.AsSpan(tab + 1), System.Globalization.CultureInfo.InvariantCulture)));
        }
        return new WordList(words);
    }
}
