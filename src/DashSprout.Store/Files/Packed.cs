using System.IO.Compression;
using System.Text;

namespace DashSprout.Store.Files;

/// <summary>What is kept compressed.</summary>
internal static class Packed
{
    public static byte[] Of(string text) => Of(Encoding.UTF8.GetBytes(text));

    public static byte[] Of(byte[] bytes)
    {
        using var packed = new MemoryStream();
        using (var stream = new GZipStream(packed, CompressionLevel.Fastest))
            stream.Write(bytes);
        return packed.ToArray();
    }

    public static string Text(byte[] packed) => Encoding.UTF8.GetString(Bytes(packed));

    /// <summary>Throws <see cref="InvalidDataException"/> for what was not packed here.</summary>
    public static byte[] Bytes(byte[] packed)
    {
        using var stream = new GZipStream(new MemoryStream(packed), CompressionMode.Decompress);
        using var bytes = new MemoryStream();
        stream.CopyTo(bytes);
        return bytes.ToArray();
    }
}
