using Dapper;
using DashSprout.Core.Bodies;

namespace DashSprout.Store;

/// <summary>Searches the content of snippets through SQLite's trigram index.</summary>
public sealed class SnippetSearch(Database database)
{
    /// <summary>The shortest query that the trigram index can answer.</summary>
    public const int ShortestQuery = 3;

    private const int MostTrigrams = 40;

    /// <summary>One wrong letter costs a short word up to three of its trigrams, so two in five are enough.</summary>
    private static readonly (int Shared, int Of) LeastShared = (2, 5);

    private const int MostCandidates = 1000;

    /// <summary>Fills in the words of snippets that were stored before there was a finder.</summary>
    public void Open() => database.InTransaction(connection =>
    {
        var rows = connection.Query<(long Id, string Kind, string Body)>("SELECT id, body_kind, body FROM snippet WHERE words IS NULL").ToList();
        foreach (var (id, kind, body) in rows)
            connection.Execute("UPDATE snippet SET words = @words WHERE id = @id",
                new { id, words = Sketch.Of(kind == "html" ? new Body.Html(body) : new Body.Plain(body)) });
        return rows.Count;
    });

    /// <summary>
    /// Ids of the snippets that hold all words of a query in their name or content; a word that stands nowhere may be a slip of the finger, so two in five of its
    /// trigrams will do. Of very many, only some are found: a longer query finds fewer.
    /// </summary>
    public IReadOnlyList<long> Find(string query, int most)
    {
        var words = query.Split(' ', StringSplitOptions.RemoveEmptyEntries).Where(word => word.Length >= ShortestQuery).ToList();
        if (words.Count == 0) return [];
        using var connection = database.Open();
        var unknown = words.Where(word => Match(Quoted(word), 1).Count == 0).ToList();
        if (unknown.Count == 0) return [.. Match(And(words.Select(Quoted)), most).Select(found => found.Id)];

        var trigrams = unknown.SelectMany(Trigrams).Distinct().ToList();
        var expression = And(words.Select(word => unknown.Contains(word) ? $"({string.Join(" OR ", Trigrams(word).Select(Quoted))})" : Quoted(word)));
        return
        [
            .. Match(expression, MostCandidates)
                .Select(found => (found.Id, Shared: trigrams.Count(trigram => found.Words.Contains(trigram, StringComparison.OrdinalIgnoreCase))))
                .Where(found => found.Shared * LeastShared.Of >= trigrams.Count * LeastShared.Shared).OrderByDescending(found => found.Shared).Take(most).Select(found => found.Id),
        ];

        List<(long Id, string Words)> Match(string expression, int limit) => [.. connection.Query<(long, string)>("""
            SELECT snippet.id, snippet.name || ' ' || coalesce(snippet.words, '') FROM snippet_text JOIN snippet ON snippet.id = snippet_text.rowid
            WHERE snippet_text MATCH @expression AND snippet.deleted_at IS NULL LIMIT @limit
            """, new { expression, limit })];
    }

    private static IEnumerable<string> Trigrams(string word) => Enumerable.Range(0, Math.Min(word.Length - 2, MostTrigrams)).Select(at => word.Substring(at, 3)).Distinct();

    private static string And(IEnumerable<string> expressions) => string.Join(" AND ", expressions);

    private static string Quoted(string word) => $"\"{word.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
}
