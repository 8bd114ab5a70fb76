using System.Data.Common;
using System.Text.Json;
using Dapper;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Store.Data;
using DashSprout.Store.Files;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Items;

/// <summary>What a store holds that can be used, and what had to be left aside.</summary>
/// <param name="Bin">What lies in the bin; what lies in those is not to be used either.</param>
/// <param name="NextId">The first id that was never used.</param>
public sealed record LoadedItems(
    IReadOnlyList<Item> Items,
    IReadOnlyList<SetAsideItem> SetAside,
    IReadOnlySet<long> Bin,
    long NextId
)
{
    /// <summary>
    /// The tree of what can be used, and what is to be left aside: what cannot be read, and what lies in something
    /// that is not there or in itself.
    /// </summary>
    public (LibraryTree Tree, IReadOnlyList<SetAsideItem> SetAside) ToTree()
    {
        var (tree, unreachable) = LibraryTree.Of(Items);
        if (unreachable.Count == 0)
            return (tree, SetAside);
        var byId = unreachable.ToDictionary(item => item.Id);
        return (
            tree,
            [
                .. SetAside,
                .. unreachable
                    .Where(item => !LiesInBin(item))
                    .Select(item => new SetAsideItem(
                        item.Id,
                        item.Kind,
                        Vault.KeptDocument.Shown(item).ToString(),
                        "It lies in something that is not there, or in itself."
                    )),
            ]
        );

        bool LiesInBin(Item item)
        {
            // Folders that lie in each other are no way to anywhere.
            for (var steps = 0; steps <= LibraryTree.MaxDepth; steps++)
            {
                if (Bin.Contains(item.Slot.Parent))
                    return true;
                if (!byId.TryGetValue(item.Slot.Parent, out var holder))
                    return false;
                item = holder;
            }
            return false;
        }
    }
}

/// <summary>Something in the store that cannot be used; it stays there as it is.</summary>
public sealed record SetAsideItem(long Id, ItemKind Kind, string Document, string Why);

/// <summary>
/// The rows of libraries, folders and snippets. A change writes each row it touches once. What is deleted keeps its
/// row: it lies in the bin with all that is in it.
/// </summary>
public sealed class ItemStore(Database database)
{
    /// <summary>
    /// Everything that is not in the bin. What cannot be read is set aside, so that the rest can be used.
    /// </summary>
    public LoadedItems Load()
    {
        using var connection = database.Open();
        var last = connection.QuerySingleOrDefault<long>("SELECT seq FROM sqlite_sequence WHERE name = 'item'");
        // Reading is most of what a start takes: the halves are read side by side. Both are waited for also when one of them
        // finds damage: one that still reads would open the file anew after it was set aside.
        var halves = Task.WhenAll(Task.Run(() => Read(0, last / 2)), Task.Run(() => Read(last / 2, long.MaxValue)));
        var read = halves.GetAwaiter().GetResult();
        var ((items, aside), (more, moreAside)) = (read[0], read[1]);
        items.AddRange(more);
        var next = last <= IdMark.MostId ? last + 1 : items.Select(item => item.Id).DefaultIfEmpty(0).Max() + 1;
        var bin = connection.Query<long>("SELECT id FROM item WHERE deleted_at IS NOT NULL").ToHashSet();
        return new LoadedItems(items, [.. aside, .. moreAside], bin, Math.Max(next, database.Ids.Next));
    }

    /// <summary>
    /// An item in the bin with all that went there with it, to be brought back; null when it is gone for good.
    /// </summary>
    public ItemChange? Fetch(long id)
    {
        using var connection = database.Open();
        var rows = connection
            .Query<ItemRow>(
                """
                WITH RECURSIVE inside (id) AS (
                    SELECT id FROM item WHERE id = @id AND deleted_at IS NOT NULL
                    UNION SELECT item.id FROM item JOIN inside ON item.parent_id = inside.id WHERE item.deleted_at IS NULL)
                SELECT item.id, kind, coalesce(parent_id, 0) AS Parent, position, version, document FROM item JOIN inside ON inside.id = item.id
                """,
                new { id }
            )
            .Select(row => row.ToItem(database.Vault))
            .ToList();
        return rows.FirstOrDefault(item => item.Id == id) is { } root
            ? new ItemChange(null, root, new(rows.Where(item => item.Id != id)))
            : null;
    }

    /// <summary>When each item that is not in the bin was saved last.</summary>
    public IReadOnlyDictionary<long, DateTimeOffset> SavedAt()
    {
        using var connection = database.Open();
        return connection
            .Query<(long Id, string SavedAt)>("SELECT id, saved_at FROM item WHERE deleted_at IS NULL")
            .ToDictionary(row => row.Id, row => Moment.Read(row.SavedAt));
    }

