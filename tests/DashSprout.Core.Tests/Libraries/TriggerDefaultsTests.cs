using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>What new snippets begin with, and the switch of folders.</summary>
public sealed class TriggerDefaultsTests
{
    private readonly TestShelf shelf = new TestShelf().WithSnippets();

    public TriggerDefaultsTests()
    {
        shelf.Do(now => Commands.AddFolder(now, shelf.Next(), shelf["Berths"].Id, "Bookings"));
        shelf.Do(now => Commands.AddFolder(now, shelf.Next(), shelf["Bookings"].Id, "Old ones"));
        shelf.Do(now =>
            Commands.AddSnippet(
                now,
                shelf.Next(),
                shelf["Old ones"].Id,
                TestShelf.Snip("Deposit", new Trigger.Abbreviation("dep", TypingRules.For("dep"), Scope.Everywhere))
            )
        );
    }

    [Fact]
    public void A_folder_says_what_it_wants_and_takes_the_rest_from_what_it_lies_in()
    {
        Assert.Equal(TriggerDefaults.None, In("Old ones"));
        shelf.Do(now =>
            Commands.ChangeLibrary(
                now,
                shelf["Berths"].Id,
                null,
                null,
                LibraryRules.Default with
                {
                    Defaults = new(Timing: Timing.AtOnce, Case: LetterCase.Exact, Delivery: DeliveryWay.Keystrokes),
                }
            )
        );
        shelf.Do(now =>
            Commands.ChangeFolder(
                now,
                shelf["Bookings"].Id,
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
        shelf.Do(now => Commands.ChangeFolder(now, shelf["Bookings"].Id, null, null, TriggerDefaults.None));
        Assert.Equal(LetterCase.Exact, In("Old ones").Case);
        Assert.Null(((FolderItem)shelf["Bookings"]).Defaults);
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
        var index = Placement.Index(shelf.Now);
        Assert.True(Assert.Single(index.All).Placed.Active);
        var before = shelf.Now;
        var off = shelf.Do(now => Commands.ChangeFolder(now, shelf["Bookings"].Id, null, false, null));
        Assert.Equal("Switched the folder “Bookings” off", off.What);
        index = Placement.Follow(index, before, shelf.Now, off);
        Assert.False(Assert.Single(index.All).Placed.Active);
        Assert.Equal("Bookings", shelf.Now.OffFolderOf(shelf["Deposit"])!.Name);
        Assert.Contains(Engine.Typing.Type(index, "dep ").Trace, entry =>
            entry.Why.Contains("folder *Bookings* is off", StringComparison.Ordinal)
        );

        shelf.Turn(off, back: true);
        Assert.True(Assert.Single(Placement.Index(shelf.Now).All).Placed.Active);
    }

    [Fact]
    public void Switch_and_defaults_go_into_files_and_into_a_store()
    {
        shelf.Do(now =>
            Commands.ChangeFolder(
                now,
                shelf["Bookings"].Id,
                null,
                false,
                new(LeftEdge: LeftEdge.Any, Scope: new Scope.OnlyIn(new(["post"])))
            )
        );
        var library = Assert.Single(LibraryValues.Of(shelf.Now, _ => true));
        Assert.Equal((false, LeftEdge.Any), (library.Folders[0].Enabled, library.Folders[0].Defaults!.LeftEdge));
        Assert.Equal("Bookings", Assert.Single(library.AllSnippets()).OffFolder);
        Assert.False(Assert.Single(PlacedSnippet.All([library])).Active);
    }

    [Fact]
    public void Many_are_added_at_once_with_free_names_or_none()
    {
        var change = shelf.Do(now =>
            Commands.AddSnippets(
                now,
                100,
                shelf["Old ones"].Id,
                [TestShelf.Snip("Deposit"), TestShelf.Snip("deposit"), TestShelf.Snip("Fee")]
            )
        );
        Assert.Equal("Added 3 snippets", change.What);
        Assert.Equal(["Deposit", "Deposit 2", "deposit 3", "Fee"], shelf.Names("Old ones"));
        shelf.Turn(change, back: true);
        Assert.Equal(["Deposit"], shelf.Names("Old ones"));
        Assert.Contains(
            "nothing to add",
            shelf.Refused(now => Commands.AddSnippets(now, 200, shelf["Berths"].Id, [])),
            StringComparison.Ordinal
        );
    }

    private TriggerDefaults In(string holder) => shelf.Now.DefaultsIn(shelf[holder].Id);
}
