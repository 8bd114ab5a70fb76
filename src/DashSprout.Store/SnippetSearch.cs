using Dapper;
using DashSprout.Core.Bodies;

namespace DashSprout.Store;

/// <summary>Searches the content of snippets through SQLite's trigram index.</summary>
public sealed class SnippetSearch(Database database)
{
    /// <summary>The shortest query that the trigram index can answer.</summary>
    public const int ShortestQuery = 3;

    private const int MostTrigrams = 40;
    private const int MostCandidates = 300;

    /// <summary>Fills in the words of snippets that were stored before there was a finder.</summary>
    public void Open() => database.InTransaction(connection =>
    {
        var rows = connection.Query<(long Id, string Kind, string Body)>("SELECT id, body_kind, body FROM snippet WHERE words IS NULL").ToList();
        foreach (var (id, kind, body) in rows)
            connection.Execute("UPDATE snippet SET words = @words WHERE id = @id",
                new { id, words = Sketch.Of(kind == "html" ? new Body.Html(body) : new Body.Plain(body)) });
        return rows.Count;
    });

    /// <summary>Ids of the snippets that hold all words of a query in their name or content, the best first; when none does, those with at least half of its trigrams.</summary>
    public IReadOnlyList<long> Find(string query, int most)
    {
        var words = query.Split(' ', StringSplitOptions.RemoveEmptyEntries).Where(word => word.Length >= ShortestQuery).ToList();
        if (words.Count == 0) return [];
        using var connection = database.Open();
        var exact = Match(string.Join(" AND ", words.Select(Quoted)), most);
        if (exact.Count > 0) return [.. exact.Select(found => found.Id)];
        var trigrams = words.SelectMany(word => Enumerable.Range(0, word.Length - 2).Select(at => word.Substring(at, 3))).Distinct().Take(MostTrigrams).ToList();
        return
        [
            .. Match(string.Join(" OR ", trigrams.Select(Quoted)), MostCandidates)
                .Select(found => (found.Id, Shared: trigrams.Count(trigram => found.Words.Contains(trigram, StringComparison.OrdinalIgnoreCase))))
                .Where(found => found.Shared * 2 >= trigrams.Count).OrderByDescending(found => found.Shared).Take(most).Select(found => found.Id),
        ];

        List<(long Id, string Words)> Match(string expression, int limit) => [.. connection.Query<(long, string)>("""
            SELECT snippet.id, snippet.name || ' ' || coalesce(snippet.words, '') FROM snippet_text JOIN snippet ON snippet.id = snippet_text.rowid
            WHERE snippet_text MATCH @expression AND snippet.deleted_at IS NULL ORDER BY snippet_text.rank LIMIT @limit
            """, new { expression, limit })];
    }

    private static string Quoted(string word) => $"\"{word.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
}
