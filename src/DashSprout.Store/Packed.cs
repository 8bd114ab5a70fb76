using System.IO.Compression;
using System.Text;

namespace DashSprout.Store;

/// <summary>Texts that are kept compressed.</summary>
internal static class Packed
{
    public static byte[] Of(string text)
    {
        using var packed = new MemoryStream();
        using (var stream = new GZipStream(packed, CompressionLevel.Fastest)) stream.Write(Encoding.UTF8.GetBytes(text));
        return packed.ToArray();
    }

    public static string Text(byte[] packed)
    {
        using var stream = new GZipStream(new MemoryStream(packed), CompressionMode.Decompress);
        using var reader = new StreamReader(stream, Encoding.UTF8);
        return reader.ReadToEnd();
    }
}
