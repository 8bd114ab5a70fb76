using System.Runtime.CompilerServices;
using DashSprout.Core.Finding;
using DashSprout.Core.Libraries;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using DashSprout.Server.Engine;
using DashSprout.Server.Libraries;
using DashSprout.Store.Items;

namespace DashSprout.Server.Finding;

/// <summary>A snippet that the finder found.</summary>
/// <param name="Uses">How often it went off.</param>
public sealed record Found(
    long SnippetId,
    string Path,
    string Name,
    string Library,
    IReadOnlyList<string> Folders,
    IReadOnlyList<string> Triggers,
    string Preview,
    int Uses
);

internal static class FinderEndpoints
{
    private const int Most = 60;
    private const int PreviewLength = 90;

    /// <summary>Made once for each version of a snippet and gone with it.</summary>
    private static readonly ConditionalWeakTable<SnippetItem, FoldedNames> Names = [];

    public static void MapFinder(this IEndpointRouteBuilder api) =>
        api.MapGet(
            "/finder",
            (string? query, LibraryService libraryService, SnippetSearch search, FiringLog log, TimeProvider clock) =>
                Find((query ?? "").Trim(), libraryService.Tree, search, log, clock.GetUtcNow())
        );

    private static List<Found> Find(
        string query,
        LibraryTree now,
        SnippetSearch search,
        FiringLog log,
        DateTimeOffset at
    )
    {
        var folded = CaseFolding.Fold(query);
        var inContent = search
            .Find(query, Most * 2, now)
            .Select((item, place) => (item.Id, Score: FinderScore.Content - 10.0 * place / (Most * 2)))
            .ToDictionary(found => found.Id, found => found.Score);
        var best = new PriorityQueue<SnippetItem, double>();
        foreach (var snippet in now.Snippets)
        {
            var score =
                folded.Length == 0 ? 1 : Math.Max(OfNames(folded, snippet), inContent.GetValueOrDefault(snippet.Id));
            if (score <= 0)
                continue;
            score += FinderScore.OfUse(log.Weight(snippet.Id, at));
            best.Enqueue(snippet, score);
            if (best.Count > Most)
                best.Dequeue();
        }
        var found = new List<Found>(best.Count);
        while (best.TryDequeue(out var snippet, out _))
            found.Add(Answer(now, snippet, log.Use(snippet.Id)?.Fired ?? 0));
        found.Reverse();
        return found;
    }

    private static double OfNames(string folded, SnippetItem stored)
    {
        var names = Names.GetValue(stored, snippet => new FoldedNames(snippet.Snippet));
        var score = FinderScore.Of(folded, names.Name);
        foreach (var abbreviation in names.Abbreviations)
            score = Math.Max(score, FinderScore.Of(folded, abbreviation));
        return score;
    }

    /// <summary>A snippet's name and abbreviations, ready to be compared.</summary>
    private sealed class FoldedNames(Core.Libraries.Snippet snippet)
    {
        public string Name { get; } = CaseFolding.Fold(snippet.Name);

        public string[] Abbreviations { get; } =
        [.. snippet.Triggers.OfType<Trigger.Abbreviation>().Select(trigger => CaseFolding.Fold(trigger.Text))];
    }

    private static Found Answer(LibraryTree now, SnippetItem stored, int uses)
    {
        var words = stored.Snippet.Preview(now.NameOf).ReplaceLineEndings(" ⏎ ");
        return new Found(
            stored.Id,
            now.PathOf(stored),
            stored.Snippet.Name,
            now.LibraryOf(stored).Name,
            [.. now.FoldersOf(stored).Select(folder => folder.Name)],
            [.. stored.Snippet.Triggers.Select(trigger => trigger.Text)],
            words.Length > PreviewLength ? words[..PreviewLength] + "…" : words,
            uses
        );
    }
}
