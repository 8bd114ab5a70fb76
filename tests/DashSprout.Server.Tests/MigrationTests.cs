using System.Security.Cryptography;
using System.Text;
using Dapper;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Server.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Features;
using DashSprout.Store.Items;
using Microsoft.Data.Sqlite;

namespace DashSprout.Server.Tests;

/// <summary>A data file of the program as it was before comes along whole, and a backup of it stays.</summary>
public sealed class MigrationTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-");

    public void Dispose() => folder.Delete(recursive: true);

    [Fact]
    public void A_file_of_the_program_before_comes_along_whole()
    {
        MakeOldFile();
        using var data = DataFolder.Open(
            folder.FullName,
            "a test",
            new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero),
            DataKeys.In
        );
        var libraryService = new LibraryService(
            new ItemStore(data.Database),
            new ChangeLog(data.Database),
            TimeProvider.System
        );
        libraryService.Open();
        var now = libraryService.Tree;
        Assert.Empty(libraryService.SetAside);
        Assert.Equal(
            ["Second", "First", "Outer", "Inner", "deep", "shallow"],
            now.Libraries.SelectMany(now.Within).Select(item => item.Name)
        );
        var second = now.Libraries.First();
        Assert.Equal(
            (false, "Enter", true),
            (second.Enabled, Assert.Single(second.Rules.ClosingKeys.Keys).Value, second.Rules.CapsLockShouts)
        );

        var deep = now.Get<SnippetItem>(7);
        Assert.Equal(
            ("First/Outer/Inner/deep", 4, "a \"note\"", DeliveryWay.Clipboard),
            (now.PathOf(deep), deep.Version, deep.Snippet.Note, deep.Snippet.Delivery)
        );
        Assert.Equal(
            new Body.Html("<p>x <slot name=\"snippet\" data-ref=\"First/shallow\"></slot></p>"),
            deep.Snippet.Body
        );
        Assert.Equal("plain\ntext", now.FindBody(References.In(deep.Snippet.Body)[0])!.Source);
        var typed = Assert.IsType<Trigger.Abbreviation>(deep.Snippet.Triggers[0]);
        Assert.Equal(
            ("dp", Timing.DoubleClosingKey, LeftEdge.Any, LetterCase.Mirror, false),
            (typed.Text, typed.Rules.Timing, typed.Rules.LeftEdge, typed.Rules.Case, typed.Rules.KeepClosingKey)
        );
        Assert.Equal(new Scope.OnlyIn(new(["post"])), typed.Scope);
        Assert.Equal("Ctrl+Alt+J", Assert.IsType<Trigger.Hotkey>(deep.Snippet.Triggers[1]).Text);

        Assert.Equal(
            new FiringRecord(7, "dp", 3, 1, DateTimeOffset.UnixEpoch),
            Assert.Single(new SafetyStore(data.Database).TakenBack())
        );
        Assert.False(new SafetyStore(data.Database).MayOpen(7, "https://example.org/"));
        Assert.Equal(["gone"], new HistoryStore(data.Database).Bin().Select(item => item.Name));
        Assert.Equal(
            ("Europe/London", "sunday"),
            (Dates(data)["zone"]!.ToString(), Dates(data)["weekend"]![0]!.ToString())
        );
        Assert.Equal(
            "Ctrl+Alt+J",
            System.Text.Json.Nodes.JsonNode.Parse(new SettingStore(data.Database).Get("typing")!)!["chords"]![
                "finder"
            ]!.ToString()
        );

        var backup = Assert.Single(new BackupStore(data).List());
        Assert.Equal((BackupReason.BeforeUpdate, 2, 2), (backup.Reason, backup.Libraries, backup.Snippets));
        new BackupStore(data).Restore(backup.Name, 1);
        libraryService.Open();
        Assert.Equal("deep", libraryService.Tree.Get<SnippetItem>(7).Name);
    }

    /// <summary>What has shipped is never edited again: files that have seen it are not what it says then.</summary>
    [Fact]
    public void No_migration_that_has_shipped_has_been_edited() =>
        Assert.Equal(
            Shipped,
            string.Join(
                '\n',
                Migrations.All.Select(name =>
                {
                    var hash = SHA256.HashData(Encoding.UTF8.GetBytes(Migrations.Text(name)));
                    return $"{name.Split('.')[^2]} {Convert.ToHexStringLower(hash)[..16]}";
                })
            )
        );

    /// <summary>A file of each step, with data of its time, is opened as any other, after a backup.</summary>
    [Theory]
    [MemberData(nameof(Steps))]
    public void A_file_of_any_step_is_brought_up_to_date(int step, int oldNumber)
    {
        using (var connection = Old(step))
        {
            connection.Execute($"PRAGMA user_version = {oldNumber}");
            if (step < 5)
                connection.Execute(
                    """
                    INSERT INTO library (id, name, name_key, position, enabled, closing_keys, caps_lock_shouts)
                      VALUES (1, 'Berths', 'BERTHS', 0, 1, NULL, 0);
                    INSERT INTO snippet (id, library_id, folder_id, name, name_key, position, note, delivery, body_kind,
                        body, version, deleted_at)
                      VALUES (7, 1, NULL, 'berth', 'BERTH', 0, '', 'automatic', 'plain', 'the berth', 1, NULL);
                    """
                );
            else
                connection.Execute(
                    """
                    INSERT INTO item (id, kind, parent_id, position, document, saved_at) VALUES
                      (8, 'library', NULL, 1, '{"name":"Berths"}', '2026-01-01T00:00:00.000Z'),
                      (7, 'snippet', 8, 1, '{"name":"berth","text":"the berth"}', '2026-01-01T00:00:00.000Z');
                    """
                );
            if (step >= 3)
                connection.Execute(
                    step < 10
                        ? "INSERT INTO firing_record (snippet_id, trigger_text, fired, taken_back, last_at) "
                            + "VALUES (7, 'br', 3, 1, '2026-01-01T00:00:00.0000000+00:00')"
                        : "INSERT INTO firing_record VALUES (7, 'br', 3, 1, '2026-01-01T00:00:00.0000000+00:00', 2)"
                );
            if (step >= 8)
                connection.Execute(
                    "INSERT INTO mirror (library_id, folder, file, key) VALUES (8, '/mnt/team', 'Berths.json', 'ab')"
                );
        }
        using var data = DataFolder.Open(folder.FullName, "a test", DateTimeOffset.UnixEpoch, DataKeys.In);
        Assert.Null(data.SetAside);
        var libraryService = new LibraryService(
            new ItemStore(data.Database),
            new ChangeLog(data.Database),
            TimeProvider.System
        );
        libraryService.Open();
        Assert.Equal("Berths/berth", libraryService.Tree.PathOf(libraryService.Tree.Get<SnippetItem>(7)));
        if (step >= 3)
            Assert.Equal(3, Assert.Single(new SafetyStore(data.Database).Uses()).Fired);
        if (step >= 8)
            Assert.Equal("Berths.json", Assert.Single(new MirrorStore(data.Database).All()).File);
        Assert.Equal(step < Migrations.All.Count ? 1 : 0, new BackupStore(data).List().Count);
        libraryService.Do((now, id) => Commands.AddLibrary(now, id, "More"));
        Assert.Equal(2, new BackupStore(data).Make(BackupReason.Asked, DateTimeOffset.UnixEpoch).Libraries);
    }

    /// <summary>A picture of before there was sealing is sealed when only a private snippet shows it.</summary>
    [Fact]
    public void Pictures_of_private_snippets_are_sealed_when_a_file_is_brought_up_to_date()
    {
        using (var connection = Old(11))
            connection.Execute(
                """
                INSERT INTO media VALUES ('aa', 'image/png', CAST('hidden quay' AS BLOB)), ('bb', 'image/png', CAST('open quay' AS BLOB));
                INSERT INTO item (id, kind, parent_id, position, document, saved_at) VALUES
                  (1, 'library', NULL, 1, '{"name":"Berths"}', ''),
                  (2, 'snippet', 1, 1, '{"name":"a","private":true,"body":"<p><img src=\"media:aa\"></p>"}', ''),
                  (3, 'snippet', 1, 2, '{"name":"b","body":"<p><img src=\"media:bb\"></p>"}', '');
                """
            );
        using var data = DataFolder.Open(folder.FullName, "a test", DateTimeOffset.UnixEpoch, DataKeys.In);
        var media = new MediaStore(data.Database, TimeProvider.System);
        Assert.Equal("hidden quay", Encoding.UTF8.GetString(media.Get("aa", out var hidden)!.Bytes));
        Assert.Equal("open quay", Encoding.UTF8.GetString(media.Get("bb", out var open)!.Bytes));
        Assert.Equal((true, false), (hidden, open));
    }

    /// <summary>Each step, with the numbers that programs of that time wrote beside the journal.</summary>
    public static TheoryData<int, int> Steps()
    {
        var steps = new TheoryData<int, int>();
        for (var step = 1; step <= Migrations.All.Count; step++)
            foreach (
                var number in step < 5 ? [0]
                : step < 8 ? (int[])[5]
                : [6]
            )
                steps.Add(step, number);
        return steps;
    }

    private const string Shipped = """
        0001_libraries 1221080aa6b8e21b
        0002_media 522311bc9271a96e
        0003_safety 5e9729faa42ab67b
        0004_finder 7c7959586e214fd2
        0005_items 27c2a80eeb628d85
        0006_live_parts cca063a918bef3db
        0007_chords ce1700e68635d14d
        0008_mirrors 398ca2efc99f1312
        0009_packs 8f038fd5c42e8a1b
        0010_savings fc45011553e7056c
        0011_drill 7f6363633b982ef9
        0012_sealed_pictures b666ec0c96de6a16
        """;

    private static System.Text.Json.Nodes.JsonNode Dates(DataFolder data) =>
        System.Text.Json.Nodes.JsonNode.Parse(new SettingStore(data.Database).Get("dates")!)!;

    /// <summary>A file that has seen some migrations, the first ones.</summary>
    private SqliteConnection Old(int step)
    {
        var connection = new SqliteConnection(
            $"Data Source={Path.Combine(folder.FullName, "dash-sprout.sqlite")};Pooling=False"
        );
        connection.Open();
        connection.Execute(
            "PRAGMA journal_mode = WAL; CREATE TABLE SchemaVersions (SchemaVersionID INTEGER CONSTRAINT "
                + "PK_SchemaVersions_SchemaVersionID PRIMARY KEY AUTOINCREMENT NOT NULL, ScriptName TEXT NOT NULL, "
                + "Applied DATETIME NOT NULL)"
        );
        foreach (var name in Migrations.All.Take(step))
        {
            connection.Execute(Migrations.Text(name));
            connection.Execute(
                "INSERT INTO SchemaVersions (ScriptName, Applied) VALUES (@name, '2026-01-01')",
                new { name }
            );
        }
        return connection;
    }

    private void MakeOldFile()
    {
        using var connection = Old(4);
        connection.Execute(
            """
            INSERT INTO library (id, name, name_key, position, enabled, closing_keys, caps_lock_shouts)
              VALUES (1, 'First', 'FIRST', 1, 1, NULL, 0), (2, 'Second', 'SECOND', 0, 0, '["Enter"]', 1);
            INSERT INTO folder (id, library_id, parent_id, name, name_key, position) VALUES (4, 1, NULL, 'Outer', 'OUTER', 0), (3, 1, 4, 'Inner', 'INNER', 0);
            INSERT INTO snippet (id, library_id, folder_id, name, name_key, position, note, delivery, body_kind, body, words, version, from_file, deleted_at)
              VALUES
                (7, 1, 3, 'deep', 'DEEP', 0, 'a "note"', 'clipboard', 'html',
                    '<p>x <slot name="snippet" data-ref="First/shallow"></slot></p>', 'x', 4, 1, NULL),
                (8, 1, NULL, 'shallow', 'SHALLOW', 0, '', 'automatic', 'plain', 'plain' || char(10) || 'text', 'plain', 1, 0, NULL),
                (9, 1, NULL, 'gone', 'GONE', 1, '', 'automatic', 'plain', 'x', 'x', 1, 0, '2026-02-28T10:00:00.0000000+00:00');
            INSERT INTO trigger_rule VALUES
                (7, 0, 'abbreviation', 'dp', 'double-closing-key', 'any', 'mirror', 0, NULL, 1, 'only-in', '["post"]'),
                (7, 1, 'hotkey', 'Ctrl+Alt+J', NULL, NULL, NULL, NULL, NULL, NULL, 'everywhere', '[]');
            INSERT INTO firing_record VALUES (7, 'dp', 3, 1, '1970-01-01T00:00:00.0000000+00:00');
            INSERT INTO setting VALUES ('dates.zone', 'Europe/London'), ('dates.locale', 'en-GB'), ('dates.weekend', 'sunday'), ('dates.holidays', ''),
                ('engine.take-back', 'true'), ('engine.take-back-chord', 'Ctrl+Alt+Z'), ('engine.hints', 'false'), ('engine.finder-chord', 'Ctrl+Alt+J'),
                ('engine.quick-add-chord', 'Ctrl+Alt+N'),
                ('engine.rest-chord', 'Ctrl+Alt+R'),
                ('engine.resting', 'true'),
                ('engine.resting-until', ''),
                ('engine.resting-apps', 'post console'),
                ('demo.loaded', 'true');
            """
        );
    }
}
