using System.Text;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Server.Behind;
using DashSprout.Server.Libraries;

namespace DashSprout.Server.Keyboard;

/// <summary>
/// The characters that snippets use beyond ASCII, most used first: the link lends spare keys to those that the layout
/// lacks. Counted behind, so that no edit makes whoever types wait.
/// </summary>
internal sealed class RareCharacters : IWorksBehind
{
    /// <summary>More than there are spare keys.</summary>
    private const int Most = 64;

    private volatile IReadOnlyList<int> now = [];

    public RareCharacters(Catalog catalog)
    {
        var work = new WorkBehind(
            "Characters for the keyboard link",
            "Counts the characters that snippets use and layouts may lack.",
            null,
            _ =>
            {
                Count(catalog.Catalogue);
                return Task.CompletedTask;
            }
        )
        {
            Settling = TimeSpan.FromSeconds(1),
        };
        catalog.Changed += work.Ask;
        Works = [work];
    }

    public IEnumerable<WorkBehind> Works { get; }

    /// <summary>The characters as they were counted last.</summary>
    public IReadOnlyList<int> Now => now;

    /// <summary>Told when they are others than before.</summary>
    public event Action? Changed;

    private void Count(Catalogue catalogue)
    {
        int[] counted =
        [
            .. catalogue
                .Snippets.SelectMany(item => item.Snippet.Bodies)
                .Where(MayHaveSome)
                .SelectMany(body =>
                    Sketch.Of(body).EnumerateRunes().Where(rune => !rune.IsAscii).Select(rune => rune.Value).Distinct()
                )
                .CountBy(point => point)
                .OrderByDescending(pair => pair.Value)
                .Select(pair => pair.Key)
                .Take(Most),
        ];
        if (counted.SequenceEqual(now))
            return;
        now = counted;
        Changed?.Invoke();
    }

    /// <summary>Most bodies are ASCII through and through; a character may also be written by its name.</summary>
    private static bool MayHaveSome(Body body) =>
        !Ascii.IsValid(body.Source) || body.Source.Contains('&', StringComparison.Ordinal);
}
