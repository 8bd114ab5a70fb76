using Dapper;
using DashSprout.Core.Bodies;

namespace DashSprout.Store;

/// <summary>Pictures, each under the id made of its content, so that the same picture is kept once.</summary>
public sealed class MediaStore(Database database)
{
    /// <summary>Keeps pictures.</summary>
    public void Add(params IEnumerable<PictureData> pictures) =>
        database.InTransaction(connection =>
            connection.Execute(
                "INSERT INTO media (id, type, bytes) VALUES (@Id, @Type, @Bytes) ON CONFLICT (id) DO NOTHING",
                pictures.Select(picture => new
                {
                    picture.Id,
                    picture.Type,
                    picture.Bytes,
                })
            )
        );

    /// <summary>A picture; null when there is none of that id.</summary>
    public PictureData? Get(string id)
    {
        using var connection = database.Open();
        return connection.QuerySingleOrDefault<PictureData>(
            "SELECT type AS Type, bytes AS Bytes FROM media WHERE id = @id",
            new { id }
        );
    }
}
