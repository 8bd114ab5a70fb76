using Dapper;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Server.Libraries;
using DashSprout.Store;
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
        var catalog = new Catalog(new ItemStore(data.Database), new ChangeLog(data.Database), TimeProvider.System);
        catalog.Open();
        var now = catalog.Catalogue;
        Assert.Empty(catalog.SetAside);
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
        new BackupStore(data).Restore(backup.Name);
        catalog.Open();
        Assert.Equal("deep", catalog.Catalogue.Get<SnippetItem>(7).Name);
    }

    private static System.Text.Json.Nodes.JsonNode Dates(DataFolder data) =>
        System.Text.Json.Nodes.JsonNode.Parse(new SettingStore(data.Database).Get("dates")!)!;

    private void MakeOldFile()
    {
        var assembly = typeof(DataFolder).Assembly;
        using var connection = new SqliteConnection(
            $"Data Source={Path.Combine(folder.FullName, "dash-sprout.sqlite")};Pooling=False"
        );
        connection.Open();
        connection.Execute(
            "PRAGMA journal_mode = WAL; CREATE TABLE SchemaVersions (SchemaVersionID INTEGER CONSTRAINT "
                + "PK_SchemaVersions_SchemaVersionID PRIMARY KEY AUTOINCREMENT NOT NULL, ScriptName TEXT NOT NULL, "
                + "Applied DATETIME NOT NULL)"
        );
        foreach (
            var name in assembly
                .GetManifestResourceNames()
                .Where(name => name.EndsWith(".sql", StringComparison.Ordinal))
                .Order(StringComparer.Ordinal)
                .Take(4)
        )
        {
            using var reader = new StreamReader(assembly.GetManifestResourceStream(name)!);
            connection.Execute(reader.ReadToEnd());
            connection.Execute(
                "INSERT INTO SchemaVersions (ScriptName, Applied) VALUES (@name, '2026-01-01')",
                new { name }
            );
        }
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
