using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>Changes are undone part by part, also after others; or refused with the reason.</summary>
public sealed class UndoTests
{
    private static readonly Trigger One = new Trigger.Abbreviation("one", TypingRules.For("one"), Scope.Everywhere);
    private static readonly Trigger Two = new Trigger.Abbreviation("two", TypingRules.For("two"), Scope.Everywhere);
    private static readonly Trigger Three = new Trigger.Abbreviation(
        "three",
        TypingRules.For("three"),
        Scope.Everywhere
    );

    private static readonly Snippet Old = TestTree.Snip("A", One, Two);

    [Fact]
    public void An_earlier_change_is_undone_and_what_came_after_stays()
    {
        var testTree = new TestTree().WithSnippets("A", "B");
        var renamed = Edit(testTree, "A", old => old with { Name = "A2" });
        Edit(testTree, "A2", old => old with { Note = "later" });
        testTree.Do(now => Commands.Delete(now, testTree["B"].Id));
        testTree.SetUndone(renamed, undone: true);
        Assert.Equal(("A", "later"), (Snippet(testTree, "A").Name, Snippet(testTree, "A").Note));
        testTree.SetUndone(renamed, undone: false);
        Assert.Equal("later", Snippet(testTree, "A2").Note);
    }

    [Fact]
    public void A_part_that_was_changed_again_is_not_undone_over()
    {
        var testTree = new TestTree().WithSnippets("A");
        var first = Edit(testTree, "A", old => old with { Note = "one" });
        Edit(testTree, "A", old => old with { Note = "two" });
        Assert.Contains(
            "snippet “A” was changed since: note",
            Assert.Throws<ConflictException>(() => testTree.SetUndone(first, undone: true)).Message,
            StringComparison.Ordinal
        );
        Assert.Equal("two", Snippet(testTree, "A").Note);
    }

    [Fact]
    public void What_was_deleted_since_is_not_undone_and_a_taken_name_stays_taken()
    {
        var testTree = new TestTree().WithSnippets("A", "B");
        var renamed = Edit(testTree, "A", old => old with { Name = "C" });
        Edit(testTree, "B", old => old with { Name = "A" });
        Assert.Contains(
            "here already",
            Assert.Throws<InvalidInputException>(() => testTree.SetUndone(renamed, undone: true)).Message,
            StringComparison.Ordinal
        );
        testTree.Do(now => Commands.Delete(now, testTree["C"].Id));
        Assert.Contains(
            "was deleted since",
            Assert.Throws<ConflictException>(() => testTree.SetUndone(renamed, undone: true)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Deleting_a_folder_is_undone_with_all_that_lay_in_it()
    {
        var testTree = new TestTree().WithSnippets("A");
        testTree.Do(now => Commands.AddFolder(now, testTree.Next(), testTree["Berths"].Id, "F"));
        testTree.Do(now => Commands.AddSnippet(now, testTree.Next(), testTree["F"].Id, TestTree.Snip("B")));
        var deleted = testTree.Do(now => Commands.Delete(now, testTree["F"].Id));
        Assert.Equal(["A"], testTree.Names("Berths"));
        testTree.SetUndone(deleted, undone: true);
        Assert.Equal(["F", "A"], testTree.Names("Berths"));
        Assert.Equal(["B"], testTree.Names("F"));
        testTree.SetUndone(deleted, undone: false);
        Assert.Equal(["A"], testTree.Names("Berths"));
    }

    /// <summary>Three ways: as it was, as it was to be, and as it is now.</summary>
    public static TheoryData<Func<Snippet, Snippet>, Func<Snippet, Snippet>, Func<Snippet, Snippet>, string[]> Merges =>
        new()
        {
            {
                old => old with { Name = "X" },
                old => old with { Note = "n" },
                old => old with { Name = "X", Note = "n" },
                []
            },
            { old => old with { Name = "X" }, old => old with { Name = "X" }, old => old with { Name = "X" }, [] },
            {
                old => old with { Name = "X", Note = "n" },
                old => old with { Name = "Y" },
                old => old with { Name = "Y", Note = "n" },
                ["name"]
            },
            { old => old, old => old with { Name = "Y" }, old => old with { Name = "Y" }, [] },
            {
                old => old with { Delivery = DeliveryWay.Keystrokes },
                old => old with { LeaveOnClipboard = true },
                old => old with { LeaveOnClipboard = true },
                ["delivery"]
            },
            {
                old => old with { Body = new Body.Plain("x") },
                old => old with { Enabled = false },
                old => old with { Body = new Body.Plain("x"), Enabled = false },
                []
            },
            {
                old => old with { Triggers = new([Three, Two]) },
                old => old with { Triggers = new([One]) },
                old => old with { Triggers = new([Three]) },
                []
            },
            {
                old => old with { Triggers = new([One, Three]) },
                old => old with { Triggers = new([One]) },
                old => old with { Triggers = new([One]) },
                ["triggers[0]"]
            },
            {
                old => old with { Triggers = new([One]) },
                old => old with { Triggers = new([One, Two, Three]) },
                old => old with { Triggers = new([One, Three]) },
                []
            },
            {
                old => old with { Triggers = new([One, Two, Three]) },
                old => old with { Triggers = new([One, Two, Three]) },
                old => old with { Triggers = new([One, Two, Three]) },
                []
            },
            {
                old => old with { Triggers = new([]) },
                old => old with { Triggers = new([Two]) },
                old => old with { Triggers = new([]) },
                []
            },
        };

    [Theory]
    [MemberData(nameof(Merges))]
    public void Changes_on_two_sides_come_together_part_by_part(
        Func<Snippet, Snippet> mine,
        Func<Snippet, Snippet> theirs,
        Func<Snippet, Snippet> both,
        string[] conflicts
    )
    {
        var (merged, found) = SnippetMerge.Of(Old, mine(Old), theirs(Old));
        Assert.Equal(both(Old), merged);
        Assert.Equal(conflicts, found);
    }

    private static Change Edit(TestTree testTree, string name, Func<Snippet, Snippet> edit) =>
        testTree.Do(now => Commands.ChangeSnippet(now, testTree[name].Id, edit(Snippet(testTree, name))));

    private static Snippet Snippet(TestTree testTree, string name) => ((SnippetItem)testTree[name]).Snippet;
}
