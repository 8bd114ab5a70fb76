using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Server.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Items;
using Microsoft.Extensions.Time.Testing;

namespace DashSprout.Server.Tests;

/// <summary>How long versions, deleted things and backups are kept, day after day.</summary>
public sealed class KeepingTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-");
    private readonly FakeTimeProvider clock = new(new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero));
    private readonly DataFolder data;
    private readonly HistoryStore history;
    private readonly BackupStore backups;
    private readonly LibraryService libraryService;

    public KeepingTests()
    {
        data = DataFolder.Open(folder.FullName, "a test", clock.GetUtcNow(), DataKeys.In);
        history = new HistoryStore(data.Database);
        backups = new BackupStore(data);
        libraryService = new LibraryService(new ItemStore(data.Database), new ChangeLog(data.Database), clock);
        libraryService.Open();
        libraryService.Do((now, id) => Commands.AddLibrary(now, id, "Berths"));
    }

    public void Dispose()
    {
        data.Dispose();
        folder.Delete(recursive: true);
    }

    [Fact]
    public void Deleted_things_stay_thirty_days_of_use_with_where_they_were_and_when()
    {
        var folderId = libraryService.Do((now, id) => Commands.AddFolder(now, id, 1, "Bookings")).Items[0].Id;
        var snippet = Add("Deposit", folderId);
        history.Tidy(clock.GetUtcNow());
        libraryService.Do((now, _) => Commands.Delete(now, snippet));
        var deleted = clock.GetUtcNow();
        Assert.Equal(
            new BinnedItem(snippet, ItemKind.Snippet, "Deposit", "Berths › Bookings", deleted, 1, 30),
            Assert.Single(history.Bin())
        );

        Days(30);
        Assert.Equal(0, Assert.Single(history.Bin()).DaysLeft);
        Days(1);
        Assert.Empty(history.Bin());
        Assert.Throws<MissingItemException>(() => libraryService.Restore(snippet));
    }

    [Fact]
    public void A_clock_that_is_far_ahead_once_loses_nothing()
    {
        var snippet = Add("Deposit", 1);
        Save(snippet, "one");
        Save(snippet, "two");
        libraryService.Do((now, _) => Commands.Delete(now, snippet));
        var right = clock.GetUtcNow();
        history.Tidy(right.AddYears(60));
        history.Tidy(right);
        libraryService.Restore(snippet);
        Assert.Equal(3, history.Versions(snippet).Count);
    }

    [Fact]
    public void A_folder_comes_back_with_what_lay_in_it_and_without_what_was_deleted_before()
    {
        var folderId = libraryService.Do((now, id) => Commands.AddFolder(now, id, 1, "Bookings")).Items[0].Id;
        var early = Add("Early", folderId);
        Add("Late", folderId);
        libraryService.Do((now, _) => Commands.Delete(now, early));
        libraryService.Do((now, _) => Commands.Delete(now, folderId));
        Assert.Contains(
            "Bring that back first",
            Assert.Throws<ConflictException>(() => libraryService.Restore(early)).Message,
            StringComparison.Ordinal
        );
        libraryService.Restore(folderId);
        Assert.Equal(
            ["Bookings", "Late"],
            libraryService.Tree.Within(libraryService.Tree.Get<FolderItem>(folderId)).Select(item => item.Name)
        );
        libraryService.Restore(early);
        Assert.Equal(["Early", "Late"], libraryService.Tree.Inside(folderId).Select(item => item.Name));
    }

    [Fact]
    public void Versions_thin_out_with_age()
    {
        var snippet = Add("Deposit", 1);
        // Three saves a day for seventy days; the first day has the new snippet besides.
        for (var day = 0; day < 70; day++)
        {
            history.Tidy(clock.GetUtcNow());
            for (var save = 0; save < 3; save++)
            {
                clock.Advance(TimeSpan.FromHours(1));
                Save(snippet, $"day {day} save {save}");
            }
            clock.Advance(TimeSpan.FromHours(21));
        }
        history.Tidy(clock.GetUtcNow());
        var byDay = history
            .Versions(snippet)
            .GroupBy(version => version.SavedAt.Date)
            .OrderByDescending(group => group.Key)
            .ToList();
        // The two days before today with each one, then the last of each day, then the last of each month.
        Assert.All(byDay.Take(2), group => Assert.Equal(3, group.Count()));
        Assert.All(byDay.Skip(2), group => Assert.Single(group));
        Assert.Equal(30, byDay.Count(group => (clock.GetUtcNow().Date - group.Key).Days <= 30));
        // Of March the last day; April has a later one among those of the last thirty days.
        Assert.Equal(
            new DateTime(2026, 3, 31),
            Assert.Single(byDay, group => (clock.GetUtcNow().Date - group.Key).Days > 30).Key
        );
        Assert.Equal("day 69 save 2", history.Versions(snippet)[0].Snippet.Body.Source);
    }

    [Fact]
    public void Backups_are_kept_by_day_week_and_month()
    {
        for (var day = 0; day < 400; day++)
        {
            backups.Make(BackupReason.Daily, clock.GetUtcNow());
            clock.Advance(TimeSpan.FromDays(1));
            if (day % 20 == 0)
                backups.Thin();
        }
        for (var made = 0; made < 8; made++)
            backups.Make(BackupReason.BeforeImport, clock.GetUtcNow().AddMinutes(made));
        backups.Thin();
        var daily = backups
            .List()
            .Where(backup => backup.Reason == BackupReason.Daily)
            .Select(backup => backup.At)
            .ToList();
        // The day of the imports has its own last one, so six of the seven days are daily ones.
        Assert.Equal(6, daily.Count(at => (clock.GetUtcNow() - at).TotalDays <= 6.5));
        Assert.InRange(daily.Count, 6 + 2 + 10, 6 + 4 + 12);
        Assert.True(daily.Min() < clock.GetUtcNow().AddMonths(-10));
        Assert.Equal(5, backups.List().Count(backup => backup.Reason == BackupReason.BeforeImport));
    }

    [Fact]
    public async Task A_backup_tells_what_is_in_it_and_only_backups_are_brought_in()
    {
        Add("Deposit", 1);
        var made = backups.Make(BackupReason.Asked, clock.GetUtcNow());
        Assert.Equal((1, 1, clock.GetUtcNow()), (made.Libraries, made.Snippets, made.At));
        Assert.Equal(made, Assert.Single(backups.List()));
        Assert.Throws<InvalidInputException>(() => backups.PathOf("../dash-sprout.sqlite"));
        var bad = await Assert.ThrowsAsync<InvalidInputException>(() =>
            backups.BringIn(
                new MemoryStream("no database at all, but long enough to look like one .............."u8.ToArray()),
                clock.GetUtcNow(),
                CancellationToken.None
            )
        );
        Assert.Contains("no sound backup", bad.Message, StringComparison.Ordinal);
        Assert.Single(backups.List());
        Assert.DoesNotContain(Directory.EnumerateFiles(data.Backups), file =>
            file.EndsWith(".partial", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void Only_the_last_hundred_changes_are_remembered_and_those_in_one_go_are_one()
    {
        var log = new ChangeLog(data.Database);
        var snippet = Add("Deposit", 1);
        for (var save = 0; save < 5; save++)
        {
            clock.Advance(TimeSpan.FromSeconds(5));
            Save(snippet, $"typing {save}");
        }
        Assert.Equal("Changed what goes in with “Deposit”", log.Last()[0].What);
        Assert.Equal("Added the snippet “Deposit”", log.Last()[1].What);
        libraryService.SetUndone(log.Last()[0].Id, undone: true);
        Assert.Equal("first", libraryService.Tree.Get<SnippetItem>(snippet).Snippet.Body.Source);

        for (var save = 0; save < 120; save++)
        {
            clock.Advance(TimeSpan.FromMinutes(1));
            Save(snippet, $"{save}");
        }
        Assert.Equal(ChangeLog.Most, log.Last().Count);
    }

    private void Days(int count)
    {
        for (var day = 0; day < count; day++)
        {
            clock.Advance(TimeSpan.FromDays(1));
            history.Tidy(clock.GetUtcNow());
        }
    }

    private long Add(string name, long parent) =>
        libraryService
            .Do(
                (now, id) =>
                    Commands.AddSnippet(
                        now,
                        id,
                        parent,
                        new Snippet(
                            name,
                            true,
                            "",
                            false,
                            DeliveryWay.Automatic,
                            false,
                            new Body.Plain("first"),
                            EquatableList<Core.Triggers.Trigger>.Empty
                        )
                    )
            )
            .Items[0]
            .Id;

    private void Save(long id, string text) =>
        libraryService.Do(
            (now, _) =>
                Commands.ChangeSnippet(now, id, now.Get<SnippetItem>(id).Snippet with { Body = new Body.Plain(text) })
        );
}
