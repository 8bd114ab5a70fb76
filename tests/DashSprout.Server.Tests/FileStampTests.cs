using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;
using DashSprout.Server.Mirrors;

namespace DashSprout.Server.Tests;

/// <summary>
/// Clocks of files are coarse: two programs that write at the same moment give their files the same one, and texts of one
/// length give them the same length. It is another file all the same.
/// </summary>
public sealed class FileStampTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-stamps-");

    public void Dispose() => folder.Delete(recursive: true);

    [Fact]
    public void A_mirror_file_that_another_program_wrote_at_the_same_moment_is_read()
    {
        var (one, other) = (new MirrorFolder(folder.FullName, () => "a"), new MirrorFolder(folder.FullName, () => "b"));
        one.Write("Berths.json", "k", Named("Berths"));
        Assert.Equal("Berths", NameIn(one));
        var at = File.GetLastWriteTimeUtc(Path.Combine(folder.FullName, "Berths.json"));
        other.Write("Berths.json", "k", Named("Wharfs")); // as long
        File.SetLastWriteTimeUtc(Path.Combine(folder.FullName, "Berths.json"), at);

        Assert.False(one.Wrote(Assert.Single(one.Files(() => "new"))));
        Assert.Equal("Wharfs", NameIn(one));
    }

    [Fact]
    public void A_file_that_was_written_in_place_is_another_one_as_well()
    {
        var mirror = new MirrorFolder(folder.FullName, () => "a");
        mirror.Write("Berths.json", "k", Named("Berths"));
        var path = Path.Combine(folder.FullName, "Berths.json");
        var at = File.GetLastWriteTimeUtc(path);
        File.WriteAllText(path, File.ReadAllText(path).Replace("Berths", "Wharfs", StringComparison.Ordinal));
        File.SetLastWriteTimeUtc(path, at.AddMilliseconds(4));

        Assert.Equal("Wharfs", NameIn(mirror));
    }

    private static string NameIn(MirrorFolder mirror) =>
        Assert.Single(mirror.Files(() => "new")).Contents!.State.Library.Root.Name;

    private static MirrorState Named(string name) =>
        new(
            MachineStates.None,
            new SharedLibrary(
                new SharedRoot(name, true, LibraryRules.Default),
                EquatableList<SharedEntry>.Empty,
                EquatableList<string>.Empty
            )
        );
}
