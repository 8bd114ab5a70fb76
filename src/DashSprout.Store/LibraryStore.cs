using Dapper;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store;

/// <summary>
/// Libraries, folders, snippets and their triggers. Deleting keeps the rows for a while, so that it can be undone;
/// deleted items are not among the contents.
/// </summary>
public sealed class LibraryStore(Database database)
{
    private const string SnippetColumns = """
        id, version, position, library_id AS LibraryId, folder_id AS FolderId, name, enabled, note, private, delivery,
        leave_on_clipboard AS LeaveOnClipboard, body_kind AS BodyKind, body
        """;

    private const string TriggerColumns = """
        snippet_id AS SnippetId, position, kind, text, timing, left_edge AS LeftEdge, letter_case AS LetterCase,
        keep_closing_key AS KeepClosingKey, closing_keys AS ClosingKeys, gives_way AS GivesWay,
        scope_mode AS ScopeMode, scope_apps AS ScopeApps
        """;

    private const string LibraryColumns = """
        id, position, version, name, enabled, closing_keys AS ClosingKeys, caps_lock_shouts AS CapsLockShouts,
        backspace_takes_back AS BackspaceTakesBack
        """;

    private const string FolderColumns = "id, version, position, library_id AS LibraryId, parent_id AS ParentId, name";

    /// <summary>Everything that is not deleted, each kind in its order.</summary>
    public Contents Load()
    {
        // Triggers are most of the rows: they are read beside the others, on a connection of their own.
        var reading = Task.Run(LoadTriggers);
        using var connection = database.Open();
        var libraries = connection.Query<LibraryRow>(
            $"SELECT {LibraryColumns} FROM library WHERE deleted_at IS NULL ORDER BY position, id").ToList();
        var folders = connection.Query<FolderRow>(
            $"SELECT {FolderColumns} FROM folder WHERE deleted_at IS NULL ORDER BY position, id").ToList();
        var snippets = connection.Query<SnippetRow>(
            $"SELECT {SnippetColumns} FROM snippet WHERE deleted_at IS NULL ORDER BY position, id").ToList();
        var triggers = reading.GetAwaiter().GetResult();

        // What lies in something deleted is deleted with it.
        var libraryIds = libraries.Select(row => row.Id).ToHashSet();
        var parents = folders.ToDictionary(row => row.Id, row => row.ParentId);
        bool Reached(long? folderId)
        {
            while (folderId is { } id)
                if (!parents.TryGetValue(id, out folderId)) return false;
            return true;
        }
        return new Contents(
            [.. libraries.Select(row => row.ToStored())],
            [.. folders.Where(row => libraryIds.Contains(row.LibraryId) && Reached(row.Id)).Select(row => row.ToStored())],
            [.. snippets.Where(row => libraryIds.Contains(row.LibraryId) && Reached(row.FolderId)).Select(row => row.ToStored(triggers.GetValueOrDefault(row.Id) ?? EquatableList<Trigger>.Empty))]);
    }

    private Dictionary<long, EquatableList<Trigger>> LoadTriggers()
    {
        using var connection = database.Open();
        var triggers = new Dictionary<long, EquatableList<Trigger>>();
        var some = new List<Trigger>();
        var of = 0L;
        foreach (var row in connection.Query<TriggerRow>($"SELECT {TriggerColumns} FROM trigger_rule ORDER BY snippet_id, position", buffered: false))
        {
            if (row.SnippetId != of && some.Count > 0)
            {
                triggers.Add(of, new(some));
                some.Clear();
            }
            of = row.SnippetId;
            some.Add(row.ToTrigger());
        }
        if (some.Count > 0) triggers.Add(of, new(some));
        return triggers;
    }

    /// <summary>Adds libraries with all that is in them, at the end.</summary>
    public IReadOnlyList<long> Add(IEnumerable<Library> libraries) => database.InTransaction<IReadOnlyList<long>>(connection =>
    {
        var ids = libraries.Select(library => Insert(connection, library, fromFile: false)).ToList();
        foreach (var id in ids) RequireOwnName(connection, ItemKind.Library, id);
        return ids;
    });

