using Dapper;
using DashSprout.Store.Data;
using DashSprout.Store.Files;
using DashSprout.Store.Items;
using Microsoft.Data.Sqlite;

namespace DashSprout.Server.Tests;

/// <summary>Whatever lies in the data folder, the program starts or says why not, and nothing of it is lost.</summary>
public sealed class DataFolderTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-");
    private readonly DateTimeOffset now = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);

    private string File => Path.Combine(folder.FullName, "dash-sprout.sqlite");

    public void Dispose() => folder.Delete(recursive: true);

    [Fact]
    public void One_program_has_it_at_a_time_and_the_other_is_told_who()
    {
        using (Open())
        {
            var refused = Assert.Throws<UnusableDataException>(() => Open());
            Assert.Contains("in use by the harbour office", refused.Message, StringComparison.Ordinal);
            Assert.Contains("--data", refused.Message, StringComparison.Ordinal);
        }
        using var again = Open();
        Assert.Null(again.SetAside);
    }

    [Fact]
    public void Nobody_else_can_read_it_also_what_was_there_before()
    {
        System.IO.File.SetUnixFileMode(folder.FullName, (UnixFileMode)Convert.ToInt32("755", 8));
        var old = Path.Combine(folder.CreateSubdirectory("backups").FullName, "old.sqlite");
        System.IO.File.WriteAllText(old, "x");
        System.IO.File.SetUnixFileMode(old, (UnixFileMode)Convert.ToInt32("644", 8));
        using var data = Open();
        new BackupStore(data).Make(BackupReason.Asked, now);
        using (data.Database.Open())
        {
            foreach (
                var path in Directory
                    .EnumerateFileSystemEntries(folder.FullName, "*", SearchOption.AllDirectories)
                    .Prepend(folder.FullName)
            )
                Assert.Equal(
                    Directory.Exists(path) ? "700" : "600",
                    Convert.ToString((int)System.IO.File.GetUnixFileMode(path), 8)
                );
        }
    }

    [Theory]
    [InlineData("")]
    [InlineData(
        "this is no database, however long it may be "
            + "...................................................................."
    )]
    [InlineData(
        "SQLite format 3\0 and nothing of the kind behind it, however long it may be "
            + "..................................."
    )]
    public void A_damaged_file_is_set_aside_untouched_and_said(string text)
    {
        var content = System.Text.Encoding.UTF8.GetBytes(text);
        System.IO.File.WriteAllBytes(File, content);
        using (var data = Open())
        {
            Assert.Contains("was damaged", data.SetAside, StringComparison.Ordinal);
            var aside = Assert.Single(
                Directory.EnumerateFiles(Path.Combine(folder.FullName, "set-aside"), "*", SearchOption.AllDirectories)
            );
            Assert.Equal(content, System.IO.File.ReadAllBytes(aside));
            Assert.Empty(new ItemStore(data.Database).Load().Items);
        }
        using var again = Open();
        Assert.Null(again.SetAside);
    }

    [Fact]
    public void A_file_with_a_broken_page_is_set_aside_and_a_backup_brings_everything_back()
    {
        string backup;
        using (var data = Open())
        {
            using (var connection = data.Database.Open())
                for (var id = 1; id <= 400; id++)
                    connection.Execute(
                        "INSERT INTO item (id, kind, position, document, saved_at) VALUES (@id, 'library', "
                            + "@id, @document, '')",
                        new { id, document = $$"""{"name":"{{id}} {{new string('x', 300)}}"}""" }
                    );
            backup = new BackupStore(data).Make(BackupReason.Daily, now).Name;
        }
        using (var file = new FileStream(File, FileMode.Open))
        {
            file.Position = file.Length / 2;
            file.Write(new byte[20_000]);
        }
        using var opened = Open();
        Assert.NotNull(opened.SetAside);
        Assert.Empty(new ItemStore(opened.Database).Load().Items);
        new BackupStore(opened).Restore(backup, 1);
        Assert.Equal(400, new ItemStore(opened.Database).Load().Items.Count);
    }

    [Theory]
    [InlineData(100)]
    [InlineData(10_000)]
    [InlineData(-5_000)]
    public void A_file_that_was_cut_short_is_set_aside_and_the_backup_is_there(long left)
    {
        string backup;
        using (var data = Open())
        {
            using (var connection = data.Database.Open())
                for (var id = 1; id <= 50; id++)
                    connection.Execute(
                        "INSERT INTO item (id, kind, position, document, saved_at) VALUES (@id, 'library', @id, "
                            + "@document, '')",
                        new { id, document = $$"""{"name":"{{id}} {{new string('x', 300)}}"}""" }
                    );
            backup = new BackupStore(data).Make(BackupReason.Daily, now).Name;
        }
        using (var file = new FileStream(File, FileMode.Open))
            file.SetLength(left > 0 ? left : file.Length + left);
        using var opened = Open();
        Assert.Contains("was damaged", opened.SetAside, StringComparison.Ordinal);
        new BackupStore(opened).Restore(backup, 1);
        Assert.Equal(50, new ItemStore(opened.Database).Load().Items.Count);
    }

    [Fact]
    public void What_a_killed_program_left_half_made_is_gone()
    {
        using (Open()) { }
        var backups = folder.CreateSubdirectory("backups").FullName;
        string[] rests =
        [
            Path.Combine(backups, "making-1.partial"),
            Path.Combine(folder.FullName, "restoring-2.partial"),
        ];
        foreach (var rest in rests)
            System.IO.File.WriteAllText(rest, "half");
        using (Open()) { }
        Assert.All(rests, rest => Assert.False(System.IO.File.Exists(rest)));
    }

    /// <summary>Ids are given once, whatever becomes of the data file.</summary>
    [Fact]
    public void An_id_is_never_given_twice_also_when_the_data_file_is_gone()
    {
        long Add(DataFolder data)
        {
            var libraryService = new Libraries.LibraryService(
                new ItemStore(data.Database),
                new ChangeLog(data.Database),
                TimeProvider.System
            );
            libraryService.Open();
            return libraryService
                .Do((_, id) => Core.Libraries.Commands.AddLibrary(libraryService.Tree, id, $"L{id}"))
                .Items[0]
                .Id;
        }
        long first;
        using (var data = Open())
            first = Add(data);
        System.IO.File.Delete(File);
        using var again = Open();
        Assert.True(Add(again) > first);
    }

    [Fact]
    public void A_folder_that_was_copied_is_another_machine_and_one_that_was_moved_is_not()
    {
        string first;
        using (var data = Open())
            first = data.Machine.Id;
        using (var data = Open())
            Assert.Equal(first, data.Machine.Id);
        var copy = folder.FullName + "-copy";
        var moved = folder.FullName + "-moved";
        try
        {
            using (var cp = System.Diagnostics.Process.Start("cp", ["-a", folder.FullName, copy]))
                cp.WaitForExit();
            using (var data = DataFolder.Open(copy, "x", now, DataKeys.In))
                Assert.NotEqual(first, data.Machine.Id);
            Directory.Move(folder.FullName, moved);
            using (var data = DataFolder.Open(moved, "x", now, DataKeys.In))
                Assert.Equal(first, data.Machine.Id);
            Directory.Move(moved, folder.FullName);
        }
        finally
        {
            Directory.Delete(copy, recursive: true);
        }
    }

    [Fact]
    public async Task A_program_that_finds_its_file_damaged_starts_says_so_and_offers_the_backup()
    {
        string backup;
        using (var first = new TestServer(data: folder.FullName))
        {
            for (var count = 0; count < 40; count++)
                await first.AddSnippet(
                    (await LibraryOf(first)),
                    TestServer.Snippet($"s{count}", new string('x', 3000))
                );
            backup = (string)(await first.Post("/api/backups", new { }))["name"]!;
        }
        using (var file = new FileStream(File, FileMode.Open))
        {
            file.Position = file.Length / 3;
            file.Write(new byte[30_000]);
        }
        using var second = new TestServer(data: folder.FullName);
        var notice = Assert.Single((await second.Get("/api/notices"))["notices"]!.AsArray())!;
        Assert.Contains("was damaged", (string?)notice["text"], StringComparison.Ordinal);
        Assert.Equal("backups", (string)notice["lookAt"]!);
        Assert.Empty(await second.Rows());
        await second.Post($"/api/backups/{backup}/restore", new { });
        Assert.Equal(41, (await second.Rows()).Count);

        static async Task<long> LibraryOf(TestServer server) =>
            (long)(await server.Get("/api/libraries"))["libraries"]![0]!["id"]!;
    }

    [Fact]
    public void A_file_of_a_newer_program_is_refused_unchanged()
    {
        using (Open()) { }
        using (var connection = new SqliteConnection($"Data Source={File};Pooling=False"))
        {
            connection.Open();
            connection.Execute("PRAGMA user_version = 6");
            connection.Execute(
                "INSERT INTO SchemaVersions (ScriptName, Applied) VALUES "
                    + "('DashSprout.Store.Migrations.9999_moons.sql', '2030-01-01')"
            );
            connection.Execute("PRAGMA wal_checkpoint(TRUNCATE)");
        }
        var before = System.IO.File.ReadAllBytes(File);
        var refused = Assert.Throws<UnusableDataException>(Open).Message;
        Assert.Contains("made by a newer program", refused, StringComparison.Ordinal);
        Assert.Contains("9999_moons", refused, StringComparison.Ordinal);
        Assert.Equal(before, System.IO.File.ReadAllBytes(File));
    }

    [Fact]
    public void A_folder_that_cannot_be_made_is_refused_with_words()
    {
        var file = Path.Combine(folder.FullName, "a-file");
        System.IO.File.WriteAllText(file, "");
        Assert.Contains(
            "cannot be used",
            Assert
                .Throws<UnusableDataException>(() => DataFolder.Open(Path.Combine(file, "data"), "x", now, DataKeys.In))
                .Message,
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// A document that cannot be read, folders in each other and an id out of range end no start; the rest is there.
    /// </summary>
    [Fact]
    public void What_cannot_be_used_is_set_aside_and_the_rest_is_there()
    {
        using var data = Open();
        using (var connection = data.Database.Open())
            connection.Execute(
                """
                INSERT INTO item (id, kind, parent_id, position, document, saved_at) VALUES
                    (1, 'library', NULL, 1, '{"name":"Berths"}', ''), (2, 'snippet', 1, 1, '{"name":"good","text":"x"}', ''),
                    (3, 'snippet', 1, 2, '{"name":"bad timing","text":"x","triggers":[{"kind":"abbreviation","text":"a","timing":"soon"}]}', ''),
                    (4, 'snippet', 1, 3, 'no json', ''), (5, 'snippet', 1, 4, '{"text":"no name"}', ''), (6, 'snippet', 1, 5, '{"name":"x","unknown":1}', ''),
                    (8, 'folder', 1, 1, '{"name":"b"}', ''),
                    (7, 'folder', 8, 1, '{"name":"a"}', ''),
                    (9000000000, 'snippet', 1, 6, '{"name":"far away","text":"x"}', '');
                UPDATE item SET parent_id = 7 WHERE id = 8;
                """
            );
        var libraryService = new Libraries.LibraryService(
            new ItemStore(data.Database),
            new ChangeLog(data.Database),
            TimeProvider.System
        );
        libraryService.Open();
        Assert.Equal(
            ["Berths", "good"],
            libraryService.Tree.Libraries.SelectMany(libraryService.Tree.Within).Select(item => item.Name)
        );
        Assert.Equal([3, 4, 5, 6, 7, 8, 9000000000], libraryService.SetAside.Select(item => item.Id).Order());
        Assert.All(libraryService.SetAside, item => Assert.NotEqual("", item.Why));
        // What is new gets a free id all the same.
        Assert.Equal(
            10,
            libraryService
                .Do((now, id) => Core.Libraries.Commands.AddLibrary(now, Math.Max(id, 10), "More"))
                .Items[0]
                .Id
        );
    }

    private DataFolder Open() => DataFolder.Open(folder.FullName, "the harbour office", now, DataKeys.In);
}
