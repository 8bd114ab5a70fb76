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

    private static readonly Snippet Old = TestShelf.Snip("A", One, Two);

    [Fact]
    public void An_earlier_change_is_undone_and_what_came_after_stays()
    {
        var shelf = new TestShelf().WithSnippets("A", "B");
        var renamed = Edit(shelf, "A", old => old with { Name = "A2" });
        Edit(shelf, "A2", old => old with { Note = "later" });
        shelf.Do(now => Commands.Delete(now, shelf["B"].Id));
        shelf.Turn(renamed, back: true);
        Assert.Equal(("A", "later"), (Snippet(shelf, "A").Name, Snippet(shelf, "A").Note));
        shelf.Turn(renamed, back: false);
        Assert.Equal("later", Snippet(shelf, "A2").Note);
    }

    [Fact]
    public void A_part_that_was_changed_again_is_not_undone_over()
    {
        var shelf = new TestShelf().WithSnippets("A");
        var first = Edit(shelf, "A", old => old with { Note = "one" });
        Edit(shelf, "A", old => old with { Note = "two" });
        Assert.Contains(
            "snippet “A” was changed since: note",
            Assert.Throws<ConflictException>(() => shelf.Turn(first, back: true)).Message,
            StringComparison.Ordinal
        );
        Assert.Equal("two", Snippet(shelf, "A").Note);
    }

    [Fact]
    public void What_was_deleted_since_is_not_undone_and_a_taken_name_stays_taken()
    {
        var shelf = new TestShelf().WithSnippets("A", "B");
        var renamed = Edit(shelf, "A", old => old with { Name = "C" });
        Edit(shelf, "B", old => old with { Name = "A" });
        Assert.Contains(
            "here already",
            Assert.Throws<InvalidInputException>(() => shelf.Turn(renamed, back: true)).Message,
            StringComparison.Ordinal
        );
        shelf.Do(now => Commands.Delete(now, shelf["C"].Id));
        Assert.Contains(
            "was deleted since",
            Assert.Throws<ConflictException>(() => shelf.Turn(renamed, back: true)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Deleting_a_folder_is_undone_with_all_that_lay_in_it()
    {
        var shelf = new TestShelf().WithSnippets("A");
        shelf.Do(now => Commands.AddFolder(now, shelf.Next(), shelf["Berths"].Id, "F"));
        shelf.Do(now => Commands.AddSnippet(now, shelf.Next(), shelf["F"].Id, TestShelf.Snip("B")));
        var deleted = shelf.Do(now => Commands.Delete(now, shelf["F"].Id));
        Assert.Equal(["A"], shelf.Names("Berths"));
        shelf.Turn(deleted, back: true);
        Assert.Equal(["F", "A"], shelf.Names("Berths"));
        Assert.Equal(["B"], shelf.Names("F"));
        shelf.Turn(deleted, back: false);
        Assert.Equal(["A"], shelf.Names("Berths"));
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

    private static Change Edit(TestShelf shelf, string name, Func<Snippet, Snippet> edit) =>
        shelf.Do(now => Commands.ChangeSnippet(now, shelf[name].Id, edit(Snippet(shelf, name))));

    private static Snippet Snippet(TestShelf shelf, string name) => ((SnippetItem)shelf[name]).Snippet;
}
