using System.Runtime.CompilerServices;
using DashSprout.Core.Bodies;
using DashSprout.Core.Finding;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using DashSprout.Server.Libraries;
using DashSprout.Server.Typing;
using DashSprout.Store;

namespace DashSprout.Server.Finding;

/// <summary>A snippet that the finder found.</summary>
/// <param name="Uses">How often it went off.</param>
public sealed record Found(long SnippetId, string Name, string Library, IReadOnlyList<string> Folders, IReadOnlyList<string> Triggers, string FirstWords, int Uses);

internal static class FinderEndpoints
{
    private const int Most = 60;
    private const int FirstWords = 90;

    /// <summary>Made once for each version of a snippet and gone with it.</summary>
    private static readonly ConditionalWeakTable<StoredSnippet, FoldedNames> Names = [];

    public static void MapFinder(this IEndpointRouteBuilder api) =>
        api.MapGet("/finder", (string? query, Catalog catalog, SnippetSearch search, FiringLog log, TimeProvider clock) =>
            Find((query ?? "").Trim(), catalog.Shelf, search, log, clock.GetUtcNow()));

    private static List<Found> Find(string query, Shelf shelf, SnippetSearch search, FiringLog log, DateTimeOffset now)
    {
        var folded = CaseFolding.Fold(query);
        var inContent = search.Find(query, Most * 2).Select((id, at) => (Id: id, Score: FinderScore.Content - 10.0 * at / (Most * 2))).ToDictionary(found => found.Id, found => found.Score);
        var best = new PriorityQueue<StoredSnippet, double>();
        foreach (var snippet in shelf.Snippets.Values)
        {
            var score = folded.Length == 0 ? 1 : Math.Max(OfNames(folded, snippet), inContent.GetValueOrDefault(snippet.Id));
            if (score <= 0) continue;
            if (log.Use(snippet.Id) is { } use) score += FinderScore.OfUse(use.Fired, now - use.LastAt);
            best.Enqueue(snippet, score);
            if (best.Count > Most) best.Dequeue();
        }
        var found = new List<Found>(best.Count);
        while (best.TryDequeue(out var snippet, out _)) found.Add(Answer(shelf, snippet, log.Use(snippet.Id)?.Fired ?? 0));
        found.Reverse();
        return found;
    }

    private static double OfNames(string folded, StoredSnippet stored)
    {
        var names = Names.GetValue(stored, snippet => new FoldedNames(snippet.Snippet));
        var score = FinderScore.Of(folded, names.Name);
        foreach (var abbreviation in names.Abbreviations) score = Math.Max(score, FinderScore.Of(folded, abbreviation));
        return score;
    }

    /// <summary>A snippet's name and abbreviations, ready to be compared.</summary>
    private sealed class FoldedNames(Core.Libraries.Snippet snippet)
    {
        public string Name { get; } = CaseFolding.Fold(snippet.Name);

        public string[] Abbreviations { get; } = [.. snippet.Triggers.OfType<Trigger.Abbreviation>().Select(trigger => CaseFolding.Fold(trigger.Text))];
    }

    private static Found Answer(Shelf shelf, StoredSnippet stored, int uses)
    {
        var words = Sketch.Of(stored.Snippet.Body).ReplaceLineEndings(" ⏎ ");
        return new Found(stored.Id, stored.Snippet.Name, shelf.Library(stored.Place.LibraryId).Name, shelf.PathOf(stored.Place),
            [.. stored.Snippet.Triggers.Select(trigger => trigger.Text)], words.Length > FirstWords ? words[..FirstWords] + "…" : words, uses);
    }
}
