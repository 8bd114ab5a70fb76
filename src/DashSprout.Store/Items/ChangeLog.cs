using System.Text.Json;
using Dapper;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Store.Data;
using DashSprout.Store.Files;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Items;

/// <summary>A change in the list of the last ones.</summary>
/// <param name="Backup">The backup that undoing brings back, for a restored backup; null for all other changes.</param>
/// <param name="Undone">Whether it is undone at the moment.</param>
public sealed record LoggedChange(long Id, DateTimeOffset At, string What, bool Undone, string? Backup);

/// <summary>What is written in one transaction with a change: both are on disk, or neither.</summary>
public sealed class Alongside
{
    internal Alongside(Action<SqliteConnection> write) => Write = write;

    internal Action<SqliteConnection> Write { get; }
}

/// <summary>
/// Makes changes and remembers the last of them, in one transaction: a change is on disk together with what undoes it,
/// or not at all.
/// </summary>
public sealed class ChangeLog(Database database)
{
    /// <summary>How many changes are remembered.</summary>
    public const int Most = 100;

    /// <summary>
    /// Changes of the same kind of one snippet in a row are one, when no more time lies between them.
    /// </summary>
    private static readonly TimeSpan OneGo = TimeSpan.FromSeconds(20);

    /// <summary>Writes a new change.</summary>
    /// <param name="alongside">What is written in the same transaction.</param>
    public void Make(Change change, bool fromFile, DateTimeOffset now, Alongside? alongside = null)
    {
        Written(change, fromFile, now, alongside);
        Cover(change);
    }

    /// <summary>Writes what would have been written together with a change, where there is none.</summary>
    public void Make(Alongside alongside) =>
        database.InTransaction(connection =>
        {
            alongside.Write(connection);
            return true;
        });

    private void Written(Change change, bool fromFile, DateTimeOffset now, Alongside? alongside) =>
        database.InTransaction(connection =>
        {
            database.Ids.Given(change.Items.Select(item => item.HighestId).DefaultIfEmpty(0).Max() + 1);
            ItemStore.Write(connection, database.Vault, change, fromFile, now);
            var last = connection.QuerySingleOrDefault<ChangeRow>(
                "SELECT id, made_at AS MadeAt, what, items, backup, undone FROM change ORDER BY id DESC LIMIT 1"
            );
            if (
                last is { Undone: null, Backup: null }
                && last.What == change.What
                && now - Moment.Read(last.MadeAt) < OneGo
                && Joined(database.Vault, last.Items, change) is { } joined
            )
                connection.Execute(
                    "UPDATE change SET items = @joined, made_at = @at WHERE id = @Id",
                    new
                    {
                        joined,
                        at = Moment.Text(now),
                        last.Id,
                    }
                );
            else
                Insert(connection, change.What, Written(database.Vault, change), null, now);
            alongside?.Write(connection);
            return true;
        });

    /// <summary>Writes the undoing of a change, or that it is done again.</summary>
    public void SetUndone(long id, Change change, bool undone, DateTimeOffset now)
    {
        Mark(id, change, undone, now);
        Cover(change);
    }

    /// <summary>What has become private leaves the write-ahead log at once.</summary>
    private void Cover(Change change)
    {
        if (
            change.Items.Any(item =>
                item is { Before: SnippetItem { Snippet.Private: false }, After: SnippetItem { Snippet.Private: true } }
            )
        )
            database.EmptyLog();
    }

    private void Mark(long id, Change change, bool undone, DateTimeOffset now) =>
        database.InTransaction(connection =>
        {
            ItemStore.Write(connection, database.Vault, change, fromFile: false, now);
            // Counted on with the changes, so that it is known what came later.
            connection.Execute(
                """
                UPDATE change SET undone =
                  CASE WHEN @undone THEN max((SELECT max(id) FROM change), (SELECT coalesce(max(undone), 0) FROM change)) + 1 END
                  WHERE id = @id;
                """,
                new { id, undone }
            );
            return true;
        });

    /// <summary>Remembers in a file that is to be restored that it was.</summary>
    /// <param name="before">The backup that was made before, which undoing brings back.</param>
    public static void Restored(SqliteConnection connection, string what, string before, DateTimeOffset now) =>
        Insert(connection, what, "[]", before, now);

    /// <summary>The last changes, the latest first.</summary>
    public IReadOnlyList<LoggedChange> Last()
    {
        using var connection = database.Open();
        return
        [
            .. connection
                .Query<ChangeRow>("SELECT id, made_at AS MadeAt, what, backup, undone FROM change ORDER BY id DESC")
                .Select(row => row.ToLogged()),
        ];
    }

    /// <summary>The change to undo next: the latest that is not undone; null when there is none.</summary>
    public LoggedChange? NextToUndo() => Last().FirstOrDefault(change => !change.Undone);

