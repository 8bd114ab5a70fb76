using DashSprout.Core.Learning;
using DashSprout.Core.Safety;

namespace DashSprout.Core.Tests.Learning;

/// <summary>Open texts that every Debian has (package base-files): licences, in English.</summary>
internal static class OpenWords
{
    private const string Folder = "/usr/share/common-licenses";

    /// <summary>The paragraphs of some licences, one line each.</summary>
    public static IReadOnlyList<string> Paragraphs { get; } = Read();

    /// <summary>What tells words from letters by chance.</summary>
    public static SecretLook Secrets { get; } =
        new(
            LetterPairs.Of(
                new WordList(
                    Paragraphs
                        .SelectMany(line => line.Split(' '))
                        .Where(word => word.All(char.IsLetter) && word.Length > 1)
                        .CountBy(word => word)
                        .Select(pair => (pair.Key, (double)pair.Value))
                )
            )
        );

    private static List<string> Read()
    {
        var paragraphs = new List<string>();
        foreach (var name in (string[])["GPL-3", "GPL-2", "LGPL-2.1", "GFDL-1.3", "MPL-2.0", "Apache-2.0"])
        {
            var path = Path.Combine(Folder, name);
            Assert.True(File.Exists(path), $"{path} is missing: it comes with Debian's package base-files.");
            paragraphs.AddRange(
                File.ReadAllText(path)
                    .ReplaceLineEndings("\n")
                    .Split("\n\n")
                    .Select(text => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)))
                    .Where(text => text.Length > 0)
            );
        }
        return paragraphs;
    }
}
