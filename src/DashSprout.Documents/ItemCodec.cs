using System.Text;
using System.Text.Json;
using DashSprout.Core;
using DashSprout.Core.Libraries;

namespace DashSprout.Documents;

/// <summary>
/// Writes single items as a library file would, for a store: one form of a snippet, wherever it is kept.
/// </summary>
public static class ItemCodec
{
    /// <summary>How single items are written: on one line.</summary>
    public static JsonSerializerOptions Json { get; } = new(LibraryFile.Json) { WriteIndented = false };

    /// <summary>The document of an item, without what lies in it.</summary>
    public static string Write(Item item) =>
        item switch
        {
            LibraryItem library => JsonSerializer.Serialize(
                LibraryDocument.Of(library.Name, library.Enabled, library.Rules),
                Json
            ),
            FolderItem folder => JsonSerializer.Serialize(FolderDocument.Of(folder), Json),
            SnippetItem snippet => Write(snippet.Snippet),
            _ => throw new ArgumentOutOfRangeException(nameof(item)),
        };

    /// <summary>The document of a snippet.</summary>
    public static string Write(Snippet snippet) =>
        JsonSerializer.Serialize(SnippetDocument.Of(snippet).Shortened(), Json);

    /// <summary>
    /// Reads a document; throws <see cref="InvalidInputException"/> or <see cref="JsonException"/> when it is none.
    /// </summary>
    public static Item Read(ItemKind kind, long id, Slot slot, int version, string document) =>
        Read(kind, id, slot, version, Encoding.UTF8.GetBytes(document));

    /// <summary>Reads a document in UTF-8.</summary>
    public static Item Read(ItemKind kind, long id, Slot slot, int version, ReadOnlySpan<byte> document)
    {
        switch (kind)
        {
            case ItemKind.Library:
                var library = Parse<LibraryDocument>(document);
                return new LibraryItem(id, slot, Named(library.Name), library.Enabled, library.ToRules());
            case ItemKind.Folder:
                var folder = Parse<FolderDocument>(document);
                return new FolderItem(
                    id,
                    slot,
                    Named(folder.Name),
                    folder.Enabled,
                    DefaultsDocument.Read(folder.Defaults)
                );
            default:
                return new SnippetItem(id, slot, version, SnippetReader.Read(document));
        }
    }

    /// <summary>Reads the document of a snippet.</summary>
    public static Snippet ReadSnippet(string document) => SnippetReader.Read(Encoding.UTF8.GetBytes(document));

    private static T Parse<T>(ReadOnlySpan<byte> document) =>
        JsonSerializer.Deserialize<T>(document, Json)
        ?? throw new InvalidInputException("document", "The document is empty.");

    private static string Named(string? name) =>
        name ?? throw new InvalidInputException("name", "The name is missing.");
}
