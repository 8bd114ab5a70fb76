using System.Reflection;
using System.Text.Json;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;
using DashSprout.Core.Triggers;
using DashSprout.Documents;
using DashSprout.Exchange.Tables;
using DashSprout.Exchange.Yaml;
using DashSprout.Store.Data;

namespace DashSprout.Server.Tests;

/// <summary>
/// Every part of a snippet is known everywhere: whoever adds one finds here what is still missing.
/// </summary>
public sealed class SnippetPartsTests
{
    private static readonly Snippet Plain = Snippet.Named("Berth");

    /// <summary>For each part a snippet that has it otherwise than usual; secret ones hold the mark.</summary>
    private static readonly Dictionary<string, Snippet> Samples = new()
    {
        [SnippetParts.Name] = Plain with { Name = "Quay" },
        [SnippetParts.Switch] = Plain with { Enabled = false },
        [SnippetParts.Note] = Plain with { Note = Mark },
        [SnippetParts.Private] = Plain with { Private = true },
        [SnippetParts.Delivery] = Plain with
        {
            Delivery = DeliveryWay.Clipboard,
            LeaveOnClipboard = true,
            Links = LinkWriting.WordsOnly,
        },
        [SnippetParts.Text] = Plain with { Body = Body.Html.Parse($"<p><strong>{Mark}</strong></p>") },
        [SnippetParts.Twin] = Plain with { Twin = new Body.Plain(Mark) },
        [SnippetParts.Triggers] = Plain with { Triggers = new([new Trigger.Hotkey("Ctrl+Alt+B", Scope.Everywhere)]) },
        [SnippetParts.Tags] = Plain with { Tags = new(["quay"]) },
    };

    private const string Mark = "heron-4711";

    public static TheoryData<string> Parts() => [.. SnippetParts.All.Select(part => part.Key)];

    [Fact]
    public void Every_member_of_a_snippet_and_of_its_document_belongs_to_one_part()
    {
        Assert.Equal(
            SnippetParts.All.Select(part => part.Key),
            SnippetFields.All.Select(part => part.Key).Order(new PartOrder(null))
        );
        var members = typeof(SnippetDocument)
            .GetProperties(BindingFlags.Public | BindingFlags.Instance)
            .Select(property => JsonNamingPolicy.CamelCase.ConvertName(property.Name))
            // What it is known by on several machines is no part of it.
            .Where(name => name != "key");
        Assert.Equal(members.Order(), SnippetParts.All.SelectMany(part => part.Fields).Order());
        string[] placesAndRules =
        [
            "library",
            "folder",
            "rules",
            "kind",
            "timing",
            "leftEdge",
            "case",
            "keepClosingKey",
            "closingKeys",
            "givesWay",
            "scope",
            "apps",
        ];
        Assert.Equal(
            TableColumn.All.Select(column => column.Id).Except(placesAndRules).Order(),
            SnippetParts.All.SelectMany(part => part.Columns).Order()
        );
        // Whatever a snippet has is said by some part: taking all of them makes the same.
        var all = SnippetParts.All.Aggregate(Plain, (made, part) => part.Take(made, Samples[part.Key]));
        foreach (
            var property in typeof(Snippet)
                .GetProperties(BindingFlags.Public | BindingFlags.Instance)
                .Where(property => property.CanWrite)
        )
            Assert.False(
                Equals(property.GetValue(all), property.GetValue(Plain)),
                $"No part brings {property.Name} along."
            );
    }

