using Dapper;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Store.Data;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Items;

/// <summary>Searches the content of snippets through SQLite's trigram index.</summary>
public sealed class SnippetSearch(Database database)
{
    /// <summary>The shortest query that the trigram index can answer.</summary>
    public const int ShortestQuery = 3;

    /// <summary>How many snippets are indexed together with the change that brings them.</summary>
    internal const int AtOnce = 1000;

    private const int MostTrigrams = 40;

    /// <summary>One wrong letter costs a short word up to three of its trigrams, so two in five are enough.</summary>
    private static readonly (int Shared, int Of) LeastShared = (2, 5);

    private const int MostCandidates = 1000;

    /// <summary>
    /// Indexes the snippets that the index has not seen yet: very many that came at once, or all of them after a
    /// program of an older version. It takes its time, some at a time, so that others get to write in between.
    /// </summary>
    public void CatchUp(LibraryTree tree, CancellationToken cancellation)
    {
        List<long> missing;
        using (var connection = database.Open())
            missing =
            [
                .. connection.Query<long>(
                    "SELECT id FROM item WHERE kind = 'snippet' AND id NOT IN (SELECT id FROM snippet_text_docsize)"
                ),
            ];
        foreach (var some in missing.Select(tree.Find).OfType<SnippetItem>().Chunk(AtOnce / 2))
        {
            cancellation.ThrowIfCancellationRequested();
            database.InTransaction(connection =>
            {
                Write(connection, some);
                return true;
            });
        }
    }

    /// <summary>Writes the names and words of snippets.</summary>
    internal static void Write(SqliteConnection connection, IEnumerable<SnippetItem> snippets) =>
        connection.Execute(
            "INSERT OR REPLACE INTO snippet_text (rowid, name, words) VALUES (@Id, @Name, @words)",
            snippets.Select(item => new
            {
                item.Id,
                item.Name,
                words = item.Snippet.Private ? "" : PreviewText.Of(item.Snippet.Body),
            })
        );

    /// <summary>
    /// The snippets that hold all words of a query in their name or content, those in the bin apart; a word that stands
    /// nowhere may be a slip of the finger, so two in five of its trigrams will do.
    /// </summary>
    public IReadOnlyList<SnippetItem> Find(string query, int most, LibraryTree tree)
    {
        var words = query
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Where(word => word.Length >= ShortestQuery)
            .ToList();
        if (words.Count == 0)
            return [];
        using var connection = database.Open();
        var unknown = words.Where(word => Match(Quoted(word), 1).Count == 0).ToList();
        if (unknown.Count == 0)
            return Match(And(words.Select(Quoted)), most);

        var trigrams = unknown.SelectMany(Trigrams).Distinct().ToList();
        var expression = And(
            words.Select(word =>
                unknown.Contains(word) ? $"({string.Join(" OR ", Trigrams(word).Select(Quoted))})" : Quoted(word)
            )
        );
        return
        [
            .. Match(expression, MostCandidates)
                .Select(found => (Item: found, Shared: Shared(found, trigrams)))
                .Where(found => found.Shared * LeastShared.Of >= trigrams.Count * LeastShared.Shared)
                .OrderByDescending(found => found.Shared)
                .Take(most)
                .Select(found => found.Item),
        ];

        // What lies in the bin is in the index too: it is passed over as it comes.
        List<SnippetItem> Match(string expression, int limit) =>
            [
                .. connection
                    .Query<long>(
                        "SELECT rowid FROM snippet_text WHERE snippet_text MATCH @expression",
                        new { expression },
                        buffered: false
                    )
                    .Select(tree.Find)
                    .OfType<SnippetItem>()
                    .Take(limit),
            ];
    }

    private static int Shared(SnippetItem item, IReadOnlyList<string> trigrams)
    {
        var words = item.Snippet.Private ? item.Name : $"{item.Name} {PreviewText.Of(item.Snippet.Body)}";
        return trigrams.Count(trigram => words.Contains(trigram, StringComparison.OrdinalIgnoreCase));
    }

    private static IEnumerable<string> Trigrams(string word) =>
        Enumerable.Range(0, Math.Min(word.Length - 2, MostTrigrams)).Select(at => word.Substring(at, 3)).Distinct();

    private static string And(IEnumerable<string> expressions) => string.Join(" AND ", expressions);

    private static string Quoted(string word) => $"\"{word.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
}
