using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;

namespace DashSprout.Store.Data;

/// <summary>
/// Seals what private snippets hold before it goes to disk: the parts that <see cref="SnippetParts"/> calls secret.
/// Names, triggers and tags stay readable, so that lists and the bin need no key. Documents of items reach the disk as a
/// <see cref="KeptDocument"/>, which only the vault makes: what is not sealed cannot be stored by mistake.
/// </summary>
/// <param name="protect">Makes bytes unreadable for whoever lacks the key.</param>
/// <param name="unprotect">The way back; throws <see cref="CryptographicException"/> without the key.</param>
public sealed class Vault(Func<byte[], byte[]> protect, Func<byte[], byte[]> unprotect)
{
    private const string Sealed = "sealed";

    /// <summary>
    /// Within a text this would be written with backslashes, so it is there only where something is sealed.
    /// </summary>
    private static ReadOnlySpan<byte> Mark => "\"sealed\":\""u8;

    /// <summary>The document of an item as the disk may have it.</summary>
    public readonly record struct KeptDocument
    {
        private readonly string? text;

        private KeptDocument(string text) => this.text = text;

        /// <summary>The document of an item, its secret parts sealed when it is private.</summary>
        /// <param name="always">Whether they are sealed although it is not private itself, as earlier states of a
        /// private one are.</param>
        internal static KeptDocument Of(Vault vault, Item item, bool always = false)
        {
            var document = ItemCodec.Write(item);
            return new(
                item is SnippetItem { Snippet.Private: var isPrivate } && (isPrivate || always)
                    ? vault.Sealing(document)
                    : document
            );
        }

        /// <summary>What is enough to speak of an item: of a snippet nothing that could be secret.</summary>
        internal static KeptDocument InBrief(Item item) =>
            new(
                item is SnippetItem snippet
                    ? ItemCodec.Write(SnippetParts.InBrief(snippet.Snippet))
                    : ItemCodec.Write(item)
            );

        /// <summary>What a person may be shown of an item.</summary>
        internal static KeptDocument Shown(Item item) =>
            item is SnippetItem { Snippet.Private: true } ? InBrief(item) : new(ItemCodec.Write(item));

        /// <summary>A document that is kept already, sealed now; one that is sealed stays as it is.</summary>
        internal static KeptDocument Sealed(Vault vault, string kept) => new(vault.Sealing(kept));

        /// <inheritdoc/>
        public override string ToString() => text ?? throw new InvalidOperationException("No vault made this.");
    }

    private string Sealing(string document)
    {
        if (JsonNode.Parse(document) is not JsonObject snippet || snippet.ContainsKey(Sealed))
            return document;
        var parts = new JsonObject();
        foreach (var field in SnippetParts.SecretFields)
            if (snippet.Remove(field, out var value))
                parts[field] = value;
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
