using System.Security.Cryptography;
using Dapper;

namespace DashSprout.Store;

/// <summary>A picture.</summary>
public sealed record StoredMedia(string Type, byte[] Bytes);

/// <summary>Pictures, each under an id made of its content, so that the same picture is kept once.</summary>
public sealed class MediaStore(Database database)
{
    /// <summary>Keeps a picture and gives its id.</summary>
    public string Add(StoredMedia media)
    {
        var id = Convert.ToHexStringLower(SHA256.HashData(media.Bytes))[..32];
        using var connection = database.Open();
        connection.Execute("INSERT INTO media (id, type, bytes) VALUES (@id, @Type, @Bytes) ON CONFLICT (id) DO NOTHING", new { id, media.Type, media.Bytes });
        return id;
    }

    /// <summary>A picture; null when there is none of that id.</summary>
    public StoredMedia? Get(string id)
    {
        using var connection = database.Open();
        return connection.QuerySingleOrDefault<StoredMedia>("SELECT type AS Type, bytes AS Bytes FROM media WHERE id = @id", new { id });
    }
}
