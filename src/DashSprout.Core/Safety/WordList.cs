using DashSprout.Core.Text;

namespace DashSprout.Core.Safety;

/// <summary>Words of a language with how often each is used.</summary>
public sealed class WordList
{
    private readonly double total;
    private readonly Lazy<string[]> folded;

    /// <summary>Makes a list; counts must be positive.</summary>
    public WordList(IEnumerable<(string Word, double Count)> words)
    {
        Words = [.. words];
        folded = new(() => [.. Words.Select(word => CaseFolding.Fold(word.Word))]);
        total = Words.Sum(word => word.Count);
    }

    /// <summary>The words with their counts.</summary>
    public IReadOnlyList<(string Word, double Count)> Words { get; }

    /// <summary>The words as the engine compares them, in the same order.</summary>
    internal IReadOnlyList<string> Folded => folded.Value;

    /// <summary>How often a count stands for, in 10 000 words.</summary>
    public double Per10kWords(double count) => total == 0 ? 0 : count * 10_000 / total;
}
