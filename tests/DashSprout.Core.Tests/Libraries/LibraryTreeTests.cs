using CsCheck;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>What commands make of a tree.</summary>
public sealed class LibraryTreeTests
{
    [Fact]
    public void What_comes_back_from_the_bin_has_its_own_place_among_what_moved_meanwhile()
    {
        var testTree = new TestTree().WithSnippets("A", "B", "C");
        testTree.Do(now => Commands.Delete(now, testTree["B"].Id));
        testTree.Do(now => Commands.Move(now, testTree["C"].Id, testTree["Berths"].Id, testTree["A"].Id));
        Assert.Equal(["C", "A"], testTree.Names("Berths"));
        testTree.BringBack("B");
        Assert.Equal(["C", "A", "B"], testTree.Names("Berths"));
        Assert.Equal(3, testTree.Now.Snippets.Select(item => item.Slot).Distinct().Count());
    }

    /// <summary>
    /// Whatever is moved where, the order is that of a plain list, also when there is no room left between two.
    /// </summary>
    [Fact]
    public void Moving_gives_the_order_of_a_plain_list() =>
        Gen.Select(Gen.Int[0, 5], Gen.Int[0, 6])
            .Array[1, 120]
            .Sample(
                moves =>
                {
                    var testTree = new TestTree().WithSnippets("A", "B", "C", "D", "E", "F");
                    var list = testTree.Names("Berths").ToList();
                    foreach (var (from, before) in moves)
                    {
                        var name = list[from];
                        var other = before < list.Count && list[before] != name ? list[before] : null;
                        list.RemoveAt(from);
                        list.Insert(other is null ? list.Count : list.IndexOf(other), name);
                        testTree.Do(now =>
                            Commands.Move(
                                now,
                                testTree[name].Id,
                                testTree["Berths"].Id,
                                other is null ? null : testTree[other].Id
                            )
                        );
                        Assert.Equal(list, testTree.Names("Berths"));
                    }
                },
                iter: Depth.Of(200)
            );

    [Fact]
    public void When_there_is_no_room_between_two_all_are_placed_anew_and_otherwise_one_row_changes()
    {
        var testTree = new TestTree().WithSnippets("A", "B", "C");
        var most = 0;
        for (var round = 0; round < 60; round++)
        {
            var names = testTree.Names("Berths");
            most = Math.Max(
                most,
                testTree
                    .Do(now => Commands.Move(now, testTree[names[2]].Id, testTree["Berths"].Id, testTree[names[1]].Id))
                    .Items.Count
            );
        }
        Assert.InRange(most, 2, 3);
        Assert.Single(
            testTree.Do(now => Commands.Shift(now, testTree[testTree.Names("Berths")[0]].Id, up: false)).Items
        );
    }

    [Fact]
    public void Shifting_stops_at_the_ends_and_stays_among_its_like()
    {
        var testTree = new TestTree().WithSnippets("A", "B");
        testTree.Do(now => Commands.AddFolder(now, testTree.Next(), testTree["Berths"].Id, "F"));
        Assert.Equal(["F", "A", "B"], testTree.Names("Berths"));
        Assert.Empty(testTree.Do(now => Commands.Shift(now, testTree["A"].Id, up: true)).Items);
        Assert.Empty(testTree.Do(now => Commands.Shift(now, testTree["F"].Id, up: false)).Items);
        testTree.Do(now => Commands.Shift(now, testTree["A"].Id, up: false));
        Assert.Equal(["F", "B", "A"], testTree.Names("Berths"));
    }

