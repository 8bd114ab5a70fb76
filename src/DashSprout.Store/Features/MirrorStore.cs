using System.Text.Json;
using Dapper;
using DashSprout.Core.Mirroring;
using DashSprout.Documents;
using DashSprout.Store.Data;
using DashSprout.Store.Files;
using DashSprout.Store.Items;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Features;

/// <summary>A library that is mirrored.</summary>
/// <param name="File">The name of its file in the folder.</param>
/// <param name="Key">What the library is known by on all machines.</param>
/// <param name="Pocket">Whether the pocket file is written beside it.</param>
/// <param name="Undecided">Conflicts that nobody has decided.</param>
/// <param name="Decided">Conflicts in which what is here is to hold.</param>
public sealed record MirrorRecord(
    long LibraryId,
    string Folder,
    string File,
    string Key,
    bool Pocket,
    IReadOnlyList<MirrorConflict> Undecided,
    IReadOnlyList<MirrorVerdict> Decided
);

/// <summary>Which libraries are mirrored where, by which keys, and which states of them are known.</summary>
public sealed class MirrorStore(Database database)
{
    /// <summary>The libraries that are mirrored.</summary>
    public IReadOnlyList<MirrorRecord> All()
    {
        using var connection = database.Open();
        return
        [
            .. connection
                .Query<MirrorRow>(
                    "SELECT library_id AS LibraryId, folder, file, key, pocket, undecided, decided FROM "
                        + "mirror ORDER BY library_id"
                )
                .Select(row => row.ToRecord()),
        ];
    }

    /// <summary>Keeps a library as mirrored, or what is known of it.</summary>
    public void Keep(MirrorRecord mirror)
    {
        using var connection = database.Open();
        Keep(connection, mirror);
    }

    private static void Keep(SqliteConnection connection, MirrorRecord mirror) =>
        connection.Execute(
            """
            INSERT INTO mirror (library_id, folder, file, key, pocket, undecided, decided)
              VALUES (@LibraryId, @Folder, @File, @Key, @Pocket, @undecided, @decided)
            ON CONFLICT (library_id) DO UPDATE SET folder = excluded.folder, file = excluded.file, key = excluded.key, pocket = excluded.pocket,
                undecided = excluded.undecided, decided = excluded.decided
            """,
            new
            {
                mirror.LibraryId,
                mirror.Folder,
                mirror.File,
                mirror.Key,
                mirror.Pocket,
                undecided = JsonSerializer.Serialize(mirror.Undecided),
                decided = JsonSerializer.Serialize(mirror.Decided),
            }
        );

    /// <summary>A library is mirrored no more.</summary>
    public void Forget(long libraryId)
    {
        using var connection = database.Open();
        connection.Execute("DELETE FROM mirror WHERE library_id = @libraryId", new { libraryId });
    }

    /// <summary>The keys of what is, or was, in a library, by id.</summary>
    public IReadOnlyDictionary<long, string> Keys(long libraryId)
    {
        using var connection = database.Open();
        return connection
            .Query<(long Id, string Key)>(
                "SELECT item_id, key FROM mirror_key WHERE library_id = @libraryId",
                new { libraryId }
            )
            .ToDictionary(row => row.Id, row => row.Key);
    }

    /// <summary>
    /// The states of a library that are remembered. They are sealed, since what they hold may become private later;
    /// those whose key is not here are forgotten, so that more is asked and nothing lost.
    /// </summary>
    public IReadOnlyList<MirrorState> States(long libraryId)
    {
        using var connection = database.Open();
        return
        [
            .. connection
                .Query<byte[]>(
                    "SELECT contents FROM mirror_state WHERE library_id = @libraryId ORDER BY id",
                    new { libraryId }
                )
                .Select(database.Vault.OpenWhole)
                .OfType<byte[]>()
                .Select(contents => MirrorFile.Read(Packed.Text(contents), () => "").State),
        ];
    }

    /// <summary>
    /// Keeps what a sync came to: the mirror, its keys where some are new, and the states to remember.
    /// </summary>
    /// <param name="known">The states that were remembered before.</param>
    /// <param name="states">Those to remember now.</param>
    public void Keep(
        MirrorRecord mirror,
        IReadOnlyDictionary<long, string>? keys,
        IReadOnlyList<MirrorState> known,
        IReadOnlyList<MirrorState> states
    ) =>
        database.InTransaction(connection =>
        {
            Keeping(mirror, keys, known, states).Write(connection);
            return true;
        });

    /// <summary>The same in the transaction of the change that the sync came to.</summary>
    public Alongside Keeping(
        MirrorRecord mirror,
        IReadOnlyDictionary<long, string>? keys,
        IReadOnlyList<MirrorState> known,
        IReadOnlyList<MirrorState> states
    ) =>
        new(connection =>
        {
            Keep(connection, mirror);
            if (keys is not null)
            {
                connection.Execute("DELETE FROM mirror_key WHERE library_id = @LibraryId", new { mirror.LibraryId });
                connection.Execute(
                    "INSERT INTO mirror_key (library_id, item_id, key) VALUES (@LibraryId, @Id, @Key)",
                    keys.Select(pair => new
                    {
                        mirror.LibraryId,
                        Id = pair.Key,
                        Key = pair.Value,
                    })
                );
            }
            // What the file holds is the last one, and is read as the last one again.
            var isSame = states.Count > 0 && known.Count > 0 && ReferenceEquals(states[^1], known[^1]);
            var staying = known.Intersect(isSame ? states : states.SkipLast(1)).ToList();
            foreach (var gone in known.Except(staying))
                connection.Execute(
                    "DELETE FROM mirror_state WHERE library_id = @LibraryId AND states = @States",
                    new { mirror.LibraryId, States = Text(gone.States) }
                );
            connection.Execute(
                "INSERT INTO mirror_state (library_id, states, contents) VALUES (@LibraryId, @States, @Contents)",
                states
                    .Except(staying)
                    .Select(state => new
                    {
                        mirror.LibraryId,
                        States = Text(state.States),
                        Contents = database.Vault.SealWhole(Packed.Of(MirrorFile.Write(mirror.Key, state))),
                    })
            );
        });

    private static string Text(MachineStates states) => JsonSerializer.Serialize(states.Written);

    private sealed class MirrorRow
    {
        public long LibraryId { get; init; }
        public string Folder { get; init; } = "";
        public string File { get; init; } = "";
        public string Key { get; init; } = "";
        public bool Pocket { get; init; }
        public string Undecided { get; init; } = "[]";
        public string Decided { get; init; } = "[]";

        public MirrorRecord ToRecord() =>
            new(
                LibraryId,
                Folder,
                File,
                Key,
                Pocket,
                JsonSerializer.Deserialize<MirrorConflict[]>(Undecided) ?? [],
                JsonSerializer.Deserialize<MirrorVerdict[]>(Decided) ?? []
            );
    }
}
