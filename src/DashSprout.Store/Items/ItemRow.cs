using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Store.Data;

namespace DashSprout.Store.Items;

/// <summary>A row of the table <c>item</c>.</summary>
internal sealed class ItemRow
{
    public long Id { get; init; }
    public string Kind { get; init; } = "";
    public long Parent { get; init; }
    public long Position { get; init; }
    public int Version { get; init; }
    public string Document { get; init; } = "";
    public string SavedAt { get; init; } = "";
    public bool FromFile { get; init; }

    public static ItemRow Of(Vault vault, Item item, bool fromFile, string savedAt) =>
        new()
        {
            Id = item.Id,
            Kind = Wording.Of(item.Kind),
            Parent = item.Slot.Parent,
            Position = item.Slot.Position,
            Version = (item as SnippetItem)?.Version ?? 1,
            Document = Vault.KeptDocument.Of(vault, item).ToString(),
            SavedAt = savedAt,
            FromFile = fromFile,
        };

    public Item ToItem(Vault vault) =>
        ItemCodec.Read(
            Wording.Parse<ItemKind>("kind", Kind),
            Id,
            new Slot(Parent, Position),
            Version,
            vault.Open(Document)
        );
}