    [Fact]
    public void What_cannot_be_is_refused_with_words_and_changes_nothing()
    {
        var testTree = new TestTree().WithSnippets("A");
        var library = testTree["Berths"].Id;
        var deepest = library;
        for (var depth = 1; depth <= LibraryTree.MaxDepth; depth++)
        {
            var parent = deepest;
            deepest = testTree.Do(now => Commands.AddFolder(now, testTree.Next(), parent, $"F{depth}")).Items[0].Id;
        }
        var top = testTree["F1"].Id;
        testTree.Do(now => Commands.AddFolder(now, testTree.Next(), library, "Other"));
        var before = testTree.Now;

        Assert.Contains(
            "nest at most 12",
            testTree.Refused(now => Commands.AddFolder(now, 99, deepest, "Too deep")),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "nest at most 12",
            testTree.Refused(now => Commands.Move(now, top, testTree["Other"].Id, null)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "into itself",
            testTree.Refused(now => Commands.Move(now, top, deepest, null)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "into itself",
            testTree.Refused(now => Commands.Move(now, top, top, null)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "no library or folder",
            testTree.Refused(now => Commands.Move(now, top, testTree["A"].Id, null)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "here already",
            testTree.Refused(now => Commands.AddSnippet(now, 99, library, TestTree.Snip("a"))),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "here already",
            testTree.Refused(now => Commands.AddLibrary(now, 99, "BERTHS")),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "There is no snippet 77",
            testTree.Refused(now => Commands.Move(now, testTree["A"].Id, library, 77)),
            StringComparison.Ordinal
        );
        Assert.Throws<MissingItemException>(() => Commands.Move(testTree.Now, 77, library, null));
        Assert.Throws<MissingItemException>(() => Commands.Delete(testTree.Now, 77));
        Assert.Same(before, testTree.Now);
    }

    [Fact]
    public void Renaming_and_moving_break_no_reference()
    {
        var testTree = new TestTree().WithSnippets("Signature");
        var letter = TestTree.Snip("Letter") with
        {
            Body = Body.Html.Parse("<p>Dear <slot name='snippet' data-ref='Berths/Signature'></slot></p>"),
        };
        testTree.Do(now => Commands.AddSnippet(now, testTree.Next(), testTree["Berths"].Id, letter));
        var signature = testTree["Signature"].Id;
        testTree.Do(now =>
            Commands.ChangeSnippet(
                now,
                signature,
                now.Get<SnippetItem>(signature).Snippet with
                {
                    Name = "Sign \"off\" & go",
                }
            )
        );
        testTree.Do(now => Commands.AddLibrary(now, testTree.Next(), "Elsewhere"));
        testTree.Do(now => Commands.Move(now, signature, testTree["Elsewhere"].Id, null));

        var kept = ((SnippetItem)testTree["Letter"]).Snippet;
        Assert.Contains($"data-ref=\"#{signature}\"", kept.Body.Source, StringComparison.Ordinal);
        Assert.Equal("text of Signature", testTree.Now.FindBody(References.In(kept.Body)[0])!.Source);
        Assert.Equal(["Elsewhere/Sign \"off\" & go"], References.In(testTree.Now.Outward(kept).Body));
        Assert.Equal(kept, testTree.Now.Inward(testTree.Now.Outward(kept)));
    }

    [Fact]
    public void Snippets_that_would_contain_each_other_are_refused_by_name()
    {
        var testTree = new TestTree().WithSnippets("A", "B");
        testTree.Refer("A", "Berths/B");
        Assert.Contains(
            "Berths/B → Berths/A → Berths/B",
            testTree.Refused(_ => testTree.Referring("B", "Berths/A")),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Berths/A → Berths/A",
            testTree.Refused(_ => testTree.Referring("A", "Berths/A")),
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// A store may hold anything: folders that lie in each other, or in what is not there, are left aside and end no
    /// program.
    /// </summary>
    [Fact]
    public void What_cannot_be_reached_is_given_back_beside_the_tree()
    {
        Item[] items =
        [
            new LibraryItem(1, new Slot(Slot.Root, 1), "Berths", true, LibraryRules.Default),
            new FolderItem(2, new Slot(3, 1), "One"),
            new FolderItem(3, new Slot(2, 1), "Other"),
            new SnippetItem(4, new Slot(2, 1), 1, TestTree.Snip("lost")),
            new SnippetItem(5, new Slot(99, 1), 1, TestTree.Snip("orphan")),
            new SnippetItem(6, new Slot(1, 1), 1, TestTree.Snip("there")),
            new FolderItem(7, new Slot(6, 1), "in a snippet"),
            new FolderItem(8, new Slot(Slot.Root, 1), "on the testTree"),
        ];
        var (tree, unreachable) = LibraryTree.Of(items);
        Assert.Equal(["Berths", "there"], tree.Within(tree.Libraries.Single()).Select(item => item.Name));
        Assert.Equal([2, 3, 4, 5, 7, 8], unreachable.Select(item => item.Id).Order());
    }

    [Fact]
    public void A_tree_stays_as_it_was_when_another_is_made_of_it()
    {
        var testTree = new TestTree().WithSnippets("A", "B");
        var before = testTree.Now;
        testTree.Do(now => Commands.Delete(now, testTree["Berths"].Id));
        Assert.Equal(0, testTree.Now.Count);
        Assert.Equal(["Berths", "A", "B"], before.Within(before.Libraries.Single()).Select(item => item.Name));
    }

    [Fact]
    public void A_change_of_something_that_has_become_another_is_refused()
    {
        var testTree = new TestTree().WithSnippets("A");
        var late = Commands.Delete(testTree.Now, testTree["A"].Id);
        testTree.Do(now => Commands.ChangeSnippet(now, testTree["A"].Id, TestTree.Snip("A") with { Note = "new" }));
        Assert.Throws<ConflictException>(() => testTree.Now.With(late));
    }
}