    /// <summary>Deletes some libraries and adds others in one step; the first ones take the deleted ones' positions.</summary>
    /// <param name="fromFile">Whether they come from a file, so that what they open is shown first.</param>
    public void Replace(IReadOnlyList<long> replaced, IReadOnlyList<Library> libraries, bool fromFile, DateTimeOffset now) => database.InTransaction(connection =>
    {
        var positions = connection.Query<int>("SELECT position FROM library WHERE id IN @replaced ORDER BY position", new { replaced }).ToList();
        foreach (var id in replaced) SetDeleted(connection, ItemKind.Library, id, now.ToString("O"), "deleted_at IS NULL");
        var ids = libraries.Select(library => Insert(connection, library, fromFile)).ToList();
        foreach (var (id, position) in ids.Zip(positions)) connection.Execute("UPDATE library SET position = @position WHERE id = @id", new { id, position });
        foreach (var id in ids) RequireOwnName(connection, ItemKind.Library, id);
        return true;
    });

    /// <summary>Adds an empty folder at the end of a place.</summary>
    public StoredFolder AddFolder(Place place, string name) => database.InTransaction(connection =>
    {
        var id = InsertFolder(connection, place, name);
        RequireOwnName(connection, ItemKind.Folder, id);
        return Folder(connection, id);
    });

    /// <summary>Adds a snippet at the end of a place.</summary>
    public StoredSnippet AddSnippet(Place place, Snippet snippet) => database.InTransaction(connection =>
    {
        var id = InsertSnippet(connection, place, snippet, fromFile: false);
        RequireOwnName(connection, ItemKind.Snippet, id);
        return Snippet(connection, id);
    });

    /// <summary>Saves a library's name, switch and rules over the given version.</summary>
    public StoredLibrary SaveLibrary(long id, int version, string name, bool enabled, LibraryRules rules) => database.InTransaction(connection =>
    {
        var values = new DynamicParameters(LibraryRow.Values(name, enabled, rules));
        values.AddDynamicParams(new { id, version });
        var changed = connection.Execute("""
            UPDATE library SET name = @name, name_key = @nameKey, enabled = @enabled, closing_keys = @closingKeys, caps_lock_shouts = @capsLockShouts,
                backspace_takes_back = @backspaceTakesBack, version = version + 1
            WHERE id = @id AND version = @version AND deleted_at IS NULL
            """, values);
        if (changed == 0) throw NotSaved(connection, ItemKind.Library, id);
        RequireOwnName(connection, ItemKind.Library, id);
        return connection.QuerySingle<LibraryRow>($"SELECT {LibraryColumns} FROM library WHERE id = @id", new { id }).ToStored();
    });

    /// <summary>Saves a folder's name over the given version.</summary>
    public StoredFolder SaveFolder(long id, int version, string name) => database.InTransaction(connection =>
    {
        var changed = connection.Execute(
            "UPDATE folder SET name = @name, name_key = @nameKey, version = version + 1 WHERE id = @id AND version = @version AND deleted_at IS NULL",
            new { id, version, name, nameKey = NameKey(name) });
        if (changed == 0) throw NotSaved(connection, ItemKind.Folder, id);
        RequireOwnName(connection, ItemKind.Folder, id);
        return Folder(connection, id);
    });

    /// <summary>Saves a snippet over the given version.</summary>
    public StoredSnippet SaveSnippet(long id, int version, Snippet snippet) => database.InTransaction(connection =>
    {
        var values = new DynamicParameters(SnippetRow.Values(snippet));
        values.AddDynamicParams(new { id, version });
        var changed = connection.Execute("""
            UPDATE snippet SET name = @Name, name_key = @nameKey, enabled = @Enabled, note = @Note, private = @Private, delivery = @delivery,
                leave_on_clipboard = @LeaveOnClipboard, body_kind = @bodyKind, body = @body, words = @words, version = version + 1
            WHERE id = @id AND version = @version AND deleted_at IS NULL
            """, values);
        if (changed == 0) throw NotSaved(connection, ItemKind.Snippet, id);
        RequireOwnName(connection, ItemKind.Snippet, id);
        connection.Execute("DELETE FROM trigger_rule WHERE snippet_id = @id", new { id });
        InsertTriggers(connection, id, snippet);
        return Snippet(connection, id);
    });

