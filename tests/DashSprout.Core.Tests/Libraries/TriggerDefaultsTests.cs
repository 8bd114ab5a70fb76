using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>What new snippets begin with, and the switch of folders.</summary>
public sealed class TriggerDefaultsTests
{
    private readonly TestTree testTree = new TestTree().WithSnippets();

    public TriggerDefaultsTests()
    {
        testTree.Do(now => Commands.AddFolder(now, testTree.Next(), testTree["Berths"].Id, "Bookings"));
        testTree.Do(now => Commands.AddFolder(now, testTree.Next(), testTree["Bookings"].Id, "Old ones"));
        testTree.Do(now =>
            Commands.AddSnippet(
                now,
                testTree.Next(),
                testTree["Old ones"].Id,
                TestTree.Snip("Deposit", new Trigger.Abbreviation("dep", TypingRules.For("dep"), Scope.Everywhere))
            )
        );
    }

    [Fact]
    public void A_folder_says_what_it_wants_and_takes_the_rest_from_what_it_lies_in()
    {
        Assert.Equal(TriggerDefaults.None, In("Old ones"));
        testTree.Do(now =>
            Commands.ChangeLibrary(
                now,
                testTree["Berths"].Id,
                null,
                null,
                LibraryRules.Default with
                {
                    Defaults = new(Timing: Timing.AtOnce, Case: LetterCase.Exact, Delivery: DeliveryWay.Keystrokes),
                }
            )
        );
        testTree.Do(now =>
            Commands.ChangeFolder(
                now,
                testTree["Bookings"].Id,
                null,
                null,
                new(Case: LetterCase.Mirror, ClosingKeys: ClosingKeys.None)
            )
        );
        Assert.Equal(
            new TriggerDefaults(
                Timing.AtOnce,
                Case: LetterCase.Mirror,
                ClosingKeys: ClosingKeys.None,
                Delivery: DeliveryWay.Keystrokes
            ),
            In("Old ones")
        );
        Assert.Equal(LetterCase.Exact, In("Berths").Case);
        testTree.Do(now => Commands.ChangeFolder(now, testTree["Bookings"].Id, null, null, TriggerDefaults.None));
        Assert.Equal(LetterCase.Exact, In("Old ones").Case);
        Assert.Null(((FolderItem)testTree["Bookings"]).Defaults);
    }

    [Fact]
    public void What_stays_behind_goes_with_when_it_goes_off()
    {
        var around = new TriggerDefaults(Timing.ClosingKey, KeepClosingKey: false);
        Assert.Null(new TriggerDefaults(Timing.DoubleClosingKey).Over(around).KeepClosingKey);
        Assert.False(new TriggerDefaults(Case: LetterCase.Exact).Over(around).KeepClosingKey);
    }

    [Fact]
    public void A_folder_that_is_off_silences_all_that_lies_in_it_and_says_so()
    {
        var index = Placement.Index(testTree.Now);
        Assert.True(Assert.Single(index.All).Placed.Active);
        var before = testTree.Now;
        var off = testTree.Do(now => Commands.ChangeFolder(now, testTree["Bookings"].Id, null, false, null));
        Assert.Equal("Switched the folder “Bookings” off", off.What);
        index = Placement.Follow(index, before, testTree.Now, off);
        Assert.False(Assert.Single(index.All).Placed.Active);
        Assert.Equal("Bookings", testTree.Now.OffFolderOf(testTree["Deposit"])!.Name);
        Assert.Contains(Engine.Typing.Type(index, "dep ").Trace, entry =>
            entry.Why.Contains("folder *Bookings* is off", StringComparison.Ordinal)
        );

        testTree.SetUndone(off, undone: true);
        Assert.True(Assert.Single(Placement.Index(testTree.Now).All).Placed.Active);
    }

    [Fact]
    public void Switch_and_defaults_go_into_files_and_into_a_store()
    {
        testTree.Do(now =>
            Commands.ChangeFolder(
                now,
                testTree["Bookings"].Id,
                null,
                false,
                new(LeftEdge: LeftEdge.Any, Scope: new Scope.OnlyIn(new(["post"])))
            )
        );
        var library = Assert.Single(LibraryValues.Of(testTree.Now, _ => true));
        Assert.Equal((false, LeftEdge.Any), (library.Folders[0].Enabled, library.Folders[0].Defaults!.LeftEdge));
        Assert.Equal("Bookings", Assert.Single(library.AllSnippets()).OffFolder);
        Assert.False(Assert.Single(PlacedSnippet.All([library])).Active);
    }

    [Fact]
    public void Many_are_added_at_once_with_free_names_or_none()
    {
        var change = testTree.Do(now =>
            Commands.AddSnippets(
                now,
                100,
                testTree["Old ones"].Id,
                [TestTree.Snip("Deposit"), TestTree.Snip("deposit"), TestTree.Snip("Fee")]
            )
        );
        Assert.Equal("Added 3 snippets", change.What);
        Assert.Equal(["Deposit", "Deposit 2", "deposit 3", "Fee"], testTree.Names("Old ones"));
        testTree.SetUndone(change, undone: true);
        Assert.Equal(["Deposit"], testTree.Names("Old ones"));
        Assert.Contains(
            "nothing to add",
            testTree.Refused(now => Commands.AddSnippets(now, 200, testTree["Berths"].Id, [])),
            StringComparison.Ordinal
        );
    }

    private TriggerDefaults In(string holder) => testTree.Now.DefaultsIn(testTree[holder].Id);
}
