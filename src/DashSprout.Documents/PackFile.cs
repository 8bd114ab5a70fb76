using System.Text.Json;
using DashSprout.Core;
using DashSprout.Core.Mirroring;

namespace DashSprout.Documents;

/// <summary>What a pack says of itself.</summary>
/// <param name="Id">What it is known by, whatever its name.</param>
/// <param name="About">What it is for, in a sentence.</param>
/// <param name="Licence">Under which licence it may be used.</param>
/// <param name="Source">Where its contents come from.</param>
/// <param name="State">Another one with each change of its contents.</param>
public sealed record PackDocument(
    string? Id = null,
    string? About = null,
    string? Licence = null,
    string? Source = null,
    string? State = null
);

/// <summary>A pack: a ready-made library with a licence and a source.</summary>
public sealed record Pack(string Id, string About, string Licence, string Source, string State, SharedLibrary Library);

/// <summary>
/// The pack file: a library file that holds one library and says where it comes from. What has no key is known by its
/// path.
/// </summary>
public static class PackFile
{
    /// <summary>
    /// Reads a pack; throws <see cref="InvalidInputException"/> that names the place and what is wrong.
    /// </summary>
    public static Pack Read(string text)
    {
        var file = LibraryFile.Parse(text);
        if (file.Pack is not { } pack)
            throw new InvalidInputException(
                "pack",
                "This is no pack: it says nothing of its licence and its source under “pack”."
            );
        return new Pack(
            Said("id", pack.Id),
            Said("about", pack.About),
            Said("licence", pack.Licence),
            Said("source", pack.Source),
            Said("state", pack.State),
            SharedDocuments.Read(file, EquatableList<string>.Empty, path => path)
        );
    }

    /// <summary>A pack as a file.</summary>
    public static string Write(Pack pack) =>
        JsonSerializer.Serialize(
            new LibraryFile(
                LibraryFile.FormatName,
                LibraryFile.CurrentVersion,
                [SharedDocuments.Write(pack.Library)],
                Pack: new PackDocument(pack.Id, pack.About, pack.Licence, pack.Source, pack.State)
            ),
            LibraryFile.Json
        );

    private static string Said(string field, string? text) =>
        string.IsNullOrWhiteSpace(text)
            ? throw new InvalidInputException($"pack.{field}", $"The pack does not say its “{field}”.")
            : text;
}
