using System.Text.Json;
using DashSprout.Core.Finding;
using DashSprout.Core.Learning;
using DashSprout.Store.Data;
using DashSprout.Store.Files;

namespace DashSprout.Store.Features;

/// <summary>What was learned from typing, all together.</summary>
public sealed record Learned(LearnedState State, IReadOnlyList<MissedChance> Missed);

/// <summary>
/// Keeps what was learned in a file of its own, sealed: it is in no backup, goes with one file, and nobody reads it
/// without the key. What cannot be read is dropped.
/// </summary>
public sealed class LearnedStore(DataFolder folder)
{
    private const int Version = 1;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
    };

    /// <summary>Where it is.</summary>
    public string FilePath { get; } = Path.Combine(folder.Path, "learned");

    private sealed record Document(
        int Version,
        IReadOnlyList<PhraseDocument> Phrases,
        IReadOnlyList<PhraseDocument> Dismissed,
        IReadOnlyList<MissedChance> Missed,
        byte[] Cells,
        long Counted
    );

    private sealed record PhraseDocument(
        ulong Code,
        bool Varies,
        IReadOnlyList<string> Texts,
        int Times,
        DateTimeOffset FirstAt,
        double Weight,
        DateTimeOffset LastAt,
        IReadOnlyList<string> Apps
    )
    {
        public static PhraseDocument Of(Phrase phrase) =>
            new(
                phrase.Code,
                phrase.Varies,
                phrase.Texts,
                phrase.Times,
                phrase.FirstAt,
                phrase.Use.Weight,
                phrase.Use.LastAt,
                phrase.Apps
            );

        public Phrase ToPhrase() =>
            new(Code, Varies, new(Texts), Times, FirstAt, new FadingUse(Weight, LastAt), new(Apps));
    }

    /// <summary>What was kept; null when nothing was.</summary>
    /// <param name="damaged">Whether something was there that could not be read; it is gone then.</param>
    public Learned? Read(out bool damaged)
    {
        damaged = false;
        if (!File.Exists(FilePath))
            return null;
        try
        {
            if (
                folder.Database.Vault.OpenWhole(File.ReadAllBytes(FilePath)) is { } packed
                && JsonSerializer.Deserialize<Document>(Packed.Bytes(packed), Json) is { Version: Version } kept
                && kept.Phrases.Concat(kept.Dismissed)
                    .All(phrase => phrase?.Texts.All(text => text is not null) == true)
                && kept.Missed.All(chance => chance is not null)
            )
                return new Learned(
                    new LearnedState(
                        [.. kept.Phrases.Select(phrase => phrase.ToPhrase())],
                        [.. kept.Dismissed.Select(phrase => phrase.ToPhrase())],
                        Packed.Bytes(kept.Cells),
                        kept.Counted
                    ),
                    kept.Missed
                );
        }
        catch (Exception exception)
            when (exception is JsonException or InvalidDataException or ArgumentException or FormatException)
        {
            // Told by what is given back.
        }
        damaged = true;
        Delete();
        return null;
    }

    /// <summary>Keeps what was learned, whole or not at all.</summary>
    public void Write(Learned learned)
    {
        var document = new Document(
            Version,
            [.. learned.State.Phrases.Select(PhraseDocument.Of)],
            [.. learned.State.Dismissed.Select(PhraseDocument.Of)],
            learned.Missed,
            Packed.Of(learned.State.Cells),
            learned.State.Counted
        );
        var bytes = folder.Database.Vault.SealWhole(Packed.Of(JsonSerializer.SerializeToUtf8Bytes(document, Json)));
        OwnFiles.WriteWhole(FilePath, bytes);
    }

    /// <summary>Deletes what was kept.</summary>
    public void Delete() => File.Delete(FilePath);
}
