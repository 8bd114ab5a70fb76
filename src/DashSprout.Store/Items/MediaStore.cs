using Dapper;
using DashSprout.Core.Bodies;
using DashSprout.Store.Data;
using DashSprout.Store.Files;

namespace DashSprout.Store.Items;

/// <summary>
/// Pictures, each under the id made of its content, so that the same picture is kept once. Those of private snippets
/// are sealed (<see cref="PictureSeals"/>).
/// </summary>
public sealed class MediaStore(Database database, TimeProvider clock)
{
    /// <summary>Keeps pictures.</summary>
    public void Add(params IEnumerable<PictureData> pictures) =>
        database.InTransaction(connection =>
            connection.Execute(
                """
                INSERT INTO media (id, type, bytes, sealed, added_at) VALUES (@Id, @Type, @bytes, 1, @addedAt)
                ON CONFLICT (id) DO UPDATE SET added_at = excluded.added_at
                """,
                pictures.Select(picture => new
                {
                    picture.Id,
                    picture.Type,
                    bytes = database.Vault.SealWhole(picture.Bytes),
                    addedAt = Moment.Text(clock.GetUtcNow()),
                })
            )
        );

    /// <summary>A picture; null when there is none of that id, or its key is not here.</summary>
    public PictureData? Get(string id) => Get(id, out _);

    /// <summary>A picture, and whether it is sealed, since only private snippets show it.</summary>
    public PictureData? Get(string id, out bool isSealed)
    {
        using var connection = database.Open();
        var row = connection.QuerySingleOrDefault<(string Type, byte[] Bytes, bool Sealed)?>(
            "SELECT type, bytes, sealed FROM media WHERE id = @id",
            new { id }
        );
        isSealed = row?.Sealed ?? false;
        return row is { } kept && (kept.Sealed ? database.Vault.OpenWhole(kept.Bytes) : kept.Bytes) is { } bytes
            ? new PictureData(kept.Type, bytes)
            : null;
    }

    /// <summary>Lets go of pictures that nothing shows any more.</summary>
    public void Tidy() =>
        database.InTransaction(connection =>
        {
            PictureSeals.Tidy(connection, database.Vault);
            return true;
        });
}