    [Theory]
    [MemberData(nameof(Parts))]
    public async Task A_part_goes_everywhere(string key)
    {
        var part = SnippetParts.Of(key);
        var sample = Samples[key];
        Assert.Equal([part], SnippetParts.Differing(Plain, sample));
        Assert.Equal(sample, part.Take(Plain, sample));
        Assert.NotEqual("", part.Changed(Plain, sample));

        // The store, and what the API and files say.
        Assert.Equal(sample, ItemCodec.ReadSnippet(ItemCodec.Write(sample)));
        Assert.Equal(sample, SnippetDocument.Of(sample).ToSnippet());
        Assert.Equal(sample, SnippetDocument.Of(sample).Shortened().ToSnippet());
        Assert.False(
            SnippetFields.All.Single(one => one.Key == key).Same(SnippetDocument.Of(Plain), SnippetDocument.Of(sample))
        );

        // Files: JSON, YAML, a table, and mirror files.
        var library = new Library("Desk", true, LibraryRules.Default, EquatableList<Folder>.Empty, new([sample]));
        var pictures = new Dictionary<string, PictureData>();
        using var json = new MemoryStream();
        await LibraryFile.Write(json, [library], pictures, default);
        json.Position = 0;
        Assert.Equal([library], (await LibraryFile.Read(json, default)).Libraries);
        var yaml = await YamlFile.Write([library], pictures, default);
        Assert.Equal([library], (await YamlFile.Read(yaml, default)).Libraries);
        var table = SnippetTableWriter.Write([library], _ => null);
        Assert.Equal([library], SnippetTable.ToLibraries(SnippetTable.Read(table, SnippetTable.ShapeOf(table))));
        var shared = new SharedLibrary(
            new SharedRoot("Desk", true, LibraryRules.Default),
            new([new SharedSnippet("k", SharedLibrary.Top, sample)]),
            EquatableList<string>.Empty
        );
        Assert.Equal(
            shared,
            MirrorFile
                .Read(MirrorFile.Write("l", new MirrorState(MachineStates.None, shared)), () => "new")
                .State.Library
        );

        // A merge takes a change of it from either side, and keeps it when the other side changed something else.
        Assert.Equal(sample, SnippetMerge.Of(Plain, sample, Plain).Merged);
        Assert.Equal(sample, SnippetMerge.Of(Plain, Plain, sample).Merged);
        foreach (var (other, changed) in Samples.Where(pair => pair.Key != key))
        {
            var (merged, conflicts) = SnippetMerge.Of(Plain, sample, changed);
            Assert.Empty(conflicts);
            Assert.Equal(
                [key, other],
                SnippetParts.Differing(Plain, merged).Select(one => one.Key).Order(new PartOrder(key))
            );
        }
    }

    [Theory]
    [MemberData(nameof(Parts))]
    public void What_is_secret_is_sealed_and_shown_nowhere(string key)
    {
        var part = SnippetParts.Of(key);
        var item = new SnippetItem(1, new Slot(2, 1), 1, Samples[key] with { Private = true });
        var vault = new Vault(
            bytes => [.. bytes.Select(unit => (byte)~unit)],
            bytes => [.. bytes.Select(unit => (byte)~unit)]
        );
        var kept = Vault.KeptDocument.Of(vault, item).ToString();
        Assert.DoesNotContain(Mark, kept, StringComparison.Ordinal);
        Assert.DoesNotContain(Mark, Vault.KeptDocument.InBrief(item).ToString(), StringComparison.Ordinal);
        Assert.DoesNotContain(Mark, part.Shown(item.Snippet), StringComparison.Ordinal);
        Assert.Equal(item.Snippet, ItemCodec.ReadSnippet(vault.Open(kept)));
        Assert.Equal(part.Secret, SnippetDocument.Of(Samples[key]).Shortened() is var said && Holds(said));
    }

    private static bool Holds(SnippetDocument document) =>
        JsonSerializer.Serialize(document).Contains(Mark, StringComparison.Ordinal);

    /// <summary>The parts in the order of their list; of two, the given one first.</summary>
    private sealed class PartOrder(string? first) : IComparer<string>
    {
        public int Compare(string? one, string? other) => Place(one) - Place(other);

        private int Place(string? key) =>
            key == first ? -1 : SnippetParts.All.Select(part => part.Key).ToList().IndexOf(key!);
    }
}
