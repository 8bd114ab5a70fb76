using Dapper;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Features;
using DashSprout.Store.Items;

namespace DashSprout.Server.Tests;

/// <summary>What the store keeps beside the libraries, in a real SQLite file.</summary>
public sealed class StoreTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-");
    private readonly DataFolder data;
    private readonly SafetyStore safety;
    private readonly SnippetSearch search;
    private LibraryTree tree = LibraryTree.Empty;

    public StoreTests()
    {
        data = DataFolder.Open(folder.FullName, "a test", DateTimeOffset.UnixEpoch, DataKeys.In);
        safety = new SafetyStore(data.Database);
        search = new SnippetSearch(data.Database);
    }

    public void Dispose()
    {
        data.Dispose();
        folder.Delete(recursive: true);
    }

    [Fact]
    public void Firings_add_up_and_go_with_their_snippet()
    {
        var id = Add("Moored", "Moored.");
        var now = DateTimeOffset.UnixEpoch;
        safety.Count([
            new(id, "mrd", 1, 0, now),
            new(id, "mrd", 0, 1, now),
            new(id, "mrd", 2, 0, now.AddDays(1)),
            new(id + 1, "gone", 1, 0, now),
        ]);
        Assert.Equal(new FiringRecord(id, "mrd", 3, 1, now.AddDays(1)), Assert.Single(safety.TakenBack()));
        var (used, fired, use) = Assert.Single(safety.Uses());
        Assert.Equal((id, 3, now.AddDays(1)), (used, fired, use.LastAt));
        // The first use counts a little less a day later, as a week halves it.
        Assert.Equal(Math.Pow(0.5, 1 / 7.0) + 2, use.Weight, 6);
        Do(Commands.Delete(tree, id));
        new HistoryStore(data.Database).Discard(id);
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
        Assert.Equal([id], Found("checked"));
        Do(Commands.ChangeSnippet(tree, id, Snippet("Moored", "Shore power connected.")));
        Assert.Empty(Found("checked"));
        Assert.Equal([id], Found("power"));
        Assert.Empty(Found("po"));
        Assert.Equal([id], Found("SHORE \"moored"));

        // As a file of an older version has it.
        using (var connection = data.Database.Open())
            connection.Execute("DELETE FROM snippet_text");
        Assert.Empty(Found("power"));
        search.CatchUp(tree, CancellationToken.None);
        Assert.Equal([id], Found("power"));

        Do(Commands.Delete(tree, id));
        Assert.Empty(Found("power"));
    }

    [Fact]
    public void What_lies_in_the_bin_does_not_drown_what_does_not()
    {
        for (var count = 0; count < 300; count++)
            Delete(Add($"Old {count}", "The berth is free."));
        var id = Add("New", "The berth is free.");
        Assert.Equal([id], search.Find("berth free", 10, tree).Select(item => item.Id));
    }

    [Fact]
    public void What_came_from_a_file_may_open_only_what_was_confirmed()
    {
        var own = Add("Own", "X");
        Do(
            Importing
                .Of(
                    tree,
                    [
                        new Library(
                            "File",
                            true,
                            LibraryRules.Default,
                            EquatableList<Folder>.Empty,
                            new([Snippet("Foreign", "X")])
                        ),
                    ],
                    false,
                    nextId
                )
                .Change,
            fromFile: true
        );
        var foreign = tree.At("File/Foreign")!.Id;
        Assert.True(safety.MayOpen(own, "https://example.org/"));
        Assert.False(safety.MayOpen(foreign, "https://example.org/"));
        safety.ConfirmOpen(foreign, "https://example.org/");
        Assert.True(safety.MayOpen(foreign, "https://example.org/"));
        Assert.False(safety.MayOpen(foreign, "https://example.com/"));
    }

    private long nextId = 1;

    private long Add(string name, string text)
    {
        if (tree.Libraries.FirstOrDefault() is not { } library)
        {
            Do(Commands.AddLibrary(tree, nextId, "Berths"));
            library = tree.Libraries.First();
        }
        Do(Commands.AddSnippet(tree, nextId, library.Id, Snippet(name, text)));
        return nextId - 1;
    }

    private void Do(Change change, bool fromFile = false)
    {
        tree = tree.With(change);
        new ChangeLog(data.Database).Make(change, fromFile, DateTimeOffset.UnixEpoch);
        nextId = Math.Max(
            nextId,
            change.Items.Max(item => item.Below.Append(item.After ?? item.Before!).Max(inner => inner.Id)) + 1
        );
    }

    private void Delete(long id) => Do(Commands.Delete(tree, id));

    private long[] Found(string query) => [.. search.Find(query, 10, tree).Select(item => item.Id)];

    private static Snippet Snippet(string name, string text) =>
        new(
            name,
            true,
            "",
            false,
            DeliveryWay.Automatic,
            false,
            new Body.Plain(text),
            EquatableList<Core.Triggers.Trigger>.Empty
        );
}
