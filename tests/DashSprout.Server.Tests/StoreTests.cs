using Dapper;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Store;

namespace DashSprout.Server.Tests;

/// <summary>What the store keeps beside the libraries, in a real SQLite file.</summary>
public sealed class StoreTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-");
    private readonly Database database;
    private readonly LibraryStore libraries;
    private readonly SafetyStore safety;
    private readonly SnippetSearch search;

    public StoreTests()
    {
        database = new Database(Path.Combine(folder.FullName, "test.sqlite"));
        libraries = new LibraryStore(database);
        safety = new SafetyStore(database);
        search = new SnippetSearch(database);
    }

    public void Dispose()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        folder.Delete(recursive: true);
    }

    [Fact]
    public void Firings_add_up_and_go_with_their_snippet()
    {
        var id = Add("Moored", "Moored.");
        var now = DateTimeOffset.UnixEpoch;
        safety.Count([new(id, "mrd", 1, 0, now), new(id, "mrd", 0, 1, now), new(id, "mrd", 2, 0, now.AddDays(1)), new(id + 1, "gone", 1, 0, now)]);
        Assert.Equal(new FiringRecord(id, "mrd", 3, 1, now.AddDays(1)), Assert.Single(safety.TakenBack()));
        Assert.Equal((id, 3, now.AddDays(1)), Assert.Single(safety.Uses()));
        libraries.Delete(ItemKind.Snippet, id, now);
        libraries.Purge(now.AddDays(1));
        Assert.Empty(safety.TakenBack());
    }

    [Fact]
    public void Ignored_overlaps_are_kept_until_they_are_taken_up_again()
    {
        var overlap = new IgnoredOverlap("same", 0, "Ctrl+T", 7, "Ctrl+T");
        safety.Ignore(overlap, ignored: true);
        safety.Ignore(overlap, ignored: true);
        Assert.Equal(overlap, Assert.Single(safety.Ignored()));
        safety.Ignore(overlap, ignored: false);
        Assert.Empty(safety.Ignored());
    }

    [Fact]
    public void The_search_follows_every_change_and_fills_in_what_is_missing()
    {
        var id = Add("Moored", "Lines checked.");
        Assert.Equal([id], search.Find("checked", 10));
        var saved = libraries.SaveSnippet(id, 1, Snippet("Moored", "Shore power connected."));
        Assert.Empty(search.Find("checked", 10));
        Assert.Equal([id], search.Find("power", 10));
        Assert.Empty(search.Find("po", 10));
        Assert.Equal([id], search.Find("SHORE \"moored", 10));

        // As a file of an older version has it.
        using (var connection = database.Open()) connection.Execute("UPDATE snippet SET words = NULL");
        Assert.Empty(search.Find("power", 10));
        search.Open();
        Assert.Equal([id], search.Find("power", 10));

        libraries.Delete(ItemKind.Snippet, saved.Id, DateTimeOffset.UnixEpoch);
        Assert.Empty(search.Find("power", 10));
    }

    [Fact]
    public void What_came_from_a_file_may_open_only_what_was_confirmed()
    {
        var own = Add("Own", "X");
        libraries.Replace([], [new Library("File", true, LibraryRules.Default, EquatableList<Folder>.Empty, new([Snippet("Foreign", "X")]))], fromFile: true, DateTimeOffset.UnixEpoch);
        var foreign = libraries.Load().Snippets.Single(snippet => snippet.Snippet.Name == "Foreign").Id;
        Assert.True(safety.MayOpen(own, "https://example.org/"));
        Assert.False(safety.MayOpen(foreign, "https://example.org/"));
        safety.ConfirmOpen(foreign, "https://example.org/");
        Assert.True(safety.MayOpen(foreign, "https://example.org/"));
        Assert.False(safety.MayOpen(foreign, "https://example.com/"));
    }

    private long Add(string name, string text)
    {
        var library = libraries.Add([new Library(name, true, LibraryRules.Default, EquatableList<Folder>.Empty, EquatableList<Snippet>.Empty)])[0];
        return libraries.AddSnippet(new Place(library, null), Snippet(name, text)).Id;
    }

    private static Snippet Snippet(string name, string text) =>
        new(name, true, "", false, DeliveryWay.Automatic, false, new Body.Plain(text), EquatableList<Core.Triggers.Trigger>.Empty);
}
