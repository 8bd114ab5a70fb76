using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>Closing keys with a name, where they hold.</summary>
public sealed class KeyPlacesTests
{
    private static readonly ClosingKeys Space = ClosingKeys.Parse("keys", [" "]),
        Enter = ClosingKeys.Parse("keys", ["Enter"]);

    private static TestTree Tree()
    {
        var testTree = new TestTree();
        testTree.Do(now => Commands.AddLibrary(now, testTree.Next(), "Berths"));
        testTree.Do(now =>
            Commands.ChangeLibrary(
                now,
                testTree["Berths"].Id,
                null,
                null,
                LibraryRules.Default with
                {
                    ClosingKeys = Space,
                    Defaults = new TriggerDefaults(ClosingKeys: Enter),
                }
            )
        );
        testTree.Do(now => Commands.AddFolder(now, testTree.Next(), testTree["Berths"].Id, "Fees"));
        testTree.Do(now =>
            Commands.ChangeFolder(
                now,
                testTree["Fees"].Id,
                null,
                null,
                new TriggerDefaults(ClosingKeys: ClosingKeys.Parse("keys", [" "]))
            )
        );
        var own = TypingRules.For("brk") with { ClosingKeys = Space };
        testTree.Do(now =>
            Commands.AddSnippet(
                now,
                testTree.Next(),
                testTree["Fees"].Id,
                TestTree.Snip(
                    "own",
                    new Trigger.Abbreviation("brk", own, Scope.Everywhere),
                    new Trigger.Pattern("b[0-9]", own, Scope.Everywhere),
                    new Trigger.Abbreviation("usual", TypingRules.For("usual"), Scope.Everywhere)
                )
            )
        );
        return testTree;
    }

    [Fact]
    public void They_are_counted_in_libraries_defaults_and_triggers()
    {
        var now = Tree().Now;
        Assert.Equal(4, KeyPlaces.Count(now, ClosingKeys.Parse("keys", [" "])));
        Assert.Equal(1, KeyPlaces.Count(now, Enter));
        Assert.Equal(0, KeyPlaces.Count(now, ClosingKeys.Default));
    }

    [Fact]
    public void They_change_where_they_hold_and_nowhere_else_and_come_back_by_undoing()
    {
        var testTree = Tree();
        var change = testTree.Do(now => KeyPlaces.Replace(now, "Only Space", Space, Enter));
        Assert.Equal(3, change.Items.Count);
        Assert.Equal((0, 5), (KeyPlaces.Count(testTree.Now, Space), KeyPlaces.Count(testTree.Now, Enter)));
        Assert.Null(((Trigger.Abbreviation)((SnippetItem)testTree["own"]).Snippet.Triggers[2]).Rules.ClosingKeys);
        testTree.SetUndone(change, undone: true);
        Assert.Equal((4, 1), (KeyPlaces.Count(testTree.Now, Space), KeyPlaces.Count(testTree.Now, Enter)));
        Assert.Empty(KeyPlaces.Replace(testTree.Now, "None", ClosingKeys.None, Enter).Items);
    }
}
