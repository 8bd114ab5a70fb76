using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Exchange;

namespace DashSprout.Store;

/// <summary>
/// Seals what private snippets hold before it goes to disk: what goes in, its plain twin and its note. Names, triggers
/// and tags stay readable, so that lists and the bin need no key.
/// </summary>
/// <param name="protect">Makes bytes unreadable for whoever lacks the key.</param>
/// <param name="unprotect">The way back; throws <see cref="CryptographicException"/> without the key.</param>
public sealed class Vault(Func<byte[], byte[]> protect, Func<byte[], byte[]> unprotect)
{
    private const string Sealed = "sealed";

    private static readonly string[] Parts = ["body", "text", "twin", "note"];

    /// <summary>
    /// Within a text this would be written with backslashes, so it is there only where something is sealed.
    /// </summary>
    private static ReadOnlySpan<byte> Mark => "\"sealed\":\""u8;

    /// <summary>The document of an item as the disk has it.</summary>
    /// <param name="always">Whether it is sealed although it is not private itself, as earlier states of a private one
    /// are.</param>
    public string Write(Item item, bool always = false) =>
        item is SnippetItem { Snippet.Private: var isPrivate } && (isPrivate || always)
            ? Seal(ItemCodec.Write(item))
            : ItemCodec.Write(item);

    /// <summary>Seals the document of a snippet; one that is sealed stays as it is.</summary>
    public string Seal(string document)
    {
        if (JsonNode.Parse(document) is not JsonObject snippet || snippet.ContainsKey(Sealed))
            return document;
        var parts = new JsonObject();
        foreach (var part in Parts)
            if (snippet.Remove(part, out var value))
                parts[part] = value;
        snippet[Sealed] = Convert.ToBase64String(protect(Encoding.UTF8.GetBytes(parts.ToJsonString())));
        return snippet.ToJsonString(ItemCodec.Json);
    }

    /// <summary>
    /// The document of a snippet as it was before it was sealed; throws <see cref="InvalidInputException"/> when the
    /// key is not here.
    /// </summary>
    public byte[] Open(byte[] document)
    {
        if (document.AsSpan().IndexOf(Mark) < 0)
            return document;
        var snippet = JsonNode.Parse(document)!.AsObject();
        if (!snippet.Remove(Sealed, out var text))
            return document;
        try
        {
            foreach (
                var (part, value) in JsonNode
                    .Parse(unprotect(Convert.FromBase64String((string)text!)))!
                    .AsObject()
                    .ToList()
            )
                snippet[part] = value?.DeepClone();
        }
        catch (CryptographicException)
        {
            throw new InvalidInputException(
                "document",
                "It is private, and sealed with a key that is not here. Bring back the folder “keys” that "
                    + "belongs to these data."
            );
        }
        return Encoding.UTF8.GetBytes(snippet.ToJsonString(ItemCodec.Json));
    }

    /// <summary>Seals bytes as a whole.</summary>
    public byte[] SealWhole(byte[] bytes) => protect(bytes);

    /// <summary>Bytes that were sealed as a whole; null when the key is not here.</summary>
    public byte[]? OpenWhole(byte[] sealedBytes)
    {
        try
        {
            return unprotect(sealedBytes);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    /// <summary>The same for a text.</summary>
    public string Open(string document) =>
        document.Contains("\"sealed\":\"", StringComparison.Ordinal)
            ? Encoding.UTF8.GetString(Open(Encoding.UTF8.GetBytes(document)))
            : document;
}
