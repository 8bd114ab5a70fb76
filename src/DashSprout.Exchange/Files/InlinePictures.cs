using System.Text.RegularExpressions;
using DashSprout.Core;
using DashSprout.Core.Bodies;

namespace DashSprout.Exchange.Files;

/// <summary>
/// Pictures inside a body as <c>data:</c> addresses (RFC 2397), for files that have no other place for them.
/// </summary>
public static partial class InlinePictures
{
    /// <summary>The markup with its pictures in it; one that is not there stays as it is.</summary>
    public static string Put(string markup, Func<string, PictureData?> find) =>
        Kept()
            .Replace(markup, shown =>
                find(shown.Groups[1].Value) is { } picture
                    ? $"src=\"data:{picture.Type};base64,{Convert.ToBase64String(picture.Bytes)}\""
                    : shown.Value
            );

    /// <summary>
    /// The markup with its pictures by their ids, and the pictures; throws <see cref="InvalidInputException"/> for what
    /// is no picture.
    /// </summary>
    public static string Take(string markup, ICollection<PictureData> pictures) =>
        Inside()
            .Replace(markup, shown =>
            {
                var bytes = new byte[shown.Groups[2].Length];
                if (!Convert.TryFromBase64String(Uri.UnescapeDataString(shown.Groups[2].Value), bytes, out var length))
                    throw new InvalidInputException(
                        "body",
                        "A picture in it is no Base64. Leave it out, or bring it in by itself."
                    );
                var picture = PictureData.Of(bytes[..length]);
                pictures.Add(picture);
                return $"src=\"media:{picture.Id}\"";
            });

    [GeneratedRegex("src=\"media:([0-9a-zA-Z_-]+)\"", RegexOptions.CultureInvariant)]
    private static partial Regex Kept();

    [GeneratedRegex(
        "src=[\"']data:(image/[a-z+.-]+);base64,([^\"']*)[\"']",
        RegexOptions.CultureInvariant | RegexOptions.IgnoreCase
    )]
    private static partial Regex Inside();
}
