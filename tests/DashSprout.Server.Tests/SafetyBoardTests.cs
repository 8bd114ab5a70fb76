using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Server.Libraries;
using DashSprout.Server.Safety;
using DashSprout.Store.Data;
using DashSprout.Store.Features;
using DashSprout.Store.Items;
using Microsoft.Extensions.Logging.Abstractions;

namespace DashSprout.Server.Tests;

/// <summary>
/// The board works in the background while other things change; it can be stopped, and it comes to an end.
/// </summary>
public sealed class SafetyBoardTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-");
    private readonly DataFolder data;
    private readonly LibraryService libraryService;
    private readonly SafetyBoard board;

    public SafetyBoardTests()
    {
        data = DataFolder.Open(folder.FullName, "a test", DateTimeOffset.UnixEpoch, DataKeys.In);
        libraryService = new LibraryService(
            new ItemStore(data.Database),
            new ChangeLog(data.Database),
            TimeProvider.System
        );
        libraryService.Open();
        var library = new Library(
            "Berths",
            true,
            LibraryRules.Default,
            EquatableList<Folder>.Empty,
            new(Enumerable.Range(0, 600).Select(number => Snip($"s{number}", $"br{number}")))
        );
        libraryService.Do((now, id) => Importing.Of(now, [library], false, id).Change);
        board = new SafetyBoard(
            libraryService,
            new WordLists(new SafetyStore(data.Database), new SettingStore(data.Database)),
            TimeProvider.System,
            NullLogger<SafetyBoard>.Instance
        );
    }

    public void Dispose()
    {
        data.Dispose();
        folder.Delete(recursive: true);
    }

    [Fact]
    public async Task It_goes_on_while_other_things_change_and_ends_with_what_is_there_then()
    {
        Assert.Equal(BoardState.Working, board.Look().State);
        for (var edit = 0; edit < 20; edit++)
        {
            var name = $"new{edit}";
            libraryService.Do((now, id) => Commands.AddSnippet(now, id, 1, Snip(name, "br1")));
            Assert.NotEqual(BoardState.Failed, board.Look().State);
        }
        var (_, _, result) = await WhenReady();
        Assert.Same(libraryService.Snapshot.Index, result.Index);
        Assert.Equal(
            20,
            result.Overlaps.All.Count(overlap =>
                overlap.Loser.Placed.Snippet.Name.StartsWith("new", StringComparison.Ordinal)
                && overlap.Winner?.Placed.Snippet.Name == "s1"
            )
        );
    }

    [Fact]
    public async Task It_can_be_stopped_and_taken_up_again()
    {
        Assert.Equal(BoardState.Working, board.Look().State);
        board.Stop();
        Assert.Equal(BoardState.Stopped, board.Look().State);
        Assert.Equal(BoardState.Working, board.Look(again: true).State);
        Assert.Equal(620 - 20, (await WhenReady()).Result.Index.All.Count());
    }

    private async Task<(BoardState State, double Progress, SafetyBoard.Result Result)> WhenReady()
    {
        await Patience.Until(() => board.Look().State == BoardState.Ready, "the board");
        return board.Look();
    }

    private static Snippet Snip(string name, string text) =>
        new(
            name,
            true,
            "",
            false,
            DeliveryWay.Automatic,
            false,
            new Body.Plain(name),
            new([new Trigger.Abbreviation(text, TypingRules.For(text), Scope.Everywhere)])
        );
}
