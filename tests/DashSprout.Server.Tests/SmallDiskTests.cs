using System.Diagnostics;
using System.Net;
using static DashSprout.Server.Tests.TestServer;

namespace DashSprout.Server.Tests;

/// <summary>
/// The program on a disk that is full or read-only: changes are refused with words, and typing goes on.
/// </summary>
public sealed class SmallDiskTests : IDisposable
{
    private const string NeedsRoot = "A small disk can be mounted by root only.";

    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-disk-");
    private readonly bool mounted;

    public SmallDiskTests() => mounted = Run("mount", "-t", "tmpfs", "-o", "size=3m", "tmpfs", folder.FullName);

    public void Dispose()
    {
        if (mounted)
            Run("umount", "-l", folder.FullName);
        folder.Delete();
    }

    [Fact]
    public async Task On_a_full_disk_every_change_says_so_and_typing_goes_on()
    {
        Assert.SkipUnless(mounted, NeedsRoot);
        using var program = await ProgramProcess.Start(folder.FullName);
        var made = await program.Post("/api/snippets", new { snippet = Snippet("a", "kept", Abbreviation("ab")) });
        var ballast = Path.Combine(folder.FullName, "ballast");
        Fill(ballast);

        (HttpMethod Method, string Path, object Body)[] changes =
        [
            (HttpMethod.Post, "/api/snippets", new { snippet = Snippet("b", new string('x', 100_000)) }),
            (
                HttpMethod.Post,
                "/api/library-file",
                new
                {
                    format = "dash-sprout-library",
                    version = 1,
                    libraries = new[]
                    {
                        new { name = "B", snippets = new[] { new { name = "b", text = new string('x', 100_000) } } },
                    },
                }
            ),
            (HttpMethod.Post, "/api/backups", new { }),
        ];
        foreach (var (method, path, body) in changes)
        {
            var (status, problem) = await program.Send(method, path, body);
            Assert.True(status == HttpStatusCode.InsufficientStorage, $"{path}: {status} {problem}");
            Assert.Contains(
                "The disk is full: nothing was changed",
                (string?)problem!["detail"],
                StringComparison.Ordinal
            );
        }
        Assert.Equal("kept ", (string?)(await program.Post("/api/rehearsal", new { typed = "ab " }))["text"]);

        File.Delete(ballast);
        var (saved, _) = await program.Send(
            HttpMethod.Post,
            "/api/snippets",
            new { snippet = Snippet("b", new string('x', 100_000)) }
        );
        Assert.Equal(HttpStatusCode.OK, saved);
        await program.Kill();

        using var again = await ProgramProcess.Start(folder.FullName);
        Assert.Equal(
            "kept",
            (string?)(await again.Send(HttpMethod.Get, $"/api/snippets/{made["id"]}")).Body!["snippet"]!["text"]
        );
    }

    [Fact]
    public async Task A_read_only_disk_at_the_start_is_said_in_words_and_nothing_is_lost()
    {
        Assert.SkipUnless(mounted, NeedsRoot);
        using (var program = await ProgramProcess.Start(folder.FullName))
        {
            await program.Post("/api/snippets", new { snippet = Snippet("a", "kept", Abbreviation("ab")) });
            await program.Kill();
        }
        Assert.True(Run("mount", "-o", "remount,ro", folder.FullName));
        var (code, words) = await ProgramProcess.StartInVain(folder.FullName);
        Assert.Equal(2, code);
        Assert.Contains($"The data folder {folder.FullName} cannot be used", words, StringComparison.Ordinal);
        Assert.DoesNotContain("   at ", words, StringComparison.Ordinal);
        Assert.True(Run("mount", "-o", "remount,rw", folder.FullName));
        using var again = await ProgramProcess.Start(folder.FullName);
        Assert.Equal("kept ", (string?)(await again.Post("/api/rehearsal", new { typed = "ab " }))["text"]);
    }

    /// <summary>SQLite's result codes, as its documentation numbers them (sqlite.org/rescode.html).</summary>
    [Theory]
    [InlineData(13, "The disk is full: nothing was changed")]
    [InlineData(8, "cannot be written: nothing was changed")]
    [InlineData(14, "cannot be written: nothing was changed")]
    [InlineData(5, "Do it again in a moment")]
    [InlineData(11, "is damaged: nothing was changed")]
    [InlineData(26, "is damaged: nothing was changed")]
    [InlineData(10, "The disk does not work as it should")]
    [InlineData(1, null)]
    public void What_the_disk_refuses_is_said_in_words(int code, string? words)
    {
        var said = Store.Files.StorageFault.Words(new Microsoft.Data.Sqlite.SqliteException("x", code), "/data");
        if (words is null)
            Assert.Null(said);
        else
            Assert.Contains(words, said, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_full_disk_at_the_start_is_said_in_words()
    {
        Assert.SkipUnless(mounted, NeedsRoot);
        Fill(Path.Combine(folder.FullName, "ballast"));
        var (code, words) = await ProgramProcess.StartInVain(folder.FullName);
        Assert.Equal(2, code);
        Assert.Contains("The disk is full", words, StringComparison.Ordinal);
        Assert.DoesNotContain("   at ", words, StringComparison.Ordinal);
    }

    private static void Fill(string path)
    {
        using var file = new FileStream(path, FileMode.Create);
        try
        {
            while (true)
            {
                file.Write(new byte[4096]);
                file.Flush(flushToDisk: true);
            }
        }
        catch (IOException)
        {
            // That is the point.
        }
    }

    private static bool Run(string command, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(command, arguments) { RedirectStandardError = true })!;
        process.WaitForExit();
        return process.ExitCode == 0;
    }
}
