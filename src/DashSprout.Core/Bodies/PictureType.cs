namespace DashSprout.Core.Bodies;

/// <summary>Which pictures a body may hold, told by their content.</summary>
public static class PictureType
{
    /// <summary>The largest picture, in bytes.</summary>
    public const int MaxBytes = 2 * 1024 * 1024;

    /// <summary>
    /// The media type of a PNG, JPEG, GIF or WebP picture; anything else, and anything too large, is refused.
    /// </summary>
    public static string Of(ReadOnlySpan<byte> bytes)
    {
        var type = ByContent(bytes);
        if (PictureSize.Of(bytes) is not var (width, height))
            return type;
        if (width == 0 || height == 0)
            throw new InvalidInputException("picture", "The picture has no size, so it cannot be shown. Save it anew.");
        return
            width <= PictureSize.MostSide
            && height <= PictureSize.MostSide
            && (long)width * height <= PictureSize.MostPixels
            ? type
            : throw new InvalidInputException(
                "picture",
                $"The picture has {width:N0} × {height:N0} pixels; {PictureSize.MostSide:N0} a side and "
                    + $"{PictureSize.MostPixels / 1_000_000} million in all are allowed. Make it smaller."
            );
    }

    private static string ByContent(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length > MaxBytes)
            throw new InvalidInputException(
                "picture",
                $"The picture has {bytes.Length / 1024} KiB; 2048 KiB are allowed. Make it smaller."
            );
        if (bytes.StartsWith((ReadOnlySpan<byte>)[0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A]))
            return "image/png";
        if (bytes.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]))
            return "image/jpeg";
        if (bytes.StartsWith("GIF87a"u8) || bytes.StartsWith("GIF89a"u8))
            return "image/gif";
        if (bytes.Length > 12 && bytes.StartsWith("RIFF"u8) && bytes[8..].StartsWith("WEBP"u8))
            return "image/webp";
        throw new InvalidInputException(
            "picture",
            "This is no PNG, JPEG, GIF or WebP picture. Save it as one of these."
        );
    }
}
