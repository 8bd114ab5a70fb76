using System.Security.Cryptography;
using System.Text.RegularExpressions;

namespace DashSprout.Core.Bodies;

/// <summary>A picture that bodies show; its id is made of its content, so that the same picture is kept once.</summary>
/// <param name="Type">Its media type, told by its content.</param>
public sealed partial record PictureData(string Type, byte[] Bytes)
{
    /// <summary>The id by which a body shows it: <c>src="media:ID"</c>.</summary>
    public string Id => Convert.ToHexStringLower(SHA256.HashData(Bytes))[..32];

    /// <summary>Checks the content of a picture.</summary>
    public static PictureData Of(byte[] bytes) => new(PictureType.Of(bytes), bytes);

    /// <summary>The ids of the pictures that a body shows.</summary>
    public static IEnumerable<string> In(Body body) =>
        body is Body.Html html && html.Markup.Contains("src=\"media:", StringComparison.Ordinal)
            ? Shown().Matches(html.Markup).Select(found => found.Groups[1].Value)
            : [];

    /// <summary>The ids of the pictures that a document names, as it is written.</summary>
    public static IEnumerable<string> Named(string document) =>
        Written().Matches(document).Select(found => found.Groups[1].Value);

    /// <summary>The body with its pictures under other ids.</summary>
    public static Body Rename(Body body, Func<string, string> nameOf) =>
        In(body).Any()
            ? new Body.Html(
                Shown()
                    .Replace(((Body.Html)body).Markup, found => $"<img src=\"media:{nameOf(found.Groups[1].Value)}\"")
            )
            : body;

    [GeneratedRegex("<img src=\"media:([0-9a-zA-Z_-]+)\"", RegexOptions.CultureInvariant)]
    private static partial Regex Shown();

    [GeneratedRegex("media:([0-9a-zA-Z_-]+)", RegexOptions.CultureInvariant)]
    private static partial Regex Written();
}
