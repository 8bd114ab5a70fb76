using Dapper;
using DashSprout.Core.Finding;
using DashSprout.Store.Data;

namespace DashSprout.Store.Features;

/// <summary>
/// An overlap that the user wants to hear no more of; no winning snippet (0) for a chord that something outside owns.
/// </summary>
public sealed record IgnoredOverlap(
    string Kind,
    long WinnerSnippetId,
    string WinnerTrigger,
    long LoserSnippetId,
    string LoserTrigger
);

/// <summary>How often a trigger went off, and how often that was taken back.</summary>
public sealed record FiringRecord(long SnippetId, string TriggerText, int Fired, int TakenBack, DateTimeOffset LastAt);

/// <summary>A word list the user loaded.</summary>
public sealed record StoredWordList(long Id, string Name, long Words);

/// <summary>What the user decided and did about overlaps and misfires, and their own word lists.</summary>
public sealed class SafetyStore(Database database)
{
    /// <summary>The overlaps that are ignored.</summary>
    public IReadOnlySet<IgnoredOverlap> Ignored()
    {
        using var connection = database.Open();
        return connection
            .Query<IgnoredOverlap>(
                """
                SELECT kind, winner_snippet_id AS WinnerSnippetId, winner_trigger AS WinnerTrigger,
                  loser_snippet_id AS LoserSnippetId, loser_trigger AS LoserTrigger
                FROM ignored_overlap
                """
            )
            .ToHashSet();
    }

    /// <summary>Ignores an overlap, or takes it up again.</summary>
    public void Ignore(IgnoredOverlap overlap, bool ignored)
    {
        using var connection = database.Open();
        connection.Execute(
            ignored
                ? "INSERT OR IGNORE INTO ignored_overlap VALUES (@Kind, @WinnerSnippetId, @WinnerTrigger, "
                    + "@LoserSnippetId, @LoserTrigger)"
                : """
                DELETE FROM ignored_overlap WHERE kind = @Kind AND winner_snippet_id = @WinnerSnippetId AND winner_trigger = @WinnerTrigger
                    AND loser_snippet_id = @LoserSnippetId AND loser_trigger = @LoserTrigger
                """,
            overlap
        );
    }

    /// <summary>Counts firings; a snippet that was deleted meanwhile is passed over.</summary>
    public void Count(IEnumerable<FiringRecord> counts) =>
        database.InTransaction(connection =>
            connection.Execute(
                """
                INSERT INTO firing_record (snippet_id, trigger_text, fired, taken_back, last_at, weight)
                SELECT @SnippetId, @TriggerText, @Fired, @TakenBack, @lastAt, @Fired WHERE EXISTS (SELECT 1 FROM item WHERE id = @SnippetId)
                ON CONFLICT (snippet_id, trigger_text) DO UPDATE SET
                    fired = fired + excluded.fired, taken_back = taken_back + excluded.taken_back, last_at = excluded.last_at,
                    -- A use counts half as much after a week, as the finder reckons.
                    weight = weight * pow(0.5, max(0, julianday(excluded.last_at) - julianday(last_at)) / 7.0) + excluded.fired
                """,
                counts.Select(count => new
                {
                    count.SnippetId,
                    count.TriggerText,
                    count.Fired,
                    count.TakenBack,
                    lastAt = count.LastAt.ToString("O"),
                })
            )
        );

    /// <summary>The records of triggers that were taken back at least once, the most often first.</summary>
    public IReadOnlyList<FiringRecord> TakenBack()
    {
        using var connection = database.Open();
        return
        [
            .. connection
                .Query<(long SnippetId, string TriggerText, long Fired, long TakenBack, string LastAt)>(
                    """
                    SELECT snippet_id, trigger_text, fired, taken_back, last_at FROM firing_record WHERE taken_back > 0 ORDER BY taken_back DESC, snippet_id
                    """
                )
                .Select(row => new FiringRecord(
                    row.SnippetId,
                    row.TriggerText,
                    (int)row.Fired,
                    (int)row.TakenBack,
                    DateTimeOffset.Parse(row.LastAt, System.Globalization.CultureInfo.InvariantCulture)
                )),
        ];
    }

    /// <summary>How often each snippet went off, and how much that counts.</summary>
    public IReadOnlyList<(long SnippetId, int Fired, FadingUse Use)> Uses()
    {
        using var connection = database.Open();
        return
        [
            .. connection
                .Query<(long SnippetId, long Fired, string LastAt, double Weight)>(
                    "SELECT snippet_id, fired, last_at, weight FROM firing_record ORDER BY snippet_id"
                )
                .GroupBy(row => row.SnippetId)
                .Select(rows =>
                    (
                        rows.Key,
                        (int)rows.Sum(row => row.Fired),
                        rows.Select(row => new FadingUse(
                                row.Weight,
                                DateTimeOffset.Parse(row.LastAt, System.Globalization.CultureInfo.InvariantCulture)
                            ))
                            .Aggregate((one, other) => one + other)
                    )
                ),
        ];
    }

    /// <summary>
    /// Whether a snippet may open something without asking: it was made here, or the user has confirmed it once.
    /// </summary>
    public bool MayOpen(long snippetId, string target)
    {
        using var connection = database.Open();
        return connection.ExecuteScalar<bool>(
            """
            SELECT NOT EXISTS (SELECT 1 FROM item WHERE id = @snippetId AND from_file)
                OR EXISTS (SELECT 1 FROM confirmed_target WHERE snippet_id = @snippetId AND target = @target)
            """,
            new { snippetId, target }
        );
    }

    /// <summary>Remembers that a snippet may open something.</summary>
    public void ConfirmOpen(long snippetId, string target)
    {
        using var connection = database.Open();
        connection.Execute(
            "INSERT OR IGNORE INTO confirmed_target VALUES (@snippetId, @target)",
            new { snippetId, target }
        );
    }

    /// <summary>Forgets the record of a trigger.</summary>
    public void Forget(long snippetId, string triggerText)
    {
        using var connection = database.Open();
        connection.Execute(
            "DELETE FROM firing_record WHERE snippet_id = @snippetId AND trigger_text = @triggerText",
            new { snippetId, triggerText }
        );
    }

    /// <summary>The user's word lists.</summary>
    public IReadOnlyList<StoredWordList> WordLists()
    {
        using var connection = database.Open();
        return [.. connection.Query<StoredWordList>("SELECT id, name, words FROM word_list ORDER BY name, id")];
    }

    /// <summary>A word list's CSV text; null when there is no such list.</summary>
    public string? WordListCsv(long id)
    {
        using var connection = database.Open();
        return connection.QuerySingleOrDefault<string>("SELECT csv FROM word_list WHERE id = @id", new { id });
    }

    /// <summary>Keeps a word list.</summary>
    public long AddWordList(string name, int words, string csv)
    {
        using var connection = database.Open();
        return connection.ExecuteScalar<long>(
            "INSERT INTO word_list (name, words, csv) VALUES (@name, @words, @csv) RETURNING id",
            new
            {
                name,
                words,
                csv,
            }
        );
    }

    /// <summary>Removes a word list.</summary>
    public void RemoveWordList(long id)
    {
        using var connection = database.Open();
        connection.Execute("DELETE FROM word_list WHERE id = @id", new { id });
    }
}
