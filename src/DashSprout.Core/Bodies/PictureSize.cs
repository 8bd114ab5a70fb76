using System.Buffers.Binary;

namespace DashSprout.Core.Bodies;

/// <summary>The size of a picture as its header tells it, before anybody unpacks it.</summary>
internal static class PictureSize
{
    /// <summary>The most pixels a side.</summary>
    public const int MostSide = 10_000;

    /// <summary>The most pixels in all; unpacked each takes four bytes.</summary>
    public const long MostPixels = 40_000_000;

    /// <summary>Width and height in pixels; null when the header is cut off or of a form that is not known.</summary>
    public static (int Width, int Height)? Of(ReadOnlySpan<byte> bytes)
    {
        // PNG: the first chunk is IHDR (ISO/IEC 15948, section 11.2.2).
        if (bytes is [0x89, ..] && bytes.Length >= 24)
            return (
                Long(BinaryPrimitives.ReadUInt32BigEndian(bytes[16..])),
                Long(BinaryPrimitives.ReadUInt32BigEndian(bytes[20..]))
            );
        // GIF: the logical screen follows the signature (GIF89a, section 18).
        if (bytes is [(byte)'G', ..] && bytes.Length >= 10)
            return (
                BinaryPrimitives.ReadUInt16LittleEndian(bytes[6..]),
                BinaryPrimitives.ReadUInt16LittleEndian(bytes[8..])
            );
        if (bytes is [0xFF, 0xD8, ..])
            return Jpeg(bytes);
        return bytes.Length >= 30 && bytes.StartsWith("RIFF"u8) ? WebP(bytes) : null;
    }

    /// <summary>JPEG: the frame header is the first SOF segment (ISO/IEC 10918-1, B.2.2).</summary>
    private static (int Width, int Height)? Jpeg(ReadOnlySpan<byte> bytes)
    {
        var at = 2;
        while (at + 9 < bytes.Length)
        {
            if (bytes[at] != 0xFF)
                return null;
            var marker = bytes[at + 1];
            if (marker is 0xFF)
            {
                at++;
                continue;
            }
            if (marker is >= 0xC0 and <= 0xCF and not (0xC4 or 0xC8 or 0xCC))
                return (
                    BinaryPrimitives.ReadUInt16BigEndian(bytes[(at + 7)..]),
                    BinaryPrimitives.ReadUInt16BigEndian(bytes[(at + 5)..])
                );
            at +=
                2
                + (
                    marker is 0x01 or (>= 0xD0 and <= 0xD8)
                        ? 0
                        : BinaryPrimitives.ReadUInt16BigEndian(bytes[(at + 2)..])
                );
        }
        return null;
    }

    /// <summary>WebP: VP8X, VP8L or VP8 (RFC 9649, section 2).</summary>
    private static (int Width, int Height)? WebP(ReadOnlySpan<byte> bytes)
    {
        var chunk = bytes[12..16];
        if (chunk.SequenceEqual("VP8X"u8))
            return (
                1 + (bytes[24] | bytes[25] << 8 | bytes[26] << 16),
                1 + (bytes[27] | bytes[28] << 8 | bytes[29] << 16)
            );
        if (chunk.SequenceEqual("VP8L"u8) && bytes[20] == 0x2F)
        {
            var bits = BinaryPrimitives.ReadUInt32LittleEndian(bytes[21..]);
            return ((int)(bits & 0x3FFF) + 1, (int)(bits >> 14 & 0x3FFF) + 1);
        }
        return chunk.SequenceEqual("VP8 "u8)
            ? (
                BinaryPrimitives.ReadUInt16LittleEndian(bytes[26..]) & 0x3FFF,
                BinaryPrimitives.ReadUInt16LittleEndian(bytes[28..]) & 0x3FFF
            )
            : null;
    }

    private static int Long(uint side) => (int)Math.Min(side, int.MaxValue);
}
