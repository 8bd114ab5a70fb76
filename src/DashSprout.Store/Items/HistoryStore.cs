using Dapper;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Store.Data;
using DashSprout.Store.Files;

namespace DashSprout.Store.Items;

/// <summary>An earlier state of a snippet, or the present one.</summary>
public sealed record SnippetVersion(int Version, DateTimeOffset SavedAt, Snippet Snippet);

/// <summary>Something in the bin.</summary>
/// <param name="Where">The path of what it lay in.</param>
/// <param name="Snippets">How many snippets it holds or is.</param>
/// <param name="DaysLeft">On how many more days the program is used before it is gone for good.</param>
public sealed record BinnedItem(
    long Id,
    ItemKind Kind,
    string Name,
    string Where,
    DateTimeOffset DeletedAt,
    int Snippets,
    int DaysLeft
);

/// <summary>
/// Earlier versions of snippets, and the bin. Both let go of what is old, and age is counted in days on which the
/// program was used: a clock that is far ahead once makes nothing old.
/// </summary>
public sealed class HistoryStore(Database database)
{
    /// <summary>For how many days of use the bin keeps things.</summary>
    public const int DaysInBin = 30;

    /// <summary>For how many days of use every version is kept; then the last of each day.</summary>
    public const int DaysOfEveryVersion = 2;

    /// <summary>
    /// For how many days of use the last version of each day is kept; then the last of each month, for good.
    /// </summary>
    public const int DaysOfDailyVersions = 30;

    /// <summary>The versions of a snippet, the latest first.</summary>
    public IReadOnlyList<SnippetVersion> Versions(long id)
    {
        using var connection = database.Open();
        return
        [
            .. connection
                .Query<(long Version, string SavedAt, string Document)>(
                    """
                    SELECT version, saved_at, document FROM item WHERE id = @id AND kind = 'snippet'
                    UNION ALL SELECT version, saved_at, document FROM snippet_version WHERE item_id = @id
                    ORDER BY version DESC
                    """,
                    new { id }
                )
                .Select(row => new SnippetVersion(
                    (int)row.Version,
                    Moment.Read(row.SavedAt),
                    ItemCodec.ReadSnippet(database.Vault.Open(row.Document))
                )),
        ];
    }

    /// <summary>What lies in the bin, the latest first.</summary>
    public IReadOnlyList<BinnedItem> Bin()
    {
        using var connection = database.Open();
        return
        [
            .. connection
                .Query<(long Id, string Kind, string Name, string Where, string DeletedAt, long Snippets, long Age)>(
                    """
                    WITH RECURSIVE
                        root AS (SELECT * FROM item WHERE deleted_at IS NOT NULL),
                        above (root_id, id, parent_id, name, height) AS (
                            SELECT root.id, parent.id, parent.parent_id, parent.document ->> '$.name', 1
                              FROM root JOIN item parent ON parent.id = root.parent_id
                            UNION ALL SELECT above.root_id, parent.id, parent.parent_id, parent.document ->> '$.name', height + 1
                            FROM above JOIN item parent ON parent.id = above.parent_id WHERE height < 20),
                        inside (root_id, id, kind) AS (
                            SELECT id, id, kind FROM root
                            UNION ALL SELECT inside.root_id, item.id, item.kind
                              FROM inside JOIN item ON item.parent_id = inside.id
                              WHERE item.deleted_at IS NULL)
                    SELECT root.id, root.kind, coalesce(root.document ->> '$.name', ''),
                        coalesce((SELECT group_concat(name, ' › ') FROM (SELECT name FROM above WHERE root_id = root.id ORDER BY height DESC)), ''),
                        root.deleted_at, (SELECT count(*) FROM inside WHERE root_id = root.id AND kind = 'snippet'),
                        (SELECT count(*) FROM day_of_use WHERE day > substr(root.deleted_at, 1, 10))
                    FROM root ORDER BY root.deleted_at DESC, root.id DESC
                    """
                )
                .Select(row => new BinnedItem(
                    row.Id,
                    Wording.Parse<ItemKind>("kind", row.Kind),
                    row.Name,
                    row.Where,
                    Moment.Read(row.DeletedAt),
                    (int)row.Snippets,
                    Math.Max(0, DaysInBin - (int)row.Age)
                )),
        ];
    }

    /// <summary>
    /// Notes that the program is used today, and lets go of what is old; to be called at the start and once a day.
    /// </summary>
    public void Tidy(DateTimeOffset now) =>
        database.InTransaction(connection =>
            connection.Execute(
                """
                INSERT OR IGNORE INTO day_of_use (day) VALUES (@today);

                DELETE FROM snippet_text WHERE rowid IN (
                    WITH RECURSIVE gone (id) AS (
                        SELECT id FROM item WHERE deleted_at IS NOT NULL
                          AND (SELECT count(*) FROM day_of_use WHERE day > substr(deleted_at, 1, 10)) > @DaysInBin
                        UNION SELECT item.id FROM item JOIN gone ON item.parent_id = gone.id)
                    SELECT id FROM gone);

                DELETE FROM item WHERE deleted_at IS NOT NULL AND (SELECT count(*) FROM day_of_use WHERE day > substr(deleted_at, 1, 10)) > @DaysInBin;

                DELETE FROM snippet_version WHERE rowid IN (SELECT old FROM (
                    SELECT rowid AS old,
                        row_number() OVER (PARTITION BY item_id, substr(saved_at, 1, 10) ORDER BY version DESC) AS in_day,
                        row_number() OVER (PARTITION BY item_id, substr(saved_at, 1, 7) ORDER BY version DESC) AS in_month,
                        (SELECT count(*) FROM day_of_use WHERE day > substr(saved_at, 1, 10)) AS age
                    FROM snippet_version)
                    WHERE (age > @DaysOfEveryVersion AND in_day > 1) OR (age > @DaysOfDailyVersions AND in_month > 1));
                """,
                new
                {
                    today = Moment.Text(now)[..10],
                    DaysInBin,
                    DaysOfEveryVersion,
                    DaysOfDailyVersions,
                }
            )
        );

    /// <summary>
    /// Lets go of something in the bin for good; throws <see cref="MissingItemException"/> when it is not there.
    /// </summary>
    public void Discard(long id) =>
        database.InTransaction(connection =>
        {
            connection.Execute(
                """
                DELETE FROM snippet_text WHERE rowid IN (
                    WITH RECURSIVE gone (id) AS (
                        SELECT id FROM item WHERE id = @id AND deleted_at IS NOT NULL UNION SELECT item.id FROM item JOIN gone ON item.parent_id = gone.id)
                    SELECT id FROM gone)
                """,
                new { id }
            );
            return connection.Execute("DELETE FROM item WHERE id = @id AND deleted_at IS NOT NULL", new { id }) == 0
                ? throw new MissingItemException(id, "item in the bin")
                : id;
        });
}