    /// <summary>Gives the items of one place their order; an item from elsewhere is moved there.</summary>
    /// <param name="place">Where they lie; of no account for libraries.</param>
    public void Arrange(ItemKind kind, Place place, IReadOnlyList<long> ids) => database.InTransaction(connection =>
    {
        var sql = kind switch
        {
            ItemKind.Library => "UPDATE library SET position = @position WHERE id = @id",
            ItemKind.Folder => "UPDATE folder SET position = @position, parent_id = @FolderId WHERE id = @id",
            _ => "UPDATE snippet SET position = @position, library_id = @LibraryId, folder_id = @FolderId WHERE id = @id",
        };
        for (var position = 0; position < ids.Count; position++)
            connection.Execute(sql, new { position, id = ids[position], place.LibraryId, place.FolderId });
        if (kind == ItemKind.Folder)
            // A folder takes what is in it along to another library.
            connection.Execute("""
                WITH RECURSIVE inside (id) AS (
                    SELECT id FROM folder WHERE id IN @ids UNION SELECT folder.id FROM folder JOIN inside ON folder.parent_id = inside.id)
                UPDATE folder SET library_id = @LibraryId WHERE id IN (SELECT id FROM inside);
                WITH RECURSIVE inside (id) AS (
                    SELECT id FROM folder WHERE id IN @ids UNION SELECT folder.id FROM folder JOIN inside ON folder.parent_id = inside.id)
                UPDATE snippet SET library_id = @LibraryId WHERE folder_id IN (SELECT id FROM inside);
                """, new { ids, place.LibraryId });
        foreach (var id in ids) RequireOwnName(connection, kind, id);
        return true;
    });

    /// <summary>Deletes an item with all that is in it; <see cref="Restore"/> undoes it.</summary>
    public void Delete(ItemKind kind, long id, DateTimeOffset now) => database.InTransaction(connection =>
        SetDeleted(connection, kind, id, now.ToString("O"), "deleted_at IS NULL"));

    /// <summary>Brings a deleted item back to where it was.</summary>
    public void Restore(ItemKind kind, long id) => database.InTransaction(connection =>
    {
        SetDeleted(connection, kind, id, null, "deleted_at IS NOT NULL");
        RequireOwnName(connection, kind, id);
        return id;
    });

    /// <summary>Forgets for good what was deleted before a moment.</summary>
    public void Purge(DateTimeOffset before) => database.InTransaction(connection => connection.Execute("""
        DELETE FROM snippet WHERE deleted_at < @before;
        DELETE FROM folder WHERE deleted_at < @before;
        DELETE FROM library WHERE deleted_at < @before;
        """, new { before = before.ToString("O") }));

    private static long SetDeleted(SqliteConnection connection, ItemKind kind, long id, string? deletedAt, string condition)
    {
        var changed = connection.Execute($"UPDATE {Table(kind)} SET deleted_at = @deletedAt WHERE id = @id AND {condition}", new { id, deletedAt });
        return changed == 0 ? throw new MissingItemException(kind, id) : id;
    }

    /// <summary>Refuses two items of one name in one place, whatever their letter case.</summary>
    private static void RequireOwnName(SqliteConnection connection, ItemKind kind, long id)
    {
        var samePlace = kind switch
        {
            ItemKind.Library => "TRUE",
            ItemKind.Folder => "other.library_id = mine.library_id AND other.parent_id IS mine.parent_id",
            _ => "other.library_id = mine.library_id AND other.folder_id IS mine.folder_id",
        };
        var table = Table(kind);
        var name = connection.QuerySingleOrDefault<string>($"""
            SELECT other.name FROM {table} mine JOIN {table} other ON {samePlace} AND other.name_key = mine.name_key
            WHERE mine.id = @id AND other.id <> @id AND other.deleted_at IS NULL LIMIT 1
            """, new { id });
        if (name is not null)
            throw new InvalidInputException("name", $"A {table} named “{name}” is here already. Choose another name.");
    }

    private static string NameKey(string name) => name.ToUpperInvariant();

    private static Exception NotSaved(SqliteConnection connection, ItemKind kind, long id) =>
        connection.ExecuteScalar<bool>($"SELECT count(*) FROM {Table(kind)} WHERE id = @id AND deleted_at IS NULL", new { id })
            ? new OutdatedVersionException(kind, id)
            : new MissingItemException(kind, id);