    /// <summary>
    /// The change to do again next: what was undone last, unless something else was done since; null when there is
    /// none.
    /// </summary>
    public LoggedChange? NextToRedo()
    {
        using var connection = database.Open();
        return connection
            .QuerySingleOrDefault<ChangeRow>(
                """
                SELECT id, made_at AS MadeAt, what, backup, undone FROM change
                WHERE undone > (SELECT coalesce(max(id), 0) FROM change WHERE undone IS NULL) ORDER BY undone DESC LIMIT 1
                """
            )
            ?.ToLogged();
    }

    /// <summary>
    /// What a change did; throws <see cref="MissingItemException"/> when it is not remembered any more.
    /// </summary>
    public (LoggedChange Logged, Change Change) Find(long id)
    {
        using var connection = database.Open();
        var row = connection.QuerySingleOrDefault<ChangeRow>(
            "SELECT id, made_at AS MadeAt, what, items, backup, undone FROM change WHERE id = @id",
            new { id }
        ) ?? throw new MissingItemException(id, "change");
        return (
            row.ToLogged(),
            new Change(
                row.What,
                JsonSerializer.Deserialize<ItemEntry[]>(row.Items)!.Select(entry => entry.ToChange(database.Vault))
            )
        );
    }

    private static void Insert(
        SqliteConnection connection,
        string what,
        string items,
        string? backup,
        DateTimeOffset now
    )
    {
        // After the ids of what is undone as well: both are counted together.
        connection.Execute(
            """
            INSERT INTO change (id, made_at, what, items, backup)
            VALUES ((SELECT max(coalesce(max(id), 0), coalesce(max(undone), 0)) + 1 FROM change), @at, @what, @items, @backup);
            DELETE FROM change WHERE id NOT IN (SELECT id FROM change ORDER BY id DESC LIMIT @Most);
            """,
            new
            {
                at = Moment.Text(now),
                what,
                items,
                backup,
                Most,
            }
        );
    }

    private static string Written(Vault vault, Change change) =>
        JsonSerializer.Serialize(change.Items.Select(item => ItemEntry.Of(vault, item)));

    /// <summary>Two changes of one snippet's content as one; null when they are something else.</summary>
    private static string? Joined(Vault vault, string earlier, Change later)
    {
        if (later.Items is not [{ Before: SnippetItem before, After: SnippetItem after }] || before.Slot != after.Slot)
            return null;
        if (
            JsonSerializer.Deserialize<ItemEntry[]>(earlier) is not [{ Before: not null, After: not null } entry]
            || entry.Id != after.Id
        )
            return null;
        return JsonSerializer.Serialize<ItemEntry[]>([
            entry with
            {
                After = ItemEntry.Of(vault, later.Items[0]).After,
            },
        ]);
    }

    private sealed class ChangeRow
    {
        public long Id { get; init; }
        public string MadeAt { get; init; } = "";
        public string What { get; init; } = "";
        public string Items { get; init; } = "";
        public string? Backup { get; init; }
        public long? Undone { get; init; }

        public LoggedChange ToLogged() => new(Id, Moment.Read(MadeAt), What, Undone is not null, Backup);
    }

    /// <summary>What happened to one item, as it is kept.</summary>
    private sealed record ItemEntry(long Id, string Kind, ItemState? Before, ItemState? After)
    {
        public static ItemEntry Of(Vault vault, ItemChange change)
        {
            // What comes from the bin or goes there keeps its row; its name is enough to speak of it.
            var whole = change.Before is not null && change.After is not null;
            // What either state holds is sealed when one of them is private.
            var seals =
                change
                is { Before: SnippetItem { Snippet.Private: true } }
                    or { After: SnippetItem { Snippet.Private: true } };
            // A name that gave way because it told of the text is none to be kept.
            var before = change
                is {
                    Before: SnippetItem { Snippet.Private: false } open,
                    After: SnippetItem { Snippet.Private: true } hid
                }
                ? open with
                {
                    Snippet = open.Snippet with { Name = hid.Name },
                }
                : change.Before;
            return new ItemEntry(
                change.Id,
                Wording.Of((change.After ?? change.Before)!.Kind),
                ItemState.Of(vault, before, whole, seals),
                ItemState.Of(vault, change.After, whole, seals)
            );
        }

        public ItemChange ToChange(Vault vault) => new(Before?.ToItem(vault, Id, Kind), After?.ToItem(vault, Id, Kind));
    }

    private sealed record ItemState(long Parent, long Position, int Version, string Document)
    {
        public static ItemState? Of(Vault vault, Item? item, bool whole, bool seals) =>
            item is null
                ? null
                : new(
                    item.Slot.Parent,
                    item.Slot.Position,
                    (item as SnippetItem)?.Version ?? 1,
                    (whole ? Vault.KeptDocument.Of(vault, item, seals) : Vault.KeptDocument.InBrief(item)).ToString()
                );

        public Item ToItem(Vault vault, long id, string kind) =>
            ItemCodec.Read(
                Wording.Parse<ItemKind>("kind", kind),
                id,
                new Slot(Parent, Position),
                Version,
                vault.Open(Document)
            );
    }
}