    /// <summary>Writes what a change did to the rows, within a transaction.</summary>
    /// <param name="fromFile">Whether it came from a file, so that what its snippets open is shown first.</param>
    internal static void Write(
        SqliteConnection connection,
        Vault vault,
        Change change,
        bool fromFile,
        DateTimeOffset now
    )
    {
        var savedAt = Moment.Text(now);
        // Ids are never used twice: what has a higher one than any so far is new, everything else comes from the bin.
        var lastId = connection.QuerySingleOrDefault<long>("SELECT seq FROM sqlite_sequence WHERE name = 'item'");
        bool IsNew(ItemChange item) => item is { Before: null, After: { } after } && after.Id > lastId;
        // What is new comes first: something else may move into it.
        var added = change.Items.Where(IsNew).SelectMany(item => item.Below.Prepend(item.After!)).ToList();
        if (added.Count > 0)
            Insert(connection, vault, added, fromFile, savedAt);
        foreach (var (before, after, _) in change.Items.Where(item => !IsNew(item)))
        {
            if (after is null)
            {
                connection.Execute("UPDATE item SET deleted_at = @savedAt WHERE id = @Id", new { before!.Id, savedAt });
            }
            else if (before is null)
            {
                connection.Execute(
                    "UPDATE item SET deleted_at = NULL, parent_id = nullif(@Parent, 0), position = @Position "
                        + "WHERE id = @Id",
                    new
                    {
                        after.Id,
                        after.Slot.Parent,
                        after.Slot.Position,
                    }
                );
            }
            else
            {
                Update(connection, vault, before, after, fromFile, savedAt);
            }
        }
        PictureSeals.Follow(connection, vault, change);
    }

    private static void Insert(
        SqliteConnection connection,
        Vault vault,
        IReadOnlyList<Item> items,
        bool fromFile,
        string savedAt
    )
    {
        // What holds something comes before it: ids are given from the outside in.
        var ordered = items.OrderBy(item => item.Id).ToList();
        connection.Execute(
            """
            INSERT INTO item (id, kind, parent_id, position, version, document, saved_at, from_file)
            VALUES (@Id, @Kind, nullif(@Parent, 0), @Position, @Version, @Document, @SavedAt, @FromFile)
            """,
            ordered.Select(item => ItemRow.Of(vault, item, fromFile, savedAt))
        );
        // Very many are left to the search itself, which catches up afterwards.
        if (ordered.Count <= SnippetSearch.AtOnce)
            SnippetSearch.Write(connection, ordered.OfType<SnippetItem>());
    }

    private static void Update(
        SqliteConnection connection,
        Vault vault,
        Item before,
        Item after,
        bool fromFile,
        string savedAt
    )
    {
        var content =
            before is not SnippetItem old || after is not SnippetItem next
                ? before with { Slot = after.Slot } != after
                : old.Snippet != next.Snippet;
        if (!content)
        {
            connection.Execute(
                "UPDATE item SET parent_id = nullif(@Parent, 0), position = @Position WHERE id = @Id",
                new
                {
                    after.Id,
                    after.Slot.Parent,
                    after.Slot.Position,
                }
            );
            return;
        }
        if (after is SnippetItem)
            connection.Execute(
                "INSERT OR IGNORE INTO snippet_version (item_id, version, saved_at, document) SELECT id, "
                    + "version, saved_at, document FROM item WHERE id = @Id",
                new { after.Id }
            );
        connection.Execute(
            """
            UPDATE item SET parent_id = nullif(@Parent, 0), position = @Position, version = @Version,
              document = @Document, saved_at = @SavedAt, from_file = from_file OR @FromFile
            WHERE id = @Id
            """,
            ItemRow.Of(vault, after, fromFile, savedAt)
        );
        if (before is not SnippetItem was || after is not SnippetItem now)
            return;
        if (
            was.Snippet.Name != now.Snippet.Name
            || was.Snippet.Body != now.Snippet.Body
            || was.Snippet.Private != now.Snippet.Private
        )
            SnippetSearch.Write(connection, [now]);
        if (now.Snippet.Private && !was.Snippet.Private)
            RecentAnswers.Forget(connection, was.Snippet);
        if (now.Snippet.Private && !was.Snippet.Private)
            PrivateRows.Seal(connection, vault, now.Id, was.Snippet.Name, now.Snippet.Name);
    }

    private (List<Item> Items, List<SetAsideItem> SetAside) Read(long above, long upTo)
    {
        var items = new List<Item>();
        var aside = new List<SetAsideItem>();
        using var connection = database.Open();
        using var reader = (DbDataReader)
            connection.ExecuteReader(
                """
                SELECT id, kind, coalesce(parent_id, 0), position, version, document FROM item WHERE deleted_at IS NULL AND id > @above AND id <= @upTo
                """,
                new { above, upTo }
            );
        while (reader.Read())
        {
            var kind = reader.GetString(1) switch
            {
                "library" => ItemKind.Library,
                "folder" => ItemKind.Folder,
                _ => ItemKind.Snippet,
            };
            try
            {
                if (reader.GetInt64(0) > IdMark.MostId)
                    throw new InvalidInputException("id", $"Its id is larger than {IdMark.MostId}.");
                items.Add(
                    ItemCodec.Read(
                        kind,
                        reader.GetInt64(0),
                        new Slot(reader.GetInt64(2), reader.GetInt64(3)),
                        reader.GetInt32(4),
                        database.Vault.Open(reader.GetFieldValue<byte[]>(5))
                    )
                );
            }
            catch (Exception exception) when (exception is InvalidInputException or JsonException)
            {
                aside.Add(
                    new SetAsideItem(
                        reader.GetInt64(0),
                        kind,
                        reader.GetString(5),
                        exception is JsonException ? "It cannot be read." : exception.Message
                    )
                );
            }
        }
        return (items, aside);
    }
}