    private static string Table(ItemKind kind) => kind switch
    {
        ItemKind.Library => "library",
        ItemKind.Folder => "folder",
        _ => "snippet",
    };

    private static long Insert(SqliteConnection connection, Library library, bool fromFile)
    {
        var id = connection.ExecuteScalar<long>("""
            INSERT INTO library (name, name_key, position, enabled, closing_keys, caps_lock_shouts, backspace_takes_back)
            VALUES (@name, @nameKey, (SELECT coalesce(max(position), -1) + 1 FROM library), @enabled, @closingKeys, @capsLockShouts, @backspaceTakesBack)
            RETURNING id
            """, LibraryRow.Values(library.Name, library.Enabled, library.Rules));
        var place = new Place(id, null);
        foreach (var folder in library.Folders) Insert(connection, place, folder, fromFile);
        foreach (var snippet in library.Snippets) InsertSnippet(connection, place, snippet, fromFile);
        return id;
    }

    private static void Insert(SqliteConnection connection, Place above, Folder folder, bool fromFile)
    {
        var place = above with { FolderId = InsertFolder(connection, above, folder.Name) };
        foreach (var inner in folder.Folders) Insert(connection, place, inner, fromFile);
        foreach (var snippet in folder.Snippets) InsertSnippet(connection, place, snippet, fromFile);
    }

    private static long InsertFolder(SqliteConnection connection, Place place, string name) => connection.ExecuteScalar<long>("""
        INSERT INTO folder (library_id, parent_id, name, name_key, position)
        VALUES (@LibraryId, @FolderId, @name, @nameKey, (SELECT coalesce(max(position), -1) + 1 FROM folder WHERE library_id = @LibraryId AND parent_id IS @FolderId))
        RETURNING id
        """, new { place.LibraryId, place.FolderId, name, nameKey = NameKey(name) });

    private static long InsertSnippet(SqliteConnection connection, Place place, Snippet snippet, bool fromFile)
    {
        var values = new DynamicParameters(SnippetRow.Values(snippet));
        values.AddDynamicParams(new { place.LibraryId, place.FolderId, fromFile });
        var id = connection.ExecuteScalar<long>("""
            INSERT INTO snippet (library_id, folder_id, name, name_key, position, enabled, note, private, delivery, leave_on_clipboard, body_kind, body, words, from_file)
            VALUES (@LibraryId, @FolderId, @Name, @nameKey, (SELECT coalesce(max(position), -1) + 1 FROM snippet WHERE library_id = @LibraryId AND folder_id IS @FolderId),
                @Enabled, @Note, @Private, @delivery, @LeaveOnClipboard, @bodyKind, @body, @words, @fromFile)
            RETURNING id
            """, values);
        InsertTriggers(connection, id, snippet);
        return id;
    }

    private static void InsertTriggers(SqliteConnection connection, long id, Snippet snippet)
    {
        for (var position = 0; position < snippet.Triggers.Count; position++)
            connection.Execute("""
                INSERT INTO trigger_rule (snippet_id, position, kind, text, timing, left_edge, letter_case, keep_closing_key, closing_keys, gives_way, scope_mode, scope_apps)
                VALUES (@SnippetId, @Position, @Kind, @Text, @Timing, @LeftEdge, @LetterCase, @KeepClosingKey, @ClosingKeys, @GivesWay, @ScopeMode, @ScopeApps)
                """, TriggerRow.Of(id, position, snippet.Triggers[position]));
    }

    private static StoredFolder Folder(SqliteConnection connection, long id) =>
        connection.QuerySingle<FolderRow>($"SELECT {FolderColumns} FROM folder WHERE id = @id", new { id }).ToStored();

    private static StoredSnippet Snippet(SqliteConnection connection, long id) =>
        connection.QuerySingle<SnippetRow>($"SELECT {SnippetColumns} FROM snippet WHERE id = @id", new { id })
            .ToStored(new(connection.Query<TriggerRow>($"SELECT {TriggerColumns} FROM trigger_rule WHERE snippet_id = @id ORDER BY position", new { id }).Select(row => row.ToTrigger())));
}
