using Dapper;
using DashSprout.Documents;
using DashSprout.Store.Data;
using DashSprout.Store.Files;

namespace DashSprout.Store.Features;

/// <summary>Which libraries came from which packs, as those were then.</summary>
public sealed class PackStore(Database database)
{
    /// <summary>The packs that were added, by the id of the library each has become.</summary>
    public IReadOnlyDictionary<long, string> Added()
    {
        using var connection = database.Open();
        return connection
            .Query<(long Id, string Pack)>("SELECT library_id, pack_id FROM pack")
            .ToDictionary(row => row.Id, row => row.Pack);
    }

    /// <summary>The pack as it was when a library took it last; null when the library came from none.</summary>
    public Pack? Taken(long libraryId)
    {
        using var connection = database.Open();
        return
            connection.QuerySingleOrDefault<byte[]>(
                "SELECT contents FROM pack WHERE library_id = @libraryId",
                new { libraryId }
            )
                is { } contents
            ? PackFile.Read(Packed.Text(contents))
            : null;
    }

    /// <summary>The keys of what came from the pack into a library, by id.</summary>
    public IReadOnlyDictionary<long, string> Keys(long libraryId)
    {
        using var connection = database.Open();
        return connection
            .Query<(long Id, string Key)>(
                "SELECT item_id, key FROM pack_key WHERE library_id = @libraryId",
                new { libraryId }
            )
            .ToDictionary(row => row.Id, row => row.Key);
    }

    /// <summary>Keeps that a library has taken a pack as it is now.</summary>
    public void Keep(long libraryId, Pack pack, IReadOnlyDictionary<long, string> keys) =>
        database.InTransaction(connection =>
        {
            connection.Execute("DELETE FROM pack WHERE library_id = @libraryId", new { libraryId });
            connection.Execute(
                "INSERT INTO pack (library_id, pack_id, contents) VALUES (@libraryId, @Id, @contents)",
                new
                {
                    libraryId,
                    pack.Id,
                    contents = Packed.Of(PackFile.Write(pack)),
                }
            );
            return connection.Execute(
                "INSERT INTO pack_key (library_id, item_id, key) VALUES (@libraryId, @Id, @Key)",
                keys.Select(pair => new
                {
                    libraryId,
                    Id = pair.Key,
                    Key = pair.Value,
                })
            );
        });
}
